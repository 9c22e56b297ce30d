// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/UnstoredParts.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{

std::vector<std::string> fillUnstored(const RunRecord& record, const Mesh& mesh, const Unknowns& unknowns, double time,
                                      std::vector<double>& field)
{
  const auto unknown = [](double kelvin) { return std::isnan(kelvin); };
  if (std::none_of(field.begin(), field.end(), unknown))
    return {};
  std::set<PartId> filled;
  std::vector<double> mean;
  for (const GeometryPart& part : mesh.geometry.parts)
    mean.push_back(record.at(RunTrace::Kind::Mean, part.id, time).value_or(0));
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    for (const UnknownId u : unknowns.ofTet[t])
      if (double& kelvin = field[static_cast<std::size_t>(u)]; unknown(kelvin)) {
        kelvin = mean[static_cast<std::size_t>(mesh.tetPart[t])];
        filled.insert(mesh.tetPart[t]);
      }
  std::vector<std::string> names;
  for (const PartId part : filled)
    names.push_back(mesh.geometry.parts[static_cast<std::size_t>(part)].name);
  return names;
}

} // namespace kiln
