// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/RunTriggers.h"

#include "solve/Crossing.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double exactly = 0.05; // s, to which crossings are found

/// A thermostat that is on waits for the upper edge of its band, one that is off for the lower one.
double edgeOf(const Thermostat& thermostat, bool on)
{
  const double half = thermostat.band.si / 2;
  return thermostat.setPoint.si + (on ? half : -half);
}

bool switches(const HeatSource& source) { return source.thermostat && !source.thermostat->graded; }

} // namespace

bool hasPassed(double before, double after, double length, double value, bool falling)
{
  const double sign = falling ? -1 : 1;
  // Half of what it moves in the time crossings are found to.
  const double near = length > 0 ? exactly * std::abs(after - before) / length : 0;
  return sign * (before - value) < 0 && sign * (after - value) >= -near;
}

std::optional<double> RunTriggers::valueOf(const std::string& watch, const std::vector<double>& temperature)
{
  auto found = readers_.find(watch);
  if (found == readers_.end())
    found = readers_.emplace(watch, model_.reader(watch)).first;
  const auto reading = found->second ? found->second->read({temperature}) : std::nullopt;
  return reading ? std::optional(reading->value) : std::nullopt;
}

bool RunTriggers::hasFired(const std::string& rule) const
{
  return std::find(fired_.begin(), fired_.end(), rule) != fired_.end();
}

std::string RunTriggers::words(const std::string& watch, double value, bool falling) const
{
  const Watch* own = findById(model_.base().watches, watch);
  return (own != nullptr ? own->name : watch) + (falling ? " fell to " : " rose to ") +
         formatQuantity(value, Quantity::Temperature);
}

std::vector<RunTriggers::Threshold> RunTriggers::thresholds() const
{
  std::vector<Threshold> all;
  for (const EndRule& rule : limits_.ends)
    if (const auto* value = std::get_if<EndAtValue>(&rule.when); value != nullptr && !passed_.contains(rule.id))
      all.push_back({rule.id, value->watch, value->value.si, value->falling});
  for (const RunRule& rule : run_.rules)
    if (!hasFired(rule.id))
      all.push_back({rule.id, rule.watch, rule.value.si, rule.falling});
  for (const HeatSource& source : model_.now().sources)
    if (switches(source)) {
      const bool on = model_.isOn(source.id);
      all.push_back({source.id, source.thermostat->watch, edgeOf(*source.thermostat, on), !on});
    }
  return all;
}

void RunTriggers::begin(const std::vector<double>& temperature)
{
  for (const HeatSource& source : model_.base().sources)
    if (switches(source))
      if (const auto value = valueOf(source.thermostat->watch, temperature))
        if (*value >= source.thermostat->setPoint.si)
          model_.turn(source.id, false);
}

Expected<void> RunTriggers::recall(const RunPast& past, const TimedState& now, std::vector<RunEvent>& events)
{
  passed_ = past.passed;
  for (const std::string& source : past.off)
    model_.turn(source, false);
  for (const std::string& id : past.fired)
    for (const RunRule& rule : run_.rules)
      if (rule.id == id) {
        fired_.push_back(id);
        if (auto applied = model_.apply(rule); !applied)
          return applied;
        if (rule.end)
          endReason_ = words(rule.watch, rule.value.si, rule.falling);
      }
  for (const HeatSource& source : model_.base().sources) // one that stands beyond its edge was about to switch
    if (switches(source))
      if (const auto value = valueOf(source.thermostat->watch, now.temperature)) {
        const bool on = model_.isOn(source.id);
        const double edge = edgeOf(*source.thermostat, on);
        if (on ? *value >= edge : *value <= edge)
          passed_.insert(source.id);
      }
  return apply(now, events).map([](bool) {});
}

std::optional<double> RunTriggers::firstCrossing(const TimedState& from, const StepAttempt& tried, double length)
{
  std::optional<double> first;
  for (const Threshold& threshold : thresholds()) {
    const auto before = valueOf(threshold.watch, from.temperature);
    const auto after = valueOf(threshold.watch, tried.next.temperature);
    if (!before || !after)
      continue;
    const double sign = threshold.falling ? -1 : 1;
    if (sign * (*before - threshold.value) >= 0 || sign * (*after - threshold.value) < 0)
      continue;
    const double instant = length * crossingShare(*readers_.at(threshold.watch), from.temperature, from.rate,
                                                  tried.next.temperature, tried.next.rate, length, threshold.value);
    constexpr double shortest = 1e-9; // of the time
    if (length - instant > exactly && (!first || instant < *first))
      first = std::max(instant, shortest * std::max(1.0, std::abs(from.time)));
  }
  return first;
}

void RunTriggers::note(const TimedState& before, const TimedState& now)
{
  for (const Threshold& threshold : thresholds()) {
    const auto was = valueOf(threshold.watch, before.temperature);
    const auto is = valueOf(threshold.watch, now.temperature);
    if (was && is && hasPassed(*was, *is, now.time - before.time, threshold.value, threshold.falling))
      passed_.insert(threshold.owner);
  }
}

Expected<bool> RunTriggers::apply(const TimedState& now, std::vector<RunEvent>& events)
{
  const std::size_t before = events.size();
  switchThermostats(now.time, events);
  if (auto fired = fireRules(now.time, events); !fired)
    return tl::unexpected(fired.error());
  return events.size() > before;
}

void RunTriggers::switchThermostats(double time, std::vector<RunEvent>& events)
{
  for (const HeatSource& source : model_.now().sources) {
    if (!switches(source) || passed_.erase(source.id) == 0)
      continue;
    const bool on = model_.isOn(source.id);
    events.push_back({time, on ? RunEvent::Kind::SwitchedOff : RunEvent::Kind::SwitchedOn, source.id, source.name});
    model_.turn(source.id, !on);
  }
}

Expected<void> RunTriggers::fireRules(double time, std::vector<RunEvent>& events)
{
  for (const RunRule& rule : run_.rules) {
    if (hasFired(rule.id) || !passed_.contains(rule.id))
      continue;
    fired_.push_back(rule.id);
    const std::string what = words(rule.watch, rule.value.si, rule.falling);
    events.push_back({time, RunEvent::Kind::RuleFired, rule.id, what});
    if (auto applied = model_.apply(rule); !applied)
      return applied;
    if (rule.end)
      endReason_ = what;
  }
  return {};
}

std::string RunTriggers::reasonOf(const EndRule& rule) const
{
  const auto* value = std::get_if<EndAtValue>(&rule.when);
  return value != nullptr && passed_.contains(rule.id) ? words(value->watch, value->value.si, value->falling)
                                                       : std::string();
}

} // namespace kiln
