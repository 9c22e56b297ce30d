// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "model/Schema.h"

#include <string>
#include <vector>

namespace kiln
{

/// Fingerprints of exactly the inputs that each stage depends on. Names, comments, typed texts, limits and watches
/// change none of them; a power changes the solution only; a mesh size the mesh and the solution.
struct InputHashes {
  std::string geometry, mesh, solution;
  bool operator==(const InputHashes&) const = default;
};

/// Fingerprint of all that counts up to a stage, as the descriptions of the objects say.
/// \param project  as one case sees it (its changes applied)
[[nodiscard]] std::string stageHash(const Project& project, Stage upTo);

/// \param project  as one case sees it (its changes applied)
[[nodiscard]] InputHashes inputHashes(const Project& project);

/// Hash of all that one case's solution depends on: for a transient one also how it runs.
/// \param project  as the case sees it
[[nodiscard]] std::string solutionHash(const Project& project, const Case& oneCase);

/// The same without what only decides how long a run goes, how exactly, and what of it is stored: runs of the same
/// course can go on from each other.
[[nodiscard]] std::string courseHash(const Project& project, const Case& oneCase);

/// Ids of the cases of this project that a case starts from, directly or through others, the nearest first.
[[nodiscard]] std::vector<std::string> startsFrom(const Project& project, const Case& oneCase);

} // namespace kiln
