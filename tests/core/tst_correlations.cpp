// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Convection correlations against values computed apart from the program (docs/verification.md says how), their
// ranges, and the curve that a solve follows.
#include "TestProjects.h"
#include "heat/boundaries/Correlations.h"
#include "heat/boundaries/FlowFromShape.h"
#include "mesh/DraftMesh.h"

#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

CorrelatedConvection flow(int situation, Fluid fluid, double ambient, double size, double speed = 0, double length = 1)
{
  CorrelatedConvection f;
  f.situation = static_cast<FlowSituation>(situation);
  f.fluid = fluid;
  f.size = number(size);
  f.ambient = number(ambient);
  if (speed > 0)
    f.speed = number(speed);
  f.length = number(length);
  return f;
}

} // namespace

class CorrelationsTest : public QObject
{
  Q_OBJECT

private slots:
  void coefficients_data()
  {
    QTest::addColumn<int>("situation");
    QTest::addColumn<int>("fluid");
    QTest::addColumn<QList<double>>("given"); // surface, ambient, size, speed, length
    QTest::addColumn<double>("expected");
    int count = 0;
    const auto row = [&](int situation, Fluid fluid, double surface, double ambient, double size, double speed,
                         double length, double expected) {
      const std::string name =
          std::string(situationName(static_cast<FlowSituation>(situation))) + " " + std::to_string(++count);
      QTest::newRow(name.c_str()) << situation << static_cast<int>(fluid)
                                  << QList<double>{surface, ambient, size, speed, length} << expected;
    };
    row(0, Fluid::Air, 310, 300, 0.1, 0, 1, 4.2531433);
    row(0, Fluid::Air, 350, 300, 0.3, 0, 1, 5.5016622);
    row(0, Fluid::Air, 400, 293.15, 0.5, 0, 1, 6.3707833);
    row(0, Fluid::Air, 600, 293.15, 1, 0, 1, 7.3113602);
    row(0, Fluid::Air, 280, 300, 2, 0, 1, 3.848189);
    row(1, Fluid::Air, 310, 300, 0.05, 0, 1, 5.2305227);
    row(1, Fluid::Air, 350, 300, 0.1, 0, 1, 6.4516679);
    row(1, Fluid::Air, 400, 293.15, 0.3, 0, 1, 7.7049258);
    row(1, Fluid::Air, 600, 293.15, 0.5, 0, 1, 9.2789105);
    row(1, Fluid::Air, 1000, 293.15, 0.2, 0, 1, 9.5556635);
    row(2, Fluid::Air, 310, 300, 0.2, 0, 1, 1.8492691);
    row(2, Fluid::Air, 350, 300, 0.3, 0, 1, 2.4511037);
    row(2, Fluid::Air, 400, 293.15, 0.4, 0, 1, 2.7053024);
    row(2, Fluid::Air, 600, 293.15, 0.5, 0, 1, 3.1074392);
    row(2, Fluid::Air, 280, 300, 0.25, 0, 1, 4.9768582);
    row(4, Fluid::Air, 310, 300, 0.01, 0, 1, 6.7612422);
    row(4, Fluid::Air, 350, 300, 0.05, 0, 1, 6.3640793);
    row(4, Fluid::Air, 400, 293.15, 0.1, 0, 1, 6.9035584);
    row(4, Fluid::Air, 600, 293.15, 0.2, 0, 1, 7.7200744);
    row(4, Fluid::Air, 900, 293.15, 0.5, 0, 1, 7.5460652);
    row(5, Fluid::Air, 310, 300, 0.01, 0, 1, 11.912877);
    row(5, Fluid::Air, 350, 300, 0.05, 0, 1, 7.5766491);
    row(5, Fluid::Air, 400, 293.15, 0.1, 0, 1, 7.0255637);
    row(5, Fluid::Air, 600, 293.15, 0.2, 0, 1, 6.9233397);
    row(5, Fluid::Air, 330, 300, 0.5, 0, 1, 3.3331877);
    row(0, Fluid::Water, 305, 295, 0.05, 0, 1, 616.97437);
    row(0, Fluid::Water, 320, 300, 0.1, 0, 1, 824.26461);
    row(0, Fluid::Water, 340, 300, 0.2, 0, 1, 1103.1842);
    row(0, Fluid::Water, 360, 310, 0.3, 0, 1, 1330.5477);
    row(0, Fluid::Water, 300, 310, 0.1, 0, 1, 620.11867);
    row(6, Fluid::Air, 320, 300, 0.2, 2, 1, 12.394789);
    row(6, Fluid::Air, 350, 300, 0.5, 5, 1, 12.361034);
    row(6, Fluid::Air, 400, 293.15, 1, 10, 1, 12.317849);
    row(6, Fluid::Air, 330, 300, 2, 30, 1, 67.077186);
    row(6, Fluid::Air, 310, 290, 0.1, 1, 1, 12.41925);
    row(7, Fluid::Air, 320, 300, 0.01, 1, 1, 33.482281);
    row(7, Fluid::Air, 350, 300, 0.02, 5, 1, 54.50517);
    row(7, Fluid::Air, 400, 293.15, 0.05, 10, 1, 53.015784);
    row(7, Fluid::Air, 330, 300, 0.1, 30, 1, 86.778368);
    row(7, Fluid::Air, 600, 293.15, 0.03, 2, 1, 27.092271);
    row(8, Fluid::Water, 320, 300, 0.01, 0.1, 0.5, 494.89827);
    row(8, Fluid::Water, 340, 300, 0.02, 0.1, 2, 258.80256);
    row(8, Fluid::Water, 340, 310, 0.01, 0.25, 1, 1404.3117);
    row(8, Fluid::Water, 340, 310, 0.02, 1, 3, 5361.0908);
    row(8, Fluid::Water, 350, 330, 0.05, 2, 5, 9717.5981);
  }
  void coefficients()
  {
    QFETCH(int, situation);
    QFETCH(int, fluid);
    QFETCH(QList<double>, given);
    QFETCH(double, expected);
    const auto result = correlate(flow(situation, static_cast<Fluid>(fluid), given[1], given[2], given[3], given[4]),
                                  Environment{}, given[0]);
    QVERIFY2(result, result ? "" : result.error().sentence().c_str());
    QVERIFY2(std::abs(result->coefficient / expected - 1) < 1e-6,
             qPrintable(QString::number(result->coefficient, 'g', 9)));
    QVERIFY(!result->source.empty() && !result->validity.empty() && !result->regime.empty());
  }

  void coefficientsOfStillRoomAirAreAsEveryoneKnowsThem()
  {
    // A 30 cm wall 30 K above a room loses about 5 W/(m²·K) by convection.
    const double wall = correlate(flow(0, Fluid::Air, 293.15, 0.3), Environment{}, 323.15)->coefficient;
    QVERIFY(wall > 4 && wall < 6.5);
    const double under = correlate(flow(2, Fluid::Air, 293.15, 0.1), Environment{}, 323.15)->coefficient;
    const double above = correlate(flow(1, Fluid::Air, 293.15, 0.1), Environment{}, 323.15)->coefficient;
    QVERIFY(under < above);
    // Turned over: a cold plate facing up is like a warm one facing down.
    const double cold = correlate(flow(1, Fluid::Air, 323.15, 0.1), Environment{}, 293.15)->coefficient;
    QVERIFY(cold < above);
  }

  void thinnerAirCarriesLess()
  {
    Environment mountain;
    mountain.airPressure = number(70000);
    const double high = correlate(flow(0, Fluid::Air, 293.15, 0.3), mountain, 350)->coefficient;
    const double low = correlate(flow(0, Fluid::Air, 293.15, 0.3), Environment{}, 350)->coefficient;
    QVERIFY(high < 0.9 * low);
  }

  void outsideTheirRangeTheySaySo()
  {
    QVERIFY(!correlate(flow(1, Fluid::Air, 293.15, 0.002), Environment{}, 300)->inRange); // Ra far below 10⁴
    QVERIFY(correlate(flow(1, Fluid::Air, 293.15, 0.2), Environment{}, 320)->inRange);
    QVERIFY(!correlate(flow(0, Fluid::Air, 2500, 0.2), Environment{}, 2600)->inRange); // no properties
    CorrelatedConvection thin = flow(3, Fluid::Air, 293.15, 1);
    thin.diameter = number(0.002);
    QVERIFY(!correlate(thin, Environment{}, 330)->inRange);
  }

  void whatIsMissingIsNamed()
  {
    QVERIFY(correlate(flow(6, Fluid::Air, 293.15, 1), Environment{}, 330).error().problem.find("speed") !=
            std::string::npos);
    QVERIFY(correlate(flow(0, Fluid::Air, 293.15, 0), Environment{}, 330).error().problem.find("height") !=
            std::string::npos);
  }

  void theCurveFollowsTheCorrelation()
  {
    for (const int situation : {0, 1, 2, 4, 5}) {
      const CorrelatedConvection own = flow(situation, Fluid::Air, 293.15, 0.15);
      const auto curve = coefficientCurve(own, Environment{});
      QVERIFY(curve);
      for (double surface = 294; surface < 1400; surface *= 1.037) {
        const double exact = correlate(own, Environment{}, surface)->coefficient;
        QVERIFY2(std::abs(valueAt(*curve, surface).value / exact - 1) < 0.01, qPrintable(QString::number(surface)));
      }
    }
  }

  void theSituationFollowsHowTheFacesLie_data()
  {
    QTest::addColumn<QString>("surface");
    QTest::addColumn<int>("situation");
    QTest::addColumn<double>("size"); // m
    const auto row = [](const char* name, const char* faces, FlowSituation situation, double size) {
      QTest::newRow(name) << QString(faces) << static_cast<int>(situation) << size;
    };
    row("top of a slab", "slab.top", FlowSituation::PlateFacingUp, 0.2 * 0.3 / (2 * (0.2 + 0.3)));
    row("underside of a slab", "slab.bottom", FlowSituation::PlateFacingDown, 0.2 * 0.3 / (2 * (0.2 + 0.3)));
    row("edge of a slab", "slab.front", FlowSituation::VerticalPlate, 0.02);
    row("standing pipe", "pipe.side", FlowSituation::VerticalCylinder, 0.5);
    row("squat drum", "drum.side", FlowSituation::VerticalCylinder, 0.05);
    row("lying pipe", "lying.side", FlowSituation::HorizontalCylinder, 0.04);
    row("ball", "ball.outside", FlowSituation::Sphere, 0.06);
  }
  void theSituationFollowsHowTheFacesLie()
  {
    QFETCH(QString, surface);
    Project p = projectWith(0.02);
    p.materials = {material("steel", 40)};
    Part lying = part("lying", "steel", Cylinder{number(0.02), number(0.5)}, Vec3(0, 3, 0));
    lying.shape.placement.rotation.y = number(std::numbers::pi / 2);
    p.parts = {part("slab", "steel", block(0.2, 0.3, 0.02)),
               part("pipe", "steel", Cylinder{number(0.02), number(0.5)}, Vec3(1, 0, 0)),
               part("drum", "steel", Cylinder{number(0.1), number(0.05)}, Vec3(2, 0, 0)), lying,
               part("ball", "steel", Sphere{number(0.03)}, Vec3(0, 5, 0))};
    p.surfaces = {kiln::test::surface("s", {surface.toStdString()})};
    const Boundary air = boundary("air", Convection{"s", Property{10, "10"}, number(300)});
    const Expected<Geometry> geometry = buildGeometry(p);
    QVERIFY(geometry.has_value());
    const Expected<Mesh> mesh = draftMesh(*geometry);
    QVERIFY(mesh.has_value());
    const CorrelatedConvection got = correlationFor(p, &*mesh, air, std::nullopt);
    QTEST(static_cast<int>(got.situation), "situation");
    QFETCH(double, size);
    QVERIFY2(std::abs(got.size.si - size) < 0.03 * size + 1e-4, qPrintable(QString::number(got.size.si)));
    QCOMPARE(got.ambient.si, 300.0);
  }
  void aTurnedGravityTurnsTheSituation()
  {
    Project p = projectWith(0.02);
    p.materials = {material("steel", 40)};
    p.parts = {part("slab", "steel", block(0.2, 0.3, 0.02))};
    p.surfaces = {surface("s", {"slab.top"})};
    p.environment = Environment{};
    p.environment->gravity = {number(0), number(9.81), number(0)};
    const Boundary air = boundary("air", Convection{"s", Property{10, "10"}, number(300)});
    const Expected<Mesh> mesh = draftMesh(*buildGeometry(p));
    const CorrelatedConvection got = correlationFor(p, &*mesh, air, std::nullopt);
    QCOMPARE(got.situation, FlowSituation::VerticalPlate);
    QCOMPARE(got.size.si, 0.3);
  }

  void aSolveFollowsTheCorrelation()
  {
    // A thin plate of copper, heated: one temperature, found here by bisection of Q = h(T) A (T − Ta).
    Project p = projectWith(0.02);
    p.materials = {material("copper", 400)};
    p.parts = {part("plate", "copper", block(0.2, 0.002, 0.2))};
    p.surfaces = {exposedOf("all", {"plate"})};
    p.sources = {source("heat", PartPower{{"plate"}, number(20)})};
    CorrelatedConvection air = flow(0, Fluid::Air, 293.15, 0.2);
    air.surface = "all";
    p.boundaries = {boundary("air", air)};
    const double area = 2 * (0.2 * 0.2 + 0.2 * 0.002 + 0.2 * 0.002);
    double low = 293.15;
    double high = 600;
    for (int i = 0; i < 60; ++i) {
      const double middle = (low + high) / 2;
      (correlate(air, Environment{}, middle)->coefficient * area * (middle - 293.15) < 20 ? low : high) = middle;
    }
    p.watches = {watch("mean", PartFigure{PartFigure::Kind::Mean, {"plate"}})};
    const CaseResult result = solve(p);
    QVERIFY2(std::abs(valueOf(p, result, "mean") - low) < 0.2,
             qPrintable(QString::number(valueOf(p, result, "mean") - low)));
    QVERIFY(result.relativeImbalance() < 1e-6);
  }
};

QTEST_APPLESS_MAIN(CorrelationsTest)
#include "tst_correlations.moc"
