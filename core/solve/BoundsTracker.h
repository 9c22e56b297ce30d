// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/TemperatureBounds.h"
#include "solve/TimedModel.h"

#include <span>

namespace kiln
{

/// The range that no temperature of a run can leave: that of its start and of everything around it so far. A source in
/// a part lifts the upper bound by its density over ρ c in time (what it could warm a place that keeps all of it), one
/// that takes heat out lowers the lower one; sources on surfaces, at points and in lumped nodes leave no bound on their
/// side.
class BoundsTracker
{
public:
  struct Range {
    double low = 0, high = 0; // K
  };

  /// \param past  of a run that goes on
  void start(const TimedModel& model, std::span<const double> temperature, double tolerance, const BoundsReport* past);
  /// Takes in what surrounds the model now.
  void takeSurroundings(const TimedModel& model);

  /// Range after a step from \p from, as of the model's present conditions.
  [[nodiscard]] Range rangeAfter(const TimedModel& model, std::span<const double> from, double step) const;
  /// Notes an accepted step of this length.
  void note(const TimedModel& model, std::span<const double> temperature, double time, double step, bool limited);

  [[nodiscard]] BoundsReport report() const;

private:
  Range range_;
  BoundsReport report_;
};

} // namespace kiln
