// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <string>
#include <vector>

/// Cases and property sets on their way from one project to another: a project file that holds them and whatever their
/// values are of, so that there it can be found by name.
namespace kiln
{

/// \param ids  of cases and sets; the sets of the cases come along
[[nodiscard]] std::string exportCases(const Project& project, const std::vector<std::string>& ids);

/// What was taken in.
struct TakenCases {
  std::vector<std::string> cases, sets; ///< ids, new ones
  std::vector<std::string> unmatched;   ///< sentences: what was left out of which case, and why
};

/// Adds the cases and sets of such a file. What their values are of is matched by kind and name, else by id; values of
/// what is not there are left out and listed. Cases that start from one another still do.
/// Fails when the text is no such file.
[[nodiscard]] Expected<TakenCases> importCases(Project& project, const std::string& text, const std::string& shownName);

} // namespace kiln
