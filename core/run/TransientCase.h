// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "run/CaseRun.h"
#include "solve/TimedModel.h"
#include "solve/TransientSolver.h"

namespace kiln
{

/// A run at its end, as a case result needs it.
struct TransientEnd {
  std::unique_ptr<TimedModel> model; ///< as it is at that instant; on the mesh that was handed in
  TransientSolution solution;
  std::vector<double> storing; ///< W by unknown
  std::string startIdentity;   ///< of the result it started from; empty: of none
  std::vector<std::string> notes;
};

/// Runs a transient case on its mesh and writes DIR/<case>.run.h5 as it goes.
/// \param project  as the case sees it
/// \param base     with all cases, to start from one of them
/// \param goesOn   from where its last run stopped, rather than from its start
[[nodiscard]] tl::expected<TransientEnd, RunFailure> runTransient(const Project& base, const Project& project,
                                                                  const Case& oneCase, const PreparedMesh& prepared,
                                                                  const std::filesystem::path& folder, bool goesOn,
                                                                  const Progress& progress);

/// Files by which a run is steered while it goes: the first ends it and keeps it, the second holds a project whose case
/// of the same id has other limits (end rules, longest time, tolerance, largest step, storing).
struct ControlFiles {
  std::filesystem::path stop, limits;
};
[[nodiscard]] ControlFiles controlFiles(const std::filesystem::path& folder, const std::string& caseId);

} // namespace kiln
