// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>

class QTableView;

namespace kiln
{

/// Head and cells of a table as it is sorted: the selected block of cells where there are several, else all. With a
/// comma as separator, cells are written as comma-separated text asks for.
[[nodiscard]] QString tableText(const QTableView& table, const QString& separator);

/// Asks for a file and saves the table as comma-separated text.
void saveTable(QTableView& table);

} // namespace kiln
