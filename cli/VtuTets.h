// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/TakenElements.h"

#include <vector>
#include <vtkUnstructuredGrid.h>

namespace kiln
{

/// What hangs together of a region.
struct RegionPiece {
  int region = 0;
  TakenElements elements; ///< in the unit of the file
};

/// The cells of a grid that fill space, as tetrahedra: hexahedra, wedges and pyramids divided alike from both sides of
/// what they share, mid nodes left out, points at one place taken as one. By region, then by piece.
[[nodiscard]] std::vector<RegionPiece> piecesOf(vtkUnstructuredGrid& grid);

} // namespace kiln
