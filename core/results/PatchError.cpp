// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/PatchError.h"

#include <cmath>
#include <map>

namespace kiln
{

double patchErrorOf(const Mesh& mesh, const Conditions& conditions, const EnclosureExchange& exchange,
                    std::span<const double> temperature)
{
  const Eigen::VectorXd change = exchange.receivedByPairs(conditions.unknowns, temperature) -
                                 exchange.received(exchange.light(conditions.unknowns, temperature));
  std::map<PartId, double> byPart;
  for (std::size_t p = 0; p < exchange.patches().count(); ++p) {
    const Face& face = mesh.geometry.faces[static_cast<std::size_t>(exchange.patches().face[p])];
    byPart[face.parts[0]] += change[static_cast<Eigen::Index>(p)];
  }
  double most = 0;
  for (const auto& [part, watts] : byPart)
    most = std::max(most, std::abs(watts));
  return most;
}

} // namespace kiln
