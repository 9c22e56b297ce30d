// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"

#include <QTest>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A bar of three cubes along z: heated at the top, cooled at the bottom.
Project threeCubes(decltype(Contact::exchange) lower, decltype(Contact::exchange) upper)
{
  Project project = projectWith(0.004);
  project.materials = {material("metal", 20), material("glass", 1)};
  project.parts = {part("low", "metal", block(0.02, 0.02, 0.02)),
                   part("mid", "glass", block(0.02, 0.02, 0.02), Vec3(0, 0, 0.02)),
                   part("high", "metal", block(0.02, 0.02, 0.02), Vec3(0, 0, 0.04))};
  project.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"})};
  project.sources = {source("heater", SurfacePower{"top", number(8)})};
  project.boundaries = {boundary("air", Convection{"bottom", number(200), number(300)})};
  project.contacts = {contact("low", "mid", lower), contact("high", "mid", upper)};
  project.watches = {watch("down", ContactHeat{"high", "mid"}), watch("up", ContactHeat{"low", "mid"}),
                     watch("in", SurfaceHeat{"top"}), watch("out", SurfaceHeat{"bottom"})};
  return project;
}

} // namespace

class AccountTest : public QObject
{
  Q_OBJECT

private slots:
  void everyWattIsAccountedFor()
  {
    const Project project = threeCubes(PerfectContact{}, AreaConductance{number(500)});
    const CaseResult result = solve(project);
    QVERIFY(result.relativeImbalance() < 1e-9);
    QVERIFY(std::abs(wattsOf(result.sources, "heater") - 8) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.boundaries, "air") + 8) < 1e-7);
  }

  void contactsCarryTheHeatWhetherPerfectOrNot()
  {
    for (const auto& [lower, upper] :
         {std::pair<decltype(Contact::exchange), decltype(Contact::exchange)>{PerfectContact{}, PerfectContact{}},
          {AreaConductance{number(300)}, PerfectContact{}},
          {PerfectContact{}, AreaResistance{number(0.001)}},
          {TotalResistance{number(2)}, TotalResistance{number(3)}}}) {
      const Project project = threeCubes(lower, upper);
      const CaseResult result = solve(project);
      QVERIFY(std::abs(valueOf(project, result, "down") - 8) < 1e-6);
      QVERIFY(std::abs(valueOf(project, result, "up") + 8) < 1e-6); // seen from the other part
      QVERIFY(std::abs(valueOf(project, result, "in") - 8) < 1e-6);
      QVERIFY(std::abs(valueOf(project, result, "out") + 8) < 1e-6);
    }
  }

  void totalResistanceMakesItsJump()
  {
    const Project project = threeCubes(TotalResistance{number(2)}, PerfectContact{});
    Project watched = project;
    watched.surfaces.push_back(surface("lowSide", {"low.top"}));
    watched.surfaces.push_back(surface("midSide", {"mid.bottom"}));
    watched.watches = {watch("a", SurfaceFigure{PartFigure::Kind::Mean, "lowSide"}),
                       watch("b", SurfaceFigure{PartFigure::Kind::Mean, "midSide"})};
    const CaseResult result = solve(watched);
    QVERIFY(std::abs(valueOf(watched, result, "b") - valueOf(watched, result, "a") - 2 * 8) < 1e-6);
  }

  void sharesAPowerByVolumeAndScalesRoundParts()
  {
    // A cylinder loses volume to its chords; its watts must not shrink with it.
    Project project = projectWith(0.01);
    project.materials = {material("m", 10)};
    project.parts = {part("rod", "m", Cylinder{number(0.01), number(0.05)}),
                     part("base", "m", block(0.04, 0.04, 0.01), Vec3(0, 0, -0.01))};
    project.surfaces = {exposedOf("skin", {"rod"}), surface("under", {"base.bottom"})};
    project.sources = {source("total", PartPower{{"rod"}, number(3)}),
                       source("density", PartDensity{{"rod"}, number(1e5)}),
                       source("flux", SurfaceFlux{"skin", number(100)}),
                       source("point", PointPower{{number(0), number(0), number(0.02)}, number(-1)})};
    project.boundaries = {boundary("cold", FixedSurface{"under", number(290)})};
    const CaseResult result = solve(project);
    const double volume = std::numbers::pi * 1e-4 * 0.05;
    const double area = std::numbers::pi * 1e-4 + 2 * std::numbers::pi * 0.01 * 0.05;
    QVERIFY(std::abs(wattsOf(result.sources, "total") - 3) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.sources, "density") - 1e5 * volume) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.sources, "flux") - 100 * area) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.boundaries, "cold") + 3 + 1e5 * volume + 100 * area - 1) < 1e-7);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  void mutedThingsDoNothing()
  {
    Project project = threeCubes(PerfectContact{}, PerfectContact{});
    project.sources.push_back(source("second", SurfacePower{"top", number(5)}));
    project.sources.back().muted = true;
    project.boundaries.push_back(boundary("water", Convection{"top", number(1000), number(280)}));
    project.boundaries.back().muted = true;
    const CaseResult result = solve(project);
    QCOMPARE(result.sources.size(), std::size_t{1});
    QVERIFY(std::abs(result.heatIn - 8) < 1e-9);
    project.parts[2].muted = true; // its surface is gone: the heater stands on nothing
    const QTemporaryDir folder;
    const auto refused = runCase(project, project.cases.front(), folder.path().toStdString(), noProgress);
    QVERIFY(!refused && mentions(refused.error().notReady, Finding::Severity::Error, {"surface top", "picks no face"}));
  }

  void aWatchAddedLaterReadsTheStoredFile()
  {
    const Project project = threeCubes(PerfectContact{}, PerfectContact{});
    const QTemporaryDir folder;
    QVERIFY(runCase(project, project.cases.front(), folder.path().toStdString(), noProgress));
    const auto stored = loadResult(resultFile(folder.path().toStdString(), "steady"));
    QVERIFY(stored);
    // Exact: bottom at 300 + 8/(200·A), then 8·L/(k·A) up to the middle of the glass.
    const double area = 4e-4;
    const double expected = 300 + 8 / (200 * area) + 8 * 0.02 / (20 * area) + 8 * 0.01 / (1 * area);
    const WatchFigure figure =
        readWatch(project, *stored, watch("late", PointFigure{{number(0.003), number(-0.002), number(0.03)}}));
    QVERIFY2(std::abs(*figure.value - expected) < 1e-6, qPrintable(QString::number(*figure.value - expected)));
    QVERIFY(stored->mesh.geometry.parts[static_cast<std::size_t>(figure.where->part)].id == "mid");
    const WatchFigure outside =
        readWatch(project, *stored, watch("off", PointFigure{{number(0), number(0), number(0.07)}}));
    QVERIFY(outside.note.find("10 mm away") != std::string::npos);
    const WatchFigure none =
        readWatch(project, *stored, watch("none", PartFigure{PartFigure::Kind::Hottest, {"nowhere"}}));
    QVERIFY(!none.value && !none.note.empty());
  }

  void marginsLookAtTheNearerLimit()
  {
    Project project = threeCubes(PerfectContact{}, PerfectContact{});
    Watch both = watch("both", PartFigure{PartFigure::Kind::Hottest, {"high"}});
    const CaseResult result = solve(project);
    const double value = *readWatch(project, result, both).value;
    both.upper = number(value + 20);
    both.lower = number(value - 5);
    QVERIFY(std::abs(*readWatch(project, result, both).margin - 5) < 1e-9);
    both.upper = number(value - 3);
    QVERIFY(std::abs(*readWatch(project, result, both).margin + 3) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(AccountTest)
#include "tst_account.moc"
