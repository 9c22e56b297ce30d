// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>

class QLineEdit;
class QVBoxLayout;

namespace kiln
{

/// The views that are kept with the project: shown, taken anew, renamed, moved to the front, removed.
class ViewList : public QWidget
{
  Q_OBJECT

public:
  explicit ViewList(Document& document, QWidget* parent = nullptr);

signals:
  void keepWanted(const QString& name);
  void showWanted(const std::string& id);
  void takeAnewWanted(const std::string& id);

private:
  void refresh();
  void addRow(const View& view, std::size_t index);
  void keep();

  Document& document_;
  QLineEdit* name_;
  QVBoxLayout* rows_;
  std::vector<View> drawn_; ///< what the rows were made of
};

} // namespace kiln
