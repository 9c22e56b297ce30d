// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

/// Materials as a table for spreadsheets and other programs.
namespace kiln
{

/// A row for every material, a column for every field of one, with its unit in the head: density [kg/m³]. A table
/// against temperature is written 27: 237 | 127: 240, its temperatures in °C. Comma-separated, a point in numbers.
[[nodiscard]] std::string materialsCsv(const std::vector<Material>& materials);

/// Materials of such a table. Columns may stand in any order and be parted by commas, semicolons or tabs; numbers may
/// have decimal commas where columns are not parted by commas. Empty cells leave a field out. Fails naming the line and
/// column: no column of names, a head that is no field, a unit of another kind, no number.
[[nodiscard]] Expected<std::vector<Material>> readMaterials(std::string_view text, const std::string& shownName);

/// The same from a file; of one that ends in .kiln or .json, a project file, all its materials.
[[nodiscard]] Expected<std::vector<Material>> loadMaterials(const std::filesystem::path& file);
/// Writes them; by the ending as a table (.csv) or as a project file that holds nothing else (.json, .kiln).
[[nodiscard]] Expected<void> saveMaterials(const std::vector<Material>& materials, const std::filesystem::path& file);

/// Adds them to a project: one of the same name and values is there already, one of other values gets another name.
/// \return ids, in their order
std::vector<std::string> takeMaterials(Project& project, const std::vector<Material>& materials);

} // namespace kiln
