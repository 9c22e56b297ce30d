// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/InstantFilter.h"

#include <algorithm>
#include <limits>
#include <utility>

namespace kiln
{

void InstantFilter::startFrom(double time, std::span<const double> values)
{
  begun_ = true;
  from_ = time;
  origin_.assign(values.begin(), values.end());
  low_.assign(values.size(), -std::numeric_limits<double>::infinity());
  high_.assign(values.size(), std::numeric_limits<double>::infinity());
  last_.reset();
}

/// Is the line to here still within every fan? If so, the fans close up to what this instant allows.
bool InstantFilter::narrow(double time, std::span<const double> values, double tolerance)
{
  const double length = time - from_;
  for (std::size_t i = 0; i < values.size(); ++i) {
    const double slope = (values[i] - origin_[i]) / length;
    if (slope < low_[i] || slope > high_[i])
      return false;
  }
  for (std::size_t i = 0; i < values.size(); ++i) {
    low_[i] = std::max(low_[i], (values[i] - tolerance - origin_[i]) / length);
    high_[i] = std::min(high_[i], (values[i] + tolerance - origin_[i]) / length);
  }
  return true;
}

std::optional<InstantFilter::Kept> InstantFilter::offer(double time, std::span<const double> values, double tolerance)
{
  if (!begun_) {
    startFrom(time, values);
    return Kept{time, {values.begin(), values.end()}};
  }
  std::optional<Kept> kept;
  if (!narrow(time, values, tolerance) && last_) {
    kept = std::move(last_);
    startFrom(kept->time, kept->values);
    static_cast<void>(narrow(time, values, tolerance));
  }
  last_ = Kept{time, {values.begin(), values.end()}};
  return kept;
}

std::optional<InstantFilter::Kept> InstantFilter::keep(double time, std::span<const double> values)
{
  std::optional<Kept> pending = std::exchange(last_, std::nullopt);
  if (pending && pending->time >= time)
    pending.reset();
  startFrom(time, values);
  return pending;
}

} // namespace kiln
