// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/ResultFields.h"

#include "heat/Conductivity.h"
#include "heat/Enthalpy.h"
#include "results/HeatAccount.h"
#include "results/RecoveredFlux.h"

#include <algorithm>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

const Material* materialOf(const Project& project, const GeometryPart& part)
{
  const Part* own = findById(project.parts, part.id);
  return own != nullptr ? findById(project.materials, own->material) : nullptr;
}

/// Mean of what the elements around each unknown have, by volume.
template <class Value>
std::vector<Value> aroundUnknowns(const CaseResult& result, const std::vector<Value>& byTet, const Value& zero)
{
  std::vector<Value> sum(at(result.unknowns.count), zero);
  std::vector<double> volume(sum.size(), 0.0);
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
    const double own = tetVolume(result.mesh, t);
    for (const Index unknown : result.unknowns.ofTet[t]) {
      sum[at(unknown)] += own * byTet[t];
      volume[at(unknown)] += own;
    }
  }
  for (std::size_t u = 0; u < sum.size(); ++u)
    if (volume[u] > 0)
      sum[u] /= volume[u];
  return sum;
}

std::vector<double> moltenShares(const Project& project, const CaseResult& result, std::span<const double> temperature)
{
  std::vector<double> share(at(result.unknowns.count), 0.0);
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
    const Material* material = materialOf(project, result.mesh.geometry.parts[at(result.mesh.tetPart[t])]);
    if (material == nullptr || !material->latentHeat)
      continue;
    for (const Index unknown : result.unknowns.ofTet[t])
      share[at(unknown)] = std::max(share[at(unknown)], moltenShare(*material, temperature[at(unknown)]));
  }
  return share;
}

} // namespace

std::vector<Vec3> elementFlux(const Project& project, const CaseResult& result, std::span<const double> temperature)
{
  Conditions conditions; // as far as conduction asks
  conditions.unknowns = result.unknowns;
  for (const GeometryPart& part : result.mesh.geometry.parts) {
    const Material* material = materialOf(project, part);
    if (material != nullptr)
      conditions.conductivity.emplace_back(*material, *findById(project.parts, part.id));
    else
      conditions.conductivity.emplace_back(0.0);
  }
  return heatFlux(result.mesh, conditions, temperature);
}

std::vector<double> fieldValues(const Project& project, const CaseResult& result, std::span<const double> temperature,
                                ResultField field)
{
  if (field == ResultField::MoltenShare)
    return moltenShares(project, result, temperature);
  const std::vector<Vec3> flux = elementFlux(project, result, temperature);
  if (field == ResultField::FluxError)
    return aroundUnknowns(result, fluxError(result.mesh, result.unknowns, flux).tet, 0.0);
  std::vector<double> values;
  for (const Vec3& own : aroundUnknowns<Vec3>(result, flux, Vec3::Zero()))
    values.push_back(own.norm());
  return values;
}

} // namespace kiln
