// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Parts filled one by one: what did not change keeps its tetrahedra and is what it would be anyway; shells and the
// empty spaces between them.
#include "TestProjects.h"
#include "io/ProjectFile.h"
#include "mesh/SecondOrder.h"
#include "mesh/SkinShells.h"

#include <QTest>
#include <cmath>
#include <numbers>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Four blocks on a plate, one of them a tube.
Project fourOnAPlate(double shift)
{
  Project p = projectWith(0.006);
  p.materials = {material("m", 1)};
  p.parts = {part("plate", "m", block(0.12, 0.06, 0.006))};
  for (int i = 0; i < 4; ++i) {
    const Vec3 place(-0.045 + 0.03 * i + (i == 2 ? shift : 0), 0, 0.006);
    const Form form = i == 1 ? Form(Tube{number(0.01), number(0.006), number(0.02)}) : block(0.02, 0.02, 0.02);
    p.parts.push_back(part("b" + std::to_string(i), "m", form, place));
  }
  return p;
}

Mesh meshAfter(const Project& project, const Mesh* before)
{
  const auto geometry = buildGeometry(project);
  auto mesh = buildMesh(project, *geometry, noProgress, before);
  if (!mesh)
    throw std::runtime_error(mesh.error().sentence());
  return std::move(*mesh);
}

/// Tetrahedra of a part by the places of their corners.
std::set<std::vector<std::array<double, 3>>> tetsOf(const Mesh& mesh, const std::string& part)
{
  std::set<std::vector<std::array<double, 3>>> found;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    if (mesh.geometry.parts[static_cast<std::size_t>(mesh.tetPart[t])].id != part)
      continue;
    std::vector<std::array<double, 3>> corners;
    for (const std::int32_t node : mesh.tets[t]) {
      const Vec3& p = mesh.nodes[static_cast<std::size_t>(node)];
      corners.push_back({p.x(), p.y(), p.z()});
    }
    std::sort(corners.begin(), corners.end());
    found.insert(corners);
  }
  return found;
}

/// The skin of a box, its normals out of it, or into it.
void addBox(const Vec3& low, const Vec3& high, int face, bool inward, std::vector<Vec3>& nodes,
            std::vector<SkinTriangle>& triangles)
{
  const int first = static_cast<int>(nodes.size());
  for (int i = 0; i < 8; ++i)
    nodes.emplace_back((i & 1) != 0 ? high.x() : low.x(), (i & 2) != 0 ? high.y() : low.y(),
                       (i & 4) != 0 ? high.z() : low.z());
  const std::array<std::array<int, 4>, 6> sides{
      {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}}};
  for (const auto& s : sides)
    for (Triangle t : {Triangle{s[0], s[1], s[2]}, Triangle{s[0], s[2], s[3]}}) {
      for (int& n : t)
        n += first;
      if (inward)
        std::swap(t[1], t[2]);
      triangles.push_back({t, FaceId(face)});
    }
}

} // namespace

class TestFilling : public QObject
{
  Q_OBJECT

private slots:
  /// With or without an earlier mesh the same mesh comes out, to the last bit, for both orders.
  void anEarlierMeshChangesNothing()
  {
    for (const bool second : {false, true}) {
      Project p = fourOnAPlate(0);
      p.mesh.secondOrder = second;
      const Mesh before = meshAfter(p, nullptr);
      Project moved = fourOnAPlate(0.003);
      moved.mesh.secondOrder = second;
      const Mesh fresh = meshAfter(moved, nullptr);
      const Mesh reused = meshAfter(moved, &before);
      QCOMPARE(reused.tets.size(), fresh.tets.size());
      for (const char* part : {"plate", "b0", "b1", "b2", "b3"})
        QVERIFY2(tetsOf(reused, part) == tetsOf(fresh, part), part);
      for (const char* kept : {"b0", "b1", "b3"}) // only the plate and the moved block are others
        QVERIFY2(tetsOf(reused, kept) == tetsOf(before, kept), kept);
      QVERIFY(tetsOf(reused, "b2") != tetsOf(before, "b2"));
    }
  }

  /// What an earlier mesh knows is found by the skin: not for another size, another part or another model.
  void partsAreFoundByTheirSkin()
  {
    const Project p = fourOnAPlate(0);
    const auto geometry = buildGeometry(p);
    const Mesh mesh = meshAfter(p, nullptr);
    const PartMeshes known(mesh);
    const auto skinOf = [&](const Project& project) {
      return *meshSurface(*geometry, chooseSizes(project, *geometry));
    };
    const auto trianglesOf = [&](const SurfaceMesh& skin, PartId part) {
      std::vector<std::size_t> own;
      for (std::size_t t = 0; t < skin.triangles.size(); ++t)
        if (geometry->table.faces[static_cast<std::size_t>(skin.triangleFace[t])].touches(part))
          own.push_back(t);
      return own;
    };
    const SurfaceMesh same = skinOf(p);
    for (std::size_t part = 0; part < 5; ++part) {
      const auto found = known.find(geometry->table.parts[part].id, same, trianglesOf(same, PartId(part)));
      QVERIFY(found.has_value());
      QCOMPARE(found->tets.size(), static_cast<std::size_t>(std::count(mesh.tetPart.begin(), mesh.tetPart.end(),
                                                                       static_cast<std::int32_t>(part))));
    }
    QVERIFY(!known.find("b0", same, trianglesOf(same, PartId(2))).has_value());
    QVERIFY(!known.find("stranger", same, trianglesOf(same, PartId(1))).has_value());
    Project finer = p;
    finer.mesh.size = number(0.004);
    const SurfaceMesh other = skinOf(finer);
    QVERIFY(!known.find("b0", other, trianglesOf(other, PartId(1))).has_value());
  }

  /// A box in a hollow in a box: one cavity, its volume less that of the island, faces of both.
  void cavitiesAndIslands()
  {
    std::vector<Vec3> nodes;
    std::vector<SkinTriangle> triangles;
    addBox(Vec3(0, 0, 0), Vec3(10, 10, 10), 0, false, nodes, triangles);
    addBox(Vec3(1, 1, 1), Vec3(9, 9, 9), 1, true, nodes, triangles);
    addBox(Vec3(3, 3, 3), Vec3(6, 6, 6), 2, false, nodes, triangles);
    addBox(Vec3(4, 4, 4), Vec3(5, 5, 5), 3, true, nodes, triangles);
    const SkinShells shells(nodes, triangles);
    const auto cavities = shells.cavities();
    QVERIFY(cavities.has_value());
    QCOMPARE(cavities->size(), 2UL);
    std::vector<double> volumes{(*cavities)[0].volume, (*cavities)[1].volume};
    QVERIFY(std::abs(volumes[0] - (512 - 27)) < 1e-9 && std::abs(volumes[1] - 1) < 1e-9);
    QCOMPARE((*cavities)[0].faces, (std::vector<FaceId>{FaceId(1), FaceId(2)}));
    QCOMPARE((*cavities)[1].faces, std::vector<FaceId>{FaceId(3)});
    const Vec3& in = (*cavities)[0].place;
    QVERIFY(in.minCoeff() > 1 && in.maxCoeff() < 9 && !(in.minCoeff() > 3 && in.maxCoeff() < 6));
    QCOMPARE(shells.seeds().size(), 4UL); // behind every shell, in the solid
    for (const Vec3& seed : shells.seeds())
      QVERIFY((seed.minCoeff() > 0 && seed.maxCoeff() < 10));
  }

  /// Solids that touch along an edge only: nothing between them is closed, outside it is one.
  void touchingAlongAnEdge()
  {
    std::vector<Vec3> nodes;
    std::vector<SkinTriangle> triangles;
    addBox(Vec3(0, 0, 0), Vec3(1, 1, 1), 0, false, nodes, triangles);
    addBox(Vec3(1, 1, 0), Vec3(2, 2, 1), 1, false, nodes, triangles);
    // The corners (1,1,0) and (1,1,1) are nodes 3 and 7 of the first, 8 and 12 of the second.
    for (SkinTriangle& t : triangles)
      for (int& n : t.corners)
        n = n == 8 ? 3 : n == 12 ? 7 : n;
    const auto cavities = SkinShells(nodes, triangles).cavities();
    QVERIFY(cavities.has_value() && cavities->empty());
  }

  /// Four walls that meet along lines only, between two plates: the room inside is closed.
  void aRoomBetweenWallsThatMeetAlongLines()
  {
    Project p = projectWith(0.01);
    p.materials = {material("m", 1)};
    p.parts = {part("floor", "m", block(0.04, 0.04, 0.01)),
               part("lid", "m", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.03)),
               part("west", "m", block(0.01, 0.02, 0.02), Vec3(-0.015, 0, 0.01)),
               part("east", "m", block(0.01, 0.02, 0.02), Vec3(0.015, 0, 0.01)),
               part("south", "m", block(0.02, 0.01, 0.02), Vec3(0, -0.015, 0.01)),
               part("north", "m", block(0.02, 0.01, 0.02), Vec3(0, 0.015, 0.01))};
    const Mesh mesh = meshAfter(p, nullptr);
    QCOMPARE(mesh.voids.size(), 1UL);
    QVERIFY(std::abs(mesh.voids[0].volume / 8e-6 - 1) < 1e-9);
    QCOMPARE(mesh.voids[0].faces.size(), 6UL);
  }

  /// A part with a cavity that others fill, and one that nothing fills.
  void partsInsideParts()
  {
    Project p = projectWith(0.006);
    p.materials = {material("m", 1)};
    p.parts = {part("shell", "m", block(0.04, 0.04, 0.04)),
               part("core", "m", block(0.02, 0.02, 0.02), Vec3(0, 0, 0.01))};
    p.parts[0].steps = {cut("room", block(0.02, 0.02, 0.02), Vec3(0, 0, 0.01))};
    const Mesh filled = meshAfter(p, nullptr);
    const std::vector<double> volumes = meshedVolumes(filled);
    QVERIFY(std::abs(volumes[0] / (64e-6 - 8e-6) - 1) < 1e-9 && std::abs(volumes[1] / 8e-6 - 1) < 1e-9);
    QVERIFY(filled.voids.empty());
    p.parts[1].muted = true;
    const Mesh hollow = meshAfter(p, nullptr);
    QCOMPARE(hollow.voids.size(), 1UL);
    QVERIFY(std::abs(hollow.voids[0].volume / 8e-6 - 1) < 1e-9);
    QCOMPARE(hollow.voids[0].faces.size(), 6UL);
  }
};

QTEST_GUILESS_MAIN(TestFilling)
#include "tst_filling.moc"
