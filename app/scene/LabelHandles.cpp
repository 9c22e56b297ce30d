// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/LabelHandles.h"

#include "heat/elements/Location.h"
#include "scene/CutList.h"
#include "scene/SceneCanvas.h"

#include <QMouseEvent>
#include <cmath>

namespace kiln
{

LabelHandles::LabelHandles(Document& document, SceneCanvas& canvas)
    : QObject(&canvas), document_(document), canvas_(canvas)
{
  canvas.installEventFilter(this);
}

/// Parts may be pulled apart.
Vec3 LabelHandles::drawnPlace(const Label& label) const
{
  const Vec3 place = placeOf(label.place);
  const Mesh& mesh = *canvas_.model().source().mesh;
  return mesh.tets.empty() ? place : Vec3(place + canvas_.model().offset(mesh.tetPart[locate(mesh, place).tet]));
}

std::optional<QPointF> LabelHandles::grip(const std::string& label) const
{
  const Label* own = findById(document_.project().labels, label);
  if (own == nullptr || canvas_.model().empty())
    return std::nullopt;
  return canvas_.pixelOf(drawnPlace(*own));
}

bool LabelHandles::eventFilter(QObject* /*watched*/, QEvent* event)
{
  const auto* mouse = dynamic_cast<QMouseEvent*>(event);
  if (mouse == nullptr || canvas_.model().empty())
    return false;
  if (event->type() == QEvent::MouseButtonPress && mouse->button() == Qt::LeftButton) {
    take(mouse->position());
    return held_.has_value();
  }
  if (!held_)
    return false;
  if (event->type() == QEvent::MouseMove) {
    const auto hit = canvas_.pickAt(mouse->position());
    if (hit && hit->part == part_ && hit->face == face_) { // beyond the face it waits
      held_->second = hit->place;
      changed_ = true;
      emit moved();
    }
    return true;
  }
  if (event->type() != QEvent::MouseButtonRelease)
    return false;
  drop();
  return true;
}

/// The label nearest to the pixel, if it can be seen there.
void LabelHandles::take(const QPointF& pixel)
{
  constexpr double reach = 8; // px
  double nearest = reach;
  for (const Label& label : document_.project().labels) {
    const auto at = grip(label.id);
    const double away = at ? std::hypot(at->x() - pixel.x(), at->y() - pixel.y()) : reach;
    if (away < nearest && !canvas_.isCovered(drawnPlace(label))) {
      nearest = away;
      held_ = std::pair(label.id, drawnPlace(label));
    }
  }
  const auto hit = held_ ? canvas_.pickAt(pixel) : std::nullopt;
  if (!hit)
    return held_.reset();
  face_ = hit->face;
  part_ = hit->part;
  changed_ = false;
}

void LabelHandles::drop()
{
  const auto [id, place] = *held_;
  held_.reset();
  if (changed_)
    document_.edit(tr("Move a label"), [&](Project& project) {
      if (Label* own = findById(project.labels, id))
        own->place = numbersOf(place - canvas_.model().offset(part_));
    });
  emit moved();
}

} // namespace kiln
