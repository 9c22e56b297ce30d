// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/HeatStore.h"

#include "heat/Fluid.h"
#include "heat/WireTerm.h"

#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

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
  const std::vector<double> volumes = meshedVolumes(mesh);
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
    density.push_back(material->density->si * part.volume / volumes[p]);
    store.enthalpies_.emplace_back(*material);
    store.melts_ = store.melts_ || store.enthalpies_.back().melts();
    store.constant_ = store.constant_ && store.enthalpies_.back().constant();
  }
  std::vector<std::map<Index, double>> mass(mesh.geometry.parts.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    for (const Index u : conditions.unknowns.ofTet[t])
      mass[at(mesh.tetPart[t])][u] += density[at(mesh.tetPart[t])] * tetVolume(mesh, t) / 4;
  if (auto added = store.addSheets(project, mesh, conditions); !added)
    return tl::unexpected(added.error());
  for (std::size_t p = 0; p < mass.size(); ++p)
    for (const auto& [u, kilograms] : mass[p])
      store.shares_.push_back({u, static_cast<std::int32_t>(p), static_cast<std::int32_t>(p), kilograms});
  for (std::size_t n = 0; n < project.nodes.size(); ++n) {
    const double capacity =
        capacityOf(project.nodes[n], project.environment.value_or(Environment{}), conditions.startTemperature);
    if (conditions.nodeUnknowns[n] < 0 || capacity <= 0)
      continue;
    store.enthalpies_.emplace_back(capacity);
    store.shares_.push_back({conditions.nodeUnknowns[n], static_cast<std::int32_t>(store.enthalpies_.size() - 1),
                             static_cast<std::int32_t>(mass.size() + n), 1});
  }
  store.owners_ = mass.size() + project.nodes.size();
  if (auto added = store.addWires(project, conditions); !added)
    return tl::unexpected(added.error());
  std::sort(store.shares_.begin(), store.shares_.end(),
            [](const Share& a, const Share& b) { return a.unknown < b.unknown; });
  return store;
}

/// What wires store belongs to none of the parts and nodes.
Expected<void> HeatStore::addWires(const Project& project, const Conditions& conditions)
{
  for (const Conditions::WireCells& wire : conditions.wires) {
    const Link& own = project.links[at(wire.link)];
    const Material* material = findById(project.materials, std::get<Wire>(own.exchange).material);
    if (material == nullptr || !material->density || !material->specificHeat)
      return failure(Failure::Kind::NotReady, "link " + own.name,
                     "The material of the wire has no density or specific heat, which a transient case needs.",
                     "Give the material both.");
    enthalpies_.emplace_back(*material);
    melts_ = melts_ || enthalpies_.back().melts();
    constant_ = constant_ && enthalpies_.back().constant();
    for (int cell = 0; cell < WireTerm::cells; ++cell)
      shares_.push_back({wire.first + cell, static_cast<std::int32_t>(enthalpies_.size() - 1),
                         static_cast<std::int32_t>(owners_), material->density->si * wire.volume});
    ++owners_;
  }
  return {};
}

/// Thin layers store with the part beneath them.
Expected<void> HeatStore::addSheets(const Project& project, const Mesh& mesh, const Conditions& conditions)
{
  for (const Conditions::FaceSheet& sheet : conditions.sheets) {
    const Boundary& own = project.boundaries[at(sheet.boundary)];
    const Material* material = findById(project.materials, std::get<Sheet>(own.condition).material);
    if (material == nullptr || !material->density || !material->specificHeat)
      return failure(Failure::Kind::NotReady, "sheet " + own.name,
                     "Its material has no density or specific heat, which a transient case needs.",
                     "Give the material both.");
    std::map<Index, double> mass;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      if (mesh.triangleFace[t] == sheet.face)
        for (const Index u : conditions.unknowns.ofTriangle[t][0])
          mass[u] += material->density->si * sheet.thickness * triangleArea(mesh, t) / 3;
    enthalpies_.emplace_back(*material);
    melts_ = melts_ || enthalpies_.back().melts();
    constant_ = constant_ && enthalpies_.back().constant();
    const int part = mesh.geometry.faces[at(sheet.face)].parts[0];
    for (const auto& [u, kilograms] : mass)
      shares_.push_back({u, static_cast<std::int32_t>(enthalpies_.size() - 1), part, kilograms});
  }
  return {};
}

std::vector<double> HeatStore::stored(std::span<const double> temperature) const
{
  std::vector<double> joules(unknowns_, 0.0);
  for (const Share& share : shares_)
    joules[at(share.unknown)] += share.amount * enthalpies_[at(share.enthalpy)].at(temperature[at(share.unknown)]);
  return joules;
}

std::vector<double> HeatStore::slope(std::span<const double> temperature) const
{
  std::vector<double> slopes(unknowns_, 0.0);
  for (const Share& share : shares_)
    slopes[at(share.unknown)] += share.amount * enthalpies_[at(share.enthalpy)].slopeAt(temperature[at(share.unknown)]);
  return slopes;
}

std::vector<double> HeatStore::storedByPart(std::span<const double> temperature) const
{
  std::vector<double> joules(owners_, 0.0);
  for (const Share& share : shares_)
    joules[at(share.owner)] += share.amount * enthalpies_[at(share.enthalpy)].at(temperature[at(share.unknown)]);
  return joules;
}

void HeatStore::stopAtBends(std::span<const double> temperature, std::span<double> update) const
{
  if (!melts_)
    return;
  constexpr double beyond = 1e-6; // K past the bend, so that the next slope is the one beyond it
  for (const Share& share : shares_) {
    const Enthalpy& enthalpy = enthalpies_[at(share.enthalpy)];
    if (!enthalpy.melts())
      continue;
    const double now = temperature[at(share.unknown)];
    double& step = update[at(share.unknown)];
    for (const double bend : {enthalpy.range().from, enthalpy.range().to}) {
      if (now < bend - beyond && now + step > bend)
        step = bend + beyond - now;
      else if (now > bend + beyond && now + step < bend)
        step = bend - beyond - now;
    }
  }
}

} // namespace kiln
