// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Reporter.h"
#include "model/Project.h"
#include "results/CaseResult.h"

#include <filesystem>
#include <string>

namespace kiln::cli
{

/// A ratio in two digits.
[[nodiscard]] std::string percentless(double ratio);

/// The answer a person wants to read at once.
/// \param all  the project, with all cases
void sayFigures(const Project& all, const CaseResult& result, const std::filesystem::path& folder, Reporter& reporter);
/// What is doubtful though it could be solved.
void sayHints(const Project& project, const Case& oneCase, const CaseResult& result, Reporter& reporter);
/// Why a run ended, and how hot and how long.
void sayRun(const Project& project, const std::filesystem::path& file, Reporter& reporter);

} // namespace kiln::cli
