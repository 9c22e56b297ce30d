// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/watches/ShareAbove.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

using Place = Eigen::Vector4d; // barycentric

/// Where the level lies on the edge between two corners, of which the first is above it.
Place between(const std::array<double, 4>& values, Eigen::Index above, Eigen::Index below, double level)
{
  const double high = values[static_cast<std::size_t>(above)];
  const double low = values[static_cast<std::size_t>(below)];
  const double t = (level - low) / (high - low);
  return t * Place::Unit(above) + (1 - t) * Place::Unit(below);
}

double shareOf(const Place& a, const Place& b, const Place& c, const Place& d)
{
  Eigen::Matrix4d places;
  places << a, b, c, d;
  return std::abs(places.determinant());
}

/// Share of the corner that is cut off: what is above where one corner is.
double cutOff(const std::array<double, 4>& values, std::size_t corner, double level)
{
  double share = 1;
  for (std::size_t i = 0; i < 4; ++i)
    if (i != corner)
      share *= (values[corner] - level) / (values[corner] - values[i]);
  return share;
}

} // namespace

double shareAbove(std::array<double, 4> corners, double level)
{
  std::sort(corners.begin(), corners.end());
  const auto above = std::count_if(corners.begin(), corners.end(), [&](double value) { return value > level; });
  switch (above) {
  case 0:
    return 0;
  case 1:
    return cutOff(corners, 3, level);
  case 2: {
    // A wedge between the edge of the two corners above and where the level crosses the four edges down from it.
    const Place top2 = Place::Unit(2);
    const Place top3 = Place::Unit(3);
    const Place p20 = between(corners, 2, 0, level);
    const Place p21 = between(corners, 2, 1, level);
    const Place p30 = between(corners, 3, 0, level);
    const Place p31 = between(corners, 3, 1, level);
    return shareOf(top2, p20, p21, top3) + shareOf(p20, p21, top3, p30) + shareOf(p21, top3, p30, p31);
  }
  case 3:
    return 1 - cutOff(corners, 0, level);
  default:
    return 1;
  }
}

} // namespace kiln
