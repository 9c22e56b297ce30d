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
  std::vector<FaceId> triangleFace;
};

/// The areas of a section in its plane; neighbours share nodes.
struct AreaMesh {
  /// A piece of an area's border and the face that it sweeps.
  struct Border {
    std::array<int, 2> nodes;
    FaceId face;
  };
  std::vector<Vec3> nodes; ///< some belong to nothing
  std::vector<Triangle> triangles;
  std::vector<PartId> trianglePart;
  std::vector<FaceId> triangleFront, triangleBack; ///< part; face indices of its two sides
  std::vector<Border> borders;
};

/// The sizes of a built geometry, whose walls are known.
[[nodiscard]] MeshSizes chooseSizes(const Project& project, const Geometry& geometry);

class KeptSkins;

/// Triangles of all faces. Nodes on shared edges and corners are the same by construction (no tolerance).
/// \param kept  skins that are taken as they are where they fit; may be nullptr
/// Fails naming the part when its skin does not close.
[[nodiscard]] Expected<SurfaceMesh> meshSurface(const Geometry& geometry, const MeshSizes& sizes,
                                                KeptSkins* kept = nullptr);

/// Triangles of the areas of a section.
[[nodiscard]] Expected<AreaMesh> meshAreas(const Geometry& geometry, const MeshSizes& sizes);

} // namespace kiln
