// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <array>
#include <span>
#include <vector>

namespace kiln
{

/// A line of equal value on a surface, from end to end; a closed one ends where it begins.
struct LevelLine {
  double level = 0;
  std::vector<Vec3> points; ///< m

  [[nodiscard]] double length() const;
  /// The place in the middle of its way.
  [[nodiscard]] Vec3 middle() const;
};

/// Lines of equal value on a surface of triangles with values at their corners, linear in between; joined where
/// triangles share corners. Corners whose value is no number are passed over.
[[nodiscard]] std::vector<LevelLine> levelLines(const std::vector<Vec3>& points,
                                                const std::vector<std::array<int, 3>>& triangles,
                                                std::span<const double> values, const std::vector<double>& levels);

/// What of a surface lies above a level (or below it): triangles, cut where they reach across.
struct ClippedSurface {
  std::vector<Vec3> points;
  std::vector<double> values;
  std::vector<std::array<int, 3>> triangles;
};
[[nodiscard]] ClippedSurface clippedAt(const std::vector<Vec3>& points,
                                       const std::vector<std::array<int, 3>>& triangles, std::span<const double> values,
                                       double level, bool above);

/// Round levels within a range, about so many; none where it has no extent.
[[nodiscard]] std::vector<double> roundLevels(double low, double high, int about);

/// A round step (1, 2, 5 times a power of ten) of which at most so many fit into a span.
[[nodiscard]] double roundStep(double span, int most);

} // namespace kiln
