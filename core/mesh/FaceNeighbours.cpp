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

using Place = std::array<long long, 3>;

/// Nodes at one place are one, whether a mesh shares them or not.
Place placeOf(const Vec3& p)
{
  constexpr double grain = 1e-8; // m
  return {std::llround(p.x() / grain), std::llround(p.y() / grain), std::llround(p.z() / grain)};
}

struct Side {
  int face;
  Vec3 normal;
};

} // namespace

std::set<int> grownSmoothly(const Mesh& mesh, std::set<int> faces, double most)
{
  std::map<std::pair<Place, Place>, std::vector<Side>> sides;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    std::array<Vec3, 3> corner;
    for (std::size_t i = 0; i < 3; ++i)
      corner[i] = mesh.nodes[static_cast<std::size_t>(mesh.triangles[t][i])];
    const Vec3 normal = (corner[1] - corner[0]).cross(corner[2] - corner[0]).normalized();
    for (std::size_t i = 0; i < 3; ++i) {
      const auto edge = std::minmax(placeOf(corner[i]), placeOf(corner[(i + 1) % 3]));
      sides[{edge.first, edge.second}].push_back({mesh.triangleFace[t], normal});
    }
  }
  std::map<int, std::set<int>> smooth;
  for (const auto& [edge, around] : sides)
    for (const Side& a : around)
      for (const Side& b : around)
        if (a.face != b.face && a.normal.dot(b.normal) > std::cos(most) &&
            mesh.geometry.faces[static_cast<std::size_t>(a.face)].parts[0] ==
                mesh.geometry.faces[static_cast<std::size_t>(b.face)].parts[0])
          smooth[a.face].insert(b.face);
  std::vector<int> waiting(faces.begin(), faces.end());
  while (!waiting.empty()) {
    const int face = waiting.back();
    waiting.pop_back();
    for (const int next : smooth[face])
      if (faces.insert(next).second)
        waiting.push_back(next);
  }
  return faces;
}

} // namespace kiln
