// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "results/Figures.h"
#include "results/RunRecord.h"

#include <string>

namespace kiln
{

/// Figures of a case as comma-separated text: one block for parts, one for watches, one for the ledger.
/// Temperatures in °C, heat in W, places in m; quotes where a name holds a comma.
[[nodiscard]] std::string figuresCsv(const Project& project, const CaseResult& result,
                                     const FiguresOfCase& others = {});

/// Every step of a run: time in s, watches in their units, W of sources and boundaries, totals and kWh since the start.
[[nodiscard]] std::string stepsCsv(const Project& project, const RunRecord& record);

/// A field of comma-separated text, quoted where it must be.
[[nodiscard]] std::string csvField(const std::string& text);

} // namespace kiln
