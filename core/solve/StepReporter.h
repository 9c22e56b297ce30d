// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/TransientSolver.h"

namespace kiln
{

/// Tells an observer of every accepted step: what flows, what was stored, what held temperatures took at once.
class StepReporter
{
public:
  StepReporter(const TimedModel& model, const FlowMeter& meter, const StepObserver& observer, const Progress& progress,
               double startTime)
      : model_(model), meter_(meter), observer_(observer), progress_(progress), startTime_(startTime)
  {
  }

  [[nodiscard]] const FlowMeter& meter() const { return meter_; }
  /// Heat that was taken at once since the last step.
  void note(const AcceptedStep::Jump& jump) { jumps_.push_back(jump); }
  /// Flows at the end of a step, as its method has them; empty: they are metered when they are told.
  void takeFlows(std::vector<double> flows) { flows_ = std::move(flows); }

  /// At the start of a run.
  [[nodiscard]] Expected<StepAnswer> begin(const TimedState& now, double last, std::span<const std::string> fired);
  /// \param stored  over the step, besides what was taken at once, J
  /// \param last    s, when the run ends at the latest
  [[nodiscard]] Expected<StepAnswer> tell(const TimedState& now, double from, const std::vector<double>& energies,
                                          double stored, double last, std::span<const std::string> fired);

private:
  const TimedModel& model_;
  const FlowMeter& meter_;
  const StepObserver& observer_;
  const Progress& progress_;
  double startTime_;
  std::vector<double> flows_;
  std::vector<AcceptedStep::Jump> jumps_; ///< since the last accepted step
};

/// The unknown whose temperature changes fastest.
[[nodiscard]] UnknownId fastestOf(const TimedState& state);

} // namespace kiln
