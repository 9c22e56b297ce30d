// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Commands.h"
#include "model/Project.h"
#include "run/CaseRun.h"

namespace kiln::cli
{

// What every command does with what was asked, and how it ends.

/// Reports a failure. \return the code that stands for it
[[nodiscard]] ExitCode refused(const Failure& failure, Reporter& reporter);
/// The same of a run: what keeps the case from being solved, or what went wrong.
[[nodiscard]] ExitCode report(const RunFailure& failure, Reporter& reporter);

/// The project of the request, with what was set for this run alone and the bodies of linked files.
[[nodiscard]] Expected<Project> load(const Request& request);
/// The cases asked for: all, the named one, or the first.
[[nodiscard]] Expected<std::vector<Case>> casesOf(const Project& project, const Request& request);
/// What is set for this run alone never mixes with the project's own results.
[[nodiscard]] std::filesystem::path folderOf(const Request& request);
[[nodiscard]] EffortLimits limitsOf(const Request& request);
/// Makes the folder of results, without what killed runs left there.
[[nodiscard]] Expected<void> makeFolder(const std::filesystem::path& folder);

} // namespace kiln::cli
