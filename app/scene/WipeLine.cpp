// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/WipeLine.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int grip = 13; // px wide, so that it is easily met

} // namespace

WipeLine::WipeLine(QWidget& view) : QWidget(&view), view_(view)
{
  setObjectName("wipeLine");
  setAccessibleName(tr("Line between the two cases"));
  setToolTip(tr("Drag it, or use the arrow keys; a double click brings it to the middle"));
  setCursor(Qt::SplitHCursor);
  setFocusPolicy(Qt::StrongFocus);
}

int WipeLine::at() const { return static_cast<int>(std::lround(share_ * view_.width())); }

void WipeLine::place()
{
  setGeometry(at() - grip / 2, 0, grip, view_.height());
  raise();
}

void WipeLine::setShare(double share)
{
  constexpr double least = 0.03;
  share = std::clamp(share, least, 1 - least);
  if (share == share_)
    return;
  share_ = share;
  place();
  emit moved();
}

void WipeLine::paintEvent(QPaintEvent*)
{
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QColor color = hasFocus() ? palette().color(QPalette::Highlight) : palette().color(QPalette::WindowText);
  constexpr double middle = grip / 2.0;
  painter.setPen(QPen(color, 2));
  painter.drawLine(QPointF(middle, 0), QPointF(middle, height()));
  constexpr double half = 14; // of what is to be gripped
  painter.setBrush(palette().color(QPalette::Window));
  painter.setPen(QPen(color, 1));
  painter.drawRoundedRect(QRectF(1, height() / 2.0 - half, grip - 2, 2 * half), 4, 4);
}

void WipeLine::mouseMoveEvent(QMouseEvent* event)
{
  if (event->buttons().testFlag(Qt::LeftButton))
    setShare(mapToParent(event->position()).x() / std::max(1, view_.width()));
}

void WipeLine::mouseDoubleClickEvent(QMouseEvent*) { setShare(0.5); }

void WipeLine::keyPressEvent(QKeyEvent* event)
{
  constexpr double step = 0.02;
  if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right)
    return setShare(share_ + (event->key() == Qt::Key_Left ? -step : step));
  QWidget::keyPressEvent(event);
}

} // namespace kiln
