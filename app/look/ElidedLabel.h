// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QPainter>
#include <QStyle>

namespace kiln
{

/// A line of text that ends in an ellipsis where there is too little room.
class ElidedLabel : public QLabel
{
public:
  using QLabel::QLabel;

protected:
  void paintEvent(QPaintEvent* /*event*/) override
  {
    QPainter painter(this);
    const QString shown = fontMetrics().elidedText(text(), Qt::ElideRight, contentsRect().width());
    style()->drawItemText(&painter, contentsRect(), static_cast<int>(Qt::AlignLeft | Qt::AlignVCenter), palette(),
                          isEnabled(), shown, foregroundRole());
  }
};

} // namespace kiln
