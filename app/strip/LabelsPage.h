// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "scene/SceneLabels.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace kiln
{

class QuantityField;

/// The strip's page Labels: what the labels say at the shown instant, as a table. A label is added at typed
/// coordinates, moved to others, renamed, removed, or made a watch.
class LabelsPage : public QWidget
{
  Q_OBJECT

public:
  LabelsPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void addTyped();
  void takeName(int row);
  void removeChosen();
  void watchChosen();
  void snapChosen();
  [[nodiscard]] std::vector<std::string> chosen() const;

  Document& document_;
  Preferences& preferences_;
  SceneLabels labels_;
  QTableWidget* table_;
  QLabel* empty_;
  std::array<QuantityField*, 3> place_{};
  bool filling_ = false;
};

} // namespace kiln
