// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/network/HeatTerm.h"

#include "base/At.h"
#include "heat/elements/Radiating.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
std::optional<Bend> HeatTerm::bend() const
{
  return Bend{"what is tied to nodes, links or watches",
              "Look for a source that grows with its own temperature faster than its heat can leave."};
}

void HeatTerm::addFlow(const HeatGround&, std::span<const double> temperature, std::span<double> balance) const
{
  const std::vector<double> watts = flows(temperature);
  for (std::size_t i = 0; i < watts.size(); ++i)
    receivers_.spread(receivers_[i], watts[i], balance);
}

void HeatTerm::arrivals(const HeatGround&, const FlowState& state, std::span<const char>,
                        const ArrivalVisit& visit) const
{
  const std::vector<double> watts = flows(state.temperature);
  std::vector<UnknownId> unknowns;
  std::vector<double> shared;
  for (std::size_t i = 0; i < watts.size(); ++i) {
    unknowns.clear();
    shared.clear();
    for (const UnknownShare& own : receivers_.sharesOf(receivers_[i])) {
      unknowns.push_back(own.unknown);
      shared.push_back(own.share * watts[i]);
    }
    visit({receivers_[i].part, receivers_[i].face, unknowns, shared});
  }
}

FollowingHeat::FollowingHeat(FlowOwner owner, Receivers receivers, Property density, std::optional<WatchProbe> follows)
    : HeatTerm(owner, std::move(receivers)), density_(std::move(density)), follows_(std::move(follows))
{
}

std::vector<double> FollowingHeat::flows(std::span<const double> temperature) const
{
  std::vector<double> watts;
  watts.reserve(receivers().size());
  const double common = follows_ ? valueAt(density_, follows_->value(temperature)).value : 0;
  for (const Receiver& r : receivers())
    watts.push_back(r.weight * (follows_ ? common : valueAt(density_, receivers().valueAt(r, temperature)).value));
  return watts;
}

void FollowingHeat::addSlope(const HeatGround&, std::span<const double> temperature, SparseMatrix& matrix) const
{
  if (follows_ || density_.table.empty())
    return;
  for (const Receiver& r : receivers())
    receivers().addSlope(r, r.weight * std::max(0.0, -valueAt(density_, receivers().valueAt(r, temperature)).slope),
                         matrix);
}

void FollowingHeat::addRest(const HeatGround&, std::span<const double> temperature, std::span<const double> direction,
                            double, std::span<double> rest) const
{
  if (!follows_) {
    if (density_.table.empty())
      return;
    for (const Receiver& r : receivers())
      receivers().spread(r,
                         -r.weight * std::max(0.0, valueAt(density_, receivers().valueAt(r, temperature)).slope) *
                             receivers().valueAt(r, direction),
                         rest);
    return;
  }
  const double slope = valueAt(density_, follows_->value(temperature)).slope;
  const double along = slope * follows_->change(temperature, direction);
  for (const Receiver& r : receivers())
    receivers().spread(r, -r.weight * along, rest);
}

HeatFlow::Rest FollowingHeat::rest() const
{
  const auto rises = [](const TablePoint& a, const TablePoint& b) { return b.value.si > a.value.si; };
  const bool coupled =
      !density_.table.empty() &&
      (follows_ || std::adjacent_find(density_.table.begin(), density_.table.end(), rises) != density_.table.end());
  return coupled ? Rest::Strong : Rest::None;
}

void FollowingHeat::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  constexpr double infinite = std::numeric_limits<double>::infinity();
  visit({noPart, -infinite, infinite});
}

ExchangeLaw::Flow ExchangeLaw::at(const Vec3& place, double temperature, double node) const
{
  PropertyValue g{conductanceAt ? conductance * conductanceAt(place) : conductance, 0};
  if (curve) {
    g = valueAt(*curve, temperature);
    g.value *= conductance;
    g.slope *= conductance;
  }
  PropertyValue emits{stefanBoltzmann * radiation, 0};
  if (emissivity) {
    const PropertyValue own = valueAt(*emissivity, temperature);
    emits.slope = emits.value * own.slope;
    emits.value *= own.value;
  }
  const double drive = fourth(node) - fourth(temperature);
  Flow flow;
  flow.watts = g.value * (node - temperature) + emits.value * drive;
  flow.byPlace =
      g.value - g.slope * (node - temperature) + emits.value * slopeOfFourth(temperature) - emits.slope * drive;
  flow.byNode = g.value + emits.value * slopeOfFourth(node);
  return flow;
}

namespace
{

Receivers withNode(Receivers places, UnknownId node)
{
  places.addUnknown(node);
  return places;
}

} // namespace

NodeExchange::NodeExchange(FlowOwner owner, Receivers places, UnknownId node, ExchangeLaw law, Shown shown)
    : HeatTerm(owner, withNode(std::move(places), node)), node_(node), law_(std::move(law)), shown_(shown)
{
}

template <class Visit>
void NodeExchange::eachPlace(std::span<const double> temperature, Visit&& visit) const
{
  for (std::size_t i = 0; i + 1 < receivers().size(); ++i) {
    const Receiver& r = receivers()[i];
    visit(i, r, law_.at(r.place, receivers().valueAt(r, temperature), temperature[at(node_)]));
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

void NodeExchange::addSlope(const HeatGround&, std::span<const double> temperature, SparseMatrix& matrix) const
{
  double byNode = 0;
  eachPlace(temperature, [&](std::size_t, const Receiver& r, const ExchangeLaw::Flow& flow) {
    receivers().addSlope(r, r.weight * std::max(flow.byPlace, 0.0), matrix);
    byNode += r.weight * flow.byNode;
  });
  receivers().addSlope(receivers()[receivers().size() - 1], byNode, matrix);
}

void NodeExchange::addRest(const HeatGround&, std::span<const double> temperature, std::span<const double> direction,
                           double, std::span<double> rest) const
{
  eachPlace(temperature, [&](std::size_t, const Receiver& r, const ExchangeLaw::Flow& flow) {
    const double place = receivers().valueAt(r, direction);
    const double node = direction[at(node_)];
    receivers().spread(r, r.weight * (std::min(flow.byPlace, 0.0) * place - flow.byNode * node), rest);
    rest[at(node_)] -= r.weight * flow.byPlace * place;
  });
}

std::vector<FlowFigure> NodeExchange::figures(const HeatGround&, const FlowState& state) const
{
  if (shown_ == Shown::Nothing)
    return {};
  const double intoPlaces = -flows(state.temperature).back();
  return {{owner(), shown_ == Shown::IntoPlaces ? intoPlaces : -intoPlaces, 0}};
}

namespace
{

Receivers onlyUnknown(UnknownId unknown)
{
  Receivers one;
  one.addUnknown(unknown);
  return one;
}

} // namespace

PassageStretch::PassageStretch(FlowOwner owner, Receivers places, UnknownId upstream, UnknownId outlet,
                               double capacityRate, double inlet, Property coefficient)
    : HeatTerm(owner, withNode(std::move(places), outlet)), upstream_(upstream), outlet_(outlet), rate_(capacityRate),
      inlet_(inlet), coefficient_(std::move(coefficient))
{
}

PassageStretch::Mean PassageStretch::meanAt(std::span<const double> temperature) const
{
  double conductance = 0;
  for (std::size_t i = 0; i + 1 < receivers().size(); ++i) {
    const Receiver& r = receivers()[i];
    conductance += r.weight * valueAt(coefficient_, receivers().valueAt(r, temperature)).value;
  }
  const double units = std::max(conductance / rate_, 1e-9);
  const double left = std::exp(-units);               // of the difference at the inlet
  const double average = -std::expm1(-units) / units; // of the difference along the stretch
  Mean mean;
  constexpr double few = 1e-4; // fewer transfer units: a line, without the loss of digits
  mean.ofOutlet = units < few ? 0.5 + units / 12 : (1 - average) / (1 - left);
  const double before = upstream_ >= 0 ? temperature[at(upstream_)] : inlet_;
  mean.value = mean.ofOutlet * temperature[at(outlet_)] + (1 - mean.ofOutlet) * before;
  return mean;
}

std::vector<double> PassageStretch::flows(std::span<const double> temperature) const
{
  const Mean mean = meanAt(temperature);
  std::vector<double> watts(receivers().size(), 0.0);
  for (std::size_t i = 0; i + 1 < watts.size(); ++i) {
    const Receiver& r = receivers()[i];
    const double own = receivers().valueAt(r, temperature);
    watts[i] = r.weight * valueAt(coefficient_, own).value * (mean.value - own);
    watts.back() -= watts[i];
  }
  return watts;
}

void PassageStretch::addSlope(const HeatGround&, std::span<const double> temperature, SparseMatrix& matrix) const
{
  const Mean mean = meanAt(temperature);
  double all = 0;
  for (std::size_t i = 0; i + 1 < receivers().size(); ++i) {
    const Receiver& r = receivers()[i];
    const double conductance = r.weight * valueAt(coefficient_, receivers().valueAt(r, temperature)).value;
    receivers().addSlope(r, conductance, matrix);
    all += conductance;
  }
  receivers().addSlope(receivers()[receivers().size() - 1], mean.ofOutlet * all, matrix);
}

void PassageStretch::addRest(const HeatGround&, std::span<const double> temperature, std::span<const double> direction,
                             double, std::span<double> rest) const
{
  const Mean mean = meanAt(temperature);
  const double before = upstream_ >= 0 ? direction[at(upstream_)] : 0;
  const double along = mean.ofOutlet * direction[at(outlet_)] + (1 - mean.ofOutlet) * before;
  for (std::size_t i = 0; i + 1 < receivers().size(); ++i) {
    const Receiver& r = receivers()[i];
    const double own = receivers().valueAt(r, temperature);
    const PropertyValue h = valueAt(coefficient_, own);
    const double place = receivers().valueAt(r, direction);
    const double bend = r.weight * h.slope * (mean.value - own) * place;
    receivers().spread(r, -r.weight * h.value * along - bend, rest);
    rest[at(outlet_)] += r.weight * h.value * ((1 - mean.ofOutlet) * before - place) + bend;
  }
}

std::vector<FlowFigure> PassageStretch::figures(const HeatGround&, const FlowState& state) const
{
  return {{owner(), -flows(state.temperature).back(), 0}};
}

StreamTerm::StreamTerm(FlowOwner owner, UnknownId upstream, UnknownId downstream, double capacityRate, double inlet)
    : HeatTerm(owner, onlyUnknown(downstream)), upstream_(upstream), downstream_(downstream), rate_(capacityRate),
      inlet_(inlet)
{
}

std::vector<double> StreamTerm::flows(std::span<const double> temperature) const
{
  const double before = upstream_ >= 0 ? temperature[at(upstream_)] : inlet_;
  return {rate_ * (before - temperature[at(downstream_)])};
}

std::vector<FlowFigure> StreamTerm::figures(const HeatGround&, const FlowState& state) const
{
  const double watts = flows(state.temperature).front();
  return {{owner(), owner().kind == FlowOwner::Kind::Boundary ? 0 : watts, watts}};
}

void StreamTerm::outside(const HeatGround&, TemperatureSpan& span) const
{
  if (upstream_ < 0)
    span.take(inlet_);
}

void StreamTerm::addSlope(const HeatGround&, std::span<const double>, SparseMatrix& matrix) const
{
  receivers().addSlope(receivers()[0], rate_, matrix);
}

void StreamTerm::addRest(const HeatGround&, std::span<const double>, std::span<const double> direction, double,
                         std::span<double> rest) const
{
  if (upstream_ >= 0)
    rest[at(downstream_)] -= rate_ * direction[at(upstream_)];
}

} // namespace kiln
