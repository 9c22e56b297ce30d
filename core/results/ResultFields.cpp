// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/ResultFields.h"

#include "base/At.h"
#include "heat/Conditions.h"

#include "heat/elements/Conductivity.h"
#include "heat/elements/Enthalpy.h"
#include "heat/elements/RecoveredFlux.h"
#include "results/HeatAccount.h"
#include "results/PerfectContacts.h"

#include <algorithm>

namespace kiln
{
namespace
{

const Material* materialOf(const Project& project, const GeometryPart& part)
{
  const Part* own = findById(project.parts, part.id);
  return own != nullptr ? findById(project.materials, own->material) : nullptr;
}

/// Mean of what a part's elements around each unknown have, by volume.
template <class Value, class Size>
PartwiseField aroundUnknowns(const CaseResult& result, const std::vector<Value>& byTet, const Value& zero, Size&& size)
{
  std::unordered_map<std::uint64_t, std::pair<Value, double>> sums;
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
    const double own = tetVolume(result.mesh, t);
    for (const UnknownId unknown : result.unknowns.ofTet[t]) {
      const auto key = static_cast<std::uint64_t>(unknown) << 16U | static_cast<std::uint16_t>(result.mesh.tetPart[t]);
      auto& [sum, volume] = sums.try_emplace(key, zero, 0.0).first->second;
      sum += own * byTet[t];
      volume += own;
    }
  }
  PartwiseField field(at(result.unknowns.count));
  for (const auto& [key, sum] : sums)
    field.set(UnknownId(key >> 16U), PartId(key & 0xffffU), size(sum.first / sum.second));
  return field;
}

PartwiseField moltenShares(const Project& project, const CaseResult& result, std::span<const double> temperature)
{
  PartwiseField share(at(result.unknowns.count));
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
    const PartId part = result.mesh.tetPart[t];
    const Material* material = materialOf(project, result.mesh.geometry.parts[at(part)]);
    const bool melts = material != nullptr && material->latentHeat;
    for (const UnknownId unknown : result.unknowns.ofTet[t])
      share.set(unknown, part, melts ? moltenShare(*material, temperature[at(unknown)]) : 0);
  }
  return share;
}

/// Conditions as far as conduction asks.
Conditions conduction(const Project& project, const CaseResult& result)
{
  Conditions conditions;
  conditions.unknowns = result.unknowns;
  for (const GeometryPart& part : result.mesh.geometry.parts) {
    const Material* material = materialOf(project, part);
    if (material != nullptr)
      conditions.conductivity.emplace_back(*material, *findById(project.parts, part.id));
    else
      conditions.conductivity.emplace_back(0.0);
  }
  return conditions;
}

/// −∇T by tet, K/m: what heat would flow where every conductivity is 1.
std::vector<Vec3> gradients(const CaseResult& result, std::span<const double> temperature)
{
  Conditions conditions;
  conditions.unknowns = result.unknowns;
  conditions.conductivity.assign(result.mesh.geometry.parts.size(), Conductivity(1.0));
  return heatFlux(result.mesh, conditions, temperature);
}

/// Components along the axes of each part's material.
void turnToMaterial(const Project& project, const CaseResult& result, std::vector<Vec3>& byTet)
{
  const Conditions conditions = conduction(project, result);
  for (std::size_t t = 0; t < byTet.size(); ++t)
    byTet[t] = conditions.conductivity[at(result.mesh.tetPart[t])].axes().transpose() * byTet[t];
}

Eigen::Index axisOf(Shown component) { return component == Shown::FluxX ? 0 : component == Shown::FluxY ? 1 : 2; }

} // namespace

bool isSolutionField(Shown shown)
{
  switch (shown) {
  case Shown::HeatFlux:
  case Shown::FluxError:
  case Shown::MoltenShare:
  case Shown::FluxX:
  case Shown::FluxY:
  case Shown::FluxZ:
  case Shown::Gradient:
    return true;
  default:
    return false;
  }
}

std::vector<Vec3> elementFlux(const Project& project, const CaseResult& result, std::span<const double> temperature)
{
  return heatFlux(result.mesh, conduction(project, result), temperature);
}

void PartwiseField::set(UnknownId unknown, PartId part, double value)
{
  PartId& first = part_[kiln::at(unknown)];
  if (first == noPart)
    first = part;
  if (first == part)
    value_[kiln::at(unknown)] = value;
  else
    others_[key(unknown, part)] = value;
}

double PartwiseField::at(UnknownId unknown, PartId part) const
{
  if (part_[kiln::at(unknown)] != part)
    if (const auto found = others_.find(key(unknown, part)); found != others_.end())
      return found->second;
  return value_[kiln::at(unknown)];
}

PartwiseField fieldValues(const Project& project, const CaseResult& result, std::span<const double> temperature,
                          Shown field, bool ownAxes)
{
  if (field == Shown::MoltenShare)
    return moltenShares(project, result, temperature);
  const auto size = [](const Vec3& value) { return value.norm(); };
  if (field == Shown::Gradient)
    return aroundUnknowns<Vec3>(result, gradients(result, temperature), Vec3::Zero(), size);
  std::vector<Vec3> flux = elementFlux(project, result, temperature);
  if (field == Shown::FluxError)
    return aroundUnknowns(result, fluxError(result.mesh, result.unknowns, flux).tet, 0.0,
                          [](double value) { return value; });
  if (field == Shown::HeatFlux)
    return aroundUnknowns<Vec3>(result, flux, Vec3::Zero(), size);
  if (ownAxes)
    turnToMaterial(project, result, flux);
  return aroundUnknowns<Vec3>(result, flux, Vec3::Zero(),
                              [along = axisOf(field)](const Vec3& value) { return value[along]; });
}

std::vector<double> elementValues(const Project& project, const CaseResult& result, std::span<const double> temperature,
                                  Shown field, bool ownAxes)
{
  std::vector<Vec3> vectors;
  const bool component = field == Shown::FluxX || field == Shown::FluxY || field == Shown::FluxZ;
  if (field == Shown::Gradient)
    vectors = gradients(result, temperature);
  else if (component || field == Shown::HeatFlux || field == Shown::ElementFlux)
    vectors = elementFlux(project, result, temperature);
  if (component && ownAxes)
    turnToMaterial(project, result, vectors);
  std::vector<double> values;
  values.reserve(vectors.size());
  for (const Vec3& value : vectors)
    values.push_back(component ? value[axisOf(field)] : value.norm());
  return values;
}

} // namespace kiln
