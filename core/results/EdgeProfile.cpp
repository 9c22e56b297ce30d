// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/EdgeProfile.h"

#include "base/At.h"

#include <algorithm>
#include <map>
#include <set>

namespace kiln
{
namespace
{

using MeshEdge = std::pair<NodeId, NodeId>; // the smaller node first

MeshEdge sideOf(const NodeTriangle& corners, std::size_t side)
{
  return std::minmax(corners[side], corners[(side + 1) % 3]);
}

std::vector<char> facesNamed(const Mesh& mesh, const std::string& name)
{
  std::vector<char> named;
  for (const Face& face : mesh.geometry.faces)
    named.push_back(std::find(face.names.begin(), face.names.end(), name) != face.names.end() ? 1 : 0);
  return named;
}

/// Edges of the mesh between triangles of two sets of faces.
std::vector<MeshEdge> sharedEdges(const Mesh& mesh, const std::vector<char>& first, const std::vector<char>& second)
{
  std::set<MeshEdge> ofFirst;
  std::set<MeshEdge> shared;
  for (const bool gather : {true, false})
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const std::size_t face = at(mesh.triangleFace[t]);
      for (std::size_t side = 0; side < 3; ++side) {
        const MeshEdge edge = sideOf(mesh.triangles[t], side);
        if (gather && first[face] != 0)
          ofFirst.insert(edge);
        else if (!gather && second[face] != 0 && ofFirst.contains(edge))
          shared.insert(edge);
      }
    }
  return {shared.begin(), shared.end()};
}

double distanceTo(const Mesh& mesh, const MeshEdge& edge, const Vec3& place)
{
  const Vec3& a = mesh.nodes[at(edge.first)];
  const Vec3 along = mesh.nodes[at(edge.second)] - a;
  const double share = std::clamp((place - a).dot(along) / along.squaredNorm(), 0.0, 1.0);
  return (place - a - share * along).norm();
}

/// Edges as chains of nodes: from a loose end to the other, or around.
std::vector<std::vector<NodeId>> chainsOf(const std::vector<MeshEdge>& edges)
{
  std::map<NodeId, std::set<NodeId>> beside;
  for (const auto& [a, b] : edges) {
    beside[a].insert(b);
    beside[b].insert(a);
  }
  std::vector<std::vector<NodeId>> chains;
  const auto follow = [&](NodeId start) {
    std::vector<NodeId> chain{start};
    while (!beside[chain.back()].empty()) {
      const NodeId next = *beside[chain.back()].begin();
      beside[chain.back()].erase(next);
      beside[next].erase(chain.back());
      chain.push_back(next);
    }
    if (chain.size() > 1)
      chains.push_back(std::move(chain));
  };
  std::vector<NodeId> ends;
  for (const auto& [node, neighbours] : beside)
    if (neighbours.size() != 2)
      ends.push_back(node);
  for (const NodeId node : ends)
    follow(node);
  for (const auto& [node, neighbours] : beside)
    if (!neighbours.empty())
      follow(node);
  return chains;
}

double nearness(const Mesh& mesh, const std::vector<NodeId>& chain, const Vec3& place)
{
  double nearest = 1e300;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i)
    nearest = std::min(nearest, distanceTo(mesh, {chain[i], chain[i + 1]}, place));
  return nearest;
}

} // namespace

std::vector<std::string> edgeNear(const Mesh& mesh, FaceId face, const Vec3& place)
{
  const FaceId own = face;
  std::map<MeshEdge, int> ofOwn; // how many of the face's triangles have it
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    for (std::size_t side = 0; side < 3; ++side)
      if (mesh.triangleFace[t] == own)
        ++ofOwn[sideOf(mesh.triangles[t], side)];
  double nearest = 1e300;
  FaceId other;
  const PartId part = mesh.geometry.faces[at(own)].parts[0];
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const FaceId beside = mesh.triangleFace[t];
    if (beside == own || !mesh.geometry.faces[at(beside)].touches(part))
      continue;
    for (std::size_t side = 0; side < 3; ++side) {
      const MeshEdge edge = sideOf(mesh.triangles[t], side);
      if (!ofOwn.contains(edge))
        continue;
      if (const double distance = distanceTo(mesh, edge, place); distance < nearest) {
        nearest = distance;
        other = beside;
      }
    }
  }
  if (other < 0 || mesh.geometry.faces[at(own)].names.empty() || mesh.geometry.faces[at(other)].names.empty())
    return {};
  return {mesh.geometry.faces[at(own)].names.front(), mesh.geometry.faces[at(other)].names.front()};
}

std::vector<NodeId> edgePath(const Mesh& mesh, const std::vector<std::string>& faces, const Vec3& from)
{
  if (faces.size() != 2)
    return {};
  std::vector<NodeId> best;
  double nearest = 1e300;
  for (auto& chain : chainsOf(sharedEdges(mesh, facesNamed(mesh, faces[0]), facesNamed(mesh, faces[1]))))
    if (const double distance = nearness(mesh, chain, from); distance < nearest) {
      nearest = distance;
      best = std::move(chain);
    }
  if (best.empty())
    return best;
  const auto away = [&](NodeId node) { return (mesh.nodes[at(node)] - from).norm(); };
  if (best.front() != best.back()) {
    if (away(best.back()) < away(best.front()))
      std::reverse(best.begin(), best.end());
    return best;
  }
  best.pop_back();
  const auto start = std::min_element(best.begin(), best.end(), [&](auto a, auto b) { return away(a) < away(b); });
  std::rotate(best.begin(), start, best.end());
  best.push_back(best.front());
  return best;
}

std::vector<LinePiece> edgeProfile(const Mesh& mesh, const Unknowns& unknowns, std::span<const double> temperature,
                                   std::span<const Vec3> flux, const std::vector<std::string>& faces,
                                   const std::vector<NodeId>& path)
{
  // Of every edge of the first face: the side of a triangle there that belongs to its part.
  struct Side {
    std::size_t triangle, side;
  };
  std::map<MeshEdge, Side> sides;
  const std::vector<char> named = facesNamed(mesh, faces.front());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = mesh.geometry.faces[at(mesh.triangleFace[t])];
    if (named[at(mesh.triangleFace[t])] == 0)
      continue;
    const bool second =
        face.parts[1] != noPart && faces.front().starts_with(mesh.geometry.parts[at(face.parts[1])].id + ".");
    for (std::size_t side = 0; side < 3; ++side)
      sides[sideOf(mesh.triangles[t], side)] = {t, second ? 1U : 0U};
  }
  std::vector<LinePiece> pieces;
  double done = 0;
  for (std::size_t i = 0; i + 1 < path.size(); ++i) {
    const auto found = sides.find(std::minmax(path[i], path[i + 1]));
    if (found == sides.end())
      continue;
    const auto& [triangle, side] = found->second;
    const auto valueAt = [&, t = triangle, s = side](NodeId node) {
      const NodeTriangle& corners = mesh.triangles[t];
      const auto corner = static_cast<std::size_t>(std::find(corners.begin(), corners.end(), node) - corners.begin());
      return temperature[at(unknowns.ofTriangle[t][s][corner])];
    };
    const Vec3 along = mesh.nodes[at(path[i + 1])] - mesh.nodes[at(path[i])];
    const std::int32_t tet = mesh.triangleTets[triangle][side];
    LinePiece piece;
    piece.from = done;
    piece.to = done += along.norm();
    piece.temperatureFrom = valueAt(path[i]);
    piece.temperatureTo = valueAt(path[i + 1]);
    piece.flux = flux.empty() || tet < 0 ? 0 : flux[at(tet)].dot(along.normalized());
    piece.part = mesh.geometry.faces[at(mesh.triangleFace[triangle])].parts[side];
    pieces.push_back(piece);
  }
  return pieces;
}

} // namespace kiln
