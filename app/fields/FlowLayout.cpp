// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/FlowLayout.h"

#include <algorithm>

namespace kiln
{
namespace
{
constexpr int gap = 4; // px between words and lines
} // namespace

FlowLayout::FlowLayout(QWidget* parent) : QLayout(parent) { setContentsMargins(0, 0, 0, 0); }

FlowLayout::~FlowLayout()
{
  while (QLayoutItem* item = takeAt(0))
    delete item;
}

QLayoutItem* FlowLayout::takeAt(int index)
{
  return index >= 0 && index < items_.size() ? items_.takeAt(index) : nullptr;
}

QSize FlowLayout::minimumSize() const
{
  QSize size;
  for (const QLayoutItem* item : items_)
    size = size.expandedTo(item->minimumSize());
  return size;
}

void FlowLayout::setGeometry(const QRect& box)
{
  QLayout::setGeometry(box);
  (void)place(box, false);
}

int FlowLayout::place(const QRect& box, bool onlyMeasure) const
{
  int x = box.x();
  int y = box.y();
  int line = 0;
  for (QLayoutItem* item : items_) {
    const QSize size = item->sizeHint().boundedTo(QSize(std::max(box.width(), 1), item->sizeHint().height()));
    if (x > box.x() && x + size.width() > box.right() + 1) {
      x = box.x();
      y += line + gap;
      line = 0;
    }
    if (!onlyMeasure)
      item->setGeometry(QRect(QPoint(x, y), size));
    x += size.width() + gap;
    line = std::max(line, size.height());
  }
  return y + line - box.y();
}

} // namespace kiln
