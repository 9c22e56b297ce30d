// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/LineChart.h"

#include "look/Theme.h"
#include "strip/ChartTicks.h"
#include "strip/TableText.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double leftMargin = 62, rightMargin = 14, topMargin = 18, bottomMargin = 32; // pixels
constexpr double smallest = 6; // pixels of a rectangle that is meant

/// Value of a piece somewhere along it; nothing beside it.
std::optional<double> valueOn(const QPolygonF& piece, double across)
{
  for (qsizetype i = 0; i + 1 < piece.size(); ++i) {
    const QPointF& from = piece[i];
    const QPointF& to = piece[i + 1];
    if (across < from.x() || across > to.x())
      continue;
    const double length = to.x() - from.x();
    return length > 0 ? from.y() + (to.y() - from.y()) * (across - from.x()) / length : from.y();
  }
  return std::nullopt;
}

} // namespace

LineChart::LineChart(QWidget* parent) : QWidget(parent)
{
  markChart(*this);
  setMouseTracking(true);
  setMinimumHeight(90);
  setToolTip(tr("Drag a rectangle to see more of it; a double click shows all again"));
}

void LineChart::show(std::vector<Curve> curves, std::vector<Border> borders, const QString& across, const QString& up)
{
  const QRectF before = wholeRange();
  curves_ = std::move(curves);
  borders_ = std::move(borders);
  const bool sameAxes = across_ == across && up_ == up;
  across_ = across;
  up_ = up;
  const QRectF whole = wholeRange();
  const bool sameLine = before.left() == whole.left() && before.right() == whole.right();
  if (!sameAxes || !sameLine || shown_ == before || shown_.isEmpty())
    shown_ = whole; // else what was chosen stays in view while the instant moves
  update();
}

QRectF LineChart::wholeRange() const
{
  QRectF all;
  bool first = true;
  for (const Curve& curve : curves_)
    for (const QPolygonF& piece : curve.pieces)
      for (const QPointF& point : piece) {
        all = first ? QRectF(point, point)
                    : QRectF(QPointF(std::min(all.left(), point.x()), std::min(all.top(), point.y())),
                             QPointF(std::max(all.right(), point.x()), std::max(all.bottom(), point.y())));
        first = false;
      }
  const double room = std::max(0.05 * all.height(), 1e-6 * std::max(std::abs(all.bottom()), 1.0));
  return all.adjusted(0, -room, std::max(0.0, 1e-9 - all.width()), room);
}

QRectF LineChart::plot() const { return QRectF(rect()).adjusted(leftMargin, topMargin, -rightMargin, -bottomMargin); }

QPointF LineChart::pixelOf(const QPointF& value) const
{
  const QRectF area = plot();
  return {area.left() + area.width() * (value.x() - shown_.left()) / shown_.width(),
          area.bottom() - area.height() * (value.y() - shown_.top()) / shown_.height()};
}

QPointF LineChart::valueAt(const QPointF& pixel) const
{
  const QRectF area = plot();
  return {shown_.left() + shown_.width() * (pixel.x() - area.left()) / area.width(),
          shown_.top() + shown_.height() * (area.bottom() - pixel.y()) / area.height()};
}

QString LineChart::readoutAt(double across) const
{
  QStringList values;
  for (const Curve& curve : curves_)
    for (const QPolygonF& piece : curve.pieces)
      if (const auto value = valueOn(piece, across)) {
        values << curve.name + " " + QString::number(*value, 'g', 5) + " " + up_;
        break;
      }
  return values.isEmpty()
             ? QString()
             : QString::number(across, 'g', 4) + " " + across_.section(' ', 0, 0) + ": " + values.join(", ");
}

void LineChart::paintEvent(QPaintEvent* /*event*/)
{
  if (curves_.empty() || plot().width() <= 0 || plot().height() <= 0)
    return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paintAxes(painter);
  painter.save();
  painter.setClipRect(plot().adjusted(0, -topMargin, 0, 0));
  paintBorders(painter);
  painter.setClipRect(plot());
  for (const Curve& curve : curves_) {
    painter.setPen(QPen(curve.color, curve.thickness));
    for (const QPolygonF& piece : curve.pieces) {
      QPolygonF pixels;
      for (const QPointF& point : piece)
        pixels << pixelOf(point);
      painter.drawPolyline(pixels);
    }
  }
  painter.restore();
  paintLegend(painter);
  paintReadout(painter);
}

void LineChart::paintAxes(QPainter& painter) const
{
  const QRectF area = plot();
  const double upStep = roundStep(shown_.height(), static_cast<int>(area.height() / 22));
  for (const double value : ticks(shown_.top(), shown_.bottom(), upStep)) {
    const double y = pixelOf({shown_.left(), value}).y();
    painter.setPen(theme().line);
    painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
    painter.setPen(theme().text);
    painter.drawText(QRectF(0, y - 9, leftMargin - 6, 18), Qt::AlignRight | Qt::AlignVCenter, tickText(value, upStep));
  }
  const double step = roundStep(shown_.width(), static_cast<int>(area.width() / 70));
  for (const double value : ticks(shown_.left(), shown_.right(), step)) {
    const double x = pixelOf({value, shown_.top()}).x();
    painter.setPen(theme().line);
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    painter.setPen(theme().text);
    painter.drawText(QRectF(x - 34, area.bottom() + 1, 68, 15), Qt::AlignCenter, tickText(value, step));
  }
  painter.setPen(theme().quiet);
  painter.drawText(QRectF(area.left(), area.bottom() + 15, area.width(), 15), Qt::AlignCenter, across_);
  painter.drawText(QRectF(0, 0, leftMargin - 6, topMargin), Qt::AlignRight | Qt::AlignVCenter, up_);
}

void LineChart::paintBorders(QPainter& painter) const
{
  const QRectF area = plot();
  for (const Border& border : borders_) {
    const double x = pixelOf({border.at, shown_.top()}).x();
    painter.setPen(QPen(theme().quiet, 0.8, Qt::DashLine));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    const double wide = painter.fontMetrics().horizontalAdvance(border.name);
    painter.drawText(QPointF(std::min(x + 4, area.right() - wide), area.top() - 5), border.name);
  }
}

/// Names of the curves, where there are several: in the upper right, over the curves.
void LineChart::paintLegend(QPainter& painter) const
{
  if (curves_.size() < 2)
    return;
  const QFontMetrics metrics = painter.fontMetrics();
  int wide = 0;
  for (const Curve& curve : curves_)
    wide = std::max(wide, metrics.horizontalAdvance(curve.name));
  const double height = metrics.height() + 2;
  const QRectF box(plot().right() - wide - 40, plot().top() + 4, wide + 36,
                   height * static_cast<double>(curves_.size()) + 6);
  QColor ground = theme().panel;
  ground.setAlphaF(0.85F);
  painter.setPen(theme().line);
  painter.setBrush(ground);
  painter.drawRoundedRect(box, 3, 3);
  double y = box.top() + 3;
  for (const Curve& curve : curves_) {
    painter.setPen(QPen(curve.color, curve.thickness + 0.6));
    painter.drawLine(QPointF(box.left() + 6, y + height / 2), QPointF(box.left() + 24, y + height / 2));
    painter.setPen(theme().text);
    painter.drawText(QRectF(box.left() + 30, y, wide + 4, height), Qt::AlignVCenter, curve.name);
    y += height;
  }
}

void LineChart::paintReadout(QPainter& painter) const
{
  const QRectF area = plot();
  if (pressed_ && pointer_) {
    QColor fill = theme().accent;
    fill.setAlphaF(0.15F);
    painter.setPen(theme().accent);
    painter.setBrush(fill);
    painter.drawRect(QRectF(*pressed_, *pointer_).normalized().intersected(area));
    return;
  }
  if (!pointer_ || !area.contains(*pointer_))
    return;
  const QString text = readoutAt(valueAt(*pointer_).x());
  if (text.isEmpty())
    return;
  painter.setPen(theme().quiet);
  painter.drawLine(QPointF(pointer_->x(), area.top()), QPointF(pointer_->x(), area.bottom()));
  const double wide = painter.fontMetrics().horizontalAdvance(text) + 12;
  const double left = std::clamp(pointer_->x() + 8, area.left(), std::max(area.left(), area.right() - wide));
  const QRectF box(left, area.bottom() - 24, wide, 20);
  painter.setBrush(theme().panel);
  painter.setPen(theme().line);
  painter.drawRoundedRect(box, 3, 3);
  painter.setPen(theme().text);
  painter.drawText(box, Qt::AlignCenter, text);
}

void LineChart::mousePressEvent(QMouseEvent* event)
{
  if (event->button() == Qt::LeftButton && plot().contains(event->position()))
    pressed_ = event->position();
}

void LineChart::mouseMoveEvent(QMouseEvent* event)
{
  pointer_ = event->position();
  update();
}

void LineChart::mouseReleaseEvent(QMouseEvent* event)
{
  if (!pressed_)
    return;
  const QRectF chosen = QRectF(*pressed_, event->position()).normalized().intersected(plot());
  pressed_.reset();
  if (chosen.width() >= smallest && chosen.height() >= smallest)
    shown_ = QRectF(valueAt(chosen.bottomLeft()), valueAt(chosen.topRight()));
  update();
}

void LineChart::mouseDoubleClickEvent(QMouseEvent* /*event*/)
{
  pressed_.reset();
  shown_ = wholeRange();
  update();
}

void LineChart::leaveEvent(QEvent* /*event*/)
{
  pointer_.reset();
  update();
}

} // namespace kiln
