// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/LineProfile.h"

#include <string>
#include <vector>

namespace kiln
{

/// Names of the two faces that meet at the edge of a face nearest to a place; empty where the face has no
/// edge.
[[nodiscard]] std::vector<std::string> edgeNear(const Mesh& mesh, FaceId face, const Vec3& place);

/// Mesh nodes along the edge where two named faces meet, beginning at its end nearer to \p from (on a closed edge: at
/// the node nearest to it, which then comes twice). Where the faces meet in several edges it is the one nearest to
/// \p from. Empty where they do not meet.
/// \param faces  two names
[[nodiscard]] std::vector<NodeId> edgePath(const Mesh& mesh, const std::vector<std::string>& faces, const Vec3& from);

/// Temperature and flux along such a path, on the side of the part that the first face belongs to; one piece for each
/// edge of the mesh.
/// \param flux  by tet, W/m²; may be empty
[[nodiscard]] std::vector<LinePiece> edgeProfile(const Mesh& mesh, const Unknowns& unknowns,
                                                 std::span<const double> temperature, std::span<const Vec3> flux,
                                                 const std::vector<std::string>& faces,
                                                 const std::vector<NodeId>& path);

} // namespace kiln
