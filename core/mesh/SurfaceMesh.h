// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Geometry.h"
#include "mesh/PlanarTriangulation.h"

#include <vector>

namespace kiln
{

inline constexpr double usualChordAngle = 20 * 3.14159265358979323846 / 180; // rad; loses 2 % of a cylinder's volume

/// Wanted edge lengths of the parts, m.
struct MeshSizes {
  std::vector<double> part;            ///< by part index: largest edge inside the part
  std::vector<double> face;            ///< by face index: largest edge on the face
  double chordAngle = usualChordAngle; ///< rad, of an edge on a curved face
};

/// One closed skin for every part; neighbours share its nodes.
struct SurfaceMesh {
  std::vector<Vec3> nodes;
  std::vector<Triangle> triangles; ///< normals point out of parts[0] of the face
  std::vector<int> triangleFace;
};

/// Divides all sizes.
void refine(MeshSizes& sizes, double fineness);

/// Sizes the user set, or sensible ones from the parts' extents and wall thickness.
[[nodiscard]] MeshSizes chooseSizes(const Project& project, const Geometry& geometry);

/// Triangles of all faces. Nodes on shared edges and corners are the same by construction (no tolerance).
/// Fails naming the part when its skin does not close.
[[nodiscard]] Expected<SurfaceMesh> meshSurface(const Geometry& geometry, const MeshSizes& sizes);

} // namespace kiln
