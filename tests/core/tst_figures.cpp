// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "results/ResultFields.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

GeometryPart unitPart() { return {"p", "P", 1, Vec3(0, 0, 0), Vec3(1, 1, 1)}; }

WatchFigure figureWith(std::optional<double> margin, Quantity quantity = Quantity::Temperature)
{
  WatchFigure figure;
  figure.quantity = quantity;
  figure.margin = margin;
  return figure;
}

/// A bar along x, 300 K at the left and 400 K at the right.
const CaseResult& barResult(Project& project)
{
  static Project bar = [] {
    Project p = projectWith(0.01);
    p.materials = {material("m", 10)};
    p.parts = {part("bar", "m", block(0.1, 0.02, 0.02))};
    p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"}), surface("front", {"bar.front"})};
    p.boundaries = {boundary("cold", FixedSurface{"left", number(300)}),
                    boundary("warm", FixedSurface{"right", number(400)})};
    return p;
  }();
  static const CaseResult result = solve(bar);
  project = bar;
  return result;
}

} // namespace

class FiguresTest : public QObject
{
  Q_OBJECT

private slots:
  void placesReadAsWords_data()
  {
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("y");
    QTest::addColumn<double>("z");
    QTest::addColumn<QString>("words");
    QTest::newRow("middle") << 0.5 << 0.5 << 0.5 << "middle";
    QTest::newRow("top") << 0.5 << 0.5 << 0.95 << "top";
    QTest::newRow("bottom") << 0.5 << 0.5 << 0.0 << "bottom";
    QTest::newRow("corner") << 0.1 << 0.9 << 0.9 << "top, back left";
    QTest::newRow("side") << 0.95 << 0.5 << 0.5 << "right";
    QTest::newRow("edge") << 0.95 << 0.05 << 0.5 << "front right";
  }
  void placesReadAsWords()
  {
    QFETCH(double, x);
    QFETCH(double, y);
    QFETCH(double, z);
    QFETCH(QString, words);
    QCOMPARE(QString::fromStdString(placeWords(unitPart(), Vec3(x, y, z))), words);
  }

  void marginsCarryTheirSign()
  {
    const auto text = [](double margin, Quantity q, TemperatureUnit u = TemperatureUnit::Celsius) {
      return QString::fromStdString(formatMargin(margin, q, u));
    };
    QCOMPARE(text(5.83, Quantity::Temperature), QString("+5.8 K"));
    QCOMPARE(text(-12.3, Quantity::Temperature), QString("−12 K"));
    QCOMPARE(text(123.4, Quantity::Temperature), QString("+123 K"));
    QCOMPARE(text(10, Quantity::Temperature, TemperatureUnit::Fahrenheit),
             QString("+18 °F")); // an interval, not a level
    QCOMPARE(text(-250, Quantity::Power), QString("−250 W"));
  }

  void theWorstMarginIsTheSmallestTemperatureMargin()
  {
    QVERIFY(!worstMargin({}));
    QVERIFY(!worstMargin({figureWith(std::nullopt)}));
    QCOMPARE(*worstMargin({figureWith(7), figureWith(-2), figureWith(3)})->margin, -2.0);
    // Kelvin and watts are not compared; a temperature speaks first.
    QCOMPARE(*worstMargin({figureWith(-100, Quantity::Power), figureWith(4)})->margin, 4.0);
    QCOMPARE(*worstMargin({figureWith(4), figureWith(-100, Quantity::Power)})->margin, 4.0);
    QCOMPARE(*worstMargin({figureWith(-100, Quantity::Power), figureWith(-200, Quantity::Power)})->margin, -200.0);
  }

  void extremesAndMeansOfPartsAndSurfaces()
  {
    Project project;
    const CaseResult& result = barResult(project);
    const PartFigures figures = partFigures(result).front();
    QVERIFY(std::abs(figures.hottest.value - 400) < 1e-9 && std::abs(figures.hottest.place.x() - 0.05) < 1e-12);
    QVERIFY(std::abs(figures.coldest.value - 300) < 1e-9 && std::abs(figures.coldest.place.x() + 0.05) < 1e-12);
    QVERIFY(std::abs(figures.mean - 350) < 1e-6);
    const auto value = [&](auto figure) { return *readWatch(project, result, watch("w", figure)).value; };
    QVERIFY(std::abs(value(SurfaceFigure{PartFigure::Kind::Mean, "front"}) - 350) < 1e-6);
    QVERIFY(std::abs(value(SurfaceFigure{PartFigure::Kind::Hottest, "left"}) - 300) < 1e-9);
    QVERIFY(std::abs(value(SurfaceFigure{PartFigure::Kind::Coldest, "right"}) - 400) < 1e-9);
    QVERIFY(std::abs(value(PointFigure{{number(0.025), number(0.001), number(0.009)}}) - 375) < 1e-7);
    // 10 W/(m·K) · 0.0004 m² · 100 K / 0.1 m = 4 W through both ends, none through the front.
    QVERIFY(std::abs(value(SurfaceHeat{"right"}) - 4) < 1e-7);
    QVERIFY(std::abs(value(SurfaceHeat{"left"}) + 4) < 1e-7);
    QVERIFY(std::abs(value(SurfaceHeat{"front"})) < 1e-9);
  }

  void fluxIsThatOfTheProfile()
  {
    Project project;
    const CaseResult& result = barResult(project);
    for (const Vec3& flux : result.flux)
      QVERIFY((flux - Vec3(-10 * 100 / 0.1, 0, 0)).norm() < 1e-5); // W/m², from warm to cold
  }

  void fieldsOfTheSolutionAreThoseOfTheProfile()
  {
    Project project;
    CaseResult result = barResult(project);
    const auto field = [&](Shown kind) {
      const PartwiseField values = fieldValues(project, result, result.temperature, kind);
      std::vector<double> all;
      for (UnknownId u(0); u < result.unknowns.count; ++u)
        all.push_back(values.at(u, PartId(0)));
      return all;
    };
    for (const double flux : field(Shown::HeatFlux)) // k ΔT/L = 10·100/0.1
      QVERIFY(std::abs(flux - 1e4) < 1e-3);
    for (const double error : field(Shown::FluxError))
      QVERIFY(error < 1e-3);
    for (const double share : field(Shown::MoltenShare))
      QCOMPARE(share, 0.0);
    project.materials[0].latentHeat = number(2e5);
    project.materials[0].meltsFrom = number(340);
    project.materials[0].meltsTo = number(360);
    const std::vector<double> molten = field(Shown::MoltenShare);
    for (std::size_t u = 0; u < molten.size(); ++u)
      QVERIFY(std::abs(molten[u] - std::clamp((result.temperature[u] - 340) / 20, 0.0, 1.0)) < 1e-12);
  }

  void whatDoesNotMeltStaysSoAtTheBorder()
  {
    Project p = projectWith(0.01);
    p.materials = {material("wax", 1), material("brass", 100)};
    p.materials[0].latentHeat = number(2e5);
    p.materials[0].meltsFrom = number(340);
    p.materials[0].meltsTo = number(341);
    p.parts = {part("wax", "wax", block(0.02, 0.02, 0.02)),
               part("cup", "brass", block(0.02, 0.02, 0.02), {0.02, 0, 0})};
    p.surfaces = {surface("hot", {"cup.right"}), surface("end", {"wax.left"})};
    p.boundaries = {boundary("a", FixedSurface{"hot", number(400)}), boundary("b", FixedSurface{"end", number(390)})};
    const CaseResult result = solve(p);
    const PartwiseField molten = fieldValues(p, result, result.temperature, Shown::MoltenShare);
    int shared = 0;
    for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
      for (const UnknownId u : result.unknowns.ofTet[t]) {
        const PartId own = result.mesh.tetPart[t];
        const bool wax = result.mesh.geometry.parts[static_cast<std::size_t>(own)].id == "wax";
        QCOMPARE(molten.at(u, own), wax ? 1.0 : 0.0);
        shared += molten.at(u, PartId(0)) != molten.at(u, PartId(1)) ? 1 : 0;
      }
    QVERIFY(shared > 0);
  }

  void aWatchOfSomethingThatIsNotThereSaysWhy()
  {
    Project project;
    const CaseResult& result = barResult(project);
    for (const WatchFigure& figure :
         {readWatch(project, result, watch("w", PartFigure{PartFigure::Kind::Mean, {"gone"}})),
          readWatch(project, result, watch("w", SurfaceFigure{PartFigure::Kind::Mean, "gone"})),
          readWatch(project, result, watch("w", SurfaceHeat{"gone"})),
          readWatch(project, result, watch("w", ContactHeat{"bar", "gone"}))}) {
      QVERIFY(!figure.value && !figure.margin);
      QVERIFY(!figure.note.empty());
    }
  }

  void surfacesOnAContactReadTheSideTheyName()
  {
    Project project = projectWith(0.01);
    project.materials = {material("m", 10)};
    project.parts = {part("low", "m", block(0.02, 0.02, 0.01)),
                     part("high", "m", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.01))};
    project.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"}), surface("below", {"low.top"}),
                        surface("above", {"high.bottom"})};
    project.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)}),
                          boundary("warm", FixedSurface{"top", number(400)})};
    project.contacts = {contact("low", "high", AreaConductance{number(1000)})};
    project.watches = {watch("b", SurfaceFigure{PartFigure::Kind::Mean, "below"}),
                       watch("a", SurfaceFigure{PartFigure::Kind::Mean, "above"}), watch("hb", SurfaceHeat{"below"}),
                       watch("ha", SurfaceHeat{"above"})};
    const CaseResult result = solve(project);
    // Three equal resistances of 1/1000 m²·K/W: thirds of 100 K.
    QVERIFY(std::abs(valueOf(project, result, "b") - (300 + 100.0 / 3)) < 1e-7);
    QVERIFY(std::abs(valueOf(project, result, "a") - (300 + 200.0 / 3)) < 1e-7);
    const double watts = 100.0 / 3 / 0.001 * 4e-4;
    QVERIFY(std::abs(valueOf(project, result, "hb") - watts) < 1e-7); // into Low
    QVERIFY(std::abs(valueOf(project, result, "ha") + watts) < 1e-7); // out of High
  }
};

QTEST_APPLESS_MAIN(FiguresTest)
#include "tst_figures.moc"
