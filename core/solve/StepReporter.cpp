// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/StepReporter.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

UnknownId fastestOf(const TimedState& state)
{
  std::size_t found = 0;
  for (std::size_t i = 0; i < state.rate.size(); ++i)
    if (std::abs(state.rate[i]) > std::abs(state.rate[found]))
      found = i;
  return UnknownId(found);
}

Expected<StepAnswer> StepReporter::begin(const TimedState& now, double last, std::span<const std::string> fired)
{
  flows_ = meter_ ? meter_(model_, now.temperature, now.storing) : std::vector<double>{};
  return tell(now, now.time, std::vector<double>(flows_.size(), 0.0), 0, last, fired);
}

Expected<StepAnswer> StepReporter::tell(const TimedState& now, double from, const std::vector<double>& energies,
                                        double stored, double last, std::span<const std::string> fired)
{
  if (flows_.empty() && meter_)
    flows_ = meter_(model_, now.temperature, now.storing);
  AcceptedStep step;
  step.from = from;
  step.time = now.time;
  step.model = &model_;
  step.temperature = now.temperature;
  step.rate = now.rate;
  step.storing = now.storing;
  step.fastestAt = fastestOf(now);
  step.fastest = std::abs(now.rate[at(step.fastestAt)]);
  step.fired = fired;
  step.flows = flows_;
  step.energies = energies;
  step.stored = stored;
  const bool isStep = now.time > from; // else conditions jumped: what they take belongs to the step that follows
  if (isStep) {
    for (const AcceptedStep::Jump& jump : jumps_)
      step.stored += jump.joules;
    step.jumps = jumps_;
  }
  progress_("solve", 0.5 + 0.4 * std::min(1.0, (now.time - startTime_) / (last - startTime_)),
            "at " + formatQuantity(now.time, Quantity::Time));
  auto answer = observer_(step);
  if (answer && isStep)
    jumps_.clear();
  return answer;
}

} // namespace kiln
