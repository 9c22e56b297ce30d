// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "watches/MarginBar.h"

#include "look/Theme.h"

#include <QPainter>
#include <algorithm>

namespace kiln
{

MarginBar::MarginBar(QWidget* parent) : QWidget(parent) { setFixedHeight(8); }

void MarginBar::setUsed(std::optional<double> used)
{
  used_ = used;
  setVisible(used.has_value());
  update();
}

void MarginBar::paintEvent(QPaintEvent* /*event*/)
{
  if (!used_)
    return;
  const Theme& t = theme();
  QPainter painter(this);
  constexpr double limitAt = 0.85; // of the width; the rest shows how far beyond
  const double limit = width() * limitAt;
  const bool beyond = *used_ > 1;
  const double filled = std::clamp(*used_ * limit, 0.0, static_cast<double>(width()));
  painter.fillRect(QRectF(0, 2, width(), 4), t.line);
  painter.fillRect(QRectF(0, 2, std::min(filled, limit), 4), beyond ? t.bad : t.good);
  if (beyond)
    painter.fillRect(QRectF(limit, 0, std::max(filled - limit, 4.0), 8), t.bad);
  painter.fillRect(QRectF(limit - 1, 0, 2, 8), t.text);
}

} // namespace kiln
