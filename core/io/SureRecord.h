// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "results/Convergence.h"

#include <array>
#include <filesystem>
#include <string>
#include <vector>

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

[[nodiscard]] std::filesystem::path sureFile(const std::filesystem::path& folder, const std::string& caseId);
/// Fails with kind Unwritable.
[[nodiscard]] Expected<void> saveSure(const SureRecord& record, const std::filesystem::path& file);
/// Fails with kind Unreadable when it is absent or damaged.
[[nodiscard]] Expected<SureRecord> loadSure(const std::filesystem::path& file);

} // namespace kiln
