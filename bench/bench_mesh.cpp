// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How fast geometry becomes a mesh: the demo at 300 k tets, one part moved, a plane section, second order, many bodies
// of a STEP file.
// Run: build/release/bench/bench_mesh [kiln|moved|plane|second|step]
#include "Assembly.h"
#include "geometry/GeometryImport.h"
#include "heat/Conditions.h"
#include "heat/ThermalSystem.h"
#include "io/ProjectFile.h"
#include "mesh/MeshQuality.h"
#include "mesh/SecondOrder.h"
#include "mesh/SectionMesh.h"
#include "mesh/VolumeMesh.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <filesystem>
#include <functional>

using namespace kiln;

namespace
{

double now() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

double best(int times, const std::function<void()>& action)
{
  double least = 1e300;
  for (int i = 0; i < times; ++i) {
    const double start = now();
    action();
    least = std::min(least, now() - start);
  }
  return least;
}

Number number(double si) { return {si, {}, false}; }

void demoAssembly(const Project& demo)
{
  Project project = demo;
  project.mesh.fineness = number(1.12);
  const double fuse = best(2, [&] { static_cast<void>(buildGeometry(project)); });
  const auto geometry = buildGeometry(project);
  const MeshSizes sizes = chooseSizes(project, *geometry);
  const double skinTime = best(2, [&] { static_cast<void>(meshSurface(*geometry, sizes)); });
  const auto skin = meshSurface(*geometry, sizes);
  const double whole = best(2, [&] { static_cast<void>(buildMesh(project, *geometry, noProgress)); });
  const auto mesh = buildMesh(project, *geometry, noProgress);
  std::printf("kiln: %zu tets, geometry %.2f s and mesh %.2f s: %.2f s together, %.2f s for 300 k\n", mesh->tets.size(),
              fuse, whole, fuse + whole, (fuse + whole) * 3e5 / static_cast<double>(mesh->tets.size()));
  std::printf("  surface mesher %.2f s, %.1f us a triangle\n", skinTime,
              1e6 * skinTime / static_cast<double>(skin->triangles.size()));
}

/// One of the parts moves a little where it stands.
void oneMoved(const Project& demo)
{
  PartCache cache;
  const auto first = buildGeometry(demo, cache);
  const auto before = buildMesh(demo, *first, noProgress);
  for (const char* id : {"vase-left", "vase-right"}) {
    Project moved = demo;
    findById(moved.parts, id)->shape.placement.position.x.si += 0.004;
    double fuse = 0;
    Expected<Geometry> geometry = tl::unexpected(Failure{});
    fuse = best(1, [&] { geometry = buildGeometry(moved, cache); });
    if (!geometry) {
      std::printf("  %s: %s\n", id, geometry.error().sentence().c_str());
      continue;
    }
    const double full = best(2, [&] { static_cast<void>(buildMesh(moved, *geometry, noProgress)); });
    const double again = best(2, [&] { static_cast<void>(buildMesh(moved, *geometry, noProgress, &*before)); });
    std::printf("  %s moved: meshed in %.2f s, anew %.2f s: %.0f %%; with the fuse (%.2f s) %.0f %%\n", id, again, full,
                100 * again / full, fuse, 100 * (again + fuse) / (full + fuse));
  }
}

void planeSection(const Project& wall)
{
  Project project = wall;
  project.mesh.secondOrder = false;
  project.mesh.acrossWalls.reset();
  project.mesh.size = number(0.001);
  const auto geometry = buildGeometry(project);
  if (!geometry)
    return;
  const MeshSizes sizes = chooseSizes(project, *geometry);
  Expected<AreaMesh> areas = tl::unexpected(Failure{});
  const double plane = best(3, [&] { areas = meshAreas(*geometry, sizes); });
  const double whole = best(2, [&] { static_cast<void>(buildMesh(project, *geometry, noProgress)); });
  std::printf("plane section: %zu triangles in %.2f s (%.2f s with the layer), %.2f s for 100 k\n",
              areas->triangles.size(), plane, whole, plane * 1e5 / static_cast<double>(areas->triangles.size()));
}

void secondOrder(const Project& demo)
{
  double first = 0;
  for (const bool second : {false, true}) {
    Project project = demo;
    project.mesh.secondOrder = second;
    project.enclosures.clear();
    const auto geometry = buildGeometry(project);
    const auto mesh = buildMesh(project, *geometry, noProgress);
    const auto conditions = resolveConditions(project, *mesh);
    if (!conditions) {
      std::printf("%s\n", conditions.error().sentence().c_str());
      return;
    }
    ThermalSystem system(*mesh, *conditions);
    const double each = best(20, [&] { assembleConduction(system); }) / static_cast<double>(tetElements(*mesh)) * 1e9;
    if (second)
      std::printf("assembly: %.0f ns an element of second order, %.0f of first: %.1f times\n", each, first,
                  each / first);
    first = each;
  }
}

void manyBodies()
{
  Project bricks;
  for (int i = 0; i < 200; ++i) {
    Part part;
    part.id = "brick-" + std::to_string(i);
    part.name = "Brick " + std::to_string(i);
    part.shape.form = Block{number(0.02), number(0.02), number(0.02)};
    part.shape.placement.position = {number(0.03 * (i % 20)), number(0.03 * (i / 20)), number(0)};
    part.steps = {{"hole", Cut{{Cylinder{number(0.003 + 1e-5 * i), number(0.02)}, {}}, {}}, {}}};
    bricks.parts.push_back(part);
  }
  const auto file = std::filesystem::temp_directory_path() / "usual-kiln-bench.step";
  if (!writeGeometry(bricks, file))
    return;
  int told = 0;
  double longest = 0;
  double last = now();
  const double start = last;
  const auto found = readGeometry(file, {}, [&](auto...) {
    ++told;
    longest = std::max(longest, now() - last);
    last = now();
  });
  std::printf("STEP of 200 bodies: %zu read in %.2f s, told %d times, at least every %.2f s\n", found->bodies.size(),
              now() - start, told, std::max(longest, now() - last));
  std::filesystem::remove(file);
}

} // namespace

int main(int count, char** words)
{
  const std::string only = count > 1 ? words[1] : "";
  const std::string folder = std::string(KILN_SOURCE_DIR) + "/demo/";
  auto demo = loadProject(folder + "studio-kiln.kiln");
  const auto wall = loadProject(folder + "wall-section.kiln");
  if (!demo || !wall) {
    std::puts("the demo projects are not there");
    return 1;
  }
  demo->mesh = {}; // a quick look
  const auto wanted = [&](const char* word) { return only.empty() || only == word; };
  if (wanted("kiln"))
    demoAssembly(*demo);
  if (wanted("moved"))
    oneMoved(*demo);
  if (wanted("plane"))
    planeSection(*wall);
  if (wanted("second"))
    secondOrder(*demo);
  if (wanted("step"))
    manyBodies();
  return 0;
}
