// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "solve/TimedModel.h"

#include <filesystem>

namespace kiln
{

/// The temperatures a run starts from, by unknown, K.
struct StartState {
  std::vector<double> temperature;
  std::string note;     ///< how well a start from another mesh fitted
  std::string identity; ///< of the result it was taken from; empty: of none
};

/// \param base    with all cases, to start from one of them
/// \param folder  of their results
[[nodiscard]] Expected<StartState> startState(const TransientRun& run, const Project& base, const TimedModel& model,
                                              const std::filesystem::path& folder, const Progress& progress);

} // namespace kiln
