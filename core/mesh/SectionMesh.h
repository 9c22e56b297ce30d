// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "mesh/Mesh.h"
#include "mesh/SurfaceMesh.h"

namespace kiln
{

/// One layer of tetrahedra over the areas of a section: every triangle becomes a prism of three, whose near and far
/// nodes are one column with one temperature. The layer is as thick as the section is deep, or 2π r where it is turned
/// (three tetrahedra of a column then integrate r times a linear function exactly), so that volumes and areas are the
/// real ones. A temperature that is constant across the layer is reproduced exactly, so the layer solves the equations
/// of the plane.
[[nodiscard]] Mesh layerOver(const FaceTable& geometry, const AreaMesh& areas);

/// Smallest angle of the triangle that the element of a tetrahedron (or piece) of a section stands on, rad.
[[nodiscard]] double smallestAngleOf(const Mesh& mesh, std::size_t tet);

} // namespace kiln
