// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/DirectedHeat.h"

#include "mesh/RayScene.h"

#include <algorithm>

namespace kiln
{

std::vector<Vec3> evenPlaces(int n)
{
  std::vector<Vec3> places;
  const double step = 1.0 / n;
  for (int i = 0; i < n; ++i)
    for (int j = 0; i + j < n; ++j) {
      const double third = step / 3;
      const Vec3 upright(step * i + third, step * j + third, 0);
      places.emplace_back(upright.x(), upright.y(), 1 - upright.x() - upright.y());
      if (i + j + 1 < n) {
        const double a = step * (i + 1) - third;
        const double b = step * (j + 1) - third;
        places.emplace_back(a, b, 1 - a - b);
      }
    }
  return places;
}

std::vector<LitTriangle> litBy(const Mesh& mesh, std::span<const int> faces, const Vec3& from)
{
  std::vector<LitTriangle> lit;
  const std::vector<std::size_t> exposed = exposedTriangles(mesh);
  if (exposed.empty())
    return lit;
  const RayScene scene(mesh, exposed);
  const Vec3 towards = from.normalized();
  Vec3 low = mesh.nodes.front();
  Vec3 high = low;
  for (const Vec3& node : mesh.nodes) {
    low = low.cwiseMin(node);
    high = high.cwiseMax(node);
  }
  const double reach = (high - low).norm();
  constexpr double ownShare = 1e-5; // of the model's size: rays start a little off the surface
  constexpr int cuts = 4;
  const std::vector<Vec3> places = evenPlaces(cuts);
  for (const std::size_t t : exposed) {
    if (std::find(faces.begin(), faces.end(), mesh.triangleFace[t]) == faces.end())
      continue;
    const Vec3 normal = triangleNormal(mesh, t);
    const double cosine = normal.dot(towards);
    if (cosine <= 0)
      continue;
    const double share = triangleArea(mesh, t) * cosine / static_cast<double>(places.size());
    LitTriangle own{t, Vec3::Zero()};
    for (const Vec3& l : places) {
      Vec3 start = Vec3::Zero();
      for (std::size_t i = 0; i < 3; ++i)
        start += l[static_cast<Eigen::Index>(i)] * mesh.nodes[static_cast<std::size_t>(mesh.triangles[t][i])];
      start += ownShare * reach * normal;
      if (!scene.first(start, towards, 0, 2 * reach))
        own.across += share * l;
    }
    if (own.across.sum() > 0)
      lit.push_back(own);
  }
  return lit;
}

} // namespace kiln
