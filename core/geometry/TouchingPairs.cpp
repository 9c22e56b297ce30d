// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TouchingPairs.h"

#include <algorithm>
#include <limits>
#include <map>

namespace kiln
{
namespace
{

struct ConductanceOf {
  double area;

  double operator()(const PerfectContact&) const { return std::numeric_limits<double>::infinity(); }
  double operator()(const NoContact&) const { return 0; }
  double operator()(const AreaConductance& c) const { return c.conductance.si; }
  double operator()(const AreaResistance& r) const { return 1 / r.resistance.si; }
  double operator()(const TotalResistance& r) const { return 1 / (r.resistance.si * area); }
  double operator()(const Gap& g) const { return g.conductivity.si / g.thickness.si; } // radiation comes on top
};

} // namespace

std::vector<TouchingPair> touchingPairs(const FaceTable& geometry)
{
  std::map<std::pair<int, int>, TouchingPair> pairs;
  for (std::size_t f = 0; f < geometry.faces.size(); ++f) {
    const Face& face = geometry.faces[f];
    if (!face.contact())
      continue;
    const auto [a, b] = std::minmax(face.parts[0], face.parts[1]);
    TouchingPair& pair = pairs[{a, b}];
    pair.partA = a;
    pair.partB = b;
    pair.faces.push_back(static_cast<int>(f));
    pair.area += face.area;
  }
  std::vector<TouchingPair> list;
  for (auto& [key, pair] : pairs)
    list.push_back(std::move(pair));
  return list;
}

bool touch(const FaceTable& geometry, int partA, int partB)
{
  return std::any_of(geometry.faces.begin(), geometry.faces.end(),
                     [&](const Face& face) { return face.contact() && face.touches(partA) && face.touches(partB); });
}

double contactConductance(const Project& project, const FaceTable& geometry, const TouchingPair& pair)
{
  const Contact* contact = findContact(project, geometry.parts[static_cast<std::size_t>(pair.partA)].id,
                                       geometry.parts[static_cast<std::size_t>(pair.partB)].id);
  if (contact == nullptr)
    return std::numeric_limits<double>::infinity();
  return std::visit(ConductanceOf{pair.area}, contact->exchange);
}

} // namespace kiln
