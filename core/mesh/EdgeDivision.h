// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/Brep.h"
#include "mesh/KeptSkins.h"
#include "mesh/SizeField.h"
#include "mesh/SurfaceMesh.h"

#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Edge.hxx>

namespace kiln
{

/// Parameters and nodes along one edge of the model.
struct DividedEdge {
  std::vector<double> parameters; ///< increasing, first and last are the ends; empty for a pole
  std::vector<int> nodes;
  int poleNode = -1; ///< the one node of an edge that is a single point
};

/// All edges of the model, each divided once.
struct EdgeDivision {
  TopTools_IndexedMapOfShape edges, vertices; ///< vertex k has node k - 1
  std::vector<DividedEdge> divided;           ///< by edge index - 1
  std::vector<Vec3> nodes;
};

/// Wanted edge length on a face at a place from its own limit and its local curvature, m.
/// \param chordAngle  that a straight mesh edge may span, rad
[[nodiscard]] double curvatureSize(const TopoDS_Face& face, double u, double v, double most, const MeshSizes& sizes);

/// Size sources along all edges: as fine as the faces beside them want, and no longer than the edge itself.
[[nodiscard]] SizeField sizesAlongEdges(const Brep& brep, const MeshSizes& sizes);

/// \param kept  straight edges are divided where these have nodes; may be nullptr
[[nodiscard]] EdgeDivision divideEdges(const Brep& brep, const MeshSizes& sizes, const SizeField& field,
                                       const KeptSkins* kept = nullptr);

} // namespace kiln
