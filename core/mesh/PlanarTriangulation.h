// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <array>
#include <optional>
#include <vector>

namespace kiln
{

using Triangle = std::array<int, 3>;

/// Constrained Delaunay triangles of the region enclosed by \p segments (outer borders and holes).
/// \param points    corners and free points
/// \param segments  pairs of point indices; none may cross another
/// \return triangles turning counter-clockwise; nothing when segments cross
[[nodiscard]] std::optional<std::vector<Triangle>> triangulateRegion(const std::vector<Vec2>& points,
                                                                     const std::vector<std::array<int, 2>>& segments);

} // namespace kiln
