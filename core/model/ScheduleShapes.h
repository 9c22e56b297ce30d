// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <span>
#include <vector>

namespace kiln
{

/// A stretch of a schedule: to a value, then a hold.
struct RampHold {
  double target = 0; ///< SI
  double within = 0; ///< s from the value before; 0: at once
  double hold = 0;   ///< s
};

/// Points, joined by lines, of a schedule that begins at a value and goes through these stretches. What changes at once
/// takes a millisecond.
[[nodiscard]] std::vector<TablePoint> pointsOf(double start, std::span<const RampHold> stretches);

/// The stretches that points joined by lines are made of, so that they can be edited again.
[[nodiscard]] std::vector<RampHold> stretchesOf(std::span<const TablePoint> points);

/// One cycle that repeats, joined by steps: first on, then off.
/// \param share  of the period that is on, between 0 and 1
[[nodiscard]] Schedule dutyCycle(double on, double off, double period, double share);

} // namespace kiln
