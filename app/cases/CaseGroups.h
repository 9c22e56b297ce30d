// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/CaseState.h"
#include "model/Project.h"

#include <QString>
#include <vector>

namespace kiln
{

/// Cases that stand together in the row of cases; those of no group stand alone, each for itself.
struct CaseGroup {
  std::string name; ///< empty: one case of no group
  std::vector<const Case*> cases;
};

/// In the order of the cases; a group stands where its first case does.
[[nodiscard]] std::vector<CaseGroup> groupsOf(const Project& project);

/// The state of a case in a word or two: "solved", "out of date".
[[nodiscard]] QString stateWord(const CaseState& state);

/// Does a case have all these words in its name, group, comment, kind or state?
[[nodiscard]] bool fitsWords(const Case& one, const CaseState& state, const QString& words);

/// Ids after giving each of \p moved the place before \p before (at the end where it is empty), in their order.
void moveCases(Project& project, const std::vector<std::string>& moved, const std::string& before);

/// Copies of cases, each after its original; those of a group get a group of their own: "Rooms" → "Rooms 2".
/// \return their ids
std::vector<std::string> copyCases(Project& project, const std::vector<std::string>& ids);

/// What one case can hand on to others.
enum class CaseShare { Run, OwnValues, Sets, Comment, Group };
void shareWith(Project& project, const std::string& from, const std::vector<std::string>& to, CaseShare what);

} // namespace kiln
