// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// View factors against the ray caster alone, one thread against two, bytes a factor; the radiosities' share of a solve.
#include "geometry/Geometry.h"
#include "heat/Conditions.h"
#include "heat/radiation/EnclosureExchange.h"
#include "io/ProjectFile.h"
#include "io/ViewFactorStore.h"
#include "mesh/RayScene.h"
#include "mesh/VolumeMesh.h"
#include "run/CaseRun.h"
#include "solve/SteadySolver.h"

#include <array>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <numbers>
#include <numeric>
#include <random>

using namespace kiln;

namespace
{

double seconds(const std::chrono::steady_clock::time_point& since)
{
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
}

/// As many rays, spread over the patches and by the cosine in the same way, made beforehand; nothing else is timed.
double raysAlone(const Mesh& mesh, const Patches& patches, int rays)
{
  const RayScene scene(mesh, exposedTriangles(mesh));
  std::mt19937 random(1);
  std::uniform_real_distribution<double> share(0, 1);
  std::vector<std::pair<Vec3, Vec3>> own(static_cast<std::size_t>(rays));
  double spent = 0;
  std::size_t met = 0;
  for (const auto& triangles : patches.triangles) {
    for (auto& [place, along] : own) {
      const std::size_t t = triangles[random() % triangles.size()];
      const auto node = [&](std::size_t i) { return mesh.nodes[static_cast<std::size_t>(mesh.triangles[t][i])]; };
      const double root = std::sqrt(share(random));
      const double b = share(random);
      place = (1 - root) * node(0) + root * (1 - b) * node(1) + root * b * node(2);
      const Vec3 normal = triangleNormal(mesh, t);
      const Vec3 across = normal.unitOrthogonal();
      const double out = share(random);
      const double turn = 2 * std::numbers::pi * share(random);
      along = std::sqrt(out) * (std::cos(turn) * across + std::sin(turn) * normal.cross(across)) +
              std::sqrt(1 - out) * normal;
    }
    const auto begin = std::chrono::steady_clock::now();
    for (const auto& [place, along] : own)
      met += scene.first(place, along, 1e-6, 1e30) ? 1 : 0;
    spent += seconds(begin);
  }
  std::printf("  (%zu of the rays met something)\n", met);
  return spent;
}

/// The radiosities' share of a steady solve with about this many patches, over what is left for conduction.
bool shareOfRadiosity(Project project, const Mesh& mesh, const std::filesystem::path& folder, double wanted)
{
  std::vector<FaceId> faces;
  for (const Void& space : mesh.voids)
    faces.insert(faces.end(), space.faces.begin(), space.faces.end());
  project.enclosures.front().patchSize = Number{patchSizeFor(mesh, faces, wanted), {}};
  const auto conditions = resolveConditions(project, mesh, storedViewFactors(folder, 2, noProgress));
  if (!conditions)
    return false;
  const auto begin = std::chrono::steady_clock::now();
  const auto solution = solveSteady(mesh, *conditions, {}, noProgress);
  const double whole = seconds(begin);
  const EnclosureExchange& exchange = *flowsOf<EnclosureExchange>(conditions->flows).front();
  const double light = exchange.radiosity().seconds();
  std::printf("%zu patches, %.1f M factors: radiosities %.2f s of a solve of %.2f s in %d steps, %.0f %% of the rest\n",
              exchange.patches().count(), static_cast<double>(exchange.factors().exchange.nonZeros()) / 1e6, light,
              whole, solution->newtonSteps, 100 * light / (whole - light));
  return solution.has_value();
}

/// Hold from file to figures with its view factors stored, over the same with the chamber muted; the best of four each.
bool warmOverMuted(const Project& project, const std::filesystem::path& folder)
{
  Project muted = project;
  muted.enclosures.front().muted = true;
  std::array<double, 2> best{1e30, 1e30};
  std::array<int, 2> steps{};
  constexpr int rounds = 5; // the first one fills the stores
  for (int round = 0; round < rounds; ++round)
    for (const bool on : {true, false}) {
      const Project& own = on ? project : muted;
      const auto begin = std::chrono::steady_clock::now();
      const auto result = runCase(own, own.cases.front(), folder / (on ? "on" : "muted"), noProgress);
      if (!result) {
        std::printf("%s\n", result.error().failure ? result.error().failure->sentence().c_str() : "not ready");
        return false;
      }
      if (round > 0)
        best[on ? 0 : 1] = std::min(best[on ? 0 : 1], seconds(begin));
      steps[on ? 0 : 1] = result->info.newtonSteps;
    }
  std::printf("Hold, view factors stored: %.2f s in %d steps; chamber muted %.2f s in %d steps: %.2f times\n", best[0],
              steps[0], best[1], steps[1], best[0] / best[1]);
  return true;
}

/// View factors of about this many patches against the ray caster alone, and on two threads.
bool castingOver(const Mesh& mesh, double wanted)
{
  std::vector<FaceId> faces;
  for (const Void& space : mesh.voids)
    faces.insert(faces.end(), space.faces.begin(), space.faces.end());
  const Patches patches = makePatches(mesh, faces, patchSizeFor(mesh, faces, wanted));
  Eigen::VectorXd areas = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(patches.count()));
  for (std::size_t p = 0; p < patches.count(); ++p)
    for (const std::size_t t : patches.triangles[p])
      areas[static_cast<Eigen::Index>(p)] += triangleArea(mesh, t);
  constexpr int rays = 1000;
  const double alone = raysAlone(mesh, patches, rays);
  auto begin = std::chrono::steady_clock::now();
  const auto one = castViewFactors(mesh, patches, areas, rays, false, 1, noProgress);
  const double single = seconds(begin);
  begin = std::chrono::steady_clock::now();
  const auto two = castViewFactors(mesh, patches, areas, rays, false, 2, noProgress);
  const double twice = seconds(begin);
  if (!one || !two)
    return false;
  const auto entries = static_cast<double>(one->exchange.nonZeros());
  std::printf("%zu patches: rays alone %.2f s, view factors %.2f s (%.2f times), two threads %.2f s (%.2f times as "
              "fast); %.1f M factors, %.1f bytes each\n",
              patches.count(), alone, single, single / alone, twice, single / twice, entries / 1e6,
              (entries * 8 + 12.0 * static_cast<double>(patches.count())) / entries);
  return true;
}

} // namespace

int main()
{
  auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  project->mesh = {}; // a quick look
  const auto geometry = buildGeometry(*project);
  const auto mesh = buildMesh(*project, *geometry, noProgress);
  Project finer = *project;
  finer.mesh.fineness = Number{1.6, {}};
  const auto fine = buildMesh(finer, *geometry, noProgress);
  if (!mesh || !fine || !castingOver(*mesh, 1000) || !castingOver(*mesh, 5000) || !castingOver(*fine, 20000))
    return 1;
  const std::filesystem::path folder = std::filesystem::temp_directory_path() / "kiln-bench-radiation";
  std::filesystem::create_directories(folder / "on");
  std::filesystem::create_directories(folder / "muted");
  const bool done = shareOfRadiosity(*project, *mesh, folder, 1700) && warmOverMuted(*project, folder);
  std::filesystem::remove_all(folder);
  return done ? 0 : 1;
}
