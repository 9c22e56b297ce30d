// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/network/WireTerm.h"

#include <algorithm>
#include <numeric>

namespace kiln
{
namespace
{

/// End A, end B, then the cells.
Receivers allReceivers(const Receivers& endA, const Receivers& endB, UnknownId first)
{
  Receivers all = endA;
  all.append(endB);
  for (Index cell = 0; cell < WireTerm::cells; ++cell)
    all.addUnknown(UnknownId(first + cell));
  return all;
}

} // namespace

WireTerm::WireTerm(FlowOwner owner, const Receivers& endA, const Receivers& endB, UnknownId first, WireLaw law)
    : HeatTerm(owner, allReceivers(endA, endB, first)), first_(first), law_(std::move(law)),
      firstCell_(endA.size() + endB.size()), firstOfB_(endA.size())
{
  const double step = law_.length / cells;
  const double reach = law_.section / step;
  for (std::size_t i = 0; i < firstOfB_; ++i)
    passages_.push_back({i, firstCell_, 2 * reach * receivers()[i].weight});
  for (std::size_t i = firstCell_; i + 1 < receivers().size(); ++i)
    passages_.push_back({i, i + 1, reach});
  for (std::size_t i = firstOfB_; i < firstCell_; ++i)
    passages_.push_back({receivers().size() - 1, i, 2 * reach * receivers()[i].weight});
}

PropertyValue WireTerm::conductivityOf(const Passage& passage, std::span<const double> temperature) const
{
  const double mean = (temperatureAt(passage.from, temperature) + temperatureAt(passage.to, temperature)) / 2;
  return valueAt(law_.conductivity, mean);
}

std::vector<double> WireTerm::flows(std::span<const double> temperature) const
{
  std::vector<double> watts(receivers().size(), 0.0);
  for (const Passage& passage : passages_) {
    const double flow = passage.reach * conductivityOf(passage, temperature).value *
                        (temperatureAt(passage.from, temperature) - temperatureAt(passage.to, temperature));
    watts[passage.from] -= flow;
    watts[passage.to] += flow;
  }
  for (std::size_t i = firstCell_; i < receivers().size(); ++i)
    watts[i] += (law_.power + law_.sideConductance * (law_.ambient - temperatureAt(i, temperature))) / cells;
  return watts;
}

void WireTerm::addSlope(const HeatGround&, std::span<const double> temperature, SparseMatrix& matrix) const
{
  for (const Passage& passage : passages_) {
    const double conductance = passage.reach * conductivityOf(passage, temperature).value;
    for (const std::size_t end : {passage.from, passage.to})
      receivers().addSlope(receivers()[end], conductance, matrix);
  }
  for (std::size_t i = firstCell_; i < receivers().size(); ++i)
    receivers().addSlope(receivers()[i], law_.sideConductance / cells, matrix);
}

void WireTerm::addRest(const HeatGround&, std::span<const double> temperature, std::span<const double> direction,
                       double, std::span<double> rest) const
{
  for (const Passage& passage : passages_) {
    const PropertyValue k = conductivityOf(passage, temperature);
    const double difference = temperatureAt(passage.from, temperature) - temperatureAt(passage.to, temperature);
    const double alongFrom = temperatureAt(passage.from, direction);
    const double alongTo = temperatureAt(passage.to, direction);
    const double bend = passage.reach * k.slope * difference * (alongFrom + alongTo) / 2;
    receivers().spread(receivers()[passage.from], bend - passage.reach * k.value * alongTo, rest);
    receivers().spread(receivers()[passage.to], -bend - passage.reach * k.value * alongFrom, rest);
  }
}

std::vector<FlowFigure> WireTerm::figures(const HeatGround&, const FlowState& state) const
{
  const std::vector<double> watts = flows(state.temperature);
  const auto ofB = watts.begin() + static_cast<std::ptrdiff_t>(firstOfB_);
  const auto ofCells = watts.begin() + static_cast<std::ptrdiff_t>(firstCell_);
  return {{owner(), std::accumulate(ofB, ofCells, 0.0), std::accumulate(watts.begin(), watts.end(), 0.0)}};
}

void WireTerm::outside(const HeatGround&, TemperatureSpan& span) const
{
  if (law_.sideConductance > 0)
    span.take(law_.ambient);
}

void WireTerm::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  visit({noPart, std::min(law_.power, 0.0), std::max(law_.power, 0.0)});
}

void WireTerm::ownVolumes(const HeatGround&, const std::function<void(const OwnVolume&)>& visit) const
{
  const VolumeMatrix cell = VolumeMatrix::Constant(1, 1, law_.section * law_.length / cells);
  for (Index i = 0; i < cells; ++i) {
    const UnknownId own(first_ + i);
    visit({law_.material, noPart, {&own, 1}, cell});
  }
}

} // namespace kiln
