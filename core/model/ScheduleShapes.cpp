// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/ScheduleShapes.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr double atOnce = 1e-3; // s

} // namespace

std::vector<TablePoint> pointsOf(double start, std::span<const RampHold> stretches)
{
  std::vector<TablePoint> points{{{0, {}}, {start, {}}}};
  double time = 0;
  const auto add = [&](double length, double value) {
    time += std::max(length, atOnce);
    points.push_back({{time, {}}, {value, {}}});
  };
  for (const RampHold& stretch : stretches) {
    if (stretch.target != points.back().value.si || stretch.within > 0)
      add(stretch.within, stretch.target);
    if (stretch.hold > 0)
      add(stretch.hold, stretch.target);
  }
  return points;
}

std::vector<RampHold> stretchesOf(std::span<const TablePoint> points)
{
  std::vector<RampHold> stretches;
  for (std::size_t i = 1; i < points.size(); ++i) {
    const double length = points[i].at.si - points[i - 1].at.si;
    const bool level = points[i].value.si == points[i - 1].value.si;
    if (level && !stretches.empty() && stretches.back().hold == 0)
      stretches.back().hold = length;
    else if (level)
      stretches.push_back({points[i].value.si, 0, length});
    else
      stretches.push_back({points[i].value.si, length > 2 * atOnce ? length : 0, 0});
  }
  return stretches;
}

Schedule dutyCycle(double on, double off, double period, double share)
{
  Schedule schedule;
  schedule.between = Schedule::Between::Steps;
  schedule.beyond = Schedule::Beyond::Repeats;
  schedule.points = {{{0, {}}, {on, {}}}, {{share * period, {}}, {off, {}}}, {{period, {}}, {on, {}}}};
  return schedule;
}

} // namespace kiln
