// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/CutHandles.h"

#include "base/Vec3.h"
#include "look/Theme.h"
#include "scene/CutList.h"
#include "scene/SceneCanvas.h"

#include <QCursor>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double reach = 11; // px

} // namespace

CutHandles::CutHandles(SceneCanvas& canvas, std::vector<CutPlane>& cuts)
    : QObject(&canvas), canvas_(canvas), cuts_(cuts)
{
  canvas.installEventFilter(this);
}

/// Pixel of where the plane is nearest to the middle of the model.
QPointF CutHandles::grip(std::size_t cut) const
{
  const auto [low, high] = canvas_.model().bounds();
  const Vec3 middle = (low + high) / 2;
  const Vec3 normal = placeOf(cuts_[cut].normal).normalized();
  return canvas_.pixelOf(middle + normal.dot(placeOf(cuts_[cut].through) - middle) * normal);
}

QPointF CutHandles::pixelsPerMetre(std::size_t cut) const
{
  const auto [low, high] = canvas_.model().bounds();
  constexpr double share = 0.1;
  const double step = std::max(share * (high - low).norm(), 1e-9);
  const Vec3 middle = (low + high) / 2;
  return (canvas_.pixelOf(middle + step * placeOf(cuts_[cut].normal).normalized()) - canvas_.pixelOf(middle)) / step;
}

bool CutHandles::eventFilter(QObject* /*watched*/, QEvent* event)
{
  const auto* mouse = dynamic_cast<QMouseEvent*>(event);
  if (mouse == nullptr || canvas_.model().empty())
    return false;
  if (event->type() == QEvent::MouseButtonPress && mouse->button() == Qt::LeftButton) {
    for (std::size_t cut = 0; cut < cuts_.size() && !held_; ++cut)
      if (const QPointF off = grip(cut) - mouse->position(); std::hypot(off.x(), off.y()) < reach)
        held_ = cut;
    last_ = mouse->position();
    return held_.has_value();
  }
  if (!held_ || *held_ >= cuts_.size())
    return false;
  if (event->type() == QEvent::MouseMove) {
    const QPointF along = pixelsPerMetre(*held_);
    const double size = QPointF::dotProduct(along, along);
    if (size > 1) { // else it points at the eye
      const double by = QPointF::dotProduct(mouse->position() - last_, along) / size;
      CutPlane& cut = cuts_[*held_];
      cut.through = numbersOf(placeOf(cut.through) + by * placeOf(cut.normal).normalized());
      last_ = mouse->position();
      emit dragged();
    }
    return true;
  }
  if (event->type() != QEvent::MouseButtonRelease)
    return false;
  held_.reset();
  emit released();
  return true;
}

void CutHandles::paint(QPainter& painter) const
{
  if (canvas_.model().empty())
    return;
  const Theme& t = theme();
  for (std::size_t cut = 0; cut < cuts_.size(); ++cut) {
    const QPointF at = grip(cut);
    const QPointF off = canvas_.mapFromGlobal(QPointF(QCursor::pos())) - at;
    constexpr double near = 80; // px
    if (canvas_.covered() == 0 && held_ != cut && std::hypot(off.x(), off.y()) > near)
      continue; // it would only lie over what is looked at
    QPointF along = pixelsPerMetre(cut);
    const double size = std::hypot(along.x(), along.y());
    if (size < 1)
      continue;
    along /= size;
    const QPointF across(-along.y(), along.x());
    const QColor ink = held_ == cut ? t.bad : t.accent;
    painter.setPen(QPen(ink, 2));
    painter.setBrush(t.panel);
    painter.drawEllipse(at, 7, 7);
    painter.setBrush(ink);
    for (const double side : {1.0, -1.0}) {
      const QPointF tip = at + side * 17 * along;
      painter.drawPolygon(QPolygonF({tip, tip - side * 7 * along + 4 * across, tip - side * 7 * along - 4 * across}));
    }
  }
}

} // namespace kiln
