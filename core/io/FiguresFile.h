// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"
#include "results/Figures.h"

#include <string>

namespace kiln
{

/// Text of DIR/<case>.figures.json (docs/file-format.md): parts, watches, ledger, mesh, solver, times. SI values.
/// \param project  as the case saw it
/// \param figures  fingerprint of what its watches are read by
/// \param others   for watches that are compared with another case
[[nodiscard]] std::string figuresText(const Project& project, const CaseResult& result, const std::string& figures = {},
                                      const FiguresOfCase& others = {});

} // namespace kiln
