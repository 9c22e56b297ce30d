// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "results/RunRecord.h"

#include <string>
#include <vector>

namespace kiln
{

/// Instants of a run as people say them, with commas between: times with units ("10 min, 1 h"), "every 5" stored ones,
/// "marks" for those where something happened. In order, each once.
/// \return s; or what cannot be read, or lies outside the run
[[nodiscard]] Expected<std::vector<double>> chosenInstants(const std::string& text, const RunRecord& record);

} // namespace kiln
