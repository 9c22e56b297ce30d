// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/Mesh.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

std::size_t index(std::int32_t i) { return static_cast<std::size_t>(i); }

/// Interleaves the low 21 bits of three numbers (Morton order).
std::uint64_t spread(std::uint64_t x)
{
  x &= 0x1fffff;
  x = (x | x << 32) & 0x1f00000000ffff;
  x = (x | x << 16) & 0x1f0000ff0000ff;
  x = (x | x << 8) & 0x100f00f00f00f00f;
  x = (x | x << 4) & 0x10c30c30c30c30c3;
  return (x | x << 2) & 0x1249249249249249;
}

std::vector<std::uint64_t> curvePositions(const std::vector<Vec3>& nodes)
{
  Vec3 low = nodes.front();
  Vec3 high = nodes.front();
  for (const Vec3& p : nodes) {
    low = low.cwiseMin(p);
    high = high.cwiseMax(p);
  }
  const double scale = static_cast<double>((1U << 21U) - 1U) / std::max((high - low).maxCoeff(), 1e-300);
  std::vector<std::uint64_t> positions;
  positions.reserve(nodes.size());
  for (const Vec3& p : nodes) {
    const Vec3 q = (p - low) * scale;
    positions.push_back(spread(static_cast<std::uint64_t>(q.x())) | spread(static_cast<std::uint64_t>(q.y())) << 1U |
                        spread(static_cast<std::uint64_t>(q.z())) << 2U);
  }
  return positions;
}

template <class T>
void reorder(std::vector<T>& items, const std::vector<std::size_t>& order)
{
  std::vector<T> sorted;
  sorted.reserve(items.size());
  for (const std::size_t i : order)
    sorted.push_back(items[i]);
  items = std::move(sorted);
}

std::vector<std::size_t> identity(std::size_t count)
{
  std::vector<std::size_t> order(count);
  std::iota(order.begin(), order.end(), 0U);
  return order;
}

struct KeyedSide {
  NodeTriangle key;
  std::int32_t tet;
  bool operator<(const KeyedSide& other) const { return key < other.key; }
};

} // namespace

double tetVolume(const Mesh& mesh, std::size_t tet)
{
  const Tet& t = mesh.tets[tet];
  const Vec3& a = mesh.nodes[index(t[0])];
  return (mesh.nodes[index(t[1])] - a).cross(mesh.nodes[index(t[2])] - a).dot(mesh.nodes[index(t[3])] - a) / 6;
}

double triangleArea(const Mesh& mesh, std::size_t triangle)
{
  const NodeTriangle& t = mesh.triangles[triangle];
  const Vec3& a = mesh.nodes[index(t[0])];
  return (mesh.nodes[index(t[1])] - a).cross(mesh.nodes[index(t[2])] - a).norm() / 2;
}

std::vector<double> meshedVolumes(const Mesh& mesh)
{
  std::vector<double> volumes(mesh.geometry.parts.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    volumes[index(mesh.tetPart[t])] += tetVolume(mesh, t);
  return volumes;
}

std::vector<double> meshedAreas(const Mesh& mesh)
{
  std::vector<double> areas(mesh.geometry.faces.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    areas[index(mesh.triangleFace[t])] += triangleArea(mesh, t);
  return areas;
}

bool connectTriangles(Mesh& mesh)
{
  // Only tets with at least three nodes on the skin can own a triangle; sort their sides once and look up.
  std::vector<bool> onSkin(mesh.nodes.size());
  for (const NodeTriangle& t : mesh.triangles)
    for (const NodeId n : t)
      onSkin[index(n)] = true;
  std::vector<KeyedSide> sides;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    for (std::size_t skip = 0; skip < 4; ++skip) {
      NodeTriangle key{};
      bool skin = true;
      for (std::size_t i = 0, k = 0; i < 4; ++i)
        if (i != skip) {
          key[k++] = mesh.tets[t][i];
          skin = skin && onSkin[index(mesh.tets[t][i])];
        }
      if (!skin)
        continue;
      std::sort(key.begin(), key.end());
      sides.push_back({key, static_cast<std::int32_t>(t)});
    }
  std::sort(sides.begin(), sides.end());
  mesh.triangleTets.assign(mesh.triangles.size(), {-1, -1});
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    NodeTriangle key = mesh.triangles[t];
    std::sort(key.begin(), key.end());
    const Face& face = mesh.geometry.faces[index(mesh.triangleFace[t])];
    const auto [first, last] = std::equal_range(sides.begin(), sides.end(), KeyedSide{key, 0});
    const Vec3& corner = mesh.nodes[index(mesh.triangles[t][0])];
    const Vec3 normal =
        (mesh.nodes[index(mesh.triangles[t][1])] - corner).cross(mesh.nodes[index(mesh.triangles[t][2])] - corner);
    for (auto side = first; side != last; ++side) {
      Vec3 centre = Vec3::Zero();
      for (const NodeId n : mesh.tets[index(side->tet)])
        centre += mesh.nodes[index(n)] / 4;
      mesh.triangleTets[t][(centre - corner).dot(normal) < 0 ? 0 : 1] = side->tet;
    }
    if (mesh.triangleTets[t][0] < 0 || (!face.exposed() && mesh.triangleTets[t][1] < 0))
      return false;
  }
  return true;
}

void renumber(Mesh& mesh)
{
  const std::vector<std::uint64_t> positions = curvePositions(mesh.nodes);
  std::vector<std::size_t> order = identity(mesh.nodes.size());
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return positions[a] != positions[b] ? positions[a] < positions[b] : a < b;
  });
  std::vector<NodeId> newIndex(order.size());
  for (std::size_t i = 0; i < order.size(); ++i)
    newIndex[order[i]] = NodeId(i);
  reorder(mesh.nodes, order);
  if (!mesh.column.empty()) {
    reorder(mesh.column, order);
    for (NodeId& n : mesh.column)
      n = newIndex[index(n)];
  }
  for (Tet& tet : mesh.tets)
    for (NodeId& n : tet)
      n = newIndex[index(n)];
  for (NodeTriangle& triangle : mesh.triangles)
    for (NodeId& n : triangle)
      n = newIndex[index(n)];
  if (mesh.order == 2)
    return; // pieces of one element stay together
  std::vector<std::size_t> tetOrder = identity(mesh.tets.size());
  std::vector<std::int32_t> lowest;
  lowest.reserve(mesh.tets.size());
  for (const Tet& tet : mesh.tets)
    lowest.push_back(*std::min_element(tet.begin(), tet.end()));
  std::sort(tetOrder.begin(), tetOrder.end(),
            [&](std::size_t a, std::size_t b) { return lowest[a] != lowest[b] ? lowest[a] < lowest[b] : a < b; });
  reorder(mesh.tets, tetOrder);
  reorder(mesh.tetPart, tetOrder);
}

} // namespace kiln
