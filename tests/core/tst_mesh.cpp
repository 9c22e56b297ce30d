// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "heat/elements/Unknowns.h"
#include "io/ProjectFile.h"
#include "mesh/CountEstimate.h"
#include "mesh/SizeField.h"
#include "mesh/VolumeMesh.h"

#include <QTest>
#include <map>
#include <numbers>
#include <random>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

Project withParts(double size, std::vector<Part> parts)
{
  Project project = projectWith(size);
  project.materials = {material("m", 1)};
  project.parts = std::move(parts);
  return project;
}

/// Every side of every tet is shared by exactly two tets or carries exactly one skin triangle.
bool conforms(const Mesh& mesh)
{
  std::map<NodeTriangle, int> sides;
  for (const Tet& tet : mesh.tets)
    for (std::size_t skip = 0; skip < 4; ++skip) {
      NodeTriangle key{};
      for (std::size_t i = 0, k = 0; i < 4; ++i)
        if (i != skip)
          key[k++] = tet[i];
      std::sort(key.begin(), key.end());
      ++sides[key];
    }
  std::size_t skin = 0;
  for (const NodeTriangle& t : mesh.triangles) {
    NodeTriangle key = t;
    std::sort(key.begin(), key.end());
    const auto found = sides.find(key);
    if (found == sides.end())
      return false;
    skin += found->second == 1 ? 1 : 0;
  }
  std::size_t single = 0;
  for (const auto& [key, count] : sides) {
    if (count > 2)
      return false;
    single += count == 1 ? 1 : 0;
  }
  return single == skin;
}

} // namespace

class MeshTest : public QObject
{
  Q_OBJECT

private slots:
  void everyFormMeshes_data()
  {
    QTest::addColumn<std::shared_ptr<Form>>("form");
    QTest::addColumn<double>("smallestShare"); // of the exact volume; chords of 20° lose some
    const auto row = [](const char* name, Form form, double share) {
      QTest::newRow(name) << std::make_shared<Form>(std::move(form)) << share;
    };
    row("block", block(0.1, 0.05, 0.2), 1 - 1e-9);
    row("cylinder", Cylinder{number(0.05), number(0.2)}, 0.975);
    row("slender cylinder", Cylinder{number(0.004), number(0.2)}, 0.975);
    row("tube", Tube{number(0.05), number(0.04), number(0.1)}, 0.97);
    row("sphere", Sphere{number(0.05)}, 0.95);
    row("cone", Cone{number(0.05), number(0.02), number(0.1)}, 0.975);
    row("pointed cone", Cone{number(0.05), number(0), number(0.1)}, 0.97);
    row("needle cone", Cone{number(0.01), number(0), number(0.1)}, 0.96);
    row("torus", Torus{number(0.05), number(0.015)}, 0.95);
    row("prism",
        Prism{
            {{number(0), number(0)}, {number(0.1), number(0)}, {number(0.02), number(0.02)}, {number(0), number(0.1)}},
            number(0.05)},
        1 - 1e-9);
    const std::vector<OutlinePoint> vase{{number(0), number(0)},         {number(0.03), number(0)},
                                         {number(0.045), number(0.06)},  {number(0.025), number(0.14)},
                                         {number(0.02), number(0.14)},   {number(0.04), number(0.06)},
                                         {number(0.025), number(0.005)}, {number(0), number(0.005)}};
    row("vase", TurnedProfile{vase, number(2 * std::numbers::pi)}, 0.96);
    row("half vase", TurnedProfile{vase, number(std::numbers::pi)}, 0.96);
  }
  void everyFormMeshes()
  {
    QFETCH(std::shared_ptr<Form>, form);
    QFETCH(double, smallestShare);
    Project project = withParts(0.02, {part("p", "m", *form)});
    project.mesh.size.reset(); // the default must do
    const Mesh mesh = meshOf(project);
    const double share = meshedVolumes(mesh)[0] / mesh.geometry.parts[0].volume;
    QVERIFY2(share > smallestShare && share < 1 + 1e-9, qPrintable(QString::number(share)));
    QVERIFY(conforms(mesh));
    QVERIFY2(mesh.smallestDihedral > 2, qPrintable(QString::number(mesh.smallestDihedral)));
  }

  void touchingPartsShareNodes()
  {
    const Mesh mesh = meshOf(withParts(0.02, {part("a", "m", block(0.1, 0.1, 0.1)),
                                              part("b", "m", Cylinder{number(0.02), number(0.05)}, Vec3(0, 0, 0.1))}));
    QVERIFY(conforms(mesh));
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      QCOMPARE(mesh.triangleTets[t][1] >= 0,
               mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])].contact());
  }

  void voidsAreFoundAndListed()
  {
    Part hollow = part("hollow", "m", block(0.1, 0.1, 0.1));
    hollow.steps.push_back(cut("inside", block(0.04, 0.05, 0.06), {0, 0, 0.02}));
    const Mesh mesh = meshOf(withParts(0.02, {hollow}));
    QCOMPARE(mesh.voids.size(), std::size_t{1});
    QVERIFY(std::abs(mesh.voids[0].volume - 0.04 * 0.05 * 0.06) < 1e-12);
    QCOMPARE(mesh.voids[0].faces.size(), std::size_t{6});
    QVERIFY(std::abs(meshedVolumes(mesh)[0] - (0.001 - 0.00012)) < 1e-12);
  }

  void sizesAreHonoured()
  {
    const auto count = [](std::optional<double> global, std::optional<double> own) {
      Part p = part("p", "m", block(0.1, 0.1, 0.1));
      if (own)
        p.meshSize = number(*own);
      Project project = withParts(0.02, {p});
      project.mesh.size = global ? std::optional(number(*global)) : std::nullopt;
      return meshOf(project).tets.size();
    };
    const double ratio = static_cast<double>(count(0.01, {})) / static_cast<double>(count(0.02, {}));
    QVERIFY2(ratio > 5 && ratio < 12, qPrintable(QString::number(ratio))); // eight, for half the size
    QVERIFY(count(0.05, 0.01) > 3 * count(0.05, {}));
  }

  void sizeFieldIsTheLowerEnvelope()
  {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> unit(0, 1);
    std::vector<SizeSource> sources;
    for (int i = 0; i < 500; ++i)
      sources.push_back({Vec3(unit(random), unit(random), unit(random)), 0.01 + 0.2 * unit(random)});
    const SizeField field(sources);
    for (int i = 0; i < 200; ++i) {
      const Vec3 place(unit(random), unit(random), unit(random));
      double expected = 0.15;
      for (const SizeSource& source : sources)
        expected = std::min(expected, source.size + SizeField::growth * (source.place - place).norm());
      QVERIFY(std::abs(field.at(place, 0.15) - expected) < 1e-15);
    }
  }

  void jumpsSplitNodesAndPerfectContactsShareThem()
  {
    const Mesh mesh = meshOf(withParts(
        0.02, {part("a", "m", block(0.1, 0.1, 0.02)), part("b", "m", block(0.1, 0.1, 0.02), Vec3(0, 0, 0.02))}));
    std::vector<bool> jump(mesh.geometry.faces.size(), false);
    const Unknowns joined = numberUnknowns(mesh, jump);
    QCOMPARE(static_cast<std::size_t>(joined.count), mesh.nodes.size());
    std::set<int> shared;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      if (const auto f = static_cast<std::size_t>(mesh.triangleFace[t]); mesh.geometry.faces[f].contact()) {
        jump[f] = true;
        shared.insert(mesh.triangles[t].begin(), mesh.triangles[t].end());
      }
    const Unknowns split = numberUnknowns(mesh, jump);
    QCOMPARE(static_cast<std::size_t>(split.count), mesh.nodes.size() + shared.size());
  }

  /// What is foretold before meshing is near enough to what comes, for plain blocks and for round parts.
  void countsAreForetold()
  {
    for (const char* name : {"studio-kiln", "controller-box", "wax-vent"}) {
      const auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/" + name + ".kiln");
      for (const double fineness : {1.0, 0.7}) {
        Project own = *project;
        own.mesh.secondOrder = false;
        own.mesh.fineness = number(fineness);
        const Mesh mesh = meshOf(own);
        const CountEstimate told = estimateCount(own, mesh.geometry);
        const double nodes = told.nodes / static_cast<double>(mesh.nodes.size());
        const double tets = told.elements / static_cast<double>(mesh.tets.size());
        QVERIFY2(nodes > 0.5 && nodes < 2 && tets > 0.5 && tets < 2,
                 qPrintable(QString("%1: nodes %2, tets %3").arg(name).arg(nodes).arg(tets)));
      }
    }
  }

  void theDemoNeedsNoSizes()
  {
    auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    project->mesh = {};
    const Mesh mesh = meshOf(*project);
    QVERIFY2(mesh.tets.size() > 100'000 && mesh.tets.size() < 300'000, qPrintable(QString::number(mesh.tets.size())));
    QVERIFY(mesh.smallestDihedral > 2);
    for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p)
      QVERIFY(std::abs(meshedVolumes(mesh)[p] / mesh.geometry.parts[p].volume - 1) < 0.025);
  }
};

QTEST_APPLESS_MAIN(MeshTest)
#include "tst_mesh.moc"
