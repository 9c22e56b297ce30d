// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SkinShells.h"

#include "base/Joining.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <set>
#include <unordered_map>

namespace kiln
{

SkinShells::SkinShells(const std::vector<Vec3>& nodes, std::vector<SkinTriangle> triangles)
    : nodes_(nodes), triangles_(std::move(triangles))
{
  Joining joining(triangles_.size());
  std::unordered_map<std::uint64_t, std::pair<std::size_t, int>> edges; // a triangle at it, how many there are
  edges.reserve(triangles_.size() * 2);
  const auto forEachEdge = [&](auto&& act) {
    for (std::size_t t = 0; t < triangles_.size(); ++t)
      for (std::size_t i = 0; i < 3; ++i) {
        const auto [a, b] = std::minmax(triangles_[t].corners[i], triangles_[t].corners[(i + 1) % 3]);
        act(t, static_cast<std::uint64_t>(a) << 32U | static_cast<std::uint64_t>(b));
      }
  };
  forEachEdge([&](std::size_t t, std::uint64_t key) { ++edges.try_emplace(key, t, 0).first->second.second; });
  std::map<std::uint64_t, std::vector<std::size_t>> crowded; // edges along which solids touch
  forEachEdge([&](std::size_t t, std::uint64_t key) {
    const auto& [first, count] = edges.at(key);
    if (count == 2)
      joining.join(t, first);
    else
      crowded[key].push_back(t);
  });
  for (const auto& [key, around] : crowded)
    for (const auto& [one, other] : facing(static_cast<int>(key >> 32U), static_cast<int>(key & 0xffffffffU), around))
      joining.join(one, other);
  std::unordered_map<std::size_t, std::size_t> shellOf;
  for (std::size_t t = 0; t < triangles_.size(); ++t) {
    const auto [found, isNew] = shellOf.try_emplace(joining.find(t), shells_.size());
    if (isNew)
      shells_.emplace_back();
    shells_[found->second].push_back(t);
  }
}

/// Pairs of triangles around an edge that look at each other through empty space: in the order of their angles about
/// it, every one that looks forward is followed by the one that looks back.
std::vector<std::pair<std::size_t, std::size_t>> SkinShells::facing(int a, int b,
                                                                    const std::vector<std::size_t>& around) const
{
  struct Leaf {
    double angle = 0;
    bool forward = false; ///< its outside is on the side of larger angles
    std::size_t triangle = 0;
  };
  const Vec3 axis = (node(b) - node(a)).normalized();
  const Vec3 across = axis.unitOrthogonal();
  const Vec3 third = axis.cross(across);
  std::vector<Leaf> leaves;
  for (const std::size_t t : around) {
    const Triangle& c = triangles_[t].corners;
    const int tip = c[0] != a && c[0] != b ? c[0] : c[1] != a && c[1] != b ? c[1] : c[2];
    const Vec3 away = node(tip) - node(a);
    const Vec3 normal = (node(c[1]) - node(c[0])).cross(node(c[2]) - node(c[0]));
    leaves.push_back({std::atan2(away.dot(third), away.dot(across)), axis.cross(away).dot(normal) > 0, t});
  }
  std::sort(leaves.begin(), leaves.end(), [](const Leaf& one, const Leaf& other) { return one.angle < other.angle; });
  std::vector<std::pair<std::size_t, std::size_t>> pairs;
  for (std::size_t i = 0; i < leaves.size(); ++i)
    if (const Leaf& next = leaves[(i + 1) % leaves.size()]; leaves[i].forward && !next.forward)
      pairs.emplace_back(leaves[i].triangle, next.triangle);
  return pairs;
}

/// Volume that a shell encloses, negative when its normals point into it.
double SkinShells::enclosed(const std::vector<std::size_t>& shell) const
{
  const Vec3 origin = node(triangles_[shell.front()].corners[0]);
  double volume = 0;
  for (const std::size_t t : shell) {
    const Triangle& c = triangles_[t].corners;
    volume += (node(c[0]) - origin).dot((node(c[1]) - origin).cross(node(c[2]) - origin)) / 6;
  }
  return volume;
}

/// By the solid angle that the shell fills, seen from the place (Van Oosterom and Strackee 1983).
bool SkinShells::encloses(const std::vector<std::size_t>& shell, const Vec3& place) const
{
  double angle = 0;
  for (const std::size_t t : shell) {
    const Triangle& c = triangles_[t].corners;
    const Vec3 a = node(c[0]) - place;
    const Vec3 b = node(c[1]) - place;
    const Vec3 d = node(c[2]) - place;
    const double la = a.norm();
    const double lb = b.norm();
    const double ld = d.norm();
    angle += 2 * std::atan2(a.dot(b.cross(d)), la * lb * ld + a.dot(b) * ld + b.dot(d) * la + d.dot(a) * lb);
  }
  return std::abs(angle) > 2 * std::numbers::pi;
}

double SkinShells::firstHit(std::size_t from, const Vec3& start, const Vec3& direction) const
{
  double nearest = std::numeric_limits<double>::infinity();
  for (std::size_t t = 0; t < triangles_.size(); ++t) {
    if (t == from)
      continue;
    const Triangle& c = triangles_[t].corners;
    const Vec3& a = node(c[0]);
    const Vec3 e1 = node(c[1]) - a;
    const Vec3 e2 = node(c[2]) - a;
    const Vec3 p = direction.cross(e2);
    const double determinant = e1.dot(p);
    if (std::abs(determinant) < 1e-300)
      continue;
    const Vec3 s = start - a;
    const double u = s.dot(p) / determinant;
    const Vec3 q = s.cross(e1);
    const double v = direction.dot(q) / determinant;
    const double distance = e2.dot(q) / determinant;
    if (u >= 0 && v >= 0 && u + v <= 1 && distance > 0)
      nearest = std::min(nearest, distance);
  }
  return nearest;
}

std::optional<Vec3> SkinShells::middleBehind(const std::vector<std::size_t>& shell, double side) const
{
  constexpr std::size_t tries = 40;
  double longest = 0;
  std::optional<Vec3> best;
  for (std::size_t i = 0; i < tries; ++i) {
    const std::size_t t = shell[i * shell.size() / tries];
    const Triangle& c = triangles_[t].corners;
    const Vec3 way = side * (node(c[1]) - node(c[0])).cross(node(c[2]) - node(c[0])).normalized();
    const Vec3 start = (node(c[0]) + node(c[1]) + node(c[2])) / 3;
    const double depth = firstHit(t, start, way);
    if (std::isfinite(depth) && depth > longest) {
      longest = depth;
      best = start + way * depth / 2;
    }
  }
  return best;
}

std::vector<Vec3> SkinShells::seeds() const
{
  std::vector<Vec3> places;
  for (const std::vector<std::size_t>& shell : shells_)
    if (const auto place = middleBehind(shell, -1))
      places.push_back(*place);
  return places;
}

std::optional<std::vector<Cavity>> SkinShells::cavities() const
{
  std::vector<double> volume;
  for (const std::vector<std::size_t>& shell : shells_)
    volume.push_back(enclosed(shell));
  std::vector<std::set<FaceId>> faces(shells_.size());
  const auto addFaces = [&](std::size_t cavity, std::size_t shell) {
    for (const std::size_t t : shells_[shell])
      faces[cavity].insert(triangles_[t].face);
  };
  std::vector<double> empty = volume; // of a cavity: what its wall encloses less the islands in it
  for (std::size_t island = 0; island < shells_.size(); ++island) {
    if (volume[island] <= 0) {
      addFaces(island, island);
      continue;
    }
    std::optional<std::size_t> around; // the smallest cavity it lies in
    const Vec3& corner = node(triangles_[shells_[island].front()].corners[0]);
    for (std::size_t wall = 0; wall < shells_.size(); ++wall)
      if (volume[wall] < 0 && encloses(shells_[wall], corner) && (!around || volume[wall] > volume[*around]))
        around = wall;
    if (!around)
      continue;
    empty[*around] += volume[island];
    addFaces(*around, island);
  }
  std::vector<Cavity> found;
  for (std::size_t wall = 0; wall < shells_.size(); ++wall) {
    if (volume[wall] >= 0)
      continue;
    const auto place = middleBehind(shells_[wall], 1);
    if (!place)
      return std::nullopt;
    found.push_back({*place, -empty[wall], {faces[wall].begin(), faces[wall].end()}});
  }
  return found;
}

} // namespace kiln
