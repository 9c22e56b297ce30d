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
/// what flowed in the first step, and what is missing of it is given to the limited places in proportion to
/// (T − low)(high − T), so that none leaves the bounds; what finds no place there flowed as in the monotone step. Where
/// every place stores by its own temperature, as wherever something melts, joules are blended and given in place of
/// kelvins.
class StepLimiter
{
public:
  StepLimiter(TimedModel& model, LinearBackend backend) : model_(model), backend_(backend) {}

  /// Is there anything to be held?
  [[nodiscard]] bool wanted() const { return !model_.mesh().tets.empty(); }

  /// Replaces a converged step by the blended one where it leaves the range by more than \p slack.
  /// Not converged afterwards: the linear step did not; try a shorter one.
  /// \param errors  of the step, by unknown, K; afterwards those of the blended one
  [[nodiscard]] Expected<void> limit(const TimedState& now, double step, const BoundsTracker::Range& range,
                                     double slack, const StageSolver::Accuracy& wanted, const FlowMeter& meter,
                                     std::vector<double>& errors, StepAttempt& tried);

private:
  [[nodiscard]] Expected<StepAttempt> linearStep(TimedState& from, double step, const StageSolver::Accuracy& wanted,
                                                 const FlowMeter& meter);
  [[nodiscard]] std::vector<double> sharesOf(const std::vector<double>& high, const std::vector<double>& low,
                                             const BoundsTracker::Range& range, double slack) const;
  /// Balances the blended step: heat given to limited places, then shares of the flows of both.
  void conserve(const TimedState& now, const TimedState& from, const StepAttempt& linear,
                const std::vector<double>& share, const BoundsTracker::Range& range, StepAttempt& tried) const;
  /// Temperature of an unknown between those of both steps.
  [[nodiscard]] double blend(UnknownId unknown, double share, const TimedState& high, const TimedState& low) const;
  /// Gives \p missing (J) to limited unknowns within the range.
  void place(double missing, const std::vector<double>& share, const BoundsTracker::Range& range,
             std::vector<double>& temperature) const;
  void placeJoules(double missing, const std::vector<double>& share, const BoundsTracker::Range& range,
                   std::vector<double>& temperature) const;

  TimedModel& model_;
  LinearBackend backend_;
  std::unique_ptr<TwoStageStep> linear_;
};

} // namespace kiln
