// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What was set, as it lands on the mesh: emissivities, overlapping conditions, held points, places in tetrahedra.
#include "TestProjects.h"
#include "geometry/SurfaceFaces.h"
#include "heat/Conditions.h"
#include "heat/boundaries/Finishes.h"
#include "heat/elements/Location.h"
#include "mesh/VolumeMesh.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

Project cube()
{
  Project project = projectWith(0.01);
  project.materials = {material("m", 2)};
  project.parts = {part("cube", "m", block(0.04, 0.04, 0.04))};
  project.surfaces = {surface("bottom", {"cube.bottom"}), surface("top", {"cube.top"}),
                      surface("sides", {"cube.left", "cube.right"}), exposedOf("all", {"cube"})};
  project.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)})};
  return project;
}

Finish finish(const std::string& id, double emissivity, std::vector<std::string> surfaces)
{
  Finish f;
  f.id = f.name = id;
  f.emissivity = number(emissivity);
  f.surfaces = std::move(surfaces);
  return f;
}

} // namespace

class ConditionsTest : public QObject
{
  Q_OBJECT

private slots:
  void theLastFinishWinsOverEarlierOnesAndTheMaterial()
  {
    Project project = cube();
    const Mesh mesh = meshOf(project);
    const auto of = [&](const char* name) {
      return emissivityOf(project, mesh.geometry, facesOf(project, mesh.geometry, surface("x", {name})).faces.front());
    };
    QVERIFY(!of("cube.top"));
    project.materials[0].emissivity = number(0.3);
    QCOMPARE(of("cube.top")->si, 0.3);
    project.finishes = {finish("paint", 0.9, {"all"}), finish("foil", 0.05, {"top"})};
    QCOMPARE(of("cube.top")->si, 0.05);
    QCOMPARE(of("cube.left")->si, 0.9);
    std::swap(project.finishes[0], project.finishes[1]);
    QCOMPARE(of("cube.top")->si, 0.9);
  }

  void convectionAndRadiationOnOneFaceAreSummed()
  {
    Project project = cube();
    project.materials[0].emissivity = number(0.8);
    project.boundaries = {boundary("air", Convection{"top", number(12), number(290)}),
                          boundary("room", Radiation{"top", number(290), number(1)}),
                          boundary("fan", Convection{"top", number(5), number(290)})};
    project.sources = {source("q", SurfacePower{"bottom", number(1)})};
    project.watches = {watch("top", SurfaceFigure{PartFigure::Kind::Mean, "top"})};
    const CaseResult result = solve(project);
    const double t = valueOf(project, result, "top");
    const double area = 0.0016;
    QVERIFY(std::abs(wattsOf(result.boundaries, "air") / wattsOf(result.boundaries, "fan") - 12.0 / 5) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.boundaries, "air") + 12 * area * (t - 290)) < 1e-7);
    QVERIFY(std::abs(wattsOf(result.boundaries, "room") +
                     0.8 * 5.670374419e-8 * area * (std::pow(t, 4) - std::pow(290, 4))) < 1e-6);
    QVERIFY(result.relativeImbalance() < 1e-7);
  }

  void whereTwoFixedTemperaturesMeetTheLaterOneHolds()
  {
    Project project = cube();
    project.boundaries.push_back(boundary("warm", FixedSurface{"sides", number(400)}));
    const CaseResult result = solve(project);
    for (std::size_t i = 0; i < result.temperature.size(); ++i) {
      const Vec3& p = result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[i])];
      if (std::abs(std::abs(p.x()) - 0.02) < 1e-12)
        QCOMPARE(result.temperature[i], 400.0);
      else if (p.z() < 1e-12)
        QCOMPARE(result.temperature[i], 300.0);
    }
    QVERIFY(std::abs(wattsOf(result.boundaries, "warm") + wattsOf(result.boundaries, "cold")) < 1e-6);
  }

  void aHeldPartAndAHeldPointKeepTheirTemperature()
  {
    Project project = cube();
    project.parts.push_back(part("lid", "m", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.04)));
    project.boundaries.push_back(boundary("hot", FixedPart{"lid", number(500)}));
    project.boundaries.push_back(
        boundary("tip", FixedPoint{{number(0.019), number(0.02), number(0.021)}, number(350)}));
    const CaseResult result = solve(project);
    for (const PartFigures& figure : partFigures(result))
      if (figure.id == "lid") {
        QCOMPARE(figure.hottest.value, 500.0);
        QCOMPARE(figure.coldest.value, 500.0);
      }
    int held = 0;
    for (const double t : result.temperature)
      held += t == 350.0 ? 1 : 0;
    QCOMPARE(held, 1);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void aNegativeSourceCools()
  {
    Project project = cube();
    project.sources = {source("drain", SurfaceFlux{"top", number(-1000)})};
    project.watches = {watch("top", SurfaceFigure{PartFigure::Kind::Mean, "top"})};
    const CaseResult result = solve(project);
    QVERIFY(std::abs(valueOf(project, result, "top") - (300 - 1000 * 0.04 / 2)) < 1e-8);
    QVERIFY(std::abs(wattsOf(result.sources, "drain") + 1.6) < 1e-9);
    QVERIFY(wattsOf(result.boundaries, "cold") > 0); // the boundary brings heat in
  }

  void aViewFactorScalesRadiation()
  {
    const auto watts = [](double factor) {
      Project project = cube();
      project.materials[0].emissivity = number(1);
      project.boundaries = {boundary("hold", FixedPart{"cube", number(600)}),
                            boundary("room", Radiation{"top", number(300), number(factor)})};
      return wattsOf(solve(project).boundaries, "room");
    };
    QVERIFY(std::abs(watts(0.25) / watts(1) - 0.25) < 1e-9);
    QVERIFY(std::abs(watts(1) + 5.670374419e-8 * 0.0016 * (std::pow(600, 4) - std::pow(300, 4))) < 1e-6);
  }

  void placesAreFoundInTheirTetrahedron()
  {
    const Mesh mesh = meshOf(cube());
    for (const Vec3& place : {Vec3(0.001, 0.002, 0.003), Vec3(-0.0199, 0.0199, 0.0399), Vec3(0, 0, 0)}) {
      const Location location = locate(mesh, place);
      QCOMPARE(location.distance, 0.0);
      QVERIFY(location.weights.minCoeff() > -1e-12 && std::abs(location.weights.sum() - 1) < 1e-12);
      Vec3 back = Vec3::Zero();
      for (std::size_t i = 0; i < 4; ++i)
        back += location.weights[static_cast<Eigen::Index>(i)] *
                mesh.nodes[static_cast<std::size_t>(mesh.tets[location.tet][i])];
      QVERIFY((back - place).norm() < 1e-12);
    }
    const Location outside = locate(mesh, Vec3(0, 0, 0.05));
    QVERIFY(std::abs(outside.distance - 0.01) < 2e-3); // the nearest place, to a fraction of an element
  }

  void aPlaceWithoutHeatStaysAtTheSurroundings()
  {
    // Nothing flows: the steady answer is the ambient everywhere, and the ledger says zero.
    Project project = cube();
    project.materials[0].emissivity = number(0.7);
    project.boundaries = {boundary("air", Convection{"top", number(8), number(310)}),
                          boundary("room", Radiation{"sides", number(310), number(1)})};
    const CaseResult result = solve(project);
    QVERIFY(largestError(result, [](const Vec3&) { return 310.0; }) < 1e-6);
    QVERIFY(result.heatIn < 1e-6 && result.heatOut < 1e-6);
  }

  void aConditionOnNothingIsNamed()
  {
    Project project = cube();
    project.parts[0].material = "gone";
    const Mesh mesh = meshOf(cube());
    const auto conditions = resolveConditions(project, mesh);
    QVERIFY(!conditions && conditions.error().sentence().find("part cube: It has no material") == 0);
  }
};

QTEST_APPLESS_MAIN(ConditionsTest)
#include "tst_conditions.moc"
