// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

/// Parameters whose value is a figure of a case, taken whenever that is solved.
namespace kiln
{

/// Ids of the cases whose figures a case depends on by such parameters; its own among them is a circle.
[[nodiscard]] std::vector<std::string> takesFrom(const Project& project, const Case& oneCase);

/// The figure of a current result, SI; nothing where the case is not solved, or its result is out of date.
/// \param folder  of results
[[nodiscard]] std::optional<double> figureToTake(const Project& project, const TakenFigure& taken,
                                                 const std::filesystem::path& folder);

/// Gives parameters the figures of the cases that are solved and current; formulas follow.
/// \return names of the parameters whose value has changed
std::vector<std::string> takeFigures(Project& project, const std::filesystem::path& folder);

} // namespace kiln
