// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/Crossing.h"

namespace kiln
{

std::vector<double> insideStep(std::span<const double> from, std::span<const double> fromRate,
                               std::span<const double> to, std::span<const double> toRate, double length, double share)
{
  const double s = share;
  const double atTo = s * s * (3 - 2 * s);
  const double leaving = s * (1 - s) * (1 - s) * length;
  const double arriving = -s * s * (1 - s) * length;
  std::vector<double> inside(from.size());
  for (std::size_t i = 0; i < inside.size(); ++i) {
    const bool still = fromRate[i] == 0 && toRate[i] == 0;
    inside[i] = still ? from[i] + s * (to[i] - from[i])
                      : from[i] + atTo * (to[i] - from[i]) + leaving * fromRate[i] + arriving * toRate[i];
  }
  return inside;
}

double crossingShare(const WatchReader& reader, std::span<const double> from, std::span<const double> fromRate,
                     std::span<const double> to, std::span<const double> toRate, double length, double value)
{
  double low = 0;
  double high = 1;
  const auto valueAt = [&](std::span<const double> temperature) {
    const auto reading = reader.read({temperature});
    return reading ? reading->value : value;
  };
  const bool rising = valueAt(to) > valueAt(from);
  constexpr int halvings = 24;
  for (int i = 0; i < halvings; ++i) {
    const double middle = (low + high) / 2;
    const double here = valueAt(insideStep(from, fromRate, to, toRate, length, middle));
    ((here < value) == rising ? low : high) = middle;
  }
  return high;
}

} // namespace kiln
