// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/ParallelChart.h"
#include "strip/TableText.h"

#include "look/Theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double sideMargin = 52, topMargin = 36, bottomMargin = 20; // px
constexpr double reach = 9;                                          // px

QString numberText(double value) { return QString::number(value, 'g', 4); }

QString fullName(const ParallelChart::Axis& axis)
{
  return axis.unit.isEmpty() ? axis.name : axis.name + ", " + axis.unit;
}

/// How far a pixel is from a straight line between two others.
double awayFrom(const QPointF& pixel, const QPointF& a, const QPointF& b)
{
  const QPointF along = b - a;
  const double size = std::max(QPointF::dotProduct(along, along), 1e-9);
  const double share = std::clamp(QPointF::dotProduct(pixel - a, along) / size, 0.0, 1.0);
  const QPointF off = pixel - (a + share * along);
  return std::hypot(off.x(), off.y());
}

} // namespace

ParallelChart::ParallelChart(QWidget* parent) : QWidget(parent)
{
  markChart(*this);
  setAccessibleName(tr("Points as lines over all values"));
  setMouseTracking(true); // for the full names
  setFocusPolicy(Qt::ClickFocus);
}

void ParallelChart::show(std::vector<Axis> axes, std::vector<Line> lines, std::optional<std::size_t> marked)
{
  axes_ = std::move(axes);
  lines_ = std::move(lines);
  marked_ = marked;
  ranges_.assign(axes_.size(), {1e300, -1e300});
  for (const Line& line : lines_)
    for (std::size_t i = 0; i < line.at.size(); ++i)
      if (std::isfinite(line.at[i]))
        ranges_[i] = {std::min(ranges_[i].first, line.at[i]), std::max(ranges_[i].second, line.at[i])};
  for (std::size_t i = 0; i < axes_.size(); ++i) {
    if (!axes_[i].words.empty())
      ranges_[i] = {0, std::max(1.0, static_cast<double>(axes_[i].words.size() - 1))};
    if (ranges_[i].first > ranges_[i].second)
      ranges_[i] = {0, 1};
    if (ranges_[i].first == ranges_[i].second)
      ranges_[i] = {ranges_[i].first - 0.5, ranges_[i].second + 0.5};
  }
  update();
}

void ParallelChart::clearBrushes()
{
  if (brushes_.empty())
    return;
  brushes_.clear();
  update();
  emit brushChanged();
}

bool ParallelChart::isLeft(const Line& line) const
{
  return std::all_of(brushes_.begin(), brushes_.end(), [&](const auto& brush) {
    const auto& [axis, range] = brush;
    return axis < line.at.size() && line.at[axis] >= range.first && line.at[axis] <= range.second;
  });
}

std::optional<std::set<std::size_t>> ParallelChart::brushed() const
{
  if (brushes_.empty())
    return std::nullopt;
  std::set<std::size_t> left;
  for (const Line& line : lines_)
    if (isLeft(line))
      left.insert(line.place);
  return left;
}

QRectF ParallelChart::plot() const
{
  return QRectF(rect()).adjusted(sideMargin, topMargin, -sideMargin, -bottomMargin);
}

double ParallelChart::uprightAt(std::size_t axis) const
{
  const QRectF area = plot();
  const auto gaps = static_cast<double>(std::max<std::size_t>(axes_.size(), 2) - 1);
  return area.left() + area.width() * static_cast<double>(axis) / gaps;
}

QPointF ParallelChart::pixelOf(std::size_t axis, double value) const
{
  const QRectF area = plot();
  const auto& [low, high] = ranges_[axis];
  return {uprightAt(axis), area.bottom() - area.height() * (value - low) / (high - low)};
}

double ParallelChart::valueAt(std::size_t axis, double pixel) const
{
  const QRectF area = plot();
  const auto& [low, high] = ranges_[axis];
  return low + (high - low) * (area.bottom() - pixel) / area.height();
}

std::optional<std::size_t> ParallelChart::axisAt(const QPointF& pixel) const
{
  for (std::size_t i = 0; i < axes_.size(); ++i)
    if (std::abs(uprightAt(i) - pixel.x()) < reach)
      return i;
  return std::nullopt;
}

const ParallelChart::Line* ParallelChart::lineAt(const QPointF& pixel) const
{
  const Line* nearest = nullptr;
  double least = reach;
  for (const Line& line : lines_) {
    if (!isLeft(line))
      continue;
    for (std::size_t i = 0; i + 1 < line.at.size(); ++i)
      if (const double away = awayFrom(pixel, pixelOf(i, line.at[i]), pixelOf(i + 1, line.at[i + 1])); away < least) {
        least = away;
        nearest = &line;
      }
  }
  return nearest;
}

void ParallelChart::mousePressEvent(QMouseEvent* event)
{
  if (event->button() != Qt::LeftButton || axes_.empty())
    return;
  if (const auto axis = axisAt(event->position()))
    drag_ = Drag{*axis, event->position().y()};
  else if (const Line* line = lineAt(event->position())) {
    marked_ = line->place;
    update();
    emit chosen(line->place);
  }
}

void ParallelChart::mouseMoveEvent(QMouseEvent* event)
{
  const auto over = axisAt(event->position());
  setCursor(drag_ || over ? Qt::SizeVerCursor : Qt::ArrowCursor);
  const QString use =
      tr("Drag along an upright to leave the points in that range; a click on it takes the range away.");
  setToolTip(over ? fullName(axes_[*over]) + "\n" + use : use);
  if (!drag_ || std::abs(event->position().y() - drag_->from) < 3)
    return;
  const auto [low, high] =
      std::minmax({valueAt(drag_->axis, drag_->from), valueAt(drag_->axis, event->position().y())});
  brushes_[drag_->axis] = {low, high};
  update();
  emit brushChanged();
}

void ParallelChart::mouseReleaseEvent(QMouseEvent* event)
{
  if (!drag_)
    return;
  const Drag over = *std::exchange(drag_, std::nullopt);
  if (std::abs(event->position().y() - over.from) < 3 && brushes_.erase(over.axis) > 0) {
    update();
    emit brushChanged();
  }
}

void ParallelChart::keyPressEvent(QKeyEvent* event)
{
  if (event->key() == Qt::Key_Escape && !brushes_.empty())
    return clearBrushes();
  QWidget::keyPressEvent(event);
}

void ParallelChart::paintEvent(QPaintEvent* /*event*/)
{
  if (axes_.size() < 2 || plot().width() < 20 || plot().height() < 20)
    return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  for (const bool left : {false, true}) // what is left lies on top
    for (const Line& line : lines_)
      if (isLeft(line) == left)
        paintLine(painter, line);
  for (std::size_t i = 0; i < axes_.size(); ++i)
    paintUpright(painter, i);
}

void ParallelChart::paintLine(QPainter& painter, const Line& line) const
{
  QColor ink = line.kept ? theme().accent : theme().bad;
  if (!isLeft(line)) {
    ink = theme().line;
    ink.setAlphaF(0.5F);
  }
  // What passes a limit is dashed, not only of another colour.
  painter.setPen(QPen(ink, marked_ == line.place ? 3 : 1.4, line.kept ? Qt::SolidLine : Qt::DashLine));
  for (std::size_t i = 0; i + 1 < line.at.size(); ++i)
    if (std::isfinite(line.at[i]) && std::isfinite(line.at[i + 1]))
      painter.drawLine(pixelOf(i, line.at[i]), pixelOf(i + 1, line.at[i + 1]));
}

void ParallelChart::paintUpright(QPainter& painter, std::size_t axis) const
{
  const QRectF area = plot();
  const double x = uprightAt(axis);
  const auto& [low, high] = ranges_[axis];
  painter.setPen(QPen(theme().text, 1.2));
  painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
  if (const auto brush = brushes_.find(axis); brush != brushes_.end()) {
    QColor fill = theme().accent;
    fill.setAlphaF(0.3F);
    painter.fillRect(QRectF(QPointF(x - 5, pixelOf(axis, brush->second.second).y()),
                            QPointF(x + 5, pixelOf(axis, brush->second.first).y())),
                     fill);
  }
  const double wide = area.width() / static_cast<double>(std::max<std::size_t>(axes_.size(), 2) - 1);
  const double room = std::min(wide - 6, 2 * sideMargin);
  const bool lifted = axis % 2 == 1; // neighbours' names on lines of their own
  painter.setPen(theme().quiet);
  const QString unit = axes_[axis].unit.isEmpty() ? QString() : ", " + axes_[axis].unit;
  const double nameRoom =
      std::min(2 * wide - 8, 2 * (std::min(x, width() - x) - 2)) - painter.fontMetrics().horizontalAdvance(unit);
  const QString name =
      painter.fontMetrics().elidedText(axes_[axis].name, Qt::ElideRight, static_cast<int>(nameRoom)) + unit;
  const double nameWide = painter.fontMetrics().horizontalAdvance(name) + 2;
  painter.drawText(QRectF(x - nameWide / 2, lifted ? 0 : 16, nameWide, 16), Qt::AlignCenter, name);
  painter.setPen(theme().text);
  const auto label = [&](double value, const QString& text) {
    const double y = pixelOf(axis, value).y();
    const QString shown = painter.fontMetrics().elidedText(text, Qt::ElideMiddle, static_cast<int>(room));
    const double own = painter.fontMetrics().horizontalAdvance(shown) + 6;
    QRectF box(x - own / 2, y - 8, own, 16);
    QColor ground = theme().panel;
    ground.setAlphaF(0.8F);
    painter.fillRect(box, ground);
    painter.drawText(box, Qt::AlignCenter, shown);
  };
  if (axes_[axis].words.empty()) {
    label(low, numberText(low));
    label(high, numberText(high));
  }
  for (int i = 0; i < axes_[axis].words.size(); ++i)
    label(i, axes_[axis].words[i]);
}

} // namespace kiln
