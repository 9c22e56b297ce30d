// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/GeometryImport.h"

namespace kiln
{

/// A mesh of another program as geometry: the skin of every region is a body (tetrahedra, hexahedra, wedges and
/// pyramids of either order), to be meshed anew. Regions are told by the first of the cells' arrays whose name has
/// region, part or material in it, else by the first array of whole numbers.
/// \param unit  m, length of one unit of the file
/// Fails when the file cannot be read or has no cells that fill space.
[[nodiscard]] Expected<FoundGeometry> readMeshFile(const std::filesystem::path& path, const ImportSettings& settings,
                                                   const Progress& progress);

/// A mesh of triangles and quads in a plane as a section model: one flat part for every region, its outline drawn in
/// the x–z plane. \return nothing when the file holds cells that fill space
[[nodiscard]] Expected<std::optional<Project>> readAreas(const std::filesystem::path& path, double unit);

} // namespace kiln
