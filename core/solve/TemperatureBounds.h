// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"

namespace kiln
{

/// The farthest that a temperature went beyond what is physically possible.
struct BoundsExcess {
  double kelvin = 0; ///< beyond the bound
  double time = 0;   ///< s
  Vec3 place = Vec3::Zero();
  PartId part{};
};

/// What was measured against the bounds of a run in time: the range of its start, of what surrounds it and of what is
/// held. Heat sources lift the upper bound by what they can warm a place that keeps all of it.
struct BoundsReport {
  BoundsExcess above, below;
  bool upperKnown = true, lowerKnown = true; ///< false where a source on a surface or at a point leaves no bound
  double tolerance = 0;                      ///< K a step; an excess beyond it is told
  double low = 0, high = 0;                  ///< K, the bounds at the end
  int limitedSteps = 0;                      ///< steps in which places were held within the bounds

  [[nodiscard]] double worst() const { return above.kelvin > below.kelvin ? above.kelvin : below.kelvin; }
  [[nodiscard]] bool exceeded() const { return worst() > tolerance; }
};

} // namespace kiln
