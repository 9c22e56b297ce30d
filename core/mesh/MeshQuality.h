// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <vector>

namespace kiln
{

/// Smallest angle between two sides of a tetrahedron, rad: 1.23 (70.5°) for an even one, near 0 for a flat one.
[[nodiscard]] double smallestDihedral(const Mesh& mesh, std::size_t tet);

/// The flattest tetrahedra of a mesh, the worst first.
[[nodiscard]] std::vector<std::size_t> flattestTets(const Mesh& mesh, std::size_t most);

/// Middle of a tetrahedron, m.
[[nodiscard]] Vec3 tetMiddle(const Mesh& mesh, std::size_t tet);

/// Tetrahedra of either order, or triangles of a section.
[[nodiscard]] std::size_t countElements(const Mesh& mesh);

/// "12 k tetrahedra of second order", "477 triangles, first-order mesh (a quick look)".
[[nodiscard]] std::string elementWords(const Mesh& mesh);

/// "477", "12 k".
[[nodiscard]] std::string countWords(double count);

} // namespace kiln
