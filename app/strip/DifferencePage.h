// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "run/Comparison.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QTableWidget;

namespace kiln
{

class QuantityField;

/// The strip's page What differs: the shown case beside another one, what was set on the left, what came out on the
/// right, with difference and per cent. Only what differs, or all; sorted by any column; copied and saved.
class DifferencePage : public QWidget
{
  Q_OBJECT

public:
  DifferencePage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void fillChoice();
  void choose();
  void fillInputs(const Compared& a, const Compared& b);
  void fillFigures(const Compared& a, const Compared& b);
  [[nodiscard]] std::optional<Compared> shownSide() const;
  [[nodiscard]] std::optional<Compared> otherSide() const;
  void select(const QTableWidget& table, int row);

  Document& document_;
  Preferences& preferences_;
  QComboBox* other_;
  QLabel* instantWord_;
  QuantityField* instant_; ///< of the other's run; empty: its end, and in the scene the instant shown
  QCheckBox* all_;
  QLabel* notes_;
  QTableWidget* inputs_;
  QTableWidget* figures_;
};

} // namespace kiln
