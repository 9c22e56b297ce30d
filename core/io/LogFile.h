// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <optional>
#include <string_view>

namespace kiln
{

/// A logged quantity against time.
struct LoggedColumn {
  std::string name;
  Quantity quantity = Quantity::Plain;
  std::vector<TablePoint> points; ///< s, SI; by increasing time
};

/// Reads a log: its first line names the columns with their units in brackets, the first of them time,
///   time [min]; thermocouple [°C]; heater [kW]
/// A cell may be empty: that quantity was not logged then. Fails naming the line: no header, a unit that is missing or
/// not known, a cell that is no number or not finite, times that do not increase, no row.
[[nodiscard]] Expected<std::vector<LoggedColumn>> readLog(std::string_view text, const std::string& shownName);
[[nodiscard]] Expected<std::vector<LoggedColumn>> loadLog(const std::filesystem::path& file);

/// How far a run is from what was measured.
struct Misfit {
  double rms = 0, largest = 0; ///< computed − measured, K
  double at = 0;               ///< s of the run, of the largest
};
/// Compares where both are known. \param offset  s, added to the measured times. Nothing when they do not overlap.
[[nodiscard]] std::optional<Misfit> misfitOf(const std::vector<double>& times, const std::vector<double>& values,
                                             const std::vector<TablePoint>& measured, double offset);

} // namespace kiln
