// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/EditorDialog.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>

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
  static const QRegularExpression between("[\\t;,]+|\\s+");
  std::vector<QStringList> rows;
  for (const QString& line : QGuiApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts))
    if (QStringList cells = line.trimmed().split(between, Qt::SkipEmptyParts); cells.size() >= 2)
      rows.push_back(std::move(cells));
  return rows;
}

} // namespace kiln
