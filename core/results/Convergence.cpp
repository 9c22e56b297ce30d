// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/Convergence.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

Convergence convergenceOf(const std::array<MeshedValue, 3>& meshes)
{
  const auto& [coarse, middle, fine] = meshes;
  const double late = middle.value - fine.value;
  const double early = coarse.value - middle.value;
  const double spread =
      std::max({coarse.value, middle.value, fine.value}) - std::min({coarse.value, middle.value, fine.value});
  const double rounding = 1e-9 * std::max(std::abs(fine.value), std::abs(coarse.value));
  Convergence found;
  found.extrapolated = fine.value;
  found.bar = spread;
  if (spread <= rounding)
    return found;
  if (early * late <= 0) {
    found.verdict = Convergence::Verdict::Swings;
    return found;
  }
  const double lateRatio = middle.size / fine.size;
  const double earlyRatio = coarse.size / middle.size;
  double order = 2;
  for (int i = 0; i < 60; ++i) { // fixed point; converges for every ratio met in practice
    const double correction = std::log((std::pow(lateRatio, order) - 1) / (std::pow(earlyRatio, order) - 1));
    order = std::clamp((std::log(early / late) + correction) / std::log(lateRatio), 0.05, 6.0);
  }
  constexpr double least = 0.4;
  constexpr double most = 2; // of first-order elements; more is a chance of coarse meshes
  if (order < least) {
    found.verdict = Convergence::Verdict::Diverges;
    found.order = order;
    return found;
  }
  found.verdict = Convergence::Verdict::Settles;
  found.order = std::min(order, most);
  found.extrapolated = fine.value - late / (std::pow(lateRatio, found.order) - 1);
  constexpr double safety = 1.25;
  found.bar = safety * std::abs(middle.value - found.extrapolated);
  return found;
}

} // namespace kiln
