// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/Convergence.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

namespace
{

/// Observed order of differences that shrink; the sizes need not shrink by one factor.
double observedOrder(const std::array<MeshedValue, 3>& meshes)
{
  const auto& [coarse, middle, fine] = meshes;
  const double ratio = (coarse.value - middle.value) / (middle.value - fine.value);
  const double lateRatio = middle.size / fine.size;
  const double earlyRatio = coarse.size / middle.size;
  double order = 2;
  for (int i = 0; i < 60; ++i) { // fixed point; converges for every ratio met in practice
    const double correction = std::log((std::pow(lateRatio, order) - 1) / (std::pow(earlyRatio, order) - 1));
    order = std::clamp((std::log(ratio) + correction) / std::log(lateRatio), 0.05, 6.0);
  }
  return order;
}

} // namespace

Convergence convergenceOf(const std::array<MeshedValue, 3>& meshes, double noise, double formal)
{
  const auto& [coarse, middle, fine] = meshes;
  const double late = middle.value - fine.value;
  const double early = coarse.value - middle.value;
  const double spread =
      std::max({coarse.value, middle.value, fine.value}) - std::min({coarse.value, middle.value, fine.value});
  const double rounding = std::max(1e-9 * std::max(std::abs(fine.value), std::abs(coarse.value)), noise);
  constexpr double far = 3; // factors of safety
  constexpr double near = 1.25;
  Convergence found;
  found.extrapolated = fine.value;
  if (spread <= rounding)
    return found;
  if (early * late <= 0) {
    found.verdict = Convergence::Verdict::Swings;
    found.bar = far * spread;
    return found;
  }
  const double order = observedOrder(meshes);
  constexpr double least = 0.4;
  if (order < least && spread > far * rounding) {
    found.verdict = Convergence::Verdict::Diverges;
    found.order = order;
    found.bar = far * spread;
    return found;
  }
  found.verdict = Convergence::Verdict::Settles;
  found.order = std::clamp(order, least, formal);
  const double lateRatio = middle.size / fine.size;
  const double earlyRatio = coarse.size / middle.size;
  found.extrapolated = fine.value - late / (std::pow(lateRatio, found.order) - 1);
  constexpr double close = 0.25; // of the elements' order
  const double safety = std::abs(order - formal) < close * formal ? near : far;
  // At the elements' order the middle mesh lies so far beyond the coarse one's change.
  const double foretold = std::abs(early) / (std::pow(earlyRatio, formal) - 1);
  found.bar = safety * std::max(std::abs(middle.value - found.extrapolated), foretold) + rounding;
  return found;
}

Convergence convergenceOfTwin(const MeshedValue& coarse, const MeshedValue& own, double step)
{
  constexpr double safety = 3;
  Convergence found;
  found.verdict = Convergence::Verdict::Twin;
  found.order = 1;
  found.extrapolated = own.value;
  found.bar = safety * std::abs(own.value - coarse.value) / (coarse.size / own.size - 1) + step;
  return found;
}

} // namespace kiln
