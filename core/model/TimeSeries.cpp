// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/TimeSeries.h"

#include "model/Parameters.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

double shiftOf(const Schedule& schedule) { return schedule.shift ? schedule.shift->si : 0; }
double scaleOf(const Schedule& schedule) { return schedule.scale ? schedule.scale->si : 1; }

/// Instants closer than this are the same one: rounding of sums of periods.
double slack(double time) { return 1e-9 * std::max(1.0, std::abs(time)); }

/// Value at a time on the schedule's own axis, inside its points.
double inside(const Schedule& schedule, double own, Moment moment)
{
  const auto& points = schedule.points;
  const double reach = slack(own);
  // The first point that lies after; a point right here counts as passed only afterwards.
  const auto next = std::find_if(points.begin(), points.end(), [&](const TablePoint& point) {
    return moment == Moment::After ? point.at.si > own + reach : point.at.si >= own - reach;
  });
  if (next == points.begin())
    return points.front().value.si;
  const TablePoint& before = *(next - 1);
  if (next == points.end() || schedule.between == Schedule::Between::Steps)
    return before.value.si;
  const double share = std::clamp((own - before.at.si) / (next->at.si - before.at.si), 0.0, 1.0);
  return before.value.si + share * (next->value.si - before.value.si);
}

struct OwnTime {
  double time = 0;
  bool outside = false;
};

/// Time on the schedule's own axis; a repeating one is folded into its period.
OwnTime ownTime(const Schedule& schedule, double time, Moment moment)
{
  const double first = schedule.points.front().at.si;
  const double last = schedule.points.back().at.si;
  double own = time - shiftOf(schedule);
  const double reach = slack(time);
  if (schedule.beyond == Schedule::Beyond::Repeats && last > first) {
    double folded = std::fmod(own - first, last - first);
    if (folded < 0)
      folded += last - first;
    if (folded < reach && moment == Moment::Before)
      folded = last - first;
    if (last - first - folded < reach && moment == Moment::After)
      folded = 0;
    return {first + folded, false};
  }
  return {own, own < first - reach || own > last + reach};
}

} // namespace

Expected<double> valueAt(const Schedule& schedule, double time, Moment moment)
{
  if (schedule.points.empty())
    return failure(Failure::Kind::NotReady, "", "Its schedule has no points.", "Add at least one.");
  const OwnTime own = ownTime(schedule, time, moment);
  if (own.outside && schedule.beyond == Schedule::Beyond::Zero)
    return 0.0;
  if (own.outside && schedule.beyond == Schedule::Beyond::Refused)
    return failure(Failure::Kind::NotReady, "",
                   "Its schedule says nothing about " + formatQuantity(time, Quantity::Time) +
                       ", which the run reaches.",
                   "Add points, or let it hold, repeat or be zero there.");
  return scaleOf(schedule) * inside(schedule, own.time, moment);
}

std::vector<double> breakpoints(const Schedule& schedule, double from, double to)
{
  std::vector<double> instants;
  if (schedule.points.empty())
    return instants;
  const double first = schedule.points.front().at.si;
  const double period = schedule.points.back().at.si - first;
  const bool repeats = schedule.beyond == Schedule::Beyond::Repeats && period > 0;
  double start = shiftOf(schedule);
  if (repeats)
    start += std::floor((from - start - first) / period) * period;
  constexpr std::size_t most = 100'000; // instants of one run
  for (;; start += period) {
    for (const TablePoint& point : schedule.points)
      if (const double at = start + point.at.si; at > from + slack(at) && at < to - slack(to))
        instants.push_back(at);
    if (!repeats || start + first + period > to || instants.size() > most)
      break;
  }
  return instants;
}

double integralOf(const Schedule& schedule, double from, double to)
{
  std::vector<double> instants = breakpoints(schedule, from, to);
  instants.insert(instants.begin(), from);
  instants.push_back(to);
  double sum = 0;
  for (std::size_t i = 0; i + 1 < instants.size(); ++i) {
    const double middle = (instants[i] + instants[i + 1]) / 2; // between breakpoints it is a line
    sum += valueAt(schedule, middle).value_or(0) * (instants[i + 1] - instants[i]);
  }
  return sum;
}

std::vector<double> breakpoints(const Project& project, double from, double to)
{
  std::vector<double> instants;
  const auto add = [&](const std::optional<Number>& instant) {
    if (instant && instant->si > from && instant->si < to)
      instants.push_back(instant->si);
  };
  for (const Parameter& parameter : project.parameters)
    if (parameter.schedule) {
      const std::vector<double> own = breakpoints(*parameter.schedule, from, to);
      instants.insert(instants.end(), own.begin(), own.end());
    }
  const auto addWindow = [&](const auto& object) {
    add(object.from);
    add(object.until);
  };
  std::for_each(project.sources.begin(), project.sources.end(), addWindow);
  std::for_each(project.boundaries.begin(), project.boundaries.end(), addWindow);
  std::sort(instants.begin(), instants.end());
  const auto same = [](double a, double b) { return b - a < slack(b); };
  instants.erase(std::unique(instants.begin(), instants.end(), same), instants.end());
  return instants;
}

bool variesInTime(const Project& project)
{
  const auto windowed = [](const auto& object) { return object.from || object.until; };
  return std::any_of(project.parameters.begin(), project.parameters.end(),
                     [](const Parameter& parameter) { return parameter.schedule.has_value(); }) ||
         std::any_of(project.sources.begin(), project.sources.end(), windowed) ||
         std::any_of(project.boundaries.begin(), project.boundaries.end(), windowed);
}

bool variesInTime(const Project& project, const Number& number)
{
  if (!number.formula)
    return false;
  std::vector<std::string> open = namesIn(number.text);
  std::set<std::string> seen;
  while (!open.empty()) {
    const std::string name = open.back();
    open.pop_back();
    if (!seen.insert(name).second)
      continue;
    for (const Parameter& parameter : project.parameters) {
      if (parameter.name != name)
        continue;
      if (parameter.schedule)
        return true;
      if (parameter.value.formula) {
        const std::vector<std::string> more = namesIn(parameter.value.text);
        open.insert(open.end(), more.begin(), more.end());
      }
    }
  }
  return false;
}

Expected<Project> projectAt(const Project& project, double time, Moment moment)
{
  Project now = project;
  bool scheduled = false;
  for (Parameter& parameter : now.parameters) {
    if (!parameter.schedule)
      continue;
    const Expected<double> value = valueAt(*parameter.schedule, time, moment);
    if (!value) {
      Failure failed = value.error();
      failed.object = "parameter " + parameter.name;
      return tl::unexpected(failed);
    }
    parameter.value = {*value, {}, false};
    scheduled = true;
  }
  if (scheduled)
    if (const auto problems = applyParameters(now); !problems.empty())
      return tl::unexpected(problems.front().failure);
  const auto muteOutside = [&](auto& object) {
    const auto passed = [&](const std::optional<Number>& instant) {
      return moment == Moment::After ? time >= instant->si - slack(time) : time > instant->si + slack(time);
    };
    if ((object.from && !passed(object.from)) || (object.until && passed(object.until)))
      object.muted = true;
  };
  std::for_each(now.sources.begin(), now.sources.end(), muteOutside);
  std::for_each(now.boundaries.begin(), now.boundaries.end(), muteOutside);
  return now;
}

} // namespace kiln
