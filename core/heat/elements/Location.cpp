// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Location.h"

#include <array>
#include <limits>

namespace kiln
{
namespace
{

/// Barycentric place of the point of a triangle that is nearest to \p place.
/// Source: Ericson, Real-Time Collision Detection (2005), 5.1.5.
Vec3 nearestInTriangle(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& place)
{
  const Vec3 ab = b - a;
  const Vec3 ac = c - a;
  const double d1 = ab.dot(place - a), d2 = ac.dot(place - a);
  if (d1 <= 0 && d2 <= 0)
    return Vec3::UnitX();
  const double d3 = ab.dot(place - b), d4 = ac.dot(place - b);
  if (d3 >= 0 && d4 <= d3)
    return Vec3::UnitY();
  const double vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0)
    return {1 - d1 / (d1 - d3), d1 / (d1 - d3), 0};
  const double d5 = ab.dot(place - c), d6 = ac.dot(place - c);
  if (d6 >= 0 && d5 <= d6)
    return Vec3::UnitZ();
  const double vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0)
    return {1 - d2 / (d2 - d6), 0, d2 / (d2 - d6)};
  const double va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const double share = (d4 - d3) / ((d4 - d3) + (d5 - d6));
    return {0, 1 - share, share};
  }
  const double sum = va + vb + vc;
  return {va / sum, vb / sum, vc / sum};
}

/// The same of a tetrahedron that the place lies outside of.
Eigen::Vector4d nearestInTet(const std::array<Vec3, 4>& corner, const Vec3& place)
{
  Eigen::Vector4d best = Eigen::Vector4d::Constant(0.25);
  double distance = std::numeric_limits<double>::infinity();
  for (std::size_t left = 0; left < 4; ++left) { // the corner opposite the side
    const std::array<std::size_t, 3> side{(left + 1) % 4, (left + 2) % 4, (left + 3) % 4};
    const Vec3 l = nearestInTriangle(corner[side[0]], corner[side[1]], corner[side[2]], place);
    Vec3 there = Vec3::Zero();
    Eigen::Vector4d weights = Eigen::Vector4d::Zero();
    for (std::size_t i = 0; i < 3; ++i) {
      there += l[static_cast<Eigen::Index>(i)] * corner[side[i]];
      weights[static_cast<Eigen::Index>(side[i])] = l[static_cast<Eigen::Index>(i)];
    }
    if ((there - place).norm() < distance) {
      distance = (there - place).norm();
      best = weights;
    }
  }
  return best;
}

} // namespace

Location locateIn(const Mesh& mesh, std::size_t tet, const Vec3& place)
{
  const auto corner = [&](std::size_t i) -> const Vec3& {
    return mesh.nodes[static_cast<std::size_t>(mesh.tets[tet][i])];
  };
  Eigen::Matrix3d edges;
  edges << corner(1) - corner(0), corner(2) - corner(0), corner(3) - corner(0);
  const Vec3 local = edges.inverse() * (place - corner(0));
  Eigen::Vector4d weights(1 - local.sum(), local.x(), local.y(), local.z());
  if (weights.minCoeff() < 0)
    weights = nearestInTet({corner(0), corner(1), corner(2), corner(3)}, place);
  Vec3 nearest = Vec3::Zero();
  for (std::size_t i = 0; i < 4; ++i)
    nearest += weights[static_cast<Eigen::Index>(i)] * corner(i);
  return {tet, weights, (nearest - place).norm()};
}

Location locate(const Mesh& mesh, const Vec3& place)
{
  constexpr double rounding = 1e-9; // m
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
    const Location here = locateIn(mesh, t, place);
    if (here.distance < bestDistance) {
      bestDistance = here.distance;
      best = here;
    }
    if (bestDistance < rounding)
      break; // it lies within
  }
  if (best.distance < rounding)
    best.distance = 0;
  return best;
}

} // namespace kiln
