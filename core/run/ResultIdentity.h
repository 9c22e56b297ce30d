// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <string>
#include <vector>

namespace kiln
{

/// What a result is: the hash of its own inputs together with the identity of the result that it started from.
[[nodiscard]] std::string identityOf(const std::string& solutionHash, const std::string& startIdentity);

/// The identity that a case's result has when it is current, from the inputs alone.
/// \param base    the project as written
/// \param folder  of its results; beside it lie those of other projects that cases start from
/// Fails where a case that it starts from, or the project of it, does not exist.
[[nodiscard]] Expected<std::string> currentIdentity(const Project& base, const Case& oneCase,
                                                    const std::filesystem::path& folder);
/// Only that of what it starts from; empty where it starts from no case.
[[nodiscard]] Expected<std::string> currentStartIdentity(const Project& base, const Case& oneCase,
                                                         const std::filesystem::path& folder);

/// The project file that a case starts from, beside the results of this project, where it usually lies itself, or as
/// the path stands.
[[nodiscard]] std::filesystem::path otherProjectFile(const std::string& project, const std::filesystem::path& folder);

/// Ids of the cases that have to be solved before a case: those that it starts from, and those whose figures it takes.
[[nodiscard]] std::vector<std::string> waitsFor(const Project& project, const Case& oneCase);

/// The cases in an order in which each comes after what it waits for, with what is missing of that put before it.
/// Fails, naming them, where cases wait for each other in a circle.
[[nodiscard]] Expected<std::vector<Case>> inOrder(const Project& project, const std::vector<Case>& cases);

} // namespace kiln
