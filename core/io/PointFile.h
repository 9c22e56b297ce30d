// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <string_view>

namespace kiln
{

/// Values at places, as read from a text file.
struct PointTable {
  Quantity quantity = Quantity::Plain;
  std::vector<PlacedPoint> points;

  [[nodiscard]] double mean() const;
};

/// Reads a table of four columns: x, y, z and a value, separated by commas, semicolons, tabs or blanks. Its first line
/// names the columns with their units in brackets, because a unit is never guessed:
///   x [mm]; y [mm]; z [mm]; h [W/(m²·K)]
/// Fails naming the line: no header, a unit that is missing or not known, a row that is not four numbers, no row.
[[nodiscard]] Expected<PointTable> readPoints(std::string_view text, const std::string& shownName);
[[nodiscard]] Expected<PointTable> loadPoints(const std::filesystem::path& file);

} // namespace kiln
