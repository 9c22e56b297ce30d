// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/AxisCross.h"

#include "look/Theme.h"
#include "results/LevelLines.h"
#include "scene/SceneCanvas.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double arm = 26;      // px
constexpr double reach = 9;     // px around an end
constexpr double fromEdge = 46; // px
constexpr std::array names{"x", "y", "z"};

} // namespace

AxisCross::AxisCross(SceneCanvas& canvas) : QObject(&canvas), canvas_(canvas) { canvas.installEventFilter(this); }

QPointF AxisCross::middle() const { return {canvas_.covered() + fromEdge, canvas_.height() - fromEdge - 26}; }

/// Of each axis in the picture, with how far it comes towards the eye.
std::array<QPointF, 3> AxisCross::directions(std::array<double, 3>& towardsEye) const
{
  const SceneCanvas::Camera camera = canvas_.camera();
  const Vec3 forward = (camera.towards - camera.eye).normalized();
  const Vec3 right = forward.cross(camera.up).normalized();
  const Vec3 up = right.cross(forward);
  std::array<QPointF, 3> ends;
  for (int axis = 0; axis < 3; ++axis) {
    const Vec3 along = Vec3::Unit(axis);
    ends[static_cast<std::size_t>(axis)] = QPointF(along.dot(right), -along.dot(up));
    towardsEye[static_cast<std::size_t>(axis)] = -along.dot(forward);
  }
  return ends;
}

QPointF AxisCross::end(int axis, bool positive) const
{
  std::array<double, 3> depth{};
  const QPointF along = directions(depth)[static_cast<std::size_t>(axis)];
  return middle() + (positive ? arm : -arm) * along;
}

double AxisCross::scaleLength() const
{
  constexpr double about = 90; // px
  const double wanted = about * canvas_.pixelLength();
  const double step = roundStep(wanted, 1);
  return step > 1.6 * wanted ? step / 2 : step;
}

QString AxisCross::scaleText() const
{
  return QString::fromStdString(formatQuantity(scaleLength(), Quantity::Length, {}, 2));
}

void AxisCross::paint(QPainter& painter) const
{
  if (canvas_.model().empty())
    return;
  const Theme& t = theme();
  std::array<double, 3> depth{};
  const std::array<QPointF, 3> along = directions(depth);
  std::array<std::size_t, 3> order{0, 1, 2};
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return depth[a] < depth[b]; });
  QFont font = painter.font();
  const QFont before = font;
  font.setPointSizeF(font.pointSizeF() * 0.9);
  painter.setFont(font);
  for (const std::size_t axis : order) {
    const QPointF tip = middle() + arm * along[axis];
    const QPointF back = middle() - arm * along[axis];
    painter.setPen(QPen(t.quiet, 1));
    painter.drawLine(middle(), back);
    painter.setBrush(t.scene);
    painter.drawEllipse(back, 3, 3);
    painter.setPen(QPen(t.text, depth[axis] >= -0.05 ? 2 : 1.2));
    painter.drawLine(middle(), tip);
    painter.setBrush(t.panel);
    painter.setPen(QPen(t.text, 1));
    painter.drawEllipse(tip, 7.5, 7.5);
    painter.drawText(QRectF(tip - QPointF(8, 8), QSizeF(16, 15)), Qt::AlignCenter, names[axis]);
  }
  painter.setFont(before);
  const auto [left, length] = bar();
  painter.setPen(QPen(t.text, 1.4));
  painter.drawPolyline(QPolygonF({left - QPointF(0, 4), left, left + QPointF(length, 0), left + QPointF(length, -4)}));
  painter.drawText(QRectF(left.x(), left.y() - 20, std::max(length, 60.0), 16), Qt::AlignHCenter | Qt::AlignBottom,
                   scaleText());
}

std::pair<QPointF, double> AxisCross::bar() const
{
  return {QPointF(middle().x() + 2 * arm, middle().y() + arm), scaleLength() / std::max(canvas_.pixelLength(), 1e-12)};
}

std::array<QRectF, 2> AxisCross::rooms() const
{
  const double around = arm + reach;
  const auto [left, length] = bar();
  return {QRectF(middle() - QPointF(around, around), QSizeF(2 * around, 2 * around)),
          QRectF(left - QPointF(0, 20), QSizeF(std::max(length, 60.0), 24))};
}

bool AxisCross::eventFilter(QObject* /*watched*/, QEvent* event)
{
  const auto* mouse = dynamic_cast<QMouseEvent*>(event);
  if (mouse == nullptr || mouse->button() != Qt::LeftButton || canvas_.model().empty())
    return false;
  const auto near = [&](const QPointF& place) {
    const QPointF off = mouse->position() - place;
    return std::hypot(off.x(), off.y()) < reach;
  };
  if (event->type() == QEvent::MouseButtonRelease)
    return std::exchange(pressed_, false);
  if (event->type() != QEvent::MouseButtonPress)
    return false;
  std::array<double, 3> depth{};
  static_cast<void>(directions(depth));
  std::optional<std::pair<int, bool>> hit;
  double nearest = -2;
  for (int axis = 0; axis < 3; ++axis)
    for (const bool positive : {true, false})
      if (const double towards =
              positive ? depth[static_cast<std::size_t>(axis)] : -depth[static_cast<std::size_t>(axis)];
          near(end(axis, positive)) && towards > nearest) {
        hit = std::pair(axis, positive);
        nearest = towards;
      }
  if (hit)
    lookFromSide(canvas_, hit->first, hit->second);
  else if (near(middle()))
    canvas_.lookFromCorner();
  else
    return false;
  pressed_ = true;
  return true;
}

void lookFromSide(SceneCanvas& canvas, int axis, bool positive)
{
  const Vec3 direction = positive ? Vec3(-Vec3::Unit(axis)) : Vec3(Vec3::Unit(axis));
  canvas.lookAlong(direction, axis == 2 ? Vec3(0, 1, 0) : Vec3(0, 0, 1));
}

} // namespace kiln
