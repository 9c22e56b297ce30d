// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/ShownFigures.h"
#include "io/SureRecord.h"
#include "results/CaseResult.h"
#include "results/Figures.h"
#include "run/InputHash.h"
#include "run/ResultHead.h"

#include <QString>
#include <limits>
#include <memory>
#include <optional>
#include <vector>

namespace kiln
{

/// Where a case stands.
struct CaseState {
  enum class Stage { NeverRun, Running, Solved, OutOfDate, Failed };
  Stage stage = Stage::NeverRun;
  double fraction = 0;                      ///< of a running solve
  QString message;                          ///< progress, or why it failed
  QString outOfDate;                        ///< which stages: "mesh and solution", "solution"
  std::shared_ptr<const CaseResult> result; ///< nullptr also where it only lies on the disk so far
  std::optional<ResultHead> onDisk;         ///< what is known of a stored result without reading it
  ShownRun run;                             ///< of a transient case, also while it goes
  std::vector<WatchFigure> watches; ///< of the present watches, read from the result; margins over the whole run
  std::string readBy;               ///< hash of what the watches were read by, and from which result
  std::weak_ptr<const CaseResult> readFrom;
  std::optional<SureRecord> sure; ///< what three meshes say, of whatever result they were asked for

  [[nodiscard]] bool solved() const { return result != nullptr || onDisk.has_value(); }
  /// What three meshes say of a watch of the present result; nullptr when they were not asked.
  [[nodiscard]] const SureRecord::OfWatch* sureOf(const std::string& watch) const;
  /// Makes it out of date because of this, if it was not so before.
  void becomeOutOfDate(const QString& why);
};

/// Is a result still that of its inputs? And what do the present watches say of it?
/// \param own      the case; nullptr when there is none
/// \param project  as that case sees it
void judge(const Case* own, CaseState& state, const Project& project, const InputHashes& now);

/// The results of a case as they are stored: what is damaged says so.
/// \param most  B: a larger one stays on the disk until it is asked for
[[nodiscard]] CaseState storedState(const std::filesystem::path& folder, const Case& one,
                                    std::uintmax_t most = std::numeric_limits<std::uintmax_t>::max());
/// Reads what lies on the disk only.
void readWhole(CaseState& state, const Case& one);

} // namespace kiln
