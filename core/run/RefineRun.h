// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "run/CaseRun.h"

namespace kiln
{

/// How close the hottest place shall be known: by an interval, or by a share of its rise over the coldest place.
struct RefineTarget {
  double kelvin = 0; ///< K, 0: by the share
  double share = 0;
};

/// What automatic refinement did, round by round.
struct RefineRecord {
  struct Round {
    std::size_t elements = 0;
    double hottest = 0; ///< K
    double moved = 0;   ///< K, the most that the hottest place of a part moved since the round before
    double error = 0;   ///< share of the flux that neighbours disagree on, of the worst part
  };
  std::vector<Round> rounds;
  bool reached = false; ///< the last round moved the hottest place of no part by more than was asked
  std::string finerAt;  ///< what the mesh was asked for: MeshSettings::finerAt
};

/// Solves a steady case again and again, each time with smaller elements where the recovered flux disagrees most with
/// that of the elements (half of the summed square of it), until the hottest place moves by less than the target.
/// The last result is the case's own. Writes DIR/<case>.refine.json, from which the project takes finerAt.
[[nodiscard]] tl::expected<RefineRecord, RunFailure> runRefine(const Project& project, const Case& oneCase,
                                                               const std::filesystem::path& folder,
                                                               const RefineTarget& target, const Progress& progress,
                                                               const EffortLimits& limits = usualLimits());

[[nodiscard]] std::filesystem::path refineFile(const std::filesystem::path& folder, const std::string& caseId);
/// Fails with kind Unreadable when it is absent or damaged.
[[nodiscard]] Expected<RefineRecord> loadRefine(const std::filesystem::path& file);

} // namespace kiln
