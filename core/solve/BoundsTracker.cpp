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
  BoundsTracker::Range range{infinite, -infinite};
  const auto take = [&](double kelvin) {
    range.low = std::min(range.low, kelvin);
    range.high = std::max(range.high, kelvin);
  };
  const Conditions& c = model.conditions();
  const Mesh& mesh = model.mesh();
  for (const auto& convection : c.convection) {
    if (convection.ambientCurve) {
      for (const TablePoint& point : convection.ambientCurve->table)
        take(point.value.si);
    } else if (convection.ambientAt) {
      for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
        if (mesh.triangleFace[t] == convection.face)
          for (const std::int32_t node : mesh.triangles[t])
            take(convection.ambientAt(mesh.placeOf(node)));
    } else {
      take(convection.ambient);
    }
  }
  for (const auto& radiation : c.radiation)
    take(radiation.surroundings);
  for (const auto& fixed : c.fixed)
    for (std::size_t i = 0; i < fixed.unknowns.size(); ++i)
      take(fixed.temperatureAt(i));
  for (const Boundary& boundary : model.now().boundaries)
    if (const auto* passage = std::get_if<FlowPassage>(&boundary.condition); passage != nullptr && !boundary.muted)
      take(passage->inlet.si);
  for (const Link& link : model.now().links)
    if (const auto* wire = std::get_if<Wire>(&link.exchange); wire != nullptr && wire->ambient && !link.muted)
      take(wire->ambient->si);
  for (const auto& enclosed : c.enclosures)
    if (const auto& opening = model.now().enclosures[static_cast<std::size_t>(enclosed.enclosure)].opening)
      take(opening->si);
  return range;
}

/// How fast sources move the bounds, K/s; infinite: there is none.
struct Growth {
  double up = 0, down = 0;

  void unbounded(double watts)
  {
    if (watts > 0)
      up = infinite;
    else if (watts < 0)
      down = infinite;
  }
};

Growth growthOf(const TimedModel& model)
{
  Growth growth;
  const Conditions& c = model.conditions();
  std::vector<double> up(c.conductivity.size(), 0.0); // K/s by part: several sources may heat one
  std::vector<double> down(up.size(), 0.0);
  for (const Conditions::PartHeat& heat : c.partHeat) {
    const auto part = static_cast<std::size_t>(heat.part);
    const double capacity = leastCapacity(model.now(), model.mesh().geometry.parts[part]);
    if (heat.densityAt || capacity <= 0) {
      growth.up = growth.down = infinite;
    } else {
      up[part] += std::max(heat.density, 0.0) / capacity;
      down[part] += std::max(-heat.density, 0.0) / capacity;
    }
  }
  for (std::size_t p = 0; p < up.size(); ++p) {
    growth.up = std::max(growth.up, up[p]);
    growth.down = std::max(growth.down, down[p]);
  }
  for (const Conditions::FaceHeat& heat : c.faceHeat) {
    if (heat.fluxAt)
      growth.up = growth.down = infinite;
    growth.unbounded(heat.flux);
  }
  for (const Conditions::PointHeat& heat : c.pointHeat)
    growth.unbounded(heat.power);
  for (const auto& term : c.terms) // what only passes heat on has its ends within the range
    if (term->owner().kind == TermOwner::Kind::Source || term->owner().kind == TermOwner::Kind::Node)
      growth.up = growth.down = infinite;
  if (c.electric)
    growth.up = infinite;
  for (const Link& link : model.now().links)
    if (const auto* wire = std::get_if<Wire>(&link.exchange); wire != nullptr && wire->power && !link.muted)
      growth.unbounded(wire->power->si);
  return growth;
}

/// The unknown's place and part.
void locateExcess(const TimedModel& model, std::size_t unknown, BoundsExcess& excess)
{
  const Unknowns& unknowns = model.conditions().unknowns;
  excess.part = -1;
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
