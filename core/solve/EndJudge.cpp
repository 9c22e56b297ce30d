// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/EndJudge.h"

#include "units/Quantity.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

/// What an end rule asks for as settled; nothing when none does.
std::optional<EndSettled> EndJudge::settledWanted() const
{
  if (limits_.ends.empty())
    return EndSettled{};
  for (const EndRule& rule : limits_.ends)
    if (const auto* settled = std::get_if<EndSettled>(&rule.when))
      return *settled;
  return std::nullopt;
}

void EndJudge::recall(const TimedState& now, const StepControl& control)
{
  const auto wanted = settledWanted();
  settled_ = wanted && control.quiet(now.time) && excess_(now, wanted->within ? wanted->within->si : 0) <= 1;
}

/// Half way to where the excess would be 1 if it went on falling as between two looks. A small fall says little of its
/// rate: it is compared with the same earlier look again, before long.
EndJudge::Look EndJudge::lookedAt(double time, double excess) const
{
  constexpr double cautious = 0.5;
  constexpr double clearly = 0.9;
  constexpr double soon = 0.1; // of the run so far
  const double elapsed = time - beganAt_;
  if (look_.excess == 0)
    return {time, excess, time + soon * elapsed};
  const bool falls = std::isfinite(excess) && excess < look_.excess;
  const double wait =
      falls ? cautious * std::log(excess) * (time - look_.time) / std::log(look_.excess / excess) : soon * elapsed;
  if (!falls || excess > clearly * look_.excess)
    return {look_.time, look_.excess, time + std::min(wait, soon * elapsed)};
  return {time, excess, time + std::min(wait, elapsed)};
}

std::optional<double> EndJudge::settlesWithin(const TimedState& now, const TimedState& next, double length,
                                              const StepControl& control)
{
  const auto wanted = settledWanted();
  const double smallest = StepControl::smallest(now.time);
  settled_ = false;
  if (!wanted || next.time < control.lastBreak() - smallest || next.time < look_.again)
    return std::nullopt;
  const double within = wanted->within ? wanted->within->si : 0;
  const double after = excess_(next, within);
  if (after > 1) {
    look_ = lookedAt(next.time, after);
    return std::nullopt;
  }
  const double before = look_.time == now.time ? look_.excess : excess_(now, within);
  settled_ = true;
  constexpr int mostRefined = 3;
  if (before <= 1 || !std::isfinite(before) || refined_ >= mostRefined)
    return std::nullopt;
  // What remains dies down by an exponential; a little beyond, so that it is settled there.
  constexpr double aim = 0.995;
  const double share = std::log(before / aim) / std::log(before / std::max(after, 1e-6));
  constexpr double nearEnd = 0.99;
  if (share > nearEnd)
    return std::nullopt;
  ++refined_;
  return std::max(share * length, smallest);
}

std::string EndJudge::settled(const EndSettled& wanted, double time, double fastest, const StepControl& control) const
{
  if (!control.quiet(time) || !settled_ || (wanted.rate && fastest >= wanted.rate->si))
    return {};
  return "settled: nothing has more than " +
         (wanted.within ? formatQuantity(wanted.within->si, Quantity::TemperatureStep)
                        : "1 % of its change, or " + formatQuantity(0.1, Quantity::TemperatureStep) + ",") +
         " to change";
}

EndJudge::Verdict EndJudge::judge(double time, double fastest, const StepControl& control) const
{
  const double smallest = StepControl::smallest(time);
  const auto reasonOf = [&](const EndRule& rule) -> std::string {
    if (const auto* at = std::get_if<EndAtTime>(&rule.when))
      return time >= at->time.si - smallest ? "the time set was reached" : "";
    if (const auto* steady = std::get_if<EndSettled>(&rule.when))
      return settled(*steady, time, fastest, control);
    return waits_(rule);
  };
  std::vector<EndRule> rules = limits_.ends;
  if (rules.empty())
    rules.push_back({"", EndSettled{}, {}});
  Verdict verdict;
  std::size_t met = 0;
  for (const EndRule& rule : rules)
    if (const std::string reason = reasonOf(rule); !reason.empty()) {
      verdict.reason += (verdict.reason.empty() ? "" : "; ") + reason;
      ++met;
    }
  if (met > 0 && (!limits_.endWhenAll || met == rules.size()))
    return verdict;
  if (time >= control.last() - smallest)
    return {"the longest time allowed, " + formatQuantity(control.last(), Quantity::Time) + ", was reached", true};
  return {};
}

} // namespace kiln
