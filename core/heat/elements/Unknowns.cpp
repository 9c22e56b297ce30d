// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Unknowns.h"

#include "base/InParallel.h"
#include "base/Joining.h"

#include <algorithm>

namespace kiln
{
namespace
{

using NodePart = std::uint64_t; // node in the high half, part in the low half

NodePart nodePart(NodeId node, PartId part)
{
  return static_cast<NodePart>(static_cast<std::uint32_t>(node)) << 32U | static_cast<NodePart>(part);
}

/// Does a sheet with a temperature of its own lie on the face?
bool carriesSheet(const Mesh& mesh, const std::vector<bool>& jump, std::size_t face)
{
  return jump[face] && mesh.geometry.faces[face].exposed();
}

/// Sheets with temperatures of their own count as one more part.
std::vector<NodePart> nodePartsOf(const Mesh& mesh, const std::vector<bool>& jump)
{
  std::vector<NodePart> pairs;
  pairs.reserve(mesh.tets.size() * 4);
  const PartId sheets(mesh.geometry.parts.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    if (carriesSheet(mesh, jump, static_cast<std::size_t>(mesh.triangleFace[t])))
      for (const NodeId node : mesh.triangles[t])
        pairs.push_back(nodePart(node, sheets));
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    for (const NodeId node : mesh.tets[t])
      pairs.push_back(nodePart(node, mesh.tetPart[t]));
  std::sort(pairs.begin(), pairs.end());
  pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
  return pairs;
}

} // namespace

namespace
{

Unknowns unknownsOfFaces(const Mesh& mesh)
{
  Unknowns unknowns;
  unknowns.count = static_cast<Index>(mesh.nodes.size());
  for (Index i = 0; i < unknowns.count; ++i)
    unknowns.node.emplace_back(i);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const NodeTriangle& corners = mesh.triangles[t];
    const bool two = mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])].parts[1] != noPart;
    const std::array<UnknownId, 3> own{UnknownId(std::int32_t(corners[0])), UnknownId(std::int32_t(corners[1])),
                                       UnknownId(std::int32_t(corners[2]))}; // one a node
    unknowns.ofTriangle.push_back({own, two ? own : std::array<UnknownId, 3>{}});
  }
  return unknowns;
}

} // namespace

Unknowns numberUnknowns(const Mesh& mesh, const std::vector<bool>& jump)
{
  if (mesh.tets.empty())
    return unknownsOfFaces(mesh);
  const std::vector<NodePart> pairs = nodePartsOf(mesh, jump);
  std::vector<std::size_t> firstOf(mesh.nodes.size() + 1, 0); // pair of every node
  for (const NodePart pair : pairs)
    ++firstOf[static_cast<std::size_t>(pair >> 32U) + 1];
  for (std::size_t n = 0; n < mesh.nodes.size(); ++n)
    firstOf[n + 1] += firstOf[n];
  const auto indexOf = [&](NodeId node, PartId part) {
    std::size_t index = firstOf[static_cast<std::size_t>(node)];
    while (pairs[index] != nodePart(node, part)) // few parts meet at a node
      ++index;
    return index;
  };
  Joining joined(pairs.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const auto f = static_cast<std::size_t>(mesh.triangleFace[t]);
    const Face& face = mesh.geometry.faces[f];
    if (face.contact() && !jump[f])
      for (const NodeId node : mesh.triangles[t])
        joined.join(indexOf(node, face.parts[0]), indexOf(node, face.parts[1]));
  }
  if (!mesh.column.empty()) // the two sides of a section share their temperatures
    for (std::size_t i = 0; i < pairs.size(); ++i) {
      const NodeId node(pairs[i] >> 32U);
      joined.join(i,
                  indexOf(mesh.column[static_cast<std::size_t>(node)], PartId(static_cast<std::uint32_t>(pairs[i]))));
    }
  Unknowns unknowns;
  std::vector<UnknownId> number(pairs.size());
  for (std::size_t i = 0; i < pairs.size(); ++i) {
    UnknownId& mine = number[joined.find(i)]; // the representative comes first, so order follows the nodes
    if (mine < 0) {
      mine = UnknownId(unknowns.count++);
      unknowns.node.emplace_back(pairs[i] >> 32U);
    }
    number[i] = mine;
  }
  unknowns.ofTet.resize(mesh.tets.size());
  constexpr std::size_t block = 65536;
  inBlocks(mesh.tets.size(), block, [&](std::size_t first, std::size_t end) {
    for (std::size_t t = first; t < end; ++t)
      for (std::size_t i = 0; i < 4; ++i)
        unknowns.ofTet[t][i] = number[indexOf(mesh.tets[t][i], mesh.tetPart[t])];
  });
  unknowns.ofTriangle.reserve(mesh.triangles.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    auto& own = unknowns.ofTriangle.emplace_back();
    const auto face = static_cast<std::size_t>(mesh.triangleFace[t]);
    std::array<PartId, 2> parts = mesh.geometry.faces[face].parts;
    if (carriesSheet(mesh, jump, face))
      parts = {PartId(mesh.geometry.parts.size()), parts[0]};
    for (std::size_t side = 0; side < 2; ++side) {
      const PartId part = parts[side];
      for (std::size_t i = 0; i < 3; ++i)
        own[side][i] = part == noPart ? noUnknown : number[indexOf(mesh.triangles[t][i], part)];
    }
  }
  return unknowns;
}

} // namespace kiln
