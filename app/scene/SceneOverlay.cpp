// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneOverlay.h"

#include "look/Theme.h"
#include "scene/ColorMap.h"
#include "scene/PlaceHandles.h"
#include "scene/SceneCanvas.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{

SceneOverlay::SceneOverlay(SceneCanvas& canvas) : QWidget(&canvas), canvas_(canvas)
{
  setAttribute(Qt::WA_TransparentForMouseEvents);
  setAttribute(Qt::WA_NoSystemBackground);
  connect(&canvas, &SceneCanvas::cameraMoved, this, [this] {
    resize(canvas_.size());
    update();
  });
}

void SceneOverlay::setFlags(std::vector<Flag> flags)
{
  flags_ = std::move(flags);
  update();
}

void SceneOverlay::setKey(std::vector<std::pair<QColor, QString>> key)
{
  key_ = std::move(key);
  update();
}

void SceneOverlay::paintKey(QPainter& painter) const
{
  const Theme& t = theme();
  const double line = fontMetrics().height() + 4;
  double widest = 0;
  for (const auto& [color, name] : key_)
    widest = std::max(widest, static_cast<double>(fontMetrics().horizontalAdvance(name)));
  const QRectF box(10, 44, widest + 42, line * static_cast<double>(key_.size()) + 12);
  QColor back = t.panel;
  back.setAlpha(225);
  painter.setPen(Qt::NoPen);
  painter.setBrush(back);
  painter.drawRoundedRect(box, 6, 6);
  double y = box.top() + 6;
  for (const auto& [color, name] : key_) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(color);
    painter.drawRoundedRect(QRectF(box.left() + 8, y + 4, 14, line - 8), 2, 2);
    painter.setPen(t.text);
    painter.drawText(QRectF(box.left() + 30, y, widest + 4, line), Qt::AlignVCenter, name);
    y += line;
  }
}

void SceneOverlay::setHover(const QString& text)
{
  if (hover_ == text)
    return;
  hover_ = text;
  update();
}

void SceneOverlay::setCaption(const QString& text, bool warning)
{
  caption_ = text;
  captionWarns_ = warning;
  update();
}

void SceneOverlay::paintPill(QPainter& painter, const QPointF& corner, const QString& text, bool warning) const
{
  const Theme& t = theme();
  const QSizeF size(fontMetrics().horizontalAdvance(text) + 16, fontMetrics().height() + 6);
  QColor back = t.panel;
  back.setAlpha(225);
  painter.setPen(Qt::NoPen);
  painter.setBrush(back);
  painter.drawRoundedRect(QRectF(corner, size), 5, 5);
  painter.setPen(warning ? t.warning : t.text);
  painter.drawText(QRectF(corner, size), Qt::AlignCenter, text);
}

void SceneOverlay::paintFlags(QPainter& painter, const std::vector<Flag>& flags) const
{
  const Theme& t = theme();
  std::vector<QRectF> taken;
  for (const Flag& flag : flags) {
    const QPointF spot = canvas_.pixelOf(flag.place);
    if (!rect().contains(spot.toPoint()))
      continue;
    const bool covered = canvas_.isCovered(flag.place);
    const QString text = covered ? tr("%1 (behind)").arg(flag.text) : flag.text;
    const QSizeF size(fontMetrics().horizontalAdvance(text) + 14, fontMetrics().height() + 4);
    const bool toLeft = spot.x() > width() * 0.55;
    QRectF box(QPointF(toLeft ? spot.x() - 30 - size.width() : spot.x() + 30, spot.y() - 34), size);
    box.moveLeft(std::clamp(box.left(), 6.0, std::max(6.0, width() - size.width() - 110)));
    box.moveTop(std::clamp(box.top(), 44.0, std::max(44.0, height() - 40.0)));
    const auto overlaps = [&](const QRectF& other) { return other.adjusted(-2, -2, 2, 2).intersects(box); };
    for (int tries = 0; tries < 20 && std::any_of(taken.begin(), taken.end(), overlaps); ++tries)
      box.translate(0, size.height() + 5);
    taken.push_back(box);
    const QColor ink = flag.bad ? t.bad : covered ? t.quiet : t.text;
    painter.setPen(QPen(ink, 1.2, covered ? Qt::DashLine : Qt::SolidLine));
    painter.drawLine(spot, QPointF(toLeft ? box.right() : box.left(), box.center().y()));
    painter.setBrush(covered ? Qt::NoBrush : QBrush(ink));
    painter.drawEllipse(spot, 4, 4);
    QColor back = flag.hottest ? kilnGlow(0.8) : t.raised;
    back.setAlpha(238);
    painter.setBrush(back);
    painter.setPen(QPen(ink, flag.hottest ? 1.6 : 1, covered ? Qt::DashLine : Qt::SolidLine));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(flag.hottest ? QColor(30, 20, 16) : ink);
    painter.drawText(box, Qt::AlignCenter, text);
  }
}

/// From a dot to an arrow head, over whatever is drawn.
void SceneOverlay::paintLine(QPainter& painter) const
{
  QPolygonF way;
  for (const Vec3& place : line_)
    way << canvas_.pixelOf(place);
  const QPointF to = way.back();
  QPointF along;
  double length = 0;
  for (qsizetype i = way.size() - 2; i >= 0 && length < 1; --i) { // the last stretch that can be seen
    along = to - way[i];
    length = std::hypot(along.x(), along.y());
  }
  if (length < 1)
    return;
  along /= length;
  const QColor color = theme().accent;
  painter.setPen(QPen(color, 2, Qt::DashLine));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolyline(way);
  const QPointF across(-along.y(), along.x());
  painter.setPen(Qt::NoPen);
  painter.setBrush(color);
  painter.drawEllipse(way.front(), 4, 4);
  painter.drawPolygon(QPolygonF({to, to - 11 * along + 5 * across, to - 11 * along - 5 * across}));
}

void SceneOverlay::paintAxis(QPainter& painter) const
{
  const QPointF from = canvas_.pixelOf(axis_->first);
  const QPointF to = canvas_.pixelOf(axis_->second);
  painter.setPen(QPen(theme().sceneLine, 1, Qt::DashDotLine));
  painter.drawLine(from, to);
}

void SceneOverlay::paintEvent(QPaintEvent* /*event*/)
{
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  if (axis_)
    paintAxis(painter);
  if (line_.size() > 1)
    paintLine(painter);
  if (key_.empty())
    paintFlags(painter, flags_);
  else
    paintKey(painter);
  if (pointer_)
    paintFlags(painter, {*pointer_});
  if (handles_ != nullptr)
    handles_->paint(painter);
  if (!caption_.isEmpty())
    paintPill(painter, QPointF(10, 10), caption_, captionWarns_);
  if (!hover_.isEmpty())
    paintPill(painter, QPointF(10, height() - fontMetrics().height() - 16), hover_, false);
}

} // namespace kiln
