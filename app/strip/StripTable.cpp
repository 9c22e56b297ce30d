// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/StripTable.h"

#include "look/Icons.h"
#include "strip/TableText.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QToolButton>

#include <QHeaderView>

namespace kiln
{

void dressTable(QTableView& table, const QString& objectName, const QString& shownName)
{
  table.setObjectName(objectName);
  table.setAccessibleName(shownName);
  table.setEditTriggers(QAbstractItemView::NoEditTriggers);
  table.setSelectionMode(QAbstractItemView::ContiguousSelection);
  table.setAlternatingRowColors(true);
  table.setShowGrid(false);
  table.verticalHeader()->setVisible(false);
  table.verticalHeader()->setDefaultSectionSize(table.fontMetrics().height() + 5);
  table.horizontalHeader()->setStretchLastSection(true);
  table.horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
}

QTableWidget* makeStripTable(const QString& objectName, const QString& shownName)
{
  auto* table = new QTableWidget;
  dressTable(*table, objectName, shownName);
  return table;
}

QToolButton* stripButton(const QString& text, const QString& tip, const QString& objectName)
{
  auto* button = new QToolButton;
  button->setText(text);
  button->setToolTip(tip);
  button->setAccessibleName(tip);
  button->setObjectName(objectName);
  return button;
}

void addTableButtons(QHBoxLayout& head, QTableView& table, const QString& name)
{
  const auto words = [](const char* text) { return QCoreApplication::translate("kiln::StripTable", text); };
  QToolButton* copy = stripButton({}, words("Copy the selected cells, or the whole table"), name + "Copy");
  QToolButton* save = stripButton({}, words("Save the table as comma-separated text"), name + "Csv");
  setIcon(*copy, "edit-copy");
  setIcon(*save, "document-export-table");
  QObject::connect(copy, &QToolButton::clicked, &table,
                   [&table] { QApplication::clipboard()->setText(tableText(table, "\t")); });
  QObject::connect(save, &QToolButton::clicked, &table, [&table] { saveTable(table); });
  head.addWidget(copy);
  head.addWidget(save);
}

} // namespace kiln
