// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Location.h"

#include <limits>

namespace kiln
{

Location locate(const Mesh& mesh, const Vec3& place)
{
  Location best;
  double bestDistance = std::numeric_limits<double>::infinity();
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    const Tet& tet = mesh.tets[t];
    const auto corner = [&](std::size_t i) -> const Vec3& { return mesh.nodes[static_cast<std::size_t>(tet[i])]; };
    // Cheap refusal: a tet cannot be nearer than its first corner minus its longest edge from there.
    const double reach =
        std::max({(corner(1) - corner(0)).norm(), (corner(2) - corner(0)).norm(), (corner(3) - corner(0)).norm()});
    if ((corner(0) - place).norm() - reach > bestDistance)
      continue;
    Eigen::Matrix3d edges;
    edges << corner(1) - corner(0), corner(2) - corner(0), corner(3) - corner(0);
    const Vec3 local = edges.inverse() * (place - corner(0));
    Eigen::Vector4d weights(1 - local.sum(), local.x(), local.y(), local.z());
    weights = weights.cwiseMax(0);
    weights /= weights.sum();
    Vec3 nearest = Vec3::Zero();
    for (std::size_t i = 0; i < 4; ++i)
      nearest += weights[static_cast<Eigen::Index>(i)] * corner(i);
    const double distance = (nearest - place).norm();
    if (distance < bestDistance) {
      bestDistance = distance;
      best = {t, weights, distance};
    }
  }
  constexpr double rounding = 1e-9; // m
  if (best.distance < rounding)
    best.distance = 0;
  return best;
}

} // namespace kiln
