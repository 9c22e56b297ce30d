// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/CaseRun.h"
#include "solve/TransientSolver.h"

namespace kiln
{

/// A run at its end, as a case result needs it.
struct TransientEnd {
  Project project; ///< as it is at that instant
  Conditions conditions;
  TransientSolution solution;
  std::vector<double> storing; ///< W by unknown
};

/// Runs a transient case on its mesh and writes DIR/<case>.run.h5 as it goes.
/// \param project  as the case sees it
/// \param base     with all cases, to start from one of them
[[nodiscard]] tl::expected<TransientEnd, RunFailure> runTransient(const Project& base, const Project& project,
                                                                  const Case& oneCase, const PreparedMesh& prepared,
                                                                  const std::filesystem::path& folder,
                                                                  const Progress& progress);

} // namespace kiln
