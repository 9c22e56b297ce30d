// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/HeldTemperature.h"

#include "base/At.h"
#include "heat/elements/Element.h"

#include <algorithm>
#include <unordered_map>

namespace kiln
{
std::shared_ptr<const HeldTemperature> HeldTemperature::without(const std::vector<char>& taken) const
{
  std::vector<One> rest;
  std::copy_if(held_.begin(), held_.end(), std::back_inserter(rest),
               [&](const One& own) { return taken[at(own.unknown)] == 0; });
  return std::make_shared<const HeldTemperature>(owner(), std::move(rest), what_);
}

void HeldTemperature::arrivals(const HeatGround& ground, const FlowState& state, std::span<const char>,
                               const ArrivalVisit& visit) const
{
  if (what_.faces.empty())
    return;
  const Mesh& mesh = ground.mesh();
  std::unordered_map<UnknownId, double> area; // m² of its faces around each unknown
  for (const One& own : held_)
    area.emplace(own.unknown, 0);
  const auto eachNode = [&](auto&& found) {
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const FaceId face = mesh.triangleFace[t];
      if (!mesh.geometry.faces[at(face)].exposed() || !std::binary_search(what_.faces.begin(), what_.faces.end(), face))
        continue;
      for (const UnknownId u : ground.unknowns().ofTriangle[t][0])
        if (const auto own = area.find(u); own != area.end())
          found(face, u, own->second, triangleArea(mesh, t) / 3);
    }
  };
  eachNode([](int, Index, double& sum, double share) { sum += share; });
  eachNode([&](FaceId face, UnknownId u, double sum, double share) {
    const double watts = state.reaction[at(u)] * share / sum;
    visit({ground.partAt(face, 0), face, {&u, 1}, {&watts, 1}});
  });
}

std::vector<FlowFigure> HeldTemperature::figures(const HeatGround&, const FlowState& state) const
{
  double sum = 0;
  for (const One& own : held_)
    sum += state.reaction[at(own.unknown)];
  return {{owner(), sum, sum}};
}

/// Unknown by unknown: it may heat at one place and cool at another.
void HeldTemperature::addPassing(const HeatGround&, const FlowState& state, Passing& passing) const
{
  for (const One& own : held_)
    passing.take(state.reaction[at(own.unknown)]);
}

void HeldTemperature::outside(const HeatGround&, TemperatureSpan& span) const
{
  for (const One& own : held_)
    span.take(own.kelvin);
}

void HeldTemperature::held(const std::function<void(UnknownId, double)>& visit) const
{
  for (const One& own : held_)
    visit(own.unknown, own.kelvin);
}

} // namespace kiln
