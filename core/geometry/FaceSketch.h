// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <optional>
#include <vector>

namespace kiln
{

/// A flat face of a part as one draws on it: from its middle, a along the part's x (its y where the face looks along
/// x), b across, h out of the part. The same a and b as those of a line that divides the face.
struct DrawingPlane {
  Vec3 origin = Vec3::Zero(); ///< m
  Vec3 along = Vec3::UnitX(), across = Vec3::UnitY(), out = Vec3::UnitZ();

  [[nodiscard]] Vec3 placeOf(const Vec2& flat, double height = 0) const
  {
    return origin + flat.x() * along + flat.y() * across + height * out;
  }
  [[nodiscard]] Vec2 flatOf(const Vec3& place) const { return {along.dot(place - origin), across.dot(place - origin)}; }
  /// Where a straight line goes through it; nothing where it runs beside it.
  [[nodiscard]] std::optional<Vec3> hitBy(const Vec3& from, const Vec3& to) const;
};

/// \param side  index of the part in the table; it is one of the two of the face
/// \return nothing where the face is not flat
[[nodiscard]] std::optional<DrawingPlane> drawingPlane(const Face& face, PartId side, const Part& part);

/// What is drawn on a plane, m.
struct Sketch {
  enum class Kind { Rectangle, Circle, Outline };
  Kind kind = Kind::Rectangle;
  std::vector<Vec2> points; ///< two opposite corners; the centre and a place on the circle; corners in order

  /// Is there anything: of some size, and an outline of three corners at least?
  [[nodiscard]] bool isSomething() const;
  /// Its border as places of the plane, the first one once more at the end.
  [[nodiscard]] std::vector<Vec2> border() const;
  /// The same with these sizes: both of a rectangle, the diameter of a circle; an outline stays.
  [[nodiscard]] Sketch sized(const std::vector<double>& sizes) const;
};

/// The step that raises what is drawn into a rib (\p height above zero, joined) or sinks it into a pocket (below, cut),
/// in the frame of the part. Its id is still to be given.
[[nodiscard]] ShapeStep stepOf(const Sketch& sketch, double height, const DrawingPlane& plane, const Part& part);

/// The step that divides the face by what is drawn.
[[nodiscard]] ShapeStep divisionOf(const Sketch& sketch, const std::string& face);

} // namespace kiln
