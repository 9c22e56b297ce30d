// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>
#include <string>
#include <vector>

class QTableView;
class QWidget;

namespace kiln
{

/// Head and cells of a table as it is sorted: the selected block of cells where there are several, else all. With a
/// comma as separator, cells are written as comma-separated text asks for.
[[nodiscard]] QString tableText(const QTableView& table, const QString& separator);

/// Asks for a file and saves the table as comma-separated text.
void saveTable(QTableView& table);
/// The same of any text. \param window  over which is asked
void saveText(QWidget& window, const std::string& csv);

/// A widget that draws a chart says so, that it can be taken along.
void markChart(QWidget& chart);
/// Charts and tables that a page shows now.
[[nodiscard]] std::vector<QWidget*> chartsOn(QWidget& page);
[[nodiscard]] std::vector<QTableView*> tablesOn(QWidget& page);
/// Asks for a file and saves what the chart draws as PNG or SVG.
void saveChart(QWidget& chart, const QString& title);

} // namespace kiln
