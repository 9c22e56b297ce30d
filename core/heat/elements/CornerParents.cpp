// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/CornerParents.h"

#include "base/At.h"
#include "heat/elements/Element.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/elements/VolumeElement.h"

namespace kiln
{
namespace
{

template <class Nodes, class Edges>
void addMids(const Nodes& nodes, std::size_t corners, const Edges& edges, CornerParents& parents)
{
  for (std::size_t e = 0; e < edges.size(); ++e)
    if (const UnknownId mid = nodes.own[corners + e]; mid >= 0)
      parents[at(mid)] = {nodes.own[at(edges[e][0])], nodes.own[at(edges[e][1])]};
}

template <class Nodes>
void addCorners(const Nodes& nodes, std::size_t corners, CornerParents& parents)
{
  for (std::size_t c = 0; c < corners; ++c)
    if (const UnknownId own = nodes.own[c]; own >= 0)
      parents[at(own)] = {own, own};
}

} // namespace

/// In a section an unknown may be the corner of one element and halfway in another: it is a corner then.
CornerParents cornerParents(const Mesh& mesh, const Unknowns& unknowns)
{
  if (mesh.order != 2)
    return {};
  CornerParents parents;
  for (UnknownId own(0); own < unknowns.count; ++own)
    parents.push_back({own, own});
  const auto eachElement = [&](auto&& inVolume, auto&& onSurface) {
    for (std::size_t e = 0; e < tetElements(mesh); ++e)
      inVolume(volumeNodes(mesh, unknowns, e));
    for (std::size_t e = 0; e < triangleElements(mesh); ++e)
      for (std::size_t side = 0; side < 2; ++side)
        onSurface(nodesOf(mesh, unknowns, e, side));
  };
  constexpr std::size_t ofTet = 4, ofTriangle = 3;
  eachElement([&](const VolumeNodes& nodes) { addMids(nodes, ofTet, tetEdges, parents); },
              [&](const SurfaceNodes& nodes) { addMids(nodes, ofTriangle, triangleEdges, parents); });
  eachElement([&](const VolumeNodes& nodes) { addCorners(nodes, ofTet, parents); },
              [&](const SurfaceNodes& nodes) { addCorners(nodes, ofTriangle, parents); });
  return parents;
}

} // namespace kiln
