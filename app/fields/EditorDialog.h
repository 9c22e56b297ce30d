// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QStringList>
#include <vector>

class QHBoxLayout;
class QLabel;
class QPushButton;

namespace kiln
{

/// What dialogs with a table and a drawing beside it have in common.

/// Lays out two widgets side by side, a message below, and a row for buttons, which is returned.
[[nodiscard]] QHBoxLayout* layOutEditor(QDialog& dialog, QWidget* left, QWidget* right, QLabel* message);

/// A button of such a row; Enter in the dialog does not press it.
QPushButton* addButton(QHBoxLayout& row, const QString& text, const char* name);

/// Lines of the clipboard that have at least two cells, parted by tabs, commas, semicolons or spaces.
[[nodiscard]] std::vector<QStringList> pastedCells();

} // namespace kiln
