// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/BoundsTracker.h"
#include "solve/TwoStageStep.h"

#include <memory>

namespace kiln
{

/// Holds steps within their bounds. Elements are precise, but where a front is thinner than one (second order,
/// consistent capacity) or where flat ones conduct the wrong way (first order) temperatures overshoot; those of the
/// monotone model do not. Where, and only where, the first leave the bounds, both are blended: every node takes the
/// least share w of its elements of which the step stays inside, T = L + w (H − L). Heat is conserved: what flowed is
/// the blend of what flowed in both steps that stores as much as the blended temperatures do; what is left is given to
/// the limited places in proportion to (T − low)(high − T), so that none leaves the bounds.
class StepLimiter
{
public:
  StepLimiter(TimedModel& model, LinearBackend backend) : model_(model), backend_(backend) {}

  /// Is there anything to be held? What melts is left alone: its joules are what is looked for.
  [[nodiscard]] bool wanted() const { return !model_.mesh().tets.empty() && !model_.store().melts(); }

  /// Replaces a converged step by the blended one where it leaves the range by more than \p slack, and sets its error.
  /// Not converged afterwards: the linear step did not; try a shorter one.
  /// \param errors  of the step, by unknown, K
  [[nodiscard]] Expected<void> limit(const TimedState& now, double step, const BoundsTracker::Range& range,
                                     double slack, const StageSolver::Accuracy& wanted, const FlowMeter& meter,
                                     std::vector<double> errors, StepAttempt& tried);

private:
  [[nodiscard]] Expected<StepAttempt> linearStep(TimedState& from, double step, const StageSolver::Accuracy& wanted,
                                                 const FlowMeter& meter);
  [[nodiscard]] std::vector<double> sharesOf(const std::vector<double>& high, const std::vector<double>& low,
                                             const BoundsTracker::Range& range, double slack) const;
  /// Balances the blended step: shares of the flows of both, and heat given to limited places.
  void conserve(const TimedState& now, const TimedState& from, const StepAttempt& linear,
                const std::vector<double>& share, const BoundsTracker::Range& range, StepAttempt& tried) const;
  /// Gives \p missing (J) to limited unknowns within the range.
  void place(double missing, const std::vector<double>& share, const BoundsTracker::Range& range,
             std::vector<double>& temperature) const;

  TimedModel& model_;
  LinearBackend backend_;
  std::unique_ptr<TwoStageStep> linear_;
};

} // namespace kiln
