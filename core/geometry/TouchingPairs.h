// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <vector>

namespace kiln
{

/// Two parts that share faces.
struct TouchingPair {
  int partA = 0, partB = 0; ///< part indices, partA < partB
  std::vector<int> faces;
  double area = 0; ///< exact, m²
};

/// Every pair the fuse found, ordered by part indices.
[[nodiscard]] std::vector<TouchingPair> touchingPairs(const FaceTable& geometry);

/// Do two parts share a face?
[[nodiscard]] bool touch(const FaceTable& geometry, int partA, int partB);

/// Conductance of the pair's contact per area, W/(m²·K): infinite when perfect (or not set), 0 when none.
[[nodiscard]] double contactConductance(const Project& project, const FaceTable& geometry, const TouchingPair& pair);

} // namespace kiln
