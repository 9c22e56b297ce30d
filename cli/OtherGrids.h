// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "VtuGrid.h"

namespace kiln
{

/// The mesh of an Exodus II file: its element blocks are the regions.
[[nodiscard]] Grid exodusGrid(const std::filesystem::path& path);

/// The mesh of a CGNS file: its zones are the regions, structured or not; of a single zone, the sections of its
/// elements are. Boundary sections are left out.
[[nodiscard]] Grid cgnsGrid(const std::filesystem::path& path);

} // namespace kiln
