// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/AnswerCharts.h"

#include "look/Theme.h"
#include "scene/ColorMap.h"
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

constexpr double leftMargin = 62, rightMargin = 14, topMargin = 20, bottomMargin = 32; // px

QRectF plotOf(const QWidget& widget)
{
  return QRectF(widget.rect()).adjusted(leftMargin, topMargin, -rightMargin, -bottomMargin);
}

/// Numbers and names along both axes of a picture.
void paintFrame(QPainter& painter, const QRectF& area, const QRectF& range, const QString& across, const QString& up)
{
  const auto x = [&](double value) { return area.left() + area.width() * (value - range.left()) / range.width(); };
  const auto y = [&](double value) { return area.bottom() - area.height() * (value - range.top()) / range.height(); };
  const double upStep = roundStep(range.height(), static_cast<int>(area.height() / 22));
  const double step = roundStep(range.width(), static_cast<int>(area.width() / 70));
  painter.setPen(theme().line);
  painter.setBrush(Qt::NoBrush);
  painter.drawRect(area);
  painter.setPen(theme().text);
  for (const double value : ticks(range.top(), range.bottom(), upStep))
    painter.drawText(QRectF(0, y(value) - 9, leftMargin - 6, 18), Qt::AlignRight | Qt::AlignVCenter,
                     tickText(value, upStep));
  for (const double value : ticks(range.left(), range.right(), step))
    painter.drawText(QRectF(x(value) - 34, area.bottom() + 1, 68, 15), Qt::AlignCenter, tickText(value, step));
  painter.setPen(theme().quiet);
  painter.drawText(QRectF(area.left(), area.bottom() + 15, area.width(), 15), Qt::AlignCenter, across);
  painter.drawText(QRectF(4, 0, area.right() - 4, topMargin), Qt::AlignLeft | Qt::AlignVCenter, up);
}

std::size_t cellOf(const std::vector<double>& values, double at)
{
  const auto above = std::upper_bound(values.begin(), values.end(), at);
  const auto cell =
      std::clamp<std::ptrdiff_t>(above - values.begin() - 1, 0, static_cast<std::ptrdiff_t>(values.size()) - 2);
  return static_cast<std::size_t>(cell);
}

void paintPill(QPainter& painter, const QRectF& within, const QPointF& at, const QString& text)
{
  const double wide = painter.fontMetrics().horizontalAdvance(text) + 12;
  const double left = std::clamp(at.x() + 8, within.left(), std::max(within.left(), within.right() - wide));
  const QRectF box(left, std::max(within.top(), at.y() - 26), wide, 20);
  painter.setBrush(theme().panel);
  painter.setPen(theme().line);
  painter.drawRoundedRect(box, 3, 3);
  painter.setPen(theme().text);
  painter.drawText(box, Qt::AlignCenter, text);
}

} // namespace

MapChart::MapChart(QWidget* parent) : QWidget(parent)
{
  markChart(*this);
  setMouseTracking(true);
  setAccessibleName(tr("A figure over two values"));
}

void MapChart::show(Axis across, Axis up, std::vector<double> values, const QString& name, std::vector<double> borders)
{
  across_ = std::move(across);
  up_ = std::move(up);
  values_ = std::move(values);
  borders_ = std::move(borders);
  name_ = name;
  low_ = 1e300;
  high_ = -1e300;
  for (const double value : values_)
    if (std::isfinite(value)) {
      low_ = std::min(low_, value);
      high_ = std::max(high_, value);
    }
  update();
}

QRectF MapChart::plot() const { return plotOf(*this); }

QPointF MapChart::pixelOf(double across, double up) const
{
  const QRectF area = plot();
  const auto share = [](const Axis& axis, double value) {
    return (value - axis.values.front()) / (axis.values.back() - axis.values.front());
  };
  return {area.left() + area.width() * share(across_, across), area.bottom() - area.height() * share(up_, up)};
}

/// By lines between the four points around it.
std::optional<double> MapChart::valueAt(double across, double up) const
{
  const std::size_t i = cellOf(across_.values, across);
  const std::size_t j = cellOf(up_.values, up);
  const std::size_t n = up_.values.size();
  const double s = (across - across_.values[i]) / (across_.values[i + 1] - across_.values[i]);
  const double t = (up - up_.values[j]) / (up_.values[j + 1] - up_.values[j]);
  const double value = (1 - s) * ((1 - t) * values_[i * n + j] + t * values_[i * n + j + 1]) +
                       s * ((1 - t) * values_[(i + 1) * n + j] + t * values_[(i + 1) * n + j + 1]);
  return std::isfinite(value) ? std::optional(value) : std::nullopt;
}

QString MapChart::readoutAt(const QPointF& pixel) const
{
  const QRectF area = plot();
  if (values_.empty() || !area.contains(pixel))
    return {};
  const double across = across_.values.front() +
                        (across_.values.back() - across_.values.front()) * (pixel.x() - area.left()) / area.width();
  const double up =
      up_.values.front() + (up_.values.back() - up_.values.front()) * (area.bottom() - pixel.y()) / area.height();
  const auto value = valueAt(across, up);
  return value ? tr("%1, %2: %3")
                     .arg(QString::number(across, 'g', 4), QString::number(up, 'g', 4), QString::number(*value, 'g', 5))
               : QString();
}

void MapChart::paintEvent(QPaintEvent* /*event*/)
{
  if (values_.empty() || across_.values.size() < 2 || up_.values.size() < 2 || plot().width() < 20 ||
      plot().height() < 20)
    return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paintField(painter);
  paintLines(painter);
  const QRectF range(QPointF(across_.values.front(), up_.values.front()),
                     QPointF(across_.values.back(), up_.values.back()));
  paintFrame(painter, plot(), range, across_.name, tr("%1; upwards %2").arg(name_, up_.name));
  if (pointer_)
    if (const QString text = readoutAt(*pointer_); !text.isEmpty())
      paintPill(painter, plot(), *pointer_, text);
}

void MapChart::paintField(QPainter& painter) const
{
  const QRectF area = plot();
  constexpr int coarse = 2; // px
  const QSize size(static_cast<int>(area.width()) / coarse, static_cast<int>(area.height()) / coarse);
  QImage image(size, QImage::Format_RGB32);
  for (int y = 0; y < size.height(); ++y)
    for (int x = 0; x < size.width(); ++x) {
      const double s = (x + 0.5) / size.width();
      const double t = 1 - (y + 0.5) / size.height();
      const auto value = valueAt(across_.values.front() + s * (across_.values.back() - across_.values.front()),
                                 up_.values.front() + t * (up_.values.back() - up_.values.front()));
      const double share = value && high_ > low_ ? (*value - low_) / (high_ - low_) : 0.5;
      image.setPixelColor(x, y, value ? kilnGlow(share) : nowhereColor());
    }
  painter.drawImage(area, image);
}

void MapChart::paintLines(QPainter& painter) const
{
  const std::size_t n = up_.values.size();
  std::vector<Vec3> points;
  for (const double across : across_.values)
    for (const double up : up_.values) {
      const QPointF pixel = pixelOf(across, up);
      points.emplace_back(pixel.x(), pixel.y(), 0);
    }
  std::vector<std::array<int, 3>> triangles;
  for (std::size_t i = 0; i + 1 < across_.values.size(); ++i)
    for (std::size_t j = 0; j + 1 < n; ++j) {
      const auto a = static_cast<int>(i * n + j);
      const auto right = static_cast<int>(n);
      triangles.push_back({a, a + 1, a + right});
      triangles.push_back({a + 1, a + right + 1, a + right});
    }
  const auto draw = [&](const std::vector<double>& levels, const QPen& pen) {
    for (const LevelLine& line : levelLines(points, triangles, values_, levels)) {
      QPolygonF pixels;
      for (const Vec3& point : line.points)
        pixels << QPointF(point.x(), point.y());
      painter.setPen(pen);
      painter.drawPolyline(pixels);
      const QPointF middle = pixels.value(pixels.size() / 2);
      painter.setPen(theme().text);
      const QString text = QString::number(line.level, 'g', 5);
      const QRectF box(middle - QPointF(22, 8), QSizeF(44, 16));
      QColor ground = theme().panel;
      ground.setAlphaF(0.75F);
      painter.fillRect(box, ground);
      painter.drawText(box, Qt::AlignCenter, text);
    }
  };
  constexpr int about = 7;
  draw(roundLevels(low_, high_, about), QPen(theme().panel, 1));
  draw(borders_, QPen(theme().accent, 2.4));
}

void MapChart::mouseMoveEvent(QMouseEvent* event)
{
  pointer_ = event->position();
  update();
}

void MapChart::leaveEvent(QEvent* /*event*/)
{
  pointer_.reset();
  update();
}

TornadoChart::TornadoChart(QWidget* parent) : QWidget(parent)
{
  markChart(*this);
  setAccessibleName(tr("How strongly values act"));
}

void TornadoChart::show(std::vector<Bar> bars, const QString& title)
{
  bars_ = std::move(bars);
  title_ = title;
  update();
}

void TornadoChart::paintEvent(QPaintEvent* /*event*/)
{
  if (bars_.empty())
    return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(theme().quiet);
  painter.drawText(QRectF(8, 0, width() - 16, topMargin), Qt::AlignLeft | Qt::AlignVCenter, title_);
  double longest = 1e-300;
  int names = 0;
  int texts = 0;
  for (const Bar& bar : bars_) {
    longest = std::max(longest, std::abs(bar.value));
    names = std::max(names, painter.fontMetrics().horizontalAdvance(bar.name));
    texts = std::max(texts, painter.fontMetrics().horizontalAdvance(bar.text));
  }
  const double left = std::min<double>(names, width() * 0.45) + 12;
  const double room = std::max(20.0, width() - left - 2.0 * texts - 24);
  const double zero = left + texts + 8 + room / 2;
  const double high = std::clamp((height() - topMargin - 4) / static_cast<double>(bars_.size()), 12.0, 26.0);
  double y = topMargin;
  for (const Bar& bar : bars_) {
    painter.setPen(theme().text);
    painter.drawText(QRectF(8, y, left - 12, high), Qt::AlignRight | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(bar.name, Qt::ElideMiddle, static_cast<int>(left) - 12));
    const double end = zero + room / 2 * bar.value / longest;
    painter.setPen(Qt::NoPen);
    painter.setBrush(glazeAndEmber(bar.value < 0 ? 0.15 : 0.85));
    painter.drawRect(QRectF(QPointF(std::min(zero, end), y + 3), QPointF(std::max(zero, end), y + high - 3)));
    painter.setPen(theme().text);
    const bool right = bar.value >= 0;
    painter.drawText(QRectF(right ? end + 4 : end - texts - 8, y, texts + 4, high),
                     (right ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, bar.text);
    y += high;
  }
  painter.setPen(theme().quiet);
  painter.drawLine(QPointF(zero, topMargin), QPointF(zero, y));
}

ScatterChart::ScatterChart(QWidget* parent) : QWidget(parent)
{
  markChart(*this);
  setAccessibleName(tr("Points by two figures"));
}

void ScatterChart::show(std::vector<Point> points, const QString& across, const QString& up,
                        std::optional<std::size_t> marked)
{
  points_ = std::move(points);
  across_ = across;
  up_ = up;
  marked_ = marked;
  QPolygonF all;
  for (const Point& point : points_)
    all << QPointF(point.x, point.y);
  range_ = all.boundingRect();
  constexpr double room = 0.06;
  const double wide = std::max(room * range_.width(), 1e-6 * std::max(1.0, std::abs(range_.right())));
  const double high = std::max(room * range_.height(), 1e-6 * std::max(1.0, std::abs(range_.bottom())));
  range_.adjust(-wide, -high, wide, high);
  update();
}

void ScatterChart::setLeft(std::optional<std::set<std::size_t>> left)
{
  left_ = std::move(left);
  update();
}

QRectF ScatterChart::plot() const { return plotOf(*this); }

QPointF ScatterChart::pixelOf(const Point& point) const
{
  const QRectF area = plot();
  return {area.left() + area.width() * (point.x - range_.left()) / range_.width(),
          area.bottom() - area.height() * (point.y - range_.top()) / range_.height()};
}

std::vector<ScatterChart::Point> ScatterChart::front() const
{
  std::vector<Point> sorted;
  for (const Point& point : points_)
    if (point.kept)
      sorted.push_back(point);
  std::sort(sorted.begin(), sorted.end(),
            [](const Point& a, const Point& b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
  std::vector<Point> front;
  for (const Point& point : sorted)
    if (front.empty() || point.y < front.back().y)
      front.push_back(point);
  return front;
}

void ScatterChart::paintEvent(QPaintEvent* /*event*/)
{
  if (points_.empty() || plot().width() < 20 || plot().height() < 20)
    return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paintFrame(painter, plot(), range_, across_, up_);
  QPolygonF line;
  for (const Point& point : front())
    line << pixelOf(point);
  painter.setPen(QPen(theme().accent, 1.2, Qt::DashLine));
  painter.drawPolyline(line);
  constexpr double radius = 3.5;
  for (const Point& point : points_) { // what misses a limit is hollow, not only of another colour
    const QColor ink = left_ && !left_->contains(point.place) ? theme().line
                       : point.kept                           ? theme().accent
                                                              : theme().bad;
    painter.setPen(QPen(ink, 1.3));
    painter.setBrush(point.kept ? QBrush(ink) : QBrush(Qt::NoBrush));
    painter.drawEllipse(pixelOf(point), radius, radius);
    if (marked_ == point.place) {
      painter.setBrush(Qt::NoBrush);
      painter.setPen(QPen(theme().text, 1.6));
      painter.drawEllipse(pixelOf(point), 2 * radius, 2 * radius);
    }
  }
}

void ScatterChart::mousePressEvent(QMouseEvent* event)
{
  const Point* nearest = nullptr;
  double least = 12; // px
  for (const Point& point : points_) {
    const QPointF off = pixelOf(point) - event->position();
    if (const double far = std::hypot(off.x(), off.y()); far < least) {
      least = far;
      nearest = &point;
    }
  }
  if (nearest != nullptr)
    emit chosen(nearest->place);
}

} // namespace kiln
