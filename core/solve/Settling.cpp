// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/Settling.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

std::optional<std::vector<double>> Settling::remaining(const std::vector<double>& temperature, double elapsed)
{
  constexpr double longer = 1e4; // than the run so far
  const double ahead = longer * std::max(elapsed, 1.0);
  std::vector<double> later = temperature;
  std::vector<double> storing;
  constexpr StageSolver::Accuracy rough{1e-5, 0.1};
  stages_.forget(); // conditions and temperatures are others than at the last time
  if (!stages_.solve(later, model_.store().stored(temperature), ahead, rough, storing))
    return std::nullopt;
  for (std::size_t i = 0; i < later.size(); ++i)
    later[i] -= temperature[i];
  return later;
}

double Settling::excess(const std::vector<double>& remaining, const std::vector<double>& temperature,
                        const std::vector<double>& start, double within)
{
  constexpr double share = 0.01;
  constexpr double least = 0.1; // K
  double largest = 0;
  for (std::size_t i = 0; i < remaining.size(); ++i) {
    const double allowed = within > 0 ? within : std::max(share * std::abs(temperature[i] - start[i]), least);
    largest = std::max(largest, std::abs(remaining[i]) / allowed);
  }
  return largest;
}

} // namespace kiln
