// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <vector>

namespace kiln
{

/// What meshing will give, before it is done.
struct CountEstimate {
  double nodes = 0, elements = 0; ///< tetrahedra, or triangles of a section
};

/// From areas, volumes and the sizes that will be chosen, as if each wall were as thick as volume and skin of its part
/// say. Good to about a factor of two: enough to see that a run will be long or its file large.
[[nodiscard]] CountEstimate estimateCount(const Project& project, const FaceTable& geometry);

/// Largest elements that will be chosen on every face, m, by the same estimate.
[[nodiscard]] std::vector<double> estimatedSizes(const Project& project, const FaceTable& geometry);

} // namespace kiln
