// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <optional>
#include <vector>

namespace kiln
{

/// An edge that runs along an arc of a circle.
struct RoundEdge {
  Vec3 centre = Vec3::Zero(); ///< m
  double radius = 0;          ///< m
};

/// The edge of a face nearest to a place, where it is an arc: nodes of meshes, of drafts too, lie on it. Nothing where
/// that edge is straight or of another shape.
[[nodiscard]] std::optional<RoundEdge> roundEdgeNear(const Mesh& mesh, FaceId face, const Vec3& place);

/// The circle that places in order lie on; nothing where they are too few or lie on none.
[[nodiscard]] std::optional<RoundEdge> circleOf(const std::vector<Vec3>& places);

} // namespace kiln
