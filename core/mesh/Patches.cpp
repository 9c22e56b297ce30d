// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/Patches.h"

#include "mesh/RayScene.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

Vec3 middleOf(const Mesh& mesh, std::size_t triangle)
{
  Vec3 sum = Vec3::Zero();
  for (const std::int32_t node : mesh.triangles[triangle])
    sum += mesh.nodes[static_cast<std::size_t>(node)];
  return sum / 3;
}

/// Halves groups of triangles until each is small and flat enough.
class Halving
{
public:
  Halving(const Mesh& mesh, double size, double bend, Patches& patches)
      : mesh_(mesh), size_(size), flat_(std::cos(bend)), patches_(patches)
  {
  }

  void split(std::vector<std::size_t> group, FaceId face)
  {
    Vec3 low = Vec3::Constant(1e300);
    Vec3 high = -low;
    Vec3 normal = Vec3::Zero();
    for (const std::size_t t : group) {
      for (const std::int32_t node : mesh_.triangles[t]) {
        low = low.cwiseMin(mesh_.nodes[static_cast<std::size_t>(node)]);
        high = high.cwiseMax(mesh_.nodes[static_cast<std::size_t>(node)]);
      }
      normal += triangleArea(mesh_, t) * triangleNormal(mesh_, t);
    }
    Eigen::Index longest = 0;
    const double extent = (high - low).maxCoeff(&longest);
    const bool bent = std::any_of(group.begin(), group.end(), [&](std::size_t t) {
      return triangleNormal(mesh_, t).dot(normal) < flat_ * normal.norm();
    });
    if (group.size() == 1 || (extent <= size_ && !bent)) {
      for (const std::size_t t : group)
        patches_.ofTriangle[t] = static_cast<std::int32_t>(patches_.count());
      patches_.triangles.push_back(std::move(group));
      patches_.face.push_back(face);
      return;
    }
    const auto half = group.begin() + static_cast<std::ptrdiff_t>(group.size() / 2);
    std::nth_element(group.begin(), half, group.end(), [&](std::size_t a, std::size_t b) {
      const double difference = middleOf(mesh_, a)[longest] - middleOf(mesh_, b)[longest];
      return difference < 0 || (difference == 0 && a < b);
    });
    split({group.begin(), half}, face);
    split({half, group.end()}, face);
  }

private:
  const Mesh& mesh_;
  double size_, flat_;
  Patches& patches_;
};

} // namespace

Patches makePatches(const Mesh& mesh, std::span<const FaceId> faces, double size, double bend)
{
  std::vector<std::vector<std::size_t>> trianglesOfFace(mesh.geometry.faces.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    trianglesOfFace[static_cast<std::size_t>(mesh.triangleFace[t])].push_back(t);
  Patches patches;
  patches.ofTriangle.assign(mesh.triangles.size(), -1);
  Halving halving(mesh, size, bend, patches);
  for (const FaceId face : faces)
    if (std::vector<std::size_t>& own = trianglesOfFace[static_cast<std::size_t>(face)]; !own.empty())
      halving.split(std::move(own), face);
  return patches;
}

double patchSizeFor(const Mesh& mesh, std::span<const FaceId> faces, double wantedPatches)
{
  double area = 0;
  for (const FaceId face : faces)
    area += mesh.geometry.faces[static_cast<std::size_t>(face)].area;
  // Halving leaves patches of half to all of the size across.
  constexpr double fill = 0.5;
  return std::sqrt(area / (fill * wantedPatches));
}

} // namespace kiln
