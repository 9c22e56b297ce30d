// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/EditorDialog.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

QHBoxLayout* layOutEditor(QDialog& dialog, QWidget* left, QWidget* right, QLabel* message)
{
  auto* layout = new QVBoxLayout(&dialog);
  auto* body = new QHBoxLayout;
  body->addWidget(left, 1);
  body->addWidget(right, 1);
  layout->addLayout(body, 1);
  message->setWordWrap(true);
  layout->addWidget(message);
  auto* buttons = new QHBoxLayout;
  layout->addLayout(buttons);
  return buttons;
}

QPushButton* addButton(QHBoxLayout& row, const QString& text, const char* name)
{
  auto* button = new QPushButton(text);
  button->setObjectName(name);
  button->setAutoDefault(false);
  row.addWidget(button);
  return button;
}

std::vector<QStringList> pastedCells()
{
  static const QRegularExpression parted("[\\t;]+"), byComma("[,\\s]+"), byBlank("\\s+");
  static const QRegularExpression decimalComma("^([-+−]?\\d*),(\\d+(?:[eE][-+]?\\d+)?)$");
  std::vector<QStringList> rows;
  for (const QString& text : QGuiApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts)) {
    const QString line = text.trimmed();
    // A comma parts columns only where nothing else does: 1,5 is a number in many places.
    const bool others = line.contains(parted);
    QStringList cells = line.split(others ? parted : byBlank, Qt::SkipEmptyParts);
    const bool numbers = std::any_of(cells.begin(), cells.end(),
                                     [](const QString& cell) { return cell.trimmed().contains(decimalComma); });
    if (!others && (cells.size() < 2 || !numbers))
      cells = line.split(byComma, Qt::SkipEmptyParts);
    for (QString& cell : cells)
      cell = cell.trimmed().replace(decimalComma, "\\1.\\2").replace(QChar(0x2212), QChar('-'));
    if (cells.size() >= 2)
      rows.push_back(std::move(cells));
  }
  return rows;
}

} // namespace kiln
