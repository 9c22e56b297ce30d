// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/RoundEdge.h"

#include "base/At.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace kiln
{
namespace
{

/// The circle through three places; nothing where they lie in a line.
std::optional<RoundEdge> circleThrough(const Vec3& a, const Vec3& b, const Vec3& c)
{
  const Vec3 u = b - a;
  const Vec3 v = c - a;
  const Vec3 normal = u.cross(v);
  constexpr double straight = 1e-6; // sine of the angle at a
  if (normal.norm() <= straight * u.norm() * v.norm())
    return std::nullopt;
  const Vec3 toCentre =
      (u.squaredNorm() * v.cross(normal) + v.squaredNorm() * normal.cross(u)) / (2 * normal.squaredNorm());
  return RoundEdge{a + toCentre, toCentre.norm()};
}

/// The borders of one face: beside every node on them its neighbours there.
class Borders
{
public:
  Borders(const Mesh& mesh, FaceId face) : mesh_(mesh)
  {
    std::map<std::pair<NodeId, NodeId>, int> uses;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      for (std::size_t i = 0; mesh.triangleFace[t] == face && i < 3; ++i)
        ++uses[std::minmax(mesh.triangles[t][i], mesh.triangles[t][(i + 1) % 3])];
    for (const auto& [edge, count] : uses)
      if (count == 1) {
        edges_.push_back(edge);
        beside_[edge.first].push_back(edge.second);
        beside_[edge.second].push_back(edge.first);
      }
  }

  [[nodiscard]] std::optional<std::pair<NodeId, NodeId>> nearest(const Vec3& place) const
  {
    std::optional<std::pair<NodeId, NodeId>> found;
    double least = std::numeric_limits<double>::infinity();
    for (const auto& edge : edges_) {
      const Vec3& a = at(edge.first);
      const Vec3 along = at(edge.second) - a;
      const double share = std::clamp((place - a).dot(along) / along.squaredNorm(), 0.0, 1.0);
      if (const double away = (place - a - share * along).norm(); away < least) {
        least = away;
        found = edge;
      }
    }
    return found;
  }

  /// The node after \p here, coming from \p before; none at a fork.
  [[nodiscard]] NodeId next(NodeId before, NodeId here) const
  {
    const std::vector<NodeId>& both = beside_.at(here);
    return both.size() != 2 ? NodeId() : both[0] == before ? both[1] : both[0];
  }

  [[nodiscard]] const Vec3& at(NodeId node) const { return mesh_.nodes[kiln::at(node)]; }

private:
  const Mesh& mesh_;
  std::vector<std::pair<NodeId, NodeId>> edges_;
  std::map<NodeId, std::vector<NodeId>> beside_;
};

/// Nodes after an edge that go on along its circle.
std::vector<NodeId> followed(const Borders& borders, const RoundEdge& circle, NodeId before, NodeId here)
{
  constexpr double off = 1e-5;                             // of the radius
  constexpr double sharpest = 65 * std::numbers::pi / 180; // more from one piece to the next is a corner
  std::vector<NodeId> nodes;
  const NodeId first = before;
  for (NodeId node = borders.next(before, here); node >= 0 && node != first; node = borders.next(before, here)) {
    const Vec3 way = (borders.at(here) - borders.at(before)).normalized();
    const Vec3 on = (borders.at(node) - borders.at(here)).normalized();
    if (std::abs((borders.at(node) - circle.centre).norm() - circle.radius) > off * circle.radius ||
        std::acos(std::clamp(way.dot(on), -1.0, 1.0)) > sharpest)
      break;
    nodes.push_back(node);
    before = here;
    here = node;
  }
  return nodes;
}

} // namespace

std::optional<RoundEdge> circleOf(const std::vector<Vec3>& places)
{
  constexpr std::size_t least = 4; // three places lie on a circle whatever they are
  if (places.size() < least)
    return std::nullopt;
  const std::size_t third = places.size() / 3;
  const auto circle = circleThrough(places.front(), places[third], places[2 * third]);
  constexpr double off = 1e-4; // of the radius
  if (!circle || std::any_of(places.begin(), places.end(), [&](const Vec3& place) {
        return std::abs((place - circle->centre).norm() - circle->radius) > off * circle->radius;
      }))
    return std::nullopt;
  return circle;
}

std::optional<RoundEdge> roundEdgeNear(const Mesh& mesh, FaceId face, const Vec3& place)
{
  const Borders borders(mesh, face);
  const auto edge = borders.nearest(place);
  if (!edge)
    return std::nullopt;
  const auto [a, b] = *edge;
  std::vector<NodeId> best;
  for (const auto& [from, to] : {std::pair(a, b), std::pair(b, a)}) {
    const NodeId third = borders.next(from, to);
    const auto circle =
        third >= 0 ? circleThrough(borders.at(from), borders.at(to), borders.at(third)) : std::optional<RoundEdge>();
    if (!circle)
      continue;
    std::vector<NodeId> chain = followed(borders, *circle, to, from);
    std::reverse(chain.begin(), chain.end());
    chain.push_back(from);
    chain.push_back(to);
    const std::vector<NodeId> after = followed(borders, *circle, from, to);
    chain.insert(chain.end(), after.begin(), after.end());
    if (chain.size() > best.size())
      best = std::move(chain);
  }
  constexpr std::size_t least = 4; // three places lie on a circle whatever they are
  if (best.size() < least)
    return std::nullopt;
  return circleThrough(borders.at(best.front()), borders.at(best[best.size() / 3]),
                       borders.at(best[2 * best.size() / 3]));
}

} // namespace kiln
