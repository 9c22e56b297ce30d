// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/RunFile.h"
#include "results/InstantFilter.h"
#include "solve/TransientSolver.h"

#include <span>
#include <vector>

namespace kiln
{

/// Writes the fields of a run at instants so chosen that lines between them suffice, and at those that are asked for.
class InstantStore
{
public:
  /// \param unknowns  of the mesh
  InstantStore(const TransientRun& run, std::size_t unknowns) : run_(run), unknowns_(unknowns) {}

  /// Only these unknowns are stored, but for an instant now and then that a run can go on from.
  void storeOnly(std::vector<UnknownId> kept) { kept_ = std::move(kept); }
  /// \param startTime  s, from which regular instants are counted
  void begin(RunWriter& writer, double startTime)
  {
    writer_ = &writer;
    startTime_ = startTime;
  }
  /// Temperatures that were stored before the run was interrupted, K.
  void widenSpan(std::span<const double> field);
  /// The state that a run goes on from; it is in the file.
  void goOnFrom(double time, const std::vector<double>& field);
  [[nodiscard]] Expected<void> take(const AcceptedStep& step);
  /// The last step is stored in any case.
  [[nodiscard]] Expected<void> finish();

private:
  [[nodiscard]] Expected<void> store(const AcceptedStep& step);
  [[nodiscard]] std::vector<double> keptOf(std::span<const double> field) const;
  [[nodiscard]] Expected<void> append(double time, const std::vector<double>& values, bool whole);
  [[nodiscard]] std::vector<double> wantedInstants(double from, double to, double coarser);
  [[nodiscard]] std::vector<double> between(const AcceptedStep& step, double time) const;

  const TransientRun& run_;
  std::size_t unknowns_;
  RunWriter* writer_ = nullptr;
  double startTime_ = 0; ///< s
  InstantFilter filter_;
  bool begun_ = false;
  InstantFilter::Kept last_; ///< the latest step
  std::vector<double> lastRate_;
  std::vector<UnknownId> kept_; ///< unknowns whose temperatures are stored, where those are not all
  std::size_t appended_ = 0;
  int betweenSteps_ = 0;       ///< instants stored since one at the end of a step
  double nextRegular_ = 1e300; ///< s
  double storedAt_ = -1e300;
  double low_ = 1e300, high_ = -1e300;
};

} // namespace kiln
