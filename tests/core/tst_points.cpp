// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Values measured at places: read from a file, interpolated, used by name in formulas.
#include "TestProjects.h"
#include "io/PointFile.h"
#include "io/ProjectFile.h"
#include "model/Formula.h"
#include "model/PointCloud.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

double linearField(const Vec3& x) { return 12 + 30 * x.x() - 7 * x.y() + 4 * x.z(); }

/// Scattered places in a box; \p flat leaves them in the plane z = 0.
std::vector<PlacedPoint> scattered(int count, bool flat)
{
  std::mt19937 random(11);
  std::uniform_real_distribution<double> anywhere(0, 0.2);
  std::vector<PlacedPoint> points;
  for (int i = 0; i < count; ++i) {
    const Vec3 place(anywhere(random), anywhere(random), flat ? 0 : anywhere(random));
    points.push_back({{place.x(), place.y(), place.z()}, linearField(place)});
  }
  return points;
}

Parameter mapOf(std::vector<PlacedPoint> points)
{
  Parameter parameter;
  parameter.id = parameter.name = "map";
  parameter.quantity = Quantity::AreaConductance;
  parameter.points = std::move(points);
  parameter.value = number(15);
  return parameter;
}

/// A heated plate cooled by h, in the plane z = 0.01.
Project plate(const Number& coefficient)
{
  Project p = projectWith(0.02);
  p.materials = {material("metal", 20)};
  p.parts = {part("plate", "metal", block(0.2, 0.2, 0.01), {0.1, 0.1, 0})};
  p.surfaces = {surface("top", {"plate.top"}), surface("foot", {"plate.bottom"})};
  p.boundaries = {boundary("air", Convection{"top", coefficient, number(300)})};
  p.sources = {source("heat", SurfaceFlux{"foot", number(1000)})};
  return p;
}

} // namespace

class PointTest : public QObject
{
  Q_OBJECT

private slots:
  void aLinearFieldIsMetExactly()
  {
    for (const bool flat : {false, true}) {
      const PointCloud cloud(scattered(60, flat));
      for (const Vec3& place : {Vec3(0.05, 0.06, 0.1), Vec3(0.11, 0.1, 0.03), Vec3(0.15, 0.03, 0.12)}) {
        const Vec3 read = flat ? Vec3(place.x(), place.y(), 0) : place;
        QVERIFY(std::abs(cloud.at(read) - linearField(read)) < 1e-7);
      }
    }
  }

  void aGivenPointIsMetAsItWasGiven()
  {
    std::vector<PlacedPoint> points = scattered(40, false);
    for (std::size_t i = 0; i < points.size(); ++i)
      points[i].value = std::sin(17.0 * static_cast<double>(i)); // nothing smooth
    const PointCloud cloud(points);
    for (const PlacedPoint& point : points)
      QVERIFY(std::abs(cloud.at(Vec3(point.place.data())) - point.value) < 1e-5);
  }

  void outsideTheBorderHolds()
  {
    const PointCloud cloud(scattered(60, true));
    QVERIFY(cloud.covers(Vec3(0.1, 0.1, 0.005)));
    QVERIFY(!cloud.covers(Vec3(0.1, 0.1, 0.1)));
    QVERIFY(!cloud.covers(Vec3(0.4, 0.1, 0)));
    QCOMPARE(cloud.at(Vec3(0.1, 0.1, 5)), cloud.at(Vec3(0.1, 0.1, 0)));
    const PointCloud one(std::vector<PlacedPoint>{{{0, 0, 0}, 4}});
    QCOMPARE(one.at(Vec3(1, 2, 3)), 4.0);
  }

  void aFileSaysItsUnits()
  {
    const auto table =
        readPoints("x [mm]; y [cm]; z [m]; h [W/(m²·K)]\n10;1;0.01;25\n\n20; 2; 0.02; 30.5\n", "fan.csv");
    QVERIFY(table.has_value());
    QCOMPARE(table->quantity, Quantity::AreaConductance);
    QCOMPARE(table->points.size(), std::size_t{2});
    QVERIFY(std::abs(table->points[1].place[0] - 0.02) < 1e-12 && std::abs(table->points[1].place[1] - 0.02) < 1e-12);
    QCOMPARE(table->points[1].value, 30.5);
    const auto celsius = readPoints("x [m],y [m],z [m],T [°C]\n0,0,0,20\n", "air.csv");
    QVERIFY(celsius.has_value());
    QVERIFY(std::abs(celsius->points[0].value - 293.15) < 1e-9);
  }

  void aWrongFileIsRefusedWithItsLine_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("says");
    QTest::newRow("empty") << ""
                           << "line 1";
    QTest::newRow("no units") << "x,y,z,h\n1,2,3,4\n"
                              << "units in [ ]";
    QTest::newRow("unknown unit") << "x [mm],y [mm],z [mm],h [zap]\n1,2,3,4\n"
                                  << "“zap”";
    QTest::newRow("place in watts") << "x [W],y [mm],z [mm],h [W/m²]\n1,2,3,4\n"
                                    << "unit of length";
    QTest::newRow("short row") << "x [mm],y [mm],z [mm],h [W/m²]\n1,2,3,4\n1,2,3\n"
                               << "line 3";
    QTest::newRow("words") << "x [mm],y [mm],z [mm],h [W/m²]\n1,2,three,4\n"
                           << "four numbers";
    QTest::newRow("no rows") << "x [mm],y [mm],z [mm],h [W/m²]\n"
                             << "no points";
  }
  void aWrongFileIsRefusedWithItsLine()
  {
    QFETCH(QString, text);
    QFETCH(QString, says);
    const auto table = readPoints(text.toStdString(), "fan.csv");
    QVERIFY(!table.has_value());
    QVERIFY2(QString::fromStdString(table.error().sentence()).contains(says), table.error().sentence().c_str());
  }

  void aCoefficientFromPointsSolvesLikeItsFormula()
  {
    Project measured = plate(Number{15, "map", true});
    measured.parameters = {mapOf(scattered(80, true))};
    Project written = plate(Number{12, "12 [W/(m²·K)] + 30 [W/(m²·K)]*x/1 [m] - 7 [W/(m²·K)]*y/1 [m]", true});
    const CaseResult a = solve(measured);
    const CaseResult b = solve(written);
    QCOMPARE(a.temperature.size(), b.temperature.size());
    double worst = 0;
    for (std::size_t i = 0; i < a.temperature.size(); ++i)
      worst = std::max(worst, std::abs(a.temperature[i] - b.temperature[i]));
    QVERIFY2(worst < 0.2, qPrintable(QString::number(worst))); // the points do not reach the plate's very corners
    const auto [low, high] = std::minmax_element(a.temperature.begin(), a.temperature.end());
    QVERIFY(*high - *low > 3); // it does vary in place
  }

  void aFieldThatCannotVaryRefusesThem()
  {
    Project p = plate(number(10));
    p.parameters = {mapOf(scattered(20, true))};
    const auto refused = readEntry(p, "map", Quantity::AreaConductance);
    QVERIFY(!refused.has_value());
    QVERIFY(refused.error().problem.find("varies in place") != std::string::npos);
    QVERIFY(readEntry(p, "2*map", Quantity::AreaConductance, TemperatureUnit::Celsius, true).has_value());
    QVERIFY(!readEntry(p, "2*map", Quantity::Temperature, TemperatureUnit::Celsius, true).has_value());
  }

  void facesOutsideThePointsAreTold()
  {
    Project p = plate(Number{15, "map", true});
    p.parameters = {mapOf(scattered(40, true))};
    p.parts[0].shape.placement.position.x = number(2); // far from where it was measured
    const auto findings = checkProject(p);
    QVERIFY(findings.has_value());
    QVERIFY(mentions(*findings, Finding::Severity::Hint, {"outside the points of “map”"}));
  }

  void pointsAreKeptInTheFile()
  {
    Project p = plate(Number{15, "map", true});
    p.parameters = {mapOf(scattered(7, false))};
    p.parameters[0].pointsFrom = "fan.csv";
    const auto again = readProject(writeProject(p), "again");
    QVERIFY(again.has_value());
    QVERIFY(again->parameters == p.parameters);
  }

  void unknownKeysOfARepeatAreKept()
  {
    Project p = plate(number(10));
    Row row;
    row.count = number(3);
    row.pitch = {number(0.5), {}, {}};
    row.unknown = {{"skip", "[2]"}};
    p.parts[0].repeat = row;
    const auto again = readProject(writeProject(p), "again");
    QVERIFY(again.has_value());
    QVERIFY(again->parts == p.parts);
  }
};

QTEST_APPLESS_MAIN(PointTest)
#include "tst_points.moc"
