// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <array>
#include <optional>
#include <vector>

namespace kiln
{

/// A place of the model that is easily named.
struct SnapPlace {
  enum class Kind { Corner, EdgeMiddle, FaceMiddle, ArcCentre };
  Kind kind = Kind::Corner;
  Vec3 place = Vec3::Zero(); ///< m
};

/// Corners where edges meet, middles of edges (by length) and of faces (by area), and centres of edges that are arcs.
[[nodiscard]] std::vector<SnapPlace> snapPlaces(const Mesh& mesh);

/// Corners, middles of straight edges and centres of round ones of one face, and its own middle. Of a draft, too, whose
/// faces have no nodes in common.
[[nodiscard]] std::vector<SnapPlace> snapPlacesOn(const Mesh& mesh, FaceId face);

/// Sides of triangles of the face that only one of them has: its border, in no order.
[[nodiscard]] std::vector<std::array<NodeId, 2>> borderSides(const Mesh& mesh, FaceId face);

/// Nothing when there are none.
[[nodiscard]] std::optional<SnapPlace> nearestOf(const std::vector<SnapPlace>& places, const Vec3& place);

} // namespace kiln
