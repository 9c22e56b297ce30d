// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/HeatTerm.h"

#include "heat/ThermalSystem.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

} // namespace

double HeatTerm::figure(std::span<const double> temperature) const
{
  const std::vector<double> watts = flows(temperature);
  return std::accumulate(watts.begin(), watts.end(), 0.0);
}

FollowingHeat::FollowingHeat(TermOwner owner, std::vector<Receiver> receivers, Property density,
                             std::optional<WatchProbe> follows)
    : HeatTerm(owner, std::move(receivers)), density_(std::move(density)), follows_(std::move(follows))
{
}

std::vector<double> FollowingHeat::flows(std::span<const double> temperature) const
{
  std::vector<double> watts;
  watts.reserve(receivers().size());
  const double common = follows_ ? valueAt(density_, follows_->value(temperature)).value : 0;
  for (const Receiver& r : receivers())
    watts.push_back(r.weight * (follows_ ? common : valueAt(density_, temperature[at(r.unknown)]).value));
  return watts;
}

void FollowingHeat::addSlope(std::span<const double> temperature, std::span<double> diagonal) const
{
  if (!follows_)
    for (const Receiver& r : receivers())
      diagonal[at(r.unknown)] += r.weight * std::max(0.0, -valueAt(density_, temperature[at(r.unknown)]).slope);
}

void FollowingHeat::addRest(std::span<const double> temperature, std::span<const double> direction,
                            std::span<double> rest) const
{
  if (!follows_) {
    for (const Receiver& r : receivers())
      rest[at(r.unknown)] -=
          r.weight * std::max(0.0, valueAt(density_, temperature[at(r.unknown)]).slope) * direction[at(r.unknown)];
    return;
  }
  const double slope = valueAt(density_, follows_->value(temperature)).slope;
  const double along = slope * follows_->change(temperature, direction);
  for (const Receiver& r : receivers())
    rest[at(r.unknown)] -= r.weight * along;
}

bool FollowingHeat::coupled() const
{
  const auto rises = [](const TablePoint& a, const TablePoint& b) { return b.value.si > a.value.si; };
  return !density_.table.empty() &&
         (follows_ || std::adjacent_find(density_.table.begin(), density_.table.end(), rises) != density_.table.end());
}

ExchangeLaw::Flow ExchangeLaw::at(const Vec3& place, double temperature, double node) const
{
  PropertyValue g{conductanceAt ? conductance * conductanceAt(place) : conductance, 0};
  if (curve) {
    g = valueAt(*curve, temperature);
    g.value *= conductance;
    g.slope *= conductance;
  }
  const double s = stefanBoltzmann * radiation;
  Flow flow;
  flow.watts = g.value * (node - temperature) + s * (std::pow(node, 4) - std::pow(temperature, 4));
  flow.byPlace = g.value - g.slope * (node - temperature) + 4 * s * std::pow(std::max(temperature, 0.0), 3);
  flow.byNode = g.value + 4 * s * std::pow(std::max(node, 0.0), 3);
  return flow;
}

namespace
{

std::vector<Receiver> withNode(std::vector<Receiver> places, Index node)
{
  places.push_back({node, 1, noPart, -1, Vec3::Zero()});
  return places;
}

} // namespace

NodeExchange::NodeExchange(TermOwner owner, std::vector<Receiver> places, Index node, ExchangeLaw law, Shown shown)
    : HeatTerm(owner, withNode(std::move(places), node)), node_(node), law_(std::move(law)), shown_(shown)
{
}

template <class Visit>
void NodeExchange::eachPlace(std::span<const double> temperature, Visit&& visit) const
{
  for (std::size_t i = 0; i + 1 < receivers().size(); ++i) {
    const Receiver& r = receivers()[i];
    visit(i, r, law_.at(r.place, temperature[at(r.unknown)], temperature[at(node_)]));
  }
}

std::vector<double> NodeExchange::flows(std::span<const double> temperature) const
{
  std::vector<double> watts(receivers().size(), 0.0);
  eachPlace(temperature, [&](std::size_t i, const Receiver& r, const ExchangeLaw::Flow& flow) {
    watts[i] = r.weight * flow.watts;
    watts.back() -= watts[i];
  });
  return watts;
}

void NodeExchange::addSlope(std::span<const double> temperature, std::span<double> diagonal) const
{
  eachPlace(temperature, [&](std::size_t, const Receiver& r, const ExchangeLaw::Flow& flow) {
    diagonal[at(r.unknown)] += r.weight * std::max(flow.byPlace, 0.0);
    diagonal[at(node_)] += r.weight * flow.byNode;
  });
}

void NodeExchange::addRest(std::span<const double> temperature, std::span<const double> direction,
                           std::span<double> rest) const
{
  eachPlace(temperature, [&](std::size_t, const Receiver& r, const ExchangeLaw::Flow& flow) {
    const double place = direction[at(r.unknown)];
    const double node = direction[at(node_)];
    rest[at(r.unknown)] += r.weight * (std::min(flow.byPlace, 0.0) * place - flow.byNode * node);
    rest[at(node_)] -= r.weight * flow.byPlace * place;
  });
}

double NodeExchange::figure(std::span<const double> temperature) const
{
  if (shown_ == Shown::Nothing)
    return 0;
  const double intoPlaces = -flows(temperature).back();
  return shown_ == Shown::IntoPlaces ? intoPlaces : -intoPlaces;
}

StreamTerm::StreamTerm(TermOwner owner, Index upstream, Index downstream, double capacityRate, double inlet)
    : HeatTerm(owner, {{downstream, 1, noPart, -1, Vec3::Zero()}}), upstream_(upstream), downstream_(downstream),
      rate_(capacityRate), inlet_(inlet)
{
}

std::vector<double> StreamTerm::flows(std::span<const double> temperature) const
{
  const double before = upstream_ >= 0 ? temperature[at(upstream_)] : inlet_;
  return {rate_ * (before - temperature[at(downstream_)])};
}

void StreamTerm::addSlope(std::span<const double>, std::span<double> diagonal) const
{
  diagonal[at(downstream_)] += rate_;
}

void StreamTerm::addRest(std::span<const double>, std::span<const double> direction, std::span<double> rest) const
{
  if (upstream_ >= 0)
    rest[at(downstream_)] -= rate_ * direction[at(upstream_)];
}

} // namespace kiln
