// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceSketch.h"
#include "mesh/SnapPlaces.h"

#include <QPointF>
#include <array>
#include <optional>
#include <vector>

namespace kiln
{

class SceneCanvas;

/// What the pointer snaps to while something is drawn on a face: corners, middles and centres in its plane, then its
/// edges, else whole millimetres (or tenths, or … as the model is large).
class DrawingSnaps
{
public:
  DrawingSnaps() = default;
  DrawingSnaps(const SceneCanvas& canvas, const DrawingPlane& plane, FaceId face);

  [[nodiscard]] std::optional<Vec2> snapped(const SceneCanvas& canvas, const QPointF& pixel) const;
  /// Of the face, on the plane.
  [[nodiscard]] const std::vector<std::array<Vec2, 2>>& edges() const { return edges_; }
  /// Where they turn.
  [[nodiscard]] const std::vector<Vec2>& corners() const { return corners_; }
  [[nodiscard]] const DrawingPlane& plane() const { return plane_; }
  /// Is the pixel at that place of the plane?
  [[nodiscard]] bool isAt(const SceneCanvas& canvas, const Vec2& place, const QPointF& pixel) const;
  /// Lengths pointed at round to it: 1, 2 or 5 of a power of ten, below a 150th of the model, m.
  [[nodiscard]] static double grain(const SceneCanvas& canvas);

private:
  [[nodiscard]] double away(const SceneCanvas& canvas, const Vec2& place, const QPointF& pixel) const; // px

  DrawingPlane plane_;
  std::vector<Vec2> places_;
  std::vector<std::array<Vec2, 2>> edges_;
  std::vector<Vec2> corners_;
};

} // namespace kiln
