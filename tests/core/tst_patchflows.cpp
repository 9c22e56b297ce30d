// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Patch tests of every way in which heat enters, leaves or crosses: the same flux all over a face gives one temperature
// all over it, at both orders, flat and bent, steady and in time. The tests are made from the lists of kinds of the
// model: a kind that is added without an answer here does not compile.
#include "FlowKinds.h"
#include "heat/ThermalSystem.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

double spreadOf(const Project& p, const CaseResult& result)
{
  return valueOf(p, result, "hottest") - valueOf(p, result, "coldest");
}

} // namespace

class TestPatchFlows : public QObject
{
  Q_OBJECT
private slots:
  void everyKind_data()
  {
    QTest::addColumn<int>("kind");
    QTest::addColumn<int>("order");
    QTest::addColumn<bool>("bent");
    const std::vector<Named> kinds = allKinds();
    for (std::size_t k = 0; k < kinds.size(); ++k)
      for (const int order : {1, 2})
        for (const bool bent : {false, true})
          QTest::addRow("%s, order %d, %s", qPrintable(kinds[k].name), order, bent ? "bent" : "flat")
              << static_cast<int>(k) << order << bent;
  }
  /// Given one flux over the top, when solved, then the top has one temperature, the right one.
  void everyKind()
  {
    QFETCH(int, kind);
    QFETCH(int, order);
    QFETCH(bool, bent);
    const Body body{bent};
    const Patch patch = allKinds()[static_cast<std::size_t>(kind)].make(slab(body, order), body);
    const CaseResult result = solve(patch.project);
    // K of 20. Chords of first order do not make an upright side; a bent element's mapping is cubic; a current is
    // followed on the straight pieces of bent elements; a parabola is not in first order.
    const double exactly = !bent ? 2e-5 : order == 1 ? 0.7 : 0.01;
    const double parabolic = order == 1 ? 1.5 : bent ? 0.15 : exactly;
    const double tolerance = patch.inVolume ? parabolic : exactly;
    if (patch.everywhere)
      QVERIFY2(spreadOf(patch.project, result) < tolerance,
               qPrintable(QString::number(spreadOf(patch.project, result))));
    if (!std::isnan(patch.top))
      QVERIFY2(std::abs(valueOf(patch.project, result, "hottest") - patch.top) < tolerance,
               qPrintable(QString::number(valueOf(patch.project, result, "hottest"), 'g', 12)));
    if (!std::isnan(patch.throughput))
      QVERIFY2(std::abs(std::max(result.heatIn, result.heatOut) / patch.throughput - 1) < (bent ? 0.04 : 2e-5),
               qPrintable(QString::number(result.heatIn, 'g', 12)));
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void everyKindInTime_data() { everyKind_data(); }
  /// Given the steady state, when time goes on, then nothing moves.
  void everyKindInTime()
  {
    QFETCH(int, kind);
    QFETCH(int, order);
    QFETCH(bool, bent);
    if (bent && kind % 3 != 0)
      return; // every third of the round ones: they take long
    const Body body{bent};
    Patch patch = allKinds()[static_cast<std::size_t>(kind)].make(slab(body, order), body);
    const double before = valueOf(patch.project, solve(patch.project), "hottest");
    inTime(patch.project, base, 200).start = StartSteady{};
    const Ran ran = run(patch.project);
    QVERIFY2(std::abs(valueOf(patch.project, ran.result, "hottest") - before) < 1e-2,
             qPrintable(QString::number(valueOf(patch.project, ran.result, "hottest") - before)));
    QVERIFY(!ran.record.bounds.exceeded());
  }

  void uniformHeating_data()
  {
    QTest::addColumn<int>("order");
    QTest::addColumn<bool>("bent");
    for (const int order : {1, 2})
      for (const bool bent : {false, true})
        QTest::addRow("order %d, %s", order, bent ? "bent" : "flat") << order << bent;
  }
  /// Given an insulated body, heated evenly, then every node warms equally.
  void uniformHeating()
  {
    QFETCH(int, order);
    QFETCH(bool, bent);
    const Body body{bent};
    Project p = slab(body, order);
    p.boundaries.clear();
    p.sources = {source("heat", PartDensity{{"slab"}, plain(1e5)})};
    p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"slab"}}),
                 watch("coldest", PartFigure{PartFigure::Kind::Coldest, {"slab"}})};
    inTime(p, 300, 1000);
    const CaseResult result = run(p).result;
    const double rise = 1e5 * 1000 / (2000 * 1000.0); // q t / (ρ c)
    QVERIFY(std::abs(valueOf(p, result, "hottest") - 300 - rise) < 1e-4);
    QVERIFY(std::abs(valueOf(p, result, "coldest") - 300 - rise) < 1e-4);
  }

  /// Given coaxial cylinders that radiate to each other, then each has one temperature around, by the grey formula.
  void coaxialCylinders_data() { uniformOrders(); }
  void coaxialCylinders()
  {
    QFETCH(int, order);
    constexpr double inner = 0.02, outer = 0.05, emissivity = 0.7;
    Project p = projectWith(0.006);
    p.mesh.secondOrder = order == 2;
    p.materials = {material("stuff", 20)};
    p.materials.front().emissivity = number(emissivity);
    Section section;
    section.cut = PlaneSection{Across::Y, number(0), {}};
    p.section = section;
    p.parts = {part("core", "stuff", Disc{number(inner), number(0.01)}),
               part("mantle", "stuff", Disc{number(0.06), number(outer)})};
    p.surfaces = {surface("bore", {"core.inside"}), surface("in", {"core.outside"}), surface("out", {"mantle.inside"}),
                  surface("skin", {"mantle.outside"})};
    p.boundaries = {boundary("hot", FixedSurface{"bore", number(900)}),
                    boundary("cold", FixedSurface{"skin", number(350)})};
    Enclosure space;
    space.id = space.name = "space";
    space.surfaces = {"in", "out"};
    space.rays = number(20000);
    p.enclosures = {space};
    p.watches = {watch("hot", SurfaceFigure{PartFigure::Kind::Hottest, "in"}),
                 watch("cold", SurfaceFigure{PartFigure::Kind::Coldest, "in"}),
                 watch("warm", SurfaceFigure{PartFigure::Kind::Mean, "in"}),
                 watch("cool", SurfaceFigure{PartFigure::Kind::Mean, "out"}), watch("q", SurfaceHeat{"bore"})};
    const CaseResult result = solve(p);
    QVERIFY2(valueOf(p, result, "hot") - valueOf(p, result, "cold") < 1, "one temperature around");
    const double exchange =
        2 * pi * inner * stefanBoltzmann / (1 / emissivity + inner / outer * (1 / emissivity - 1)); // W/(m·K⁴)
    const double grey = exchange * (std::pow(valueOf(p, result, "warm"), 4) - std::pow(valueOf(p, result, "cool"), 4));
    QVERIFY2(std::abs(valueOf(p, result, "q") / grey - 1) < 4e-3,
             qPrintable(QString::number(valueOf(p, result, "q") / grey)));
  }

  /// Given plates that look at each other across a gap, then each has one temperature.
  void acrossSpace_data() { uniformOrders(); }
  void acrossSpace()
  {
    QFETCH(int, order);
    const Body body{};
    Project p = slab(body, order);
    p.parts.push_back(part("cap", "stuff", body.form(), Vec3(0, 0, height + 0.002)));
    p.contacts = {contact("slab", "cap", Gap{number(0.002), number(0.1), number(0.8), number(0.8)})};
    p.surfaces.push_back(surface("above", {"cap.top"}));
    p.boundaries.push_back(boundary("hot", FixedSurface{"above", number(600)}));
    const CaseResult result = solve(p);
    QVERIFY2(spreadOf(p, result) < 0.2, qPrintable(QString::number(spreadOf(p, result))));
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

private:
  static void uniformOrders()
  {
    QTest::addColumn<int>("order");
    for (const int order : {1, 2})
      QTest::addRow("order %d", order) << order;
  }
};

QTEST_GUILESS_MAIN(TestPatchFlows)
#include "tst_patchflows.moc"
