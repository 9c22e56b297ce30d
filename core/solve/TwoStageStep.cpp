// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/TwoStageStep.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

Expected<StepAttempt> TwoStageStep::attempt(const TimedState& now, double step, const StageSolver::Accuracy& wanted,
                                            const StepGuess& guess, const FlowMeter& meter)
{
  StepAttempt tried;
  const double length = gamma * step;
  if (auto moved = model_.moveTo(now.time + length, Moment::Before); !moved)
    return tl::unexpected(moved.error());
  std::vector<double> first = guess(length, std::nullopt);
  if (!stages_.solve(first, now.stored, length, wanted, tried.firstStoring))
    return tried;
  const std::vector<double> firstFlows = meter ? meter(model_, first, tried.firstStoring) : std::vector<double>{};
  std::vector<double> base = now.stored;
  for (std::size_t i = 0; i < base.size(); ++i)
    base[i] += step * (1 - gamma) * tried.firstStoring[i];
  TimedState& next = tried.next;
  next.time = now.time + step;
  if (auto moved = model_.moveTo(next.time, Moment::Before); !moved)
    return tl::unexpected(moved.error());
  next.temperature = guess(step, WayPoint{now.time + length, &first});
  if (!stages_.solve(next.temperature, base, length, wanted, next.storing))
    return tried;
  next.stored = model_.store().stored(next.temperature);
  if (model_.store().lumped()) {
    next.rate = ratesOf(next);
  } else { // the stages' own rates: no system to be solved for them
    next.rate.assign(first.size(), 0.0);
    for (std::size_t i = 0; i < first.size(); ++i)
      if (model_.system().isFixed()[i] == 0 && model_.store().stores(UnknownId(i))) {
        const double early = (first[i] - now.temperature[i]) / length;
        next.rate[i] = (next.temperature[i] - now.temperature[i] - step * (1 - gamma) * early) / length;
      }
  }
  if (auto prepared = stages_.prepare(next.temperature, length); !prepared)
    return tl::unexpected(prepared.error());
  tried.converged = true;
  if (meter) {
    tried.flows = meter(model_, next.temperature, next.storing);
    for (std::size_t i = 0; i < tried.flows.size(); ++i)
      tried.energies.push_back(step * ((1 - gamma) * firstFlows[i] + gamma * tried.flows[i]));
  }
  return tried;
}

std::vector<double> TwoStageStep::errorsOf(const TimedState& now, const std::vector<double>& storing,
                                           const StepAttempt& tried) const
{
  constexpr double scale = 0.0404 * 2 / 0.586;
  const TimedState& next = tried.next;
  const HeatStore& store = model_.store();
  std::vector<double> right(storing.size(), 0.0);
  for (std::size_t i = 0; i < right.size(); ++i)
    if (model_.system().isFixed()[i] == 0)
      right[i] = scale / gamma *
                 (storing[i] / gamma - tried.firstStoring[i] / (gamma * (1 - gamma)) + next.storing[i] / (1 - gamma));
  if (store.melts()) {
    const std::vector<double> before = store.slope(now.temperature);
    const std::vector<double> after = store.slope(next.temperature);
    for (std::size_t i = 0; i < right.size(); ++i) {
      const double change = next.temperature[i] - now.temperature[i];
      const double secant = std::abs(change) > 1e-9 ? (next.stored[i] - now.stored[i]) / change : 0;
      const double most = std::max({before[i], after[i], secant});
      if (most > 0)
        right[i] *= std::min(before[i], after[i]) / most;
    }
  }
  std::vector<double> errors = stages_.roughly(right);
  for (std::size_t i = 0; i < errors.size(); ++i)
    errors[i] = store.stores(UnknownId(i)) ? std::abs(errors[i]) : 0;
  return errors;
}

} // namespace kiln
