// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/CaseRun.h"
#include "results/Convergence.h"

namespace kiln
{

/// How sure the watches of a steady case are: what three meshes say of each.
struct SureRecord {
  struct OfWatch {
    std::string id;
    std::array<double, 3> values{}; ///< from the coarsest mesh to the finest, SI
    Convergence convergence;
  };
  std::string solutionHash; ///< of the case on its own mesh, the middle one
  std::array<std::size_t, 3> tets{};
  std::vector<OfWatch> watches;

  [[nodiscard]] const OfWatch* find(const std::string& watch) const;
};

/// Solves a steady case on a coarser and a finer mesh beside its own, a case in time once more as a twin with larger
/// elements and looser steps; writes DIR/<case>.sure.json.
[[nodiscard]] tl::expected<SureRecord, RunFailure>
runSure(const Project& project, const Case& oneCase, const std::filesystem::path& folder, const Progress& progress);

[[nodiscard]] std::filesystem::path sureFile(const std::filesystem::path& folder, const std::string& caseId);
/// Fails with kind Unreadable when it is absent or damaged.
[[nodiscard]] Expected<SureRecord> loadSure(const std::filesystem::path& file);

/// "±1.2 K (three meshes, order 1.9)", "does not settle: …".
[[nodiscard]] std::string sureText(const SureRecord::OfWatch& watch, Quantity quantity);

} // namespace kiln
