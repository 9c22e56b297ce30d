// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/SourceFlow.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr double infinite = std::numeric_limits<double>::infinity();

/// What a source puts into each node of an element, W.
VolumeVector heatInto(const VolumeHeat::InPart& heat, const Mesh& mesh, std::size_t element)
{
  if (mesh.order == 1) {
    double density = heat.density;
    if (heat.densityAt)
      density = heat.scale * heat.densityAt(placeIn(mesh, element, Eigen::Vector4d::Constant(0.25)));
    return VolumeVector::Constant(4, density * tetVolume(mesh, element) / 4);
  }
  VolumeVector watts = VolumeVector::Zero(10);
  for (const VolumePoint& point : volumePoints(mesh, element)) {
    const double density = heat.densityAt ? heat.scale * heat.densityAt(placeIn(mesh, element, point.l)) : heat.density;
    watts += density * point.volume * point.shape;
  }
  return watts;
}

} // namespace

void GivenHeat::addConstant(const HeatGround& ground, SparseMatrix&, std::span<double> load) const
{
  arrivals(ground, {}, {}, [&](const Arrival& arrival) {
    for (std::size_t i = 0; i < arrival.unknowns.size(); ++i)
      load[static_cast<std::size_t>(arrival.unknowns[i])] += arrival.watts[i];
  });
}

void VolumeHeat::arrivals(const HeatGround& ground, const FlowState&, std::span<const char> wanted,
                          const ArrivalVisit& visit) const
{
  const Mesh& mesh = ground.mesh();
  for (const InPart& own : parts_)
    for (std::size_t e = 0; e < tetElements(mesh); ++e) {
      if (elementPart(mesh, e) != own.part)
        continue;
      const VolumeNodes nodes = volumeNodes(mesh, ground.unknowns(), e);
      if (!anyWanted(nodes, wanted))
        continue;
      const VolumeVector watts = heatInto(own, mesh, e);
      visit({own.part, {}, {nodes.begin(), nodes.count}, {watts.data(), static_cast<std::size_t>(watts.size())}});
    }
}

std::vector<FlowFigure> VolumeHeat::figures(const HeatGround& ground, const FlowState& state) const
{
  double sum = 0;
  for (const InPart& own : parts_) {
    if (own.densityAt)
      return HeatFlow::figures(ground, state);
    sum += own.density * own.volume;
  }
  return {{owner(), sum, sum}};
}

std::vector<std::pair<PartId, double>> VolumeHeat::intoParts(const HeatGround& ground) const
{
  std::vector<std::pair<PartId, double>> watts;
  for (const InPart& own : parts_) {
    double sum = own.density * own.volume;
    if (own.densityAt) {
      sum = 0;
      for (std::size_t e = 0; e < tetElements(ground.mesh()); ++e)
        if (elementPart(ground.mesh(), e) == own.part)
          sum += heatInto(own, ground.mesh(), e).sum();
    }
    watts.emplace_back(own.part, sum);
  }
  return watts;
}

void VolumeHeat::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  for (const InPart& own : parts_)
    visit({own.part, own.densityAt ? -infinite : std::min(own.density, 0.0),
           own.densityAt ? infinite : std::max(own.density, 0.0)});
}

void PointHeat::arrivals(const HeatGround& ground, const FlowState&, std::span<const char>,
                         const ArrivalVisit& visit) const
{
  const Location location = locate(ground.mesh(), place_);
  std::vector<UnknownId> unknowns;
  std::vector<double> watts;
  for (const UnknownShare& own : sharesAt(ground.mesh(), ground.unknowns(), location)) {
    unknowns.push_back(own.unknown);
    watts.push_back(power_ * own.share);
  }
  visit({ground.mesh().tetPart[location.tet], {}, unknowns, watts});
}

void PointHeat::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  visit({noPart, std::min(power_, 0.0), std::max(power_, 0.0)});
}

} // namespace kiln
