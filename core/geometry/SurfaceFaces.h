// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <string>
#include <vector>

namespace kiln
{

/// What a surface's rule picks from the present geometry.
struct SurfaceFaces {
  std::vector<FaceId> faces;         ///< face indices, increasing
  double area = 0;                   ///< exact, m²
  std::vector<std::string> notFound; ///< names or parts in the rule that pick nothing
};

/// Applies the rule of a surface. Surfaces that exclude each other in a ring exclude nothing the second time round.
[[nodiscard]] SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const Surface& surface);

/// The same by id; empty for an unknown id.
[[nodiscard]] SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const std::string& surfaceId);

/// Which side of a face a surface means: that of the part its rule names, else the outside's part.
[[nodiscard]] std::size_t sideMeant(const Surface& surface, const FaceTable& geometry, const Face& face);

} // namespace kiln
