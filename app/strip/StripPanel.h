// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "window/Preferences.h"

#include <QWidget>

class QLabel;
class QSortFilterProxyModel;
class QTableView;

namespace kiln
{

class NumbersModel;

/// The bottom strip: says which case is shown, and holds its pages. A steady case has the page Numbers.
class StripPanel : public QWidget
{
  Q_OBJECT

public:
  StripPanel(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  /// Selected cells (or the whole table) as tab-separated text.
  [[nodiscard]] QString copyText() const;

public slots:
  void copy();
  void saveCsv();

private:
  [[nodiscard]] QString tableText(const QString& separator) const;
  void refreshTitle();

  Document& document_;
  QLabel* title_;
  QTableView* table_;
  NumbersModel* model_;
  QSortFilterProxyModel* sorted_;
};

} // namespace kiln
