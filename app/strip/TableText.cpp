// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/TableText.h"

#include "io/AtomicFile.h"
#include "io/Export.h"
#include "look/DrawnWidget.h"
#include "look/Language.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QMessageBox>
#include <QTableView>
#include <algorithm>

namespace kiln
{
namespace
{
QString tr(const char* text) { return QCoreApplication::translate("TableText", text); }
} // namespace

QString tableText(const QTableView& table, const QString& separator)
{
  const QAbstractItemModel& model = *table.model();
  const QModelIndexList cells = table.selectionModel()->selectedIndexes();
  int firstRow = 0, lastRow = model.rowCount() - 1, firstColumn = 0, lastColumn = model.columnCount() - 1;
  if (cells.size() > 1) {
    const auto byRow =
        std::minmax_element(cells.begin(), cells.end(), [](const auto& a, const auto& b) { return a.row() < b.row(); });
    const auto byColumn = std::minmax_element(cells.begin(), cells.end(),
                                              [](const auto& a, const auto& b) { return a.column() < b.column(); });
    firstRow = byRow.first->row();
    lastRow = byRow.second->row();
    firstColumn = byColumn.first->column();
    lastColumn = byColumn.second->column();
  }
  const bool csv = separator == ",";
  const auto cell = [&](const QString& text) {
    return csv ? QString::fromStdString(csvField(text.toStdString())) : text;
  };
  QStringList lines;
  QStringList head;
  for (int column = firstColumn; column <= lastColumn; ++column)
    head << cell(model.headerData(column, Qt::Horizontal).toString());
  lines << head.join(separator);
  for (int row = firstRow; row <= lastRow; ++row) {
    QStringList line;
    for (int column = firstColumn; column <= lastColumn; ++column)
      line << cell(model.index(row, column).data().toString());
    lines << line.join(separator);
  }
  return lines.join("\n") + "\n";
}

void saveText(QWidget& window, const std::string& csv)
{
  const QString file =
      QFileDialog::getSaveFileName(&window, tr("Save the table"), {}, tr("Comma-separated text (*.csv)"));
  if (file.isEmpty())
    return;
  if (auto written = writeAtomically(file.toStdString(), csv); !written)
    QMessageBox::warning(&window, tr("Not saved"), inWords(written.error()));
}

void saveTable(QTableView& table) { saveText(table, tableText(table, ",").toStdString()); }

void markChart(QWidget& chart) { chart.setProperty("chart", true); }

std::vector<QWidget*> chartsOn(QWidget& page)
{
  std::vector<QWidget*> charts;
  QList<QWidget*> all = page.findChildren<QWidget*>();
  all.prepend(&page);
  for (QWidget* widget : all)
    if (widget->isVisible() && widget->property("chart").toBool())
      charts.push_back(widget);
  return charts;
}

std::vector<QTableView*> tablesOn(QWidget& page)
{
  std::vector<QTableView*> tables;
  if (auto* own = qobject_cast<QTableView*>(&page))
    tables.push_back(own);
  for (QTableView* table : page.findChildren<QTableView*>())
    if (table->isVisible())
      tables.push_back(table);
  return tables;
}

void saveChart(QWidget& chart, const QString& title)
{
  const QString file =
      QFileDialog::getSaveFileName(&chart, tr("Save the chart"), "chart.svg", tr("Drawing (*.svg);;Picture (*.png)"));
  if (!file.isEmpty() && !saveDrawn(chart, title, file))
    QMessageBox::warning(&chart, tr("Not saved"),
                         tr("%1 could not be written. Choose another folder, or free some room.").arg(file));
}

} // namespace kiln
