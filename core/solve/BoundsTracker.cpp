// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/BoundsTracker.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

constexpr double infinite = std::numeric_limits<double>::infinity();

/// Smallest of a property, of its table where it has one.
double smallest(const Property& property)
{
  double least = property.table.empty() ? property.si : infinite;
  for (const TablePoint& point : property.table)
    least = std::min(least, point.value.si);
  return least;
}

/// J/(m³·K) of a part, the least that warming it takes.
double leastCapacity(const Project& project, const GeometryPart& part)
{
  const Part* own = findById(project.parts, part.id);
  const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
  if (material == nullptr || !material->density || !material->specificHeat)
    return 0;
  return material->density->si * smallest(*material->specificHeat);
}

BoundsTracker::Range surroundingsOf(const TimedModel& model)
{
  TemperatureSpan span;
  for (const auto& flow : model.conditions().flows)
    flow->outside(model.system().ground(), span);
  return {span.low, span.high};
}

/// How fast sources move the bounds, K/s; infinite: there is none.
struct Growth {
  double up = 0, down = 0;
};

Growth growthOf(const TimedModel& model)
{
  Growth growth;
  const std::vector<GeometryPart>& parts = model.mesh().geometry.parts;
  std::vector<Growth> within(parts.size()); // several sources may heat one part
  const auto take = [&](const OwnHeat& own) {
    const double capacity =
        own.part == noPart ? 0 : leastCapacity(model.now(), parts[static_cast<std::size_t>(own.part)]);
    Growth& here = own.part == noPart ? growth : within[static_cast<std::size_t>(own.part)];
    if (own.most > 0)
      here.up += capacity > 0 ? own.most / capacity : infinite;
    if (own.least < 0)
      here.down += capacity > 0 ? -own.least / capacity : infinite;
  };
  for (const auto& flow : model.conditions().flows)
    flow->ownHeat(take);
  for (const Growth& part : within) {
    growth.up = std::max(growth.up, part.up);
    growth.down = std::max(growth.down, part.down);
  }
  return growth;
}

/// The unknown's place and part.
void locateExcess(const TimedModel& model, std::size_t unknown, BoundsExcess& excess)
{
  const Unknowns& unknowns = model.conditions().unknowns;
  excess.part = noPart;
  if (unknown >= unknowns.node.size())
    return; // a lumped node has no place
  excess.place = model.mesh().placeOf(unknowns.node[unknown]);
  const auto found = std::find_if(unknowns.ofTet.begin(), unknowns.ofTet.end(), [&](const auto& tet) {
    return std::find(tet.begin(), tet.end(), static_cast<Index>(unknown)) != tet.end();
  });
  if (found != unknowns.ofTet.end())
    excess.part = model.mesh().tetPart[static_cast<std::size_t>(found - unknowns.ofTet.begin())];
}

} // namespace

BoundsReport BoundsTracker::report() const
{
  BoundsReport report = report_;
  report.low = range_.low;
  report.high = range_.high;
  return report;
}

void BoundsTracker::start(const TimedModel& model, std::span<const double> temperature, double tolerance,
                          const BoundsReport* past)
{
  const auto [low, high] = std::minmax_element(temperature.begin(), temperature.end());
  range_ = {*low, *high};
  if (past != nullptr) {
    report_ = *past;
    range_ = {past->low, past->high};
  }
  report_.tolerance = tolerance;
  takeSurroundings(model);
}

void BoundsTracker::takeSurroundings(const TimedModel& model)
{
  const Range around = surroundingsOf(model);
  range_ = {std::min(range_.low, around.low), std::max(range_.high, around.high)};
}

BoundsTracker::Range BoundsTracker::rangeAfter(const TimedModel& model, std::span<const double> from, double step) const
{
  const Growth growth = growthOf(model);
  const Range around = surroundingsOf(model);
  const auto [low, high] = std::minmax_element(from.begin(), from.end());
  // The run's bound, or, where sources have widened that, the one of this step.
  const double lowest = std::max(std::min(range_.low, around.low), std::min(*low, around.low));
  const double highest = std::min(std::max(range_.high, around.high), std::max(*high, around.high));
  return {lowest - growth.down * step, highest + growth.up * step};
}

void BoundsTracker::note(const TimedModel& model, std::span<const double> temperature, double time, double step,
                         bool limited)
{
  takeSurroundings(model);
  const Growth growth = growthOf(model);
  constexpr double most = 1e9; // K: a bound that is none, in a number that files can hold
  range_.low = std::max(range_.low - growth.down * step, -most);
  range_.high = std::min(range_.high + growth.up * step, most);
  report_.upperKnown = report_.upperKnown && growth.up < infinite;
  report_.lowerKnown = report_.lowerKnown && growth.down < infinite;
  report_.limitedSteps += limited ? 1 : 0;
  const auto take = [&](BoundsExcess& excess, double kelvin, auto where) {
    if (!(kelvin > excess.kelvin))
      return;
    excess.kelvin = kelvin;
    excess.time = time;
    locateExcess(model, static_cast<std::size_t>(where - temperature.begin()), excess);
  };
  const auto [low, high] = std::minmax_element(temperature.begin(), temperature.end());
  take(report_.below, range_.low - *low, low);
  take(report_.above, *high - range_.high, high);
}

} // namespace kiln
