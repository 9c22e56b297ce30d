// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <span>
#include <vector>

namespace kiln
{

/// A triangle that parallel rays reach.
struct LitTriangle {
  std::size_t triangle = 0;
  Vec3 across = Vec3::Zero(); ///< m² of the rays' cross-section that arrive, by corner
};

/// Which triangles of some faces parallel rays reach past all exposed faces of the model. Each triangle is asked at a
/// grid of places inside it; what lies in another triangle's shadow at such a place gets nothing there.
/// \param from  direction the rays come from, any length
[[nodiscard]] std::vector<LitTriangle> litBy(const Mesh& mesh, std::span<const int> faces, const Vec3& from);

/// Middles of the n² equal triangles a triangle is cut into, barycentric.
[[nodiscard]] std::vector<Vec3> evenPlaces(int n);

} // namespace kiln
