// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"
#include "results/CaseResult.h"

#include <filesystem>
#include <string>

namespace kiln
{

/// Text of DIR/<case>.figures.json (docs/file-format.md): parts, watches, ledger, mesh, solver, times. SI values.
/// \param project  as the case saw it
[[nodiscard]] std::string figuresText(const Project& project, const CaseResult& result);

[[nodiscard]] Expected<void> saveFigures(const Project& project, const CaseResult& result,
                                         const std::filesystem::path& file);

} // namespace kiln
