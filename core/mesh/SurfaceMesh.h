// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Geometry.h"
#include "mesh/MeshSizes.h"
#include "mesh/PlanarTriangulation.h"

#include <vector>

namespace kiln
{

/// One closed skin for every part; neighbours share its nodes.
struct SurfaceMesh {
  std::vector<Vec3> nodes;
  std::vector<Triangle> triangles; ///< normals point out of parts[0] of the face
  std::vector<int> triangleFace;
};

/// The sizes of a built geometry, whose walls are known.
[[nodiscard]] MeshSizes chooseSizes(const Project& project, const Geometry& geometry);

/// Triangles of all faces. Nodes on shared edges and corners are the same by construction (no tolerance).
/// Fails naming the part when its skin does not close.
[[nodiscard]] Expected<SurfaceMesh> meshSurface(const Geometry& geometry, const MeshSizes& sizes);

} // namespace kiln
