// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// View factors against the ray caster alone, one thread against two, bytes a factor; the radiosities' share of a solve.
#include "geometry/Geometry.h"
#include "heat/ViewFactors.h"
#include "io/ProjectFile.h"
#include "mesh/RayScene.h"
#include "mesh/VolumeMesh.h"

#include <chrono>
#include <cstdio>
#include <numeric>
#include <random>

using namespace kiln;

namespace
{

double seconds(const std::chrono::steady_clock::time_point& since)
{
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
}

/// The same number of rays from random places and in random directions, and nothing else.
double raysAlone(const Mesh& mesh, const Patches& patches, int rays)
{
  const RayScene scene(mesh, exposedTriangles(mesh));
  std::mt19937 random(1);
  std::uniform_real_distribution<double> anywhere(-1, 1);
  std::vector<Vec3> directions(1024);
  for (Vec3& one : directions)
    one = Vec3(anywhere(random), anywhere(random), anywhere(random)).normalized();
  const auto begin = std::chrono::steady_clock::now();
  std::size_t met = 0;
  std::size_t next = 0;
  for (const auto& triangles : patches.triangles) {
    const Vec3 normal = triangleNormal(mesh, triangles.front());
    Vec3 place = Vec3::Zero();
    for (const std::int32_t node : mesh.triangles[triangles.front()])
      place += mesh.nodes[static_cast<std::size_t>(node)] / 3;
    for (int i = 0; i < rays; ++i) {
      const Vec3& d = directions[next++ % directions.size()];
      met += scene.first(place, d.dot(normal) < 0 ? Vec3(-d) : d, 1e-6, 1e30) ? 1 : 0;
    }
  }
  const double spent = seconds(begin);
  std::printf("  (%zu of the rays met something)\n", met);
  return spent;
}

} // namespace

int main()
{
  const auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  const auto geometry = buildGeometry(*project);
  const auto mesh = buildMesh(*project, *geometry, noProgress);
  std::vector<int> faces;
  for (const Void& space : mesh->voids)
    faces.insert(faces.end(), space.faces.begin(), space.faces.end());
  for (const double wanted : {1000.0, 5000.0, 20000.0}) {
    const Patches patches = makePatches(*mesh, faces, patchSizeFor(*mesh, faces, wanted));
    Eigen::VectorXd areas = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(patches.count()));
    for (std::size_t p = 0; p < patches.count(); ++p)
      for (const std::size_t t : patches.triangles[p])
        areas[static_cast<Eigen::Index>(p)] += triangleArea(*mesh, t);
    constexpr int rays = 1000;
    const double alone = raysAlone(*mesh, patches, rays);
    auto begin = std::chrono::steady_clock::now();
    const auto one = castViewFactors(*mesh, patches, areas, rays, false, 1, noProgress);
    const double single = seconds(begin);
    begin = std::chrono::steady_clock::now();
    const auto two = castViewFactors(*mesh, patches, areas, rays, false, 2, noProgress);
    const double twice = seconds(begin);
    if (!one || !two)
      return 1;
    const auto entries = static_cast<double>(one->exchange.nonZeros());
    std::printf("%zu patches: rays alone %.2f s, view factors %.2f s (%.2f times), two threads %.2f s (%.2f times as "
                "fast); %.1f M factors, %.1f bytes each\n",
                patches.count(), alone, single, single / alone, twice, single / twice, entries / 1e6,
                (entries * 12 + 4.0 * static_cast<double>(patches.count())) / entries);
  }
  return 0;
}
