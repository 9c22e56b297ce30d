// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/HeatStore.h"

#include "base/At.h"
#include "base/RisingRoot.h"
#include "heat/boundaries/Fluid.h"

#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

/// J/K of a lumped node; 0 when it stores nothing.
double capacityOf(const Node& node, const Environment& environment, double temperature)
{
  if (const auto* own = std::get_if<CapacityStore>(&node.storage))
    return own->capacity.si;
  if (const auto* own = std::get_if<MassStore>(&node.storage))
    return own->mass.si * own->specificHeat.si;
  if (const auto* own = std::get_if<FluidStore>(&node.storage)) {
    const FluidState state = stateOf(own->fluid, temperature, environment.airPressure.si);
    return own->volume.si * state.density * state.specificHeat;
  }
  return 0;
}

} // namespace

Expected<HeatStore> HeatStore::make(const Project& project, const Mesh& mesh, const Conditions& conditions)
{
  HeatStore store;
  store.unknowns_ = at(conditions.unknowns.count);
  std::vector<double> density;
  for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p) {
    const GeometryPart& part = mesh.geometry.parts[p];
    const Part* own = findById(project.parts, part.id);
    const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
    if (material == nullptr || !material->density || !material->specificHeat)
      return failure(Failure::Kind::NotReady, "part " + part.name,
                     "Its material has no " +
                         std::string(material != nullptr && material->density ? "specific heat" : "density") +
                         ", which a transient case needs.",
                     "Give the material one.");
    density.push_back(material->density->si * part.volume / conditions.volume[p]);
    store.addEnthalpy(Enthalpy(*material));
  }
  store.addParts(mesh, conditions, density);
  const std::size_t parts = mesh.geometry.parts.size();
  for (std::size_t n = 0; n < project.nodes.size(); ++n) {
    const double capacity =
        capacityOf(project.nodes[n], project.environment.value_or(Environment{}), conditions.startTemperature);
    if (conditions.nodeUnknowns[n] < 0 || capacity <= 0)
      continue;
    store.shares_.push_back(
        {conditions.nodeUnknowns[n], store.addEnthalpy(Enthalpy(capacity)), static_cast<std::int32_t>(parts + n), 1});
  }
  store.owners_ = parts + project.nodes.size();
  const HeatGround ground(mesh, conditions.unknowns);
  for (const auto& flow : conditions.flows)
    if (auto added = store.addOwnVolumes(project, ground, *flow); !added)
      return tl::unexpected(added.error());
  store.finish();
  return store;
}

std::int32_t HeatStore::addEnthalpy(Enthalpy enthalpy)
{
  melts_ = melts_ || enthalpy.melts();
  constant_ = constant_ && enthalpy.constant();
  enthalpies_.push_back(std::move(enthalpy));
  return static_cast<std::int32_t>(enthalpies_.size() - 1);
}

void HeatStore::addParts(const Mesh& mesh, const Conditions& conditions, const std::vector<double>& density)
{
  if (mesh.order == 1) {
    std::vector<std::map<UnknownId, double>> mass(density.size());
    for (std::size_t t = 0; t < mesh.tets.size(); ++t)
      for (const UnknownId u : conditions.unknowns.ofTet[t])
        mass[at(mesh.tetPart[t])][u] += density[at(mesh.tetPart[t])] * tetVolume(mesh, t) / 4;
    for (std::size_t p = 0; p < mass.size(); ++p)
      for (const auto& [u, kilograms] : mass[p])
        shares_.push_back({u, static_cast<std::int32_t>(p), static_cast<std::int32_t>(p), kilograms});
    return;
  }
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh, conditions.unknowns, e);
    const PartId part = elementPart(mesh, e);
    if (!isStraight(mesh, e)) {
      addCell(std::span(nodes.own.data(), nodes.count), part, part, density[at(part)] * volumeMass(mesh, e));
      continue;
    }
    Cell cell;
    cell.nodes = nodes.own;
    cell.enthalpy = cell.owner = part;
    cell.amount = density[at(part)] * volumeMass(mesh, e).sum();
    cells_.push_back(cell);
  }
}

void HeatStore::addCell(std::span<const UnknownId> nodes, std::int32_t enthalpy, std::int32_t owner,
                        const VolumeMatrix& mass)
{
  Cell cell;
  std::copy(nodes.begin(), nodes.end(), cell.nodes.begin());
  cell.count = static_cast<std::int32_t>(nodes.size());
  cell.enthalpy = enthalpy;
  cell.owner = owner;
  cell.own = static_cast<std::int32_t>(masses_.size());
  masses_.emplace_back(Eigen::Matrix<double, 10, 10>::Zero());
  masses_.back().topLeftCorner(mass.rows(), mass.cols()) = mass;
  cells_.push_back(cell);
}

void HeatStore::finish()
{
  std::sort(shares_.begin(), shares_.end(), [](const Share& a, const Share& b) { return a.unknown < b.unknown; });
  firstShare_.assign(unknowns_ + 1, 0);
  stores_.assign(unknowns_, 0);
  for (const Share& share : shares_) {
    ++firstShare_[at(share.unknown) + 1];
    stores_[at(share.unknown)] = 1;
  }
  for (std::size_t u = 0; u < unknowns_; ++u)
    firstShare_[u + 1] += firstShare_[u];
  for (const Cell& cell : cells_)
    for (std::size_t i = 0; i < at(cell.count); ++i)
      stores_[at(cell.nodes[i])] = 1;
}

/// What a flow stores by itself: thin layers with the part beneath them, others apart from parts and nodes.
Expected<void> HeatStore::addOwnVolumes(const Project& project, const HeatGround& ground, const HeatFlow& flow)
{
  const Material* material = nullptr;
  std::int32_t enthalpy = 0;
  std::int32_t apart = -1;
  bool known = true;
  std::map<std::pair<std::int32_t, UnknownId>, double> lumped; // kg by owner and unknown
  flow.ownVolumes(ground, [&](const OwnVolume& own) {
    if (material == nullptr) {
      material = findById(project.materials, std::string(own.material));
      known = material != nullptr && material->density && material->specificHeat;
      if (!known)
        return;
      enthalpy = addEnthalpy(Enthalpy(*material));
    }
    if (!known)
      return;
    if (own.part == noPart && apart < 0)
      apart = static_cast<std::int32_t>(owners_++);
    const std::int32_t owner = own.part == noPart ? apart : own.part;
    const double density = material->density->si;
    if (own.volume.cols() > 1)
      return addCell(own.unknowns, enthalpy, owner, density * own.volume);
    for (std::size_t i = 0; i < own.unknowns.size(); ++i)
      lumped[{owner, own.unknowns[i]}] += density * own.volume(static_cast<Eigen::Index>(i), 0);
  });
  if (!known)
    return failure(Failure::Kind::NotReady, ownerName(project, flow.owner()),
                   "Its material has no density or specific heat, which a transient case needs.",
                   "Give the material both.");
  for (const auto& [key, kilograms] : lumped)
    shares_.push_back({key.second, enthalpy, key.first, kilograms});
  return {};
}

template <class ValuesAt>
void HeatStore::eachCell(ValuesAt&& valuesAt, std::span<double> sums) const
{
  for (const Cell& cell : cells_) {
    Ten values = Ten::Zero();
    for (std::size_t i = 0; i < at(cell.count); ++i)
      values[static_cast<Eigen::Index>(i)] = valuesAt(cell, cell.nodes[i]);
    const Ten product =
        cell.own < 0 ? Ten(cell.amount * (straightMass() * values)) : Ten(masses_[at(cell.own)] * values);
    for (std::size_t i = 0; i < at(cell.count); ++i)
      sums[at(cell.nodes[i])] += product[static_cast<Eigen::Index>(i)];
  }
}

double HeatStore::specificHeatIn(const Cell& cell, std::span<const double> temperature) const
{
  const Enthalpy& enthalpy = enthalpies_[at(cell.enthalpy)];
  double sum = 0;
  for (std::size_t i = 0; i < at(cell.count); ++i)
    sum += enthalpy.slopeAt(temperature[at(cell.nodes[i])]);
  return sum / cell.count;
}

std::vector<double> HeatStore::stored(std::span<const double> temperature) const
{
  std::vector<double> joules(unknowns_, 0.0);
  for (const Share& share : shares_)
    joules[at(share.unknown)] += share.amount * enthalpies_[at(share.enthalpy)].at(temperature[at(share.unknown)]);
  eachCell([&](const Cell& cell, UnknownId u) { return enthalpies_[at(cell.enthalpy)].at(temperature[at(u)]); },
           joules);
  return joules;
}

void HeatStore::addSlope(std::span<const double> temperature, double factor, const std::vector<char>& fixed,
                         SparseMatrix& matrix) const
{
  for (const Share& share : shares_)
    matrix.values[at(matrix.position(share.unknown, share.unknown))] +=
        factor * share.amount * enthalpies_[at(share.enthalpy)].slopeAt(temperature[at(share.unknown)]);
  for (const Cell& cell : cells_) {
    const double heat = factor * specificHeatIn(cell, temperature);
    for (std::size_t i = 0; i < at(cell.count); ++i)
      for (std::size_t j = 0; j <= i; ++j) {
        const Index row = cell.nodes[i];
        const Index column = cell.nodes[j];
        const double value = heat * mass(cell, i, j);
        if (row == column)
          matrix.values[at(matrix.position(row, row))] += (i == j ? 1 : 2) * value;
        else if (fixed[at(row)] == 0 && fixed[at(column)] == 0) {
          matrix.values[at(matrix.position(row, column))] += value;
          matrix.values[at(matrix.position(column, row))] += value;
        }
      }
  }
}

std::vector<double> HeatStore::slope(std::span<const double> temperature) const
{
  std::vector<double> slopes(unknowns_, 0.0);
  for (const Share& share : shares_)
    slopes[at(share.unknown)] += share.amount * enthalpies_[at(share.enthalpy)].slopeAt(temperature[at(share.unknown)]);
  for (const Cell& cell : cells_) { // the diagonal, scaled to the whole mass
    const double heat = specificHeatIn(cell, temperature);
    double trace = 0;
    double all = 0;
    for (std::size_t i = 0; i < at(cell.count); ++i) {
      trace += mass(cell, i, i);
      for (std::size_t j = 0; j < at(cell.count); ++j)
        all += mass(cell, i, j);
    }
    for (std::size_t i = 0; i < at(cell.count); ++i)
      slopes[at(cell.nodes[i])] += heat * all * mass(cell, i, i) / trace;
  }
  return slopes;
}

std::vector<double> HeatStore::storingOf(std::span<const double> temperature, std::span<const double> rates) const
{
  std::vector<double> watts(unknowns_, 0.0);
  for (const Share& share : shares_)
    watts[at(share.unknown)] += share.amount * enthalpies_[at(share.enthalpy)].slopeAt(temperature[at(share.unknown)]) *
                                rates[at(share.unknown)];
  std::vector<double> heat;
  heat.reserve(cells_.size());
  for (const Cell& cell : cells_)
    heat.push_back(specificHeatIn(cell, temperature));
  eachCell([&](const Cell& cell,
               UnknownId u) { return heat[static_cast<std::size_t>(&cell - cells_.data())] * rates[at(u)]; },
           watts);
  return watts;
}

std::vector<double> HeatStore::ratesOf(std::span<const double> temperature, std::span<const double> storing,
                                       const std::vector<char>& fixed) const
{
  const std::vector<double> slopes = slope(temperature);
  std::vector<double> rates(unknowns_, 0.0);
  const auto free = [&](std::size_t u) { return fixed[u] == 0 && slopes[u] > 0; };
  if (lumped()) {
    for (std::size_t u = 0; u < unknowns_; ++u)
      if (free(u))
        rates[u] = storing[u] / slopes[u];
    return rates;
  }
  // Conjugate gradients divided by the diagonal: the mass matrix is well conditioned, however fine the mesh.
  std::vector<double> left(unknowns_, 0.0);
  std::vector<double> divided(unknowns_, 0.0);
  for (std::size_t u = 0; u < unknowns_; ++u)
    left[u] = free(u) ? storing[u] : 0;
  const auto divide = [&] {
    double product = 0;
    for (std::size_t u = 0; u < unknowns_; ++u) {
      divided[u] = free(u) ? left[u] / slopes[u] : 0;
      product += divided[u] * left[u];
    }
    return product;
  };
  double product = divide();
  const double enough = 1e-16 * product; // the square of what is left
  std::vector<double> direction = divided;
  constexpr int most = 200;
  for (int i = 0; i < most && product > enough && product > 0; ++i) {
    std::vector<double> applied = storingOf(temperature, direction);
    double along = 0;
    for (std::size_t u = 0; u < unknowns_; ++u)
      along += free(u) ? direction[u] * applied[u] : 0;
    const double step = product / along;
    for (std::size_t u = 0; u < unknowns_; ++u)
      if (free(u)) {
        rates[u] += step * direction[u];
        left[u] -= step * applied[u];
      }
    const double next = divide();
    for (std::size_t u = 0; u < unknowns_; ++u)
      direction[u] = divided[u] + next / product * direction[u];
    product = next;
  }
  return rates;
}

std::vector<double> HeatStore::storedByPart(std::span<const double> temperature) const
{
  std::vector<double> joules(owners_, 0.0);
  for (const Share& share : shares_)
    joules[at(share.owner)] += share.amount * enthalpies_[at(share.enthalpy)].at(temperature[at(share.unknown)]);
  for (const Cell& cell : cells_)
    for (std::size_t j = 0; j < at(cell.count); ++j) {
      double column = 0;
      for (std::size_t i = 0; i < at(cell.count); ++i)
        column += mass(cell, i, j);
      joules[at(cell.owner)] += column * enthalpies_[at(cell.enthalpy)].at(temperature[at(cell.nodes[j])]);
    }
  return joules;
}

double HeatStore::temperatureAt(UnknownId unknown, double joules, double near) const
{
  const std::size_t first = firstShare_[at(unknown)];
  const std::size_t last = firstShare_[at(unknown) + 1];
  if (first == last)
    return near;
  const auto excess = [&](double temperature) {
    double sum = -joules;
    for (std::size_t i = first; i < last; ++i)
      sum += shares_[i].amount * enthalpies_[at(shares_[i].enthalpy)].at(temperature);
    return sum;
  };
  if (last - first == 1)
    return enthalpies_[at(shares_[first].enthalpy)].temperatureAt(joules / shares_[first].amount, near);
  return rootOfRising(excess, near); // several materials meet: what they store together rises with the temperature
}

} // namespace kiln
