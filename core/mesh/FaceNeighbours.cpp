// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/FaceNeighbours.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <vector>

namespace kiln
{
namespace
{

/// Numbers nodes so that those at one place are one, whether a mesh shares them or not.
std::vector<int> joinedNodes(const Mesh& mesh)
{
  constexpr double reach = 1e-6; // m, the tolerance within which parts touch
  using Cell = std::array<long long, 3>;
  std::map<Cell, std::vector<int>> cells;
  std::vector<int> joined(mesh.nodes.size());
  for (std::size_t n = 0; n < mesh.nodes.size(); ++n) {
    const Vec3& p = mesh.nodes[n];
    const auto cellAt = [&](int x, int y, int z) {
      constexpr double edge = 4 * reach;
      return Cell{static_cast<long long>(std::floor(p.x() / edge)) + x,
                  static_cast<long long>(std::floor(p.y() / edge)) + y,
                  static_cast<long long>(std::floor(p.z() / edge)) + z};
    };
    joined[n] = static_cast<int>(n);
    for (int i = 0; i < 27 && joined[n] == static_cast<int>(n); ++i)
      if (const auto cell = cells.find(cellAt(i % 3 - 1, i / 3 % 3 - 1, i / 9 - 1)); cell != cells.end())
        for (const int other : cell->second)
          if ((mesh.nodes[static_cast<std::size_t>(other)] - p).norm() < reach)
            joined[n] = other;
    if (joined[n] == static_cast<int>(n))
      cells[cellAt(0, 0, 0)].push_back(joined[n]);
  }
  return joined;
}

struct Side {
  FaceId face;
  Vec3 normal;
};

} // namespace

std::set<FaceId> grownSmoothly(const Mesh& mesh, std::set<FaceId> faces, double most)
{
  const std::vector<int> joined = joinedNodes(mesh);
  std::map<std::pair<int, int>, std::vector<Side>> sides;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    std::array<Vec3, 3> corner;
    for (std::size_t i = 0; i < 3; ++i)
      corner[i] = mesh.nodes[static_cast<std::size_t>(mesh.triangles[t][i])];
    const Vec3 normal = (corner[1] - corner[0]).cross(corner[2] - corner[0]).normalized();
    for (std::size_t i = 0; i < 3; ++i) {
      const int from = joined[static_cast<std::size_t>(mesh.triangles[t][i])];
      const int to = joined[static_cast<std::size_t>(mesh.triangles[t][(i + 1) % 3])];
      sides[{std::min(from, to), std::max(from, to)}].push_back({mesh.triangleFace[t], normal});
    }
  }
  std::map<FaceId, std::set<FaceId>> smooth;
  for (const auto& [edge, around] : sides)
    for (const Side& a : around)
      for (const Side& b : around)
        if (a.face != b.face && a.normal.dot(b.normal) > std::cos(most) &&
            mesh.geometry.faces[static_cast<std::size_t>(a.face)].parts[0] ==
                mesh.geometry.faces[static_cast<std::size_t>(b.face)].parts[0])
          smooth[a.face].insert(b.face);
  std::vector<FaceId> waiting(faces.begin(), faces.end());
  while (!waiting.empty()) {
    const FaceId face = waiting.back();
    waiting.pop_back();
    for (const FaceId next : smooth[face])
      if (faces.insert(next).second)
        waiting.push_back(next);
  }
  return faces;
}

} // namespace kiln
