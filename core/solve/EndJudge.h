// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/RunLimits.h"
#include "solve/StepControl.h"
#include "solve/TwoStageStep.h"

#include <functional>
#include <string>

namespace kiln
{

/// Judges when a run ends: at a time, when everything is settled, at a watch's value, or at the longest time allowed.
/// Whether everything is settled costs as much as a step to know: it looks now and then, sooner the nearer it is, and
/// finds the instant within the step.
class EndJudge
{
public:
  /// How far a state is from settled: 1 where it just is; infinite where it cannot be told.
  /// \param within  K that may remain; 0: the usual share of the change so far
  using Excess = std::function<double(const TimedState& state, double within)>;
  /// Why a rule that waits for a watch ends the run; empty while it does not.
  using Waits = std::function<std::string(const EndRule& rule)>;

  EndJudge(const RunLimits& limits, double beganAt, Excess excess, Waits waits)
      : limits_(limits), beganAt_(beganAt), excess_(std::move(excess)), waits_(std::move(waits))
  {
  }

  /// Looks at a run that goes on: it may have been at its end.
  void recall(const TimedState& now, const StepControl& control);
  /// What came before says nothing of what follows.
  void restart() { look_ = {}; }

  /// Length of the step at whose end everything is settled, where that lies clearly within this one; notes whether it
  /// is settled at the step's end.
  [[nodiscard]] std::optional<double> settlesWithin(const TimedState& now, const TimedState& next, double length,
                                                    const StepControl& control);
  /// A step was accepted.
  void accepted() { refined_ = 0; }

  struct Verdict {
    std::string reason; ///< empty: it goes on
    bool byCap = false; ///< the longest time allowed
  };
  /// \param fastest  K/s
  [[nodiscard]] Verdict judge(double time, double fastest, const StepControl& control) const;

private:
  /// What was seen when it was last looked.
  struct Look {
    double time = 0, excess = 0;
    double again = 0; ///< not before this time
  };
  [[nodiscard]] std::optional<EndSettled> settledWanted() const;
  [[nodiscard]] Look lookedAt(double time, double excess) const;
  [[nodiscard]] std::string settled(const EndSettled& wanted, double time, double fastest,
                                    const StepControl& control) const;

  const RunLimits& limits_;
  double beganAt_;
  Excess excess_;
  Waits waits_;
  Look look_;
  int refined_ = 0; ///< tries of this step that were shortened to end where it is settled
  bool settled_ = false;
};

} // namespace kiln
