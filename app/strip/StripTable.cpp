// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/StripTable.h"

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

} // namespace kiln
