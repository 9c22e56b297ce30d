// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/RunFile.h"
#include "results/CaseResult.h"
#include "results/Figures.h"
#include "results/PartReader.h"
#include "results/PreparedWatches.h"
#include "results/RunRecord.h"

#include <memory>
#include <optional>
#include <vector>

namespace kiln
{

/// Every figure of one instant: of a steady result, of the end of a run, or of wherever the playhead stands.
struct ShownFigures {
  std::optional<double> time;                             ///< s; nothing for a steady case
  bool atEnd = true;                                      ///< what only the end of a run knows can be shown
  std::shared_ptr<const std::vector<double>> temperature; ///< by unknown, K
  std::vector<PartFigures> parts;
  std::vector<WatchFigure> watches;
  std::vector<LedgerFlow> sources, boundaries, links;
  std::vector<ContactFigure> contacts;
  std::vector<NodeState> nodes;
  std::vector<HeatToPart> paths;
  std::vector<std::pair<std::string, double>> storedByPart; ///< id and J since the start of the run
  std::vector<std::string> atMean;                          ///< names of parts whose temperatures were not stored
  double heatIn = 0, heatOut = 0, stored = 0;               // W
};

/// A run of the shown case with a way to its fields.
struct ShownRun {
  std::shared_ptr<const RunRecord> record;
  std::shared_ptr<const InstantReader> fields;
  std::optional<double> interruptedAt; ///< s, where a later run of the case was interrupted, which can go on
};

/// Opens the run of a case's current result, or one that was interrupted where there is none; empty when none can be
/// read.
[[nodiscard]] ShownRun loadShownRun(const std::filesystem::path& folder, const std::string& caseId);
/// Opens a run while it grows.
[[nodiscard]] ShownRun loadGrowingRun(const std::filesystem::path& folder, const std::string& caseId);

/// What reads figures of results on one mesh, of one project: one after the other, without looking at the mesh again.
/// Project and first result must outlive it.
struct PreparedFigures {
  PreparedFigures(const Project& project, const CaseResult& first)
      : parts(first.mesh, first.unknowns), watches(project, first, project.watches)
  {
  }
  const PartReader parts;
  const PreparedWatches watches;
};

/// Figures as stored: steady, or at the end of the run.
/// \param prepared  for its mesh; nullptr: it is prepared now
[[nodiscard]] ShownFigures figuresOf(const Project& project, std::shared_ptr<const CaseResult> result,
                                     const PreparedFigures* prepared = nullptr);

/// Figures of an instant of a run.
/// \param result  of the same mesh
[[nodiscard]] ShownFigures figuresAt(const Project& project, const std::shared_ptr<const CaseResult>& result,
                                     const ShownRun& run, double time);

/// Heat of every part since the start of a run, J, at an instant.
[[nodiscard]] std::vector<std::pair<std::string, double>> storedByPart(const RunRecord& record, double time);

} // namespace kiln
