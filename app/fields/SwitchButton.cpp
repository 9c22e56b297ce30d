// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/SwitchButton.h"

#include "look/Theme.h"

#include <QPainter>

namespace kiln
{

SwitchButton::SwitchButton(QWidget* parent) : QAbstractButton(parent)
{
  setCheckable(true);
  setFocusPolicy(Qt::NoFocus); // its row has the keyboard
  setCursor(Qt::PointingHandCursor);
}

void SwitchButton::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF body = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
  const double round = body.height() / 2;
  QColor fill = isChecked() ? t.accent : t.window;
  if (isChecked() && !underMouse())
    fill.setAlpha(150); // most rows are on: they stay quiet
  painter.setPen(QPen(isChecked() ? fill : t.quiet, 1));
  painter.setBrush(fill);
  painter.drawRoundedRect(body, round, round);
  constexpr double inset = 1.5;
  const double knob = body.height() - 2 * inset;
  const double x = isChecked() ? body.right() - inset - knob : body.left() + inset;
  painter.setPen(Qt::NoPen);
  painter.setBrush(isChecked() ? QColor(Qt::white) : t.quiet);
  painter.drawEllipse(QRectF(x, body.top() + inset, knob, knob));
}

} // namespace kiln
