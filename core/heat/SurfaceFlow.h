// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"

namespace kiln
{

/// What a condition brings into the three nodes of a triangle.
struct TriangleFlow {
  Vec3 watts = Vec3::Zero();                       ///< W
  Eigen::Matrix3d slope = Eigen::Matrix3d::Zero(); ///< minus the derivative by the nodes' temperatures, W/K; symmetric
};

/// \param triangle  index in the mesh
/// \param corners   temperatures of its nodes, K
/// Integrated with seven points, so that h(T), h(x) and T⁴ are followed within the triangle.
[[nodiscard]] TriangleFlow flowOf(const Conditions::FaceConvection& convection, const Mesh& mesh, std::size_t triangle,
                                  const Vec3& corners);
[[nodiscard]] TriangleFlow flowOf(const Conditions::FaceRadiation& radiation, const Mesh& mesh, std::size_t triangle,
                                  const Vec3& corners);
/// Along the triangle from its warm corners to its cold ones; the three sum to nothing. k is taken at their mean.
[[nodiscard]] TriangleFlow flowOf(const Conditions::FaceSheet& sheet, const Mesh& mesh, std::size_t triangle,
                                  const Vec3& corners);
[[nodiscard]] TriangleFlow flowOf(const Conditions::FaceHeat& heat, const Mesh& mesh, std::size_t triangle);

/// What a contact brings from the second side to the first, by node.
struct ContactFlow {
  Vec3 watts = Vec3::Zero();                             ///< into the first side, W; the second loses the same
  Eigen::Matrix3d slopeFirst = Eigen::Matrix3d::Zero();  ///< minus the derivative by the first side, W/K
  Eigen::Matrix3d slopeSecond = Eigen::Matrix3d::Zero(); ///< the derivative by the second side, W/K
};
[[nodiscard]] ContactFlow flowOf(const Conditions::FaceContact& contact, const Mesh& mesh, std::size_t triangle,
                                 const Vec3& first, const Vec3& second);

/// Heat density of a part's source in one tetrahedron, W/m³.
[[nodiscard]] double densityIn(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t tet);

} // namespace kiln
