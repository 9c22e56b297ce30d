// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/PageParts.h"

#include <QHeaderView>
#include <QLabel>
#include <QSplitter>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace kiln
{

void splitPage(QWidget& page, QWidget* list, QVBoxLayout* right, QLabel* message, const QList<int>& sizes)
{
  auto* layout = new QVBoxLayout(&page);
  auto* body = new QSplitter;
  body->addWidget(list);
  auto* side = new QWidget;
  side->setLayout(right);
  right->setContentsMargins(8, 0, 0, 0);
  message->setWordWrap(true);
  right->addWidget(message);
  body->addWidget(side);
  body->setSizes(sizes);
  body->setChildrenCollapsible(false);
  layout->addWidget(body, 1);
}

void dressList(QTreeWidget& list, const QString& objectName, const QStringList& heads, int characters)
{
  list.setObjectName(objectName);
  list.setAccessibleName(heads.value(0));
  list.setHeaderLabels(heads);
  list.setIndentation(12);
  list.setMinimumWidth(list.fontMetrics().averageCharWidth() * characters);
  list.header()->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int column = 1; column < heads.size(); ++column)
    list.header()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
  list.header()->setStretchLastSection(false);
}

} // namespace kiln
