// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/PartMeshes.h"

#include "base/At.h"
#include "mesh/SecondOrder.h"

#include <algorithm>
#include <bit>

namespace kiln
{
namespace
{

NodeTriangle sorted(NodeTriangle corners)
{
  std::sort(corners.begin(), corners.end());
  return corners;
}

} // namespace

std::size_t PartMeshes::PlaceHash::operator()(const std::array<double, 3>& place) const
{
  std::uint64_t hash = 1469598103934665603ULL; // FNV-1a over the words
  for (const double value : place)
    hash = (hash ^ std::bit_cast<std::uint64_t>(value)) * 1099511628211ULL ^ (hash >> 29U);
  return hash;
}

PartMeshes::PartMeshes(const Mesh& before) : before_(before)
{
  const std::size_t tetPieceCount = tetPieces(before.order);
  for (std::size_t e = 0; e < tetElements(before); ++e) {
    Tet corners = before.tets[tetPieceCount * e];
    for (std::size_t i = 0; before.order == 2 && i < 4; ++i)
      corners[i] = before.tets[tetPieceCount * e + i][i];
    tetsOf_[before.geometry.parts[at(before.tetPart[tetPieceCount * e])].id].push_back(tets_.size());
    tets_.push_back(corners);
  }
  const std::size_t trianglePieceCount = trianglePieces(before.order);
  for (std::size_t e = 0; e < triangleElements(before); ++e) {
    NodeTriangle corners = before.triangles[trianglePieceCount * e];
    for (std::size_t i = 0; before.order == 2 && i < 3; ++i)
      corners[i] = before.triangles[trianglePieceCount * e + i][i];
    for (const NodeId node : corners)
      nodeAt_.emplace(keyOf(before.nodes[at(node)]), node);
    for (const PartId part : before.geometry.faces[at(before.triangleFace[trianglePieceCount * e])].parts)
      if (part != noPart)
        skinOf_[before.geometry.parts[at(part)].id].push_back(sorted(corners));
  }
  for (auto& [part, skin] : skinOf_)
    std::sort(skin.begin(), skin.end());
}

std::optional<PartMesh> PartMeshes::find(const std::string& part, const SurfaceMesh& skin,
                                         const std::vector<std::size_t>& triangles) const
{
  const auto known = skinOf_.find(part);
  if (known == skinOf_.end() || known->second.size() != triangles.size() || !tetsOf_.contains(part))
    return std::nullopt;
  std::vector<NodeTriangle> own;
  std::unordered_map<NodeId, std::int32_t> nodes; // of the earlier mesh: here
  for (const std::size_t t : triangles) {
    NodeTriangle corners{};
    for (std::size_t i = 0; i < 3; ++i) {
      const int here = skin.triangles[t][i];
      const auto found = nodeAt_.find(keyOf(skin.nodes[at(here)]));
      if (found == nodeAt_.end())
        return std::nullopt;
      corners[i] = found->second;
      nodes[found->second] = here;
    }
    own.push_back(sorted(corners));
  }
  std::sort(own.begin(), own.end());
  if (own != known->second)
    return std::nullopt;
  PartMesh mesh;
  const auto first = static_cast<std::int32_t>(skin.nodes.size());
  for (const std::size_t t : tetsOf_.at(part)) {
    PartMesh::Corners made{};
    for (std::size_t i = 0; i < made.size(); ++i) {
      const NodeId node = tets_[t][i];
      const auto [place, isNew] = nodes.try_emplace(node, first + static_cast<std::int32_t>(mesh.inner.size()));
      if (isNew)
        mesh.inner.push_back(before_.nodes[at(node)]);
      made[i] = place->second;
    }
    mesh.tets.push_back(made);
  }
  return mesh;
}

} // namespace kiln
