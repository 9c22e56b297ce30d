// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/SurfaceElement.h"

namespace kiln
{

/// What a condition brings into the nodes of a surface element.
struct SurfaceFlow {
  NodeVector watts; ///< W
  NodeMatrix slope; ///< minus the derivative by the nodes' temperatures, W/K; symmetric

  explicit SurfaceFlow(const Mesh& mesh)
      : watts(NodeVector::Zero(mesh.order == 2 ? 6 : 3)), slope(NodeMatrix::Zero(watts.size(), watts.size()))
  {
  }
};

/// \param element  index of the surface element
/// \param values   temperatures of its nodes, K
/// Integrated at the points of the element (\ref pointsOf), where h(T), h(x) and T⁴ are taken.
[[nodiscard]] SurfaceFlow flowOf(const Conditions::FaceConvection& convection, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
[[nodiscard]] SurfaceFlow flowOf(const Conditions::FaceRadiation& radiation, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
/// Along the element from its warm nodes to its cold ones; they sum to nothing.
[[nodiscard]] SurfaceFlow flowOf(const Conditions::FaceSheet& sheet, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
[[nodiscard]] SurfaceFlow flowOf(const Conditions::FaceHeat& heat, const Mesh& mesh, std::size_t element);

/// What a contact brings from the second side to the first, by node.
struct ContactFlow {
  NodeVector watts;       ///< into the first side, W; the second loses the same
  NodeMatrix slopeFirst;  ///< minus the derivative by the first side, W/K
  NodeMatrix slopeSecond; ///< the derivative by the second side, W/K
};
[[nodiscard]] ContactFlow flowOf(const Conditions::FaceContact& contact, const Mesh& mesh, std::size_t element,
                                 const NodeVector& first, const NodeVector& second);

/// Heat density of a part's source in one tetrahedron, W/m³.
[[nodiscard]] double densityIn(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t tet);

} // namespace kiln
