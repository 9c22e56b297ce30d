// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SnapPlaces.h"

#include "base/At.h"
#include "mesh/RoundEdge.h"

#include <algorithm>
#include <map>
#include <set>

namespace kiln
{
namespace
{

using MeshEdge = std::pair<NodeId, NodeId>; // the smaller node first
using Chain = std::vector<NodeId>;

/// Edges of the mesh where faces meet, as chains of nodes that the same faces share.
std::vector<Chain> edgesOf(const Mesh& mesh, std::set<NodeId>& corners)
{
  std::map<MeshEdge, std::set<FaceId>> faces;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    for (std::size_t i = 0; i < 3; ++i)
      faces[std::minmax(mesh.triangles[t][i], mesh.triangles[t][(i + 1) % 3])].insert(mesh.triangleFace[t]);
  std::map<std::set<FaceId>, std::map<NodeId, std::set<NodeId>>> beside; // by the faces that meet
  std::map<NodeId, int> ends;
  for (const auto& [edge, own] : faces)
    if (own.size() > 1) {
      beside[own][edge.first].insert(edge.second);
      beside[own][edge.second].insert(edge.first);
    }
  std::vector<Chain> chains;
  for (auto& [own, next] : beside) {
    const auto follow = [&next = next](NodeId start) {
      Chain chain{start};
      while (!next[chain.back()].empty()) {
        const NodeId to = *next[chain.back()].begin();
        next[chain.back()].erase(to);
        next[to].erase(chain.back());
        chain.push_back(to);
      }
      return chain;
    };
    std::vector<NodeId> loose;
    for (const auto& [node, others] : next)
      if (others.size() != 2)
        loose.push_back(node);
    corners.insert(loose.begin(), loose.end());
    for (const NodeId node : loose)
      while (!next[node].empty())
        chains.push_back(follow(node));
    for (const auto& [node, others] : std::map(next)) // closed ones
      if (!next[node].empty())
        chains.push_back(follow(node));
  }
  return chains;
}

Vec3 middleOf(const Mesh& mesh, const Chain& chain)
{
  double whole = 0;
  for (std::size_t i = 1; i < chain.size(); ++i)
    whole += (mesh.placeOf(chain[i]) - mesh.placeOf(chain[i - 1])).norm();
  double left = whole / 2;
  for (std::size_t i = 1; i < chain.size(); ++i) {
    const Vec3 from = mesh.placeOf(chain[i - 1]);
    const Vec3 step = mesh.placeOf(chain[i]) - from;
    if (step.norm() >= left && step.norm() > 0)
      return from + left / step.norm() * step;
    left -= step.norm();
  }
  return mesh.placeOf(chain.front());
}

} // namespace

std::vector<SnapPlace> snapPlaces(const Mesh& mesh)
{
  std::vector<SnapPlace> places;
  std::set<NodeId> corners;
  for (const Chain& chain : edgesOf(mesh, corners)) {
    if (chain.front() != chain.back())
      places.push_back({SnapPlace::Kind::EdgeMiddle, middleOf(mesh, chain)});
    std::vector<Vec3> nodes;
    for (const NodeId node : chain)
      nodes.push_back(mesh.placeOf(node));
    if (const auto round = circleOf(nodes))
      places.push_back({SnapPlace::Kind::ArcCentre, round->centre});
  }
  for (const NodeId node : corners)
    places.push_back({SnapPlace::Kind::Corner, mesh.placeOf(node)});
  std::vector<Vec3> sum(mesh.geometry.faces.size(), Vec3::Zero());
  std::vector<double> area(sum.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const NodeTriangle& own = mesh.triangles[t];
    const double size = triangleArea(mesh, t);
    sum[at(mesh.triangleFace[t])] += size * (mesh.placeOf(own[0]) + mesh.placeOf(own[1]) + mesh.placeOf(own[2])) / 3;
    area[at(mesh.triangleFace[t])] += size;
  }
  for (std::size_t f = 0; f < sum.size(); ++f)
    if (area[f] > 0 && !mesh.geometry.faces[f].aside)
      places.push_back({SnapPlace::Kind::FaceMiddle, sum[f] / area[f]});
  return places;
}

std::vector<std::array<NodeId, 2>> borderSides(const Mesh& mesh, FaceId face)
{
  std::map<MeshEdge, int> times;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    for (std::size_t i = 0; mesh.triangleFace[t] == face && i < 3; ++i)
      ++times[std::minmax(mesh.triangles[t][i], mesh.triangles[t][(i + 1) % 3])];
  std::vector<std::array<NodeId, 2>> sides;
  for (const auto& [edge, count] : times)
    if (count == 1)
      sides.push_back({edge.first, edge.second});
  return sides;
}

namespace
{

/// Border of a face, as neighbours of each node.
std::map<NodeId, std::vector<NodeId>> borderOf(const Mesh& mesh, FaceId face)
{
  std::map<NodeId, std::vector<NodeId>> next;
  for (const auto& [a, b] : borderSides(mesh, face)) {
    next[a].push_back(b);
    next[b].push_back(a);
  }
  return next;
}

/// Does the border turn by more than what an arc of a draft turns from piece to piece?
bool isCorner(const Mesh& mesh, NodeId node, const std::vector<NodeId>& beside)
{
  if (beside.size() != 2)
    return true;
  const Vec3 here = mesh.placeOf(node);
  const Vec3 a = (here - mesh.placeOf(beside[0])).normalized();
  const Vec3 b = (mesh.placeOf(beside[1]) - here).normalized();
  constexpr double straight = 0.87; // cos 30°
  return a.dot(b) < straight;
}

} // namespace

std::vector<SnapPlace> snapPlacesOn(const Mesh& mesh, FaceId face)
{
  std::vector<SnapPlace> places;
  std::map<NodeId, std::vector<NodeId>> next = borderOf(mesh, face);
  std::set<NodeId> corners;
  for (const auto& [node, beside] : next)
    if (isCorner(mesh, node, beside)) {
      corners.insert(node);
      places.push_back({SnapPlace::Kind::Corner, mesh.placeOf(node)});
    }
  const auto take = [&](NodeId from, NodeId to) {
    std::erase(next[from], to);
    std::erase(next[to], from);
  };
  const auto follow = [&](NodeId start) { // to the next corner, or around
    Chain chain{start};
    while (!next[chain.back()].empty()) {
      const NodeId to = next[chain.back()].front();
      take(chain.back(), to);
      chain.push_back(to);
      if (corners.contains(to))
        break;
    }
    std::vector<Vec3> nodes;
    for (const NodeId node : chain)
      nodes.push_back(mesh.placeOf(node));
    if (const auto round = circleOf(nodes))
      places.push_back({SnapPlace::Kind::ArcCentre, round->centre});
    else if (chain.front() != chain.back())
      places.push_back({SnapPlace::Kind::EdgeMiddle, middleOf(mesh, chain)});
  };
  for (const NodeId corner : corners)
    while (!next[corner].empty())
      follow(corner);
  for (const auto& [node, beside] : std::map(next))
    if (!next[node].empty())
      follow(node);
  places.push_back({SnapPlace::Kind::FaceMiddle, mesh.geometry.faces[at(face)].centroid});
  return places;
}

std::optional<SnapPlace> nearestOf(const std::vector<SnapPlace>& places, const Vec3& place)
{
  const auto nearest = std::min_element(places.begin(), places.end(), [&](const SnapPlace& a, const SnapPlace& b) {
    return (a.place - place).squaredNorm() < (b.place - place).squaredNorm();
  });
  return nearest != places.end() ? std::optional(*nearest) : std::nullopt;
}

} // namespace kiln
