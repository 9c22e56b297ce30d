// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/DrawingSnaps.h"

#include "scene/SceneCanvas.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

constexpr double reach = 9; // px

} // namespace

DrawingSnaps::DrawingSnaps(const SceneCanvas& canvas, const DrawingPlane& plane, FaceId face) : plane_(plane)
{
  const Mesh& mesh = *canvas.model().source().mesh;
  const auto [low, high] = canvas.model().bounds();
  const double slack = 1e-6 * (high - low).norm();
  std::vector<SnapPlace> all = snapPlacesOn(mesh, face);
  const std::vector<SnapPlace> others = snapPlaces(mesh);
  all.insert(all.end(), others.begin(), others.end());
  for (const SnapPlace& one : all)
    if (std::abs(plane_.out.dot(one.place - plane_.origin)) < slack)
      places_.push_back(plane_.flatOf(one.place));
  std::map<NodeId, Vec2> along; // of the first side at each node
  for (const auto& [a, b] : borderSides(mesh, face)) {
    const Vec2 from = plane_.flatOf(mesh.placeOf(a));
    const Vec2 to = plane_.flatOf(mesh.placeOf(b));
    edges_.push_back({from, to});
    const Vec2 way = (to - from).normalized();
    constexpr double straight = 0.94; // cosine of 20°: a finely divided circle has no corners
    for (const NodeId end : {a, b})
      if (const auto [first, isNew] = along.emplace(end, way); !isNew && std::abs(first->second.dot(way)) < straight)
        corners_.push_back(end == a ? from : to);
  }
}

double DrawingSnaps::away(const SceneCanvas& canvas, const Vec2& place, const QPointF& pixel) const
{
  const QPointF off = canvas.pixelOf(plane_.placeOf(place)) - pixel;
  return std::hypot(off.x(), off.y());
}

bool DrawingSnaps::isAt(const SceneCanvas& canvas, const Vec2& place, const QPointF& pixel) const
{
  return away(canvas, place, pixel) < reach;
}

double DrawingSnaps::grain(const SceneCanvas& canvas)
{
  const auto [low, high] = canvas.model().bounds();
  constexpr double share = 150;
  const double fine = std::max((high - low).norm() / share, 1e-6);
  const double ten = std::pow(10.0, std::floor(std::log10(fine)));
  return ten * (fine >= 5 * ten ? 5 : fine >= 2 * ten ? 2 : 1); // 1, 2, 5 of a power of ten: round places
}

std::optional<Vec2> DrawingSnaps::snapped(const SceneCanvas& canvas, const QPointF& pixel) const
{
  const auto [from, to] = canvas.rayAt(pixel);
  const auto hit = plane_.hitBy(from, to);
  if (!hit)
    return std::nullopt;
  const Vec2 free = plane_.flatOf(*hit);
  const Vec2* best = nullptr;
  double nearest = reach;
  for (const Vec2& place : places_)
    if (const double far = away(canvas, place, pixel); far < nearest) {
      nearest = far;
      best = &place;
    }
  if (best != nullptr)
    return *best;
  for (const auto& [a, b] : edges_) {
    const Vec2 along = b - a;
    const double share = std::clamp((free - a).dot(along) / std::max(along.squaredNorm(), 1e-300), 0.0, 1.0);
    if (const Vec2 on = a + share * along; away(canvas, on, pixel) < reach / 2)
      return on;
  }
  const double step = grain(canvas);
  return Vec2((free / step).array().round() * step);
}

} // namespace kiln
