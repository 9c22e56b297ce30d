// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

namespace kiln
{

/// A place inside (or nearest to) a tetrahedron.
struct Location {
  std::size_t tet = 0;
  Eigen::Vector4d weights = Eigen::Vector4d::Constant(0.25); ///< barycentric, of the tet's corners, none negative
  double distance = 0;                                       ///< m outside the meshed solid, 0 inside
};

/// Finds the tetrahedron that holds \p place; outside the solid, the nearest one with the weights pulled inside.
[[nodiscard]] Location locate(const Mesh& mesh, const Vec3& place);

/// The same in one tetrahedron.
[[nodiscard]] Location locateIn(const Mesh& mesh, std::size_t tet, const Vec3& place);

} // namespace kiln
