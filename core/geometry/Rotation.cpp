// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/Rotation.h"

#include "model/RoundNumber.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace kiln
{

Eigen::Matrix3d rotationOf(const Number3& angles)
{
  using Eigen::AngleAxisd;
  return (AngleAxisd(angles.z.si, Vec3::UnitZ()) * AngleAxisd(angles.y.si, Vec3::UnitY()) *
          AngleAxisd(angles.x.si, Vec3::UnitX()))
      .toRotationMatrix();
}

Number3 anglesOf(const Eigen::Matrix3d& rotation)
{
  const Eigen::Matrix3d& m = rotation;
  constexpr double upright = 1 - 1e-12;
  const double sine = std::clamp(-m(2, 0), -1.0, 1.0);
  if (std::abs(sine) > upright) // only the sum of the two others counts
    return {angleNumber(std::atan2(-m(1, 2), m(1, 1))), angleNumber(std::asin(sine)), angleNumber(0)};
  return {angleNumber(std::atan2(m(2, 1), m(2, 2))), angleNumber(std::asin(sine)),
          angleNumber(std::atan2(m(1, 0), m(0, 0)))};
}

} // namespace kiln
