// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <algorithm>
#include <array>
#include <string_view>

namespace kiln
{

/// Endings, in small letters, of files that hold a mesh rather than a shape: VTU and legacy VTK grids, Exodus II, CGNS.
inline constexpr std::array<std::string_view, 7> meshFileEndings{"vtu", "vtk", "exo", "ex2", "e", "exii", "cgns"};

[[nodiscard]] constexpr bool isMeshFile(std::string_view ending)
{
  return std::find(meshFileEndings.begin(), meshFileEndings.end(), ending) != meshFileEndings.end();
}

} // namespace kiln
