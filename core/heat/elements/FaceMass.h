// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Index.h"

#include <utility>
#include <vector>

namespace kiln
{

/// Integrals of the shape functions over a face: with a coefficient that is the same all over it they are what it
/// exchanges.
struct FaceMass {
  std::vector<std::pair<Index, double>> lower;    ///< position in the pattern, lower half, and ∫ N_i N_j dA, m²
  std::vector<std::pair<UnknownId, double>> load; ///< ∫ N_i dA, m²
};

} // namespace kiln
