// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QTableWidget>

class QHBoxLayout;
class QToolButton;

namespace kiln
{

/// The look of all tables of the strip: rows close together, headings at the left, nothing to edit.
void dressTable(QTableView& table, const QString& objectName, const QString& shownName);

/// A table so dressed.
[[nodiscard]] QTableWidget* makeStripTable(const QString& objectName, const QString& shownName);

/// A button of a page's head.
[[nodiscard]] QToolButton* stripButton(const QString& text, const QString& tip, const QString& objectName);

/// Buttons that copy the table and save it as comma-separated text.
/// \param name  "faces": they are called facesCopy and facesCsv
void addTableButtons(QHBoxLayout& head, QTableView& table, const QString& name);

/// A cell that sorts by its number, at the right of its column.
class NumberItem : public QTableWidgetItem
{
public:
  NumberItem(const QString& text, double number) : QTableWidgetItem(text), number_(number)
  {
    setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  }
  bool operator<(const QTableWidgetItem& other) const override
  {
    const auto* own = dynamic_cast<const NumberItem*>(&other);
    return own != nullptr ? number_ < own->number_ : QTableWidgetItem::operator<(other);
  }

private:
  double number_;
};

} // namespace kiln
