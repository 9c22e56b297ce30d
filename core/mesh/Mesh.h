// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "mesh/PlanarTriangulation.h"

#include <array>
#include <cstdint>
#include <vector>

namespace kiln
{

/// A node of a mesh, in the order of its places.
using NodeId = Id<struct NodeKind>;
using Tet = std::array<NodeId, 4>;
using NodeTriangle = std::array<NodeId, 3>;

/// A closed space inside the model that no part fills.
struct Void {
  double volume = 0;         ///< m³, as meshed
  std::vector<FaceId> faces; ///< indices of the faces around it
};

/// Tetrahedra of all parts with shared nodes on touching faces, and everything later stages need to know of the
/// geometry. Self-contained: no kernel types, so that it can be stored and read back.
struct Mesh {
  std::vector<Vec3> nodes;                               ///< m
  std::vector<Tet> tets;                                 ///< positively oriented
  std::vector<PartId> tetPart;                           ///< part index
  std::vector<NodeTriangle> triangles;                   ///< normals out of parts[0] of their face
  std::vector<FaceId> triangleFace;                      ///< face index
  std::vector<std::array<std::int32_t, 2>> triangleTets; ///< the tet on side 0 and 1 (-1: none)
  FaceTable geometry;
  std::vector<Void> voids;
  double smallestDihedral = 0; ///< degrees
  std::vector<NodeId> column;  ///< of a section, by node: the node whose temperature it shares; else empty

  /// Where a node is, m; of a section in its plane.
  [[nodiscard]] Vec3 placeOf(NodeId node) const { return geometry.section.flat(nodes[static_cast<std::size_t>(node)]); }
  int order = 1; ///< of the elements; 2: eight tets and four triangles make one (mesh/SecondOrder.h)
};

/// Volume of one tetrahedron, m³ (positive when well oriented).
[[nodiscard]] double tetVolume(const Mesh& mesh, std::size_t tet);

/// Area of one triangle, m².
[[nodiscard]] double triangleArea(const Mesh& mesh, std::size_t triangle);

/// Meshed volume of each part, m³.
[[nodiscard]] std::vector<double> meshedVolumes(const Mesh& mesh);

/// Meshed area of each face, m².
[[nodiscard]] std::vector<double> meshedAreas(const Mesh& mesh);

/// Fills triangleTets. False when a triangle belongs to no tetrahedron.
[[nodiscard]] bool connectTriangles(Mesh& mesh);

/// Renumbers nodes along a space-filling curve and, at first order, sorts tets by their nodes, so that neighbours in
/// space are neighbours in memory (assembly and solve run several times faster).
void renumber(Mesh& mesh);

} // namespace kiln
