// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/PlaceHandles.h"

#include "heat/elements/Conductivity.h"
#include "look/Theme.h"
#include "model/RoundNumber.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneOverlay.h"

#include <QMouseEvent>
#include <QPainter>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double grain = 1e-3; // m, a dragged part moves in these steps
constexpr double reach = 8;    // px around an arrow
constexpr std::array axisNames{"x", "y", "z"};

double distanceToSegment(const QPointF& p, const QPointF& a, const QPointF& b)
{
  const QPointF along = b - a;
  const double length = QPointF::dotProduct(along, along);
  const double share = length > 0 ? std::clamp(QPointF::dotProduct(p - a, along) / length, 0.0, 1.0) : 0;
  const QPointF off = p - a - share * along;
  return std::hypot(off.x(), off.y());
}

Number& coordinate(Number3& position, int axis) { return axis == 0 ? position.x : axis == 1 ? position.y : position.z; }

} // namespace

PlaceHandles::PlaceHandles(Document& document, SceneCanvas& canvas, SceneOverlay& overlay)
    : QObject(&overlay), document_(document), canvas_(canvas), overlay_(overlay)
{
  canvas.installEventFilter(this);
}

std::optional<PlaceHandles::Arrows> PlaceHandles::arrows() const
{
  const auto mesh = document_.shownMesh();
  if (!mesh || findById(document_.project().parts, document_.selectedId()) == nullptr)
    return std::nullopt;
  const PartId part = mesh->geometry.partIndex(document_.selectedId());
  if (part == noPart)
    return std::nullopt;
  const GeometryPart& own = mesh->geometry.parts[static_cast<std::size_t>(part)];
  const auto [low, high] = canvas_.model().bounds();
  constexpr double share = 0.16; // of the model's size
  return Arrows{(own.low + own.high) / 2, share * (high - low).norm()};
}

std::optional<QPointF> PlaceHandles::tip(int axis) const
{
  const auto at = arrows();
  if (!at)
    return std::nullopt;
  return canvas_.pixelOf(at->base + at->length * Vec3::Unit(axis));
}

int PlaceHandles::axisAt(const QPointF& pixel) const
{
  const auto at = arrows();
  if (!at)
    return -1;
  const QPointF base = canvas_.pixelOf(at->base);
  for (int axis = 0; axis < 3; ++axis) {
    const QPointF end = *tip(axis);
    // The first third belongs to the part, so that it can still be picked.
    if (distanceToSegment(pixel, base + (end - base) / 3, end) < reach)
      return axis;
  }
  return -1;
}

double PlaceHandles::travelled(const QPointF& pixel) const
{
  const auto at = arrows();
  const QPointF perLength = *tip(axis_) - canvas_.pixelOf(at->base);
  const double length = QPointF::dotProduct(perLength, perLength);
  if (length < 1)
    return 0; // the axis points at the eye
  return std::round(QPointF::dotProduct(pixel - from_, perLength) / length * at->length / grain) * grain;
}

bool PlaceHandles::eventFilter(QObject* /*watched*/, QEvent* event)
{
  const auto* mouse = dynamic_cast<QMouseEvent*>(event);
  if (mouse == nullptr)
    return false;
  if (!overlay_.showsHandles())
    return false;
  if (event->type() == QEvent::MouseButtonPress && mouse->button() == Qt::LeftButton) {
    axis_ = axisAt(mouse->position());
    from_ = mouse->position();
    by_ = 0;
    return axis_ >= 0;
  }
  if (axis_ < 0)
    return false;
  if (event->type() == QEvent::MouseMove) {
    by_ = travelled(mouse->position());
    overlay_.update();
    return true;
  }
  if (event->type() == QEvent::MouseButtonRelease) {
    by_ = travelled(mouse->position());
    drop();
    return true;
  }
  return false;
}

void PlaceHandles::drop()
{
  const int axis = std::exchange(axis_, -1);
  const double by = std::exchange(by_, 0.0);
  if (by == 0)
    return;
  const Part* part = findById(document_.project().parts, document_.selectedId());
  document_.edit(tr("Move %1").arg(QString::fromStdString(part->name)), [&](Project& project) {
    Part* own = findById(project.parts, document_.selectedId());
    Number& number = coordinate(own->shape.placement.position, axis);
    if (number.formula) // the formula stays, moved
      number.text = "(" + number.text + ") + " + lengthNumber(by).text;
    else
      number = lengthNumber(number.si + by);
  });
  overlay_.update();
}

void PlaceHandles::paint(QPainter& painter) const
{
  const auto at = arrows();
  if (!at)
    return;
  const Theme& t = theme();
  const QPointF base = canvas_.pixelOf(at->base);
  for (int axis = 0; axis < 3; ++axis) {
    QPointF end = *tip(axis);
    QPointF start = base;
    if (axis == axis_) {
      const QPointF moved = (end - base) / at->length * by_;
      start += moved;
      end += moved;
    }
    painter.setPen(QPen(axis == axis_ ? t.bad : t.accent, 2.4));
    painter.setBrush(axis == axis_ ? t.bad : t.accent);
    painter.drawLine(start + (end - start) / 6, end);
    painter.drawEllipse(end, 5, 5);
    QString text = axisNames[static_cast<std::size_t>(axis)];
    if (axis == axis_)
      text += QString(" %1%2 mm").arg(by_ < 0 ? "−" : "+").arg(std::abs(by_) * 1e3, 0, 'g', 6);
    painter.setPen(t.text);
    painter.drawText(end + QPointF(8, 4), text);
  }
  paintMaterialAxes(painter, *at);
}

void PlaceHandles::paintMaterialAxes(QPainter& painter, const Arrows& at) const
{
  const Project& project = document_.shownProject();
  const Part* part = findById(project.parts, document_.selectedId());
  const Material* material = part != nullptr ? findById(project.materials, part->material) : nullptr;
  if (material == nullptr || (!material->conductivityY && !material->conductivityZ))
    return;
  const Conductivity conductivity(*material, *part);
  painter.setPen(QPen(theme().text, 1.4, Qt::DashLine));
  for (int axis = 0; axis < 3; ++axis) {
    const QPointF end = canvas_.pixelOf(at.base + 0.7 * at.length * conductivity.axes().col(axis));
    painter.drawLine(canvas_.pixelOf(at.base), end);
    painter.drawText(end + QPointF(5, -5), QString("k%1").arg(axis + 1));
  }
}

} // namespace kiln
