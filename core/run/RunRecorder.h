// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/InstantStore.h"
#include "io/RunFile.h"
#include "solve/TransientSolver.h"

#include <set>

#include <filesystem>
#include <map>
#include <optional>

namespace kiln
{

/// A run that was interrupted, up to its last stored instant.
struct PastRun {
  RunRecord record; ///< steps and instants up to there
  InstantReader fields;
  double time = 0;          ///< s, of that instant
  std::vector<double> mesh; ///< temperatures then, by unknown of the mesh, K
};

/// Writes what a run reports: figures at every step, fields at instants so chosen that lines between them suffice.
class RunRecorder
{
public:
  RunRecorder(const TransientRun& run, const TimedModel& model);

  RunRecord record; ///< case, hashes and notes are set by the caller before begin()

  /// Sources, boundaries, nodes, then all that enters and all that leaves, W.
  static std::vector<double> meter(const TimedModel& model, std::span<const double> temperature,
                                   std::span<const double> storing);

  /// \param past  what the new file begins with; nullptr for a run from its start
  [[nodiscard]] Expected<void> begin(const std::filesystem::path& file, const TimedModel& model, const PastRun* past);
  [[nodiscard]] Expected<void> take(const AcceptedStep& step);
  [[nodiscard]] Expected<void> finish(const TransientSolution& solution, double seconds);

  std::vector<double> storing; ///< of the last step, W

private:
  void weighParts(const TimedModel& model);
  void noteBalance(const AcceptedStep& step);
  [[nodiscard]] std::vector<double> rowOf(const AcceptedStep& step);
  void addWatchesAndHeat(const AcceptedStep& step, std::vector<double>& row) const;
  void addParts(const AcceptedStep& step, std::vector<double>& row);
  void chooseStored(const TimedModel& model);
  [[nodiscard]] Expected<void> copyPast(const PastRun& past, const TimedModel& model);
  [[nodiscard]] std::vector<double> stateOf(const PastRun& past, std::vector<double> field, double time,
                                            const TimedModel& model) const;
  [[nodiscard]] Expected<void> copySteps(const RunRecord& past,
                                         const std::map<std::string, std::vector<double>>& added);
  [[nodiscard]] static double valueOfAdded(RunTrace::Kind kind, const std::vector<double>& instants,
                                           const std::vector<double>& values, double time);
  void recallEnergies(const RunRecord& past);

  const TransientRun& run_;
  const Project project_;
  std::vector<std::pair<std::string, WatchReader>> readers_; ///< in the order of their traces
  std::vector<std::vector<std::pair<UnknownId, double>>> parts_;
  std::optional<RunWriter> writer_;
  InstantStore instants_;
  std::vector<std::string> paths_; ///< pairs of owner and part, in the order of their traces
  std::vector<double> energy_, storedAtStart_;
  double inEnergy_ = 0, outEnergy_ = 0, stored_ = 0, worstRate_ = 0, largestFlow_ = 0;
  RunRecord past_; ///< without its values
};

} // namespace kiln
