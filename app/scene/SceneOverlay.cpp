// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneOverlay.h"

#include "look/Theme.h"
#include "scene/AxisCross.h"
#include "scene/ColorMap.h"
#include "scene/CutHandles.h"
#include "scene/FaceDrawing.h"
#include "scene/PlaceHandles.h"
#include "scene/SceneCanvas.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{

SceneOverlay::SceneOverlay(SceneCanvas& canvas) : Repainted(&canvas), canvas_(canvas)
{
  setAttribute(Qt::WA_TransparentForMouseEvents);
  setAttribute(Qt::WA_NoSystemBackground);
  connect(&canvas, &SceneCanvas::cameraMoved, this, [this] {
    resize(canvas_.size());
    update();
  });
}

void SceneOverlay::setFlags(std::vector<Flag> flags) { take(flags_, std::move(flags)); }

void SceneOverlay::setKey(std::vector<std::pair<QColor, QString>> key) { take(key_, std::move(key)); }

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

void SceneOverlay::setHover(const QString& text) { take(hover_, text); }

void SceneOverlay::setCaption(const QString& text, bool warning)
{
  take(caption_, text);
  take(captionWarns_, warning);
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

/// What the model takes of the picture.
QRectF SceneOverlay::modelBox() const
{
  const auto [low, high] = canvas_.model().bounds();
  QPolygonF corners;
  for (int corner = 0; corner < 8; ++corner) {
    Vec3 place((corner & 1) != 0 ? high.x() : low.x(), (corner & 2) != 0 ? high.y() : low.y(),
               (corner & 4) != 0 ? high.z() : low.z());
    for (const SectionPlane& section : canvas_.sections())
      place -= std::max(section.depth(place), 0.0) * section.normal; // what is cut away takes no room
    corners << canvas_.pixelOf(place);
  }
  return corners.boundingRect();
}

/// For words beside a spot: beside the model where there is room, over nothing that is there already, and never over
/// the spot itself.
QRectF SceneOverlay::freePlace(const QPointF& spot, const QSizeF& size, const std::vector<QRectF>& taken) const
{
  constexpr double top = 44, bottom = 34, gap = 14;
  const double legend = rightMargin_;
  const double side = canvas_.covered() + 6;
  const QRectF model = modelBox();
  const bool toLeft = spot.x() < (width() + canvas_.covered()) * 0.5;
  std::vector<double> columns;
  if (model.left() - gap - size.width() > side)
    columns.push_back(model.left() - gap - size.width());
  if (const double right = model.right() + gap; right + size.width() < width() - legend)
    columns.insert(toLeft ? columns.end() : columns.begin(), right);
  columns.push_back(toLeft ? spot.x() - 30 - size.width() : spot.x() + 30);
  columns.push_back(toLeft ? spot.x() + 30 : spot.x() - 30 - size.width());
  const auto isFree = [&](const QRectF& box) {
    return !box.adjusted(-5, -5, 5, 5).contains(spot) &&
           std::none_of(taken.begin(), taken.end(),
                        [&](const QRectF& other) { return other.adjusted(-3, -3, 3, 3).intersects(box); });
  };
  const double most = std::max(side, width() - size.width() - legend);
  const auto inColumn = [&](double column) -> std::optional<QRectF> {
    const double x = std::clamp(column, side, most);
    for (int step = 0; step < 60; ++step) { // up and down in turn
      const double away = (step % 2 == 0 ? -1 : 1) * ((step + 1) / 2) * (size.height() + 5);
      const double y =
          std::clamp(spot.y() - size.height() / 2 + away, top, std::max(top, height() - bottom - size.height()));
      if (const QRectF box(QPointF(x, y), size); isFree(box))
        return box;
    }
    return std::nullopt;
  };
  const auto aboveOrBelow = [&]() -> std::optional<QRectF> { // where the view is as narrow as the model
    const double x = std::clamp(spot.x() - size.width() / 2, side, most);
    const double row = size.height() + 5;
    for (int step = 1; step < 12; ++step)
      for (const double y : {model.top() - gap - step * row, model.bottom() + gap + (step - 1) * row})
        if (const QRectF box(QPointF(x, y), size); y > top && y + size.height() < height() - bottom && isFree(box))
          return box;
    return std::nullopt;
  };
  const std::size_t beside = columns.size() - 2;
  for (std::size_t i = 0; i < columns.size(); ++i) {
    if (i == beside)
      if (const auto box = aboveOrBelow())
        return *box;
    if (const auto box = inColumn(columns[i]))
      return *box;
  }
  return {QPointF(std::clamp(columns.front(), side, std::max(side, width() - size.width() - legend)), top), size};
}

void SceneOverlay::paintFlags(QPainter& painter, std::vector<Flag> flags) const
{
  const Theme& t = theme();
  std::vector<QRectF> taken;
  if (cross_ != nullptr && !canvas_.model().empty())
    for (const QRectF& room : cross_->rooms())
      taken.push_back(room);
  for (const Flag& flag : flags) {
    const QPointF spot = canvas_.pixelOf(flag.place);
    if (!rect().contains(spot.toPoint()))
      continue;
    const bool covered = canvas_.isCovered(flag.place);
    const bool away = covered && removes(canvas_.sections(), flag.place);
    const QString text = away      ? tr("%1 (cut away)").arg(flag.text)
                         : covered ? tr("%1 (inside)").arg(flag.text)
                                   : flag.text;
    const QSizeF size(fontMetrics().horizontalAdvance(text) + 14, fontMetrics().height() + 4);
    const QRectF box = freePlace(spot, size, taken);
    taken.push_back(box);
    const QColor ink = flag.bad ? t.bad : covered ? t.quiet : t.text;
    const double near = spot.x() < box.left() ? box.left() : spot.x() > box.right() ? box.right() : spot.x();
    const QPointF end(near, std::clamp(spot.y(), box.top(), box.bottom()));
    QColor halo = t.raised; // it has to be seen on the dark and on the bright
    halo.setAlpha(170);
    painter.setPen(QPen(halo, 3.4));
    painter.drawLine(spot, end);
    painter.setPen(QPen(ink, 1.2, covered ? Qt::DashLine : Qt::SolidLine));
    painter.drawLine(spot, end);
    painter.setBrush(covered ? Qt::NoBrush : QBrush(ink));
    flag.pinned ? painter.drawRect(QRectF(spot - QPointF(3, 3), QSizeF(6, 6))) : painter.drawEllipse(spot, 4, 4);
    QColor back = flag.hottest ? kilnGlow(0.8) : t.raised;
    back.setAlpha(238);
    painter.setBrush(back);
    painter.setPen(QPen(ink, flag.hottest ? 1.6 : 1, covered ? Qt::DashLine : Qt::SolidLine));
    flag.pinned ? painter.drawRect(box) : painter.drawRoundedRect(box, 4, 4);
    painter.setPen(flag.hottest ? QColor(30, 20, 16) : ink);
    painter.drawText(box, Qt::AlignCenter, text);
  }
}

/// Where the line can be seen.
void SceneOverlay::paintLineNumbers(QPainter& painter) const
{
  QFont font = painter.font();
  const QFont before = font;
  font.setPointSizeF(font.pointSizeF() * 0.85);
  painter.setFont(font);
  const QFontMetrics metrics(font);
  std::vector<QRectF> taken;
  for (const LineNumber& number : lineNumbers_) {
    const QPointF at = canvas_.pixelOf(number.place);
    const QRectF box(at - QPointF(metrics.horizontalAdvance(number.text) / 2.0 + 3, metrics.height() / 2.0),
                     QSizeF(metrics.horizontalAdvance(number.text) + 6, metrics.height()));
    const bool hits =
        std::any_of(taken.begin(), taken.end(), [&](const QRectF& other) { return other.intersects(box); });
    if (hits || !rect().contains(box.toRect()) || canvas_.isCovered(number.place))
      continue;
    taken.push_back(box);
    QColor back = theme().panel;
    back.setAlpha(205);
    painter.setPen(Qt::NoPen);
    painter.setBrush(back);
    painter.drawRoundedRect(box, 3, 3);
    painter.setPen(theme().text);
    painter.drawText(box, Qt::AlignCenter, number.text);
  }
  painter.setFont(before);
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

void SceneOverlay::paintOn(QPainter& painter) const
{
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setFont(font());
  if (axis_)
    paintAxis(painter);
  if (line_.size() > 1)
    paintLine(painter);
  paintLineNumbers(painter);
  std::vector<Flag> marks = sides_;
  marks.insert(marks.end(), labels_.begin(), labels_.end());
  if (key_.empty())
    marks.insert(marks.begin(), flags_.begin(), flags_.end());
  else
    paintKey(painter);
  paintFlags(painter, std::move(marks));
  if (cross_ != nullptr)
    cross_->paint(painter);
}

void SceneOverlay::paintEvent(QPaintEvent* /*event*/)
{
  QPainter painter(this);
  paintOn(painter);
  if (cutHandles_ != nullptr)
    cutHandles_->paint(painter);
  if (pointer_)
    paintFlags(painter, {*pointer_});
  if (drawing_ != nullptr && drawing_->isOn())
    drawing_->paint(painter);
  else if (handles_ != nullptr)
    handles_->paint(painter);
  if (!caption_.isEmpty())
    paintPill(painter, QPointF(10, 10), caption_, captionWarns_);
  if (!hover_.isEmpty())
    paintPill(painter, QPointF(canvas_.covered() + 10, height() - fontMetrics().height() - 12), hover_, false);
}

} // namespace kiln
