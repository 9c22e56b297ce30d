// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <filesystem>
#include <string>
#include <vector>
#include <vtkSmartPointer.h>
#include <vtkUnstructuredGrid.h>

namespace kiln
{

/// A failure to read a mesh file, with how to write a better one.
[[nodiscard]] tl::unexpected<Failure> unreadableGrid(const std::filesystem::path& path, const std::string& problem);

using Grid = Expected<vtkSmartPointer<vtkUnstructuredGrid>>;

/// The grid of a mesh file (geometry/MeshFileKinds.h), its points finite and its cells naming points that exist.
[[nodiscard]] Grid gridOf(const std::filesystem::path& path);

/// Region of each cell: the first array of the cells with region, part or material in its name, else the first of whole
/// numbers, else 0 everywhere.
[[nodiscard]] std::vector<int> regionsOf(vtkUnstructuredGrid& grid);

/// Gives regions names, by their numbers.
void nameRegions(vtkUnstructuredGrid& grid, const std::vector<std::string>& names);
/// Its name in the file, else "Region 7".
[[nodiscard]] std::string nameOfRegion(vtkUnstructuredGrid& grid, int region);

/// Kind of a cell without its mid nodes.
[[nodiscard]] int linearTypeOf(int cellType);
/// Corners of a tetrahedron, hexahedron, wedge or pyramid; 0 for other cells.
[[nodiscard]] int cornersOf(int linearType);

} // namespace kiln
