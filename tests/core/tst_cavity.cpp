// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The material that stands for still air: against the standard's own table, and in a wall.
#include "TestProjects.h"
#include "heat/boundaries/AirCavity.h"
#include "heat/boundaries/Correlations.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

double resistance(AirCavity::Flow flow, double thickness)
{
  AirCavity cavity;
  cavity.flow = flow;
  cavity.thickness = thickness;
  return 1 / cavityConductance(cavity, 283.15).value();
}

} // namespace

class TestCavity : public QObject
{
  Q_OBJECT

private slots:
  /// ISO 6946:2017, table 8: resistances of airspaces between surfaces of emissivity 0.9 at 10 °C, two decimals.
  void resistancesOfTheStandard()
  {
    using enum AirCavity::Flow;
    const std::vector<std::array<double, 4>> rows{
        // mm, up, across, down, m²·K/W
        {5, 0.11, 0.11, 0.11},  {7, 0.13, 0.13, 0.13},  {10, 0.15, 0.15, 0.15},  {15, 0.16, 0.17, 0.17},
        {25, 0.16, 0.18, 0.19}, {50, 0.16, 0.18, 0.21}, {100, 0.16, 0.18, 0.22}, {300, 0.16, 0.18, 0.23}};
    for (const auto& [thickness, up, across, down] : rows)
      for (const auto& [flow, wanted] : {std::pair(Upward, up), {Horizontal, across}, {Downward, down}}) {
        const double got = resistance(flow, thickness * 1e-3);
        QVERIFY2(std::abs(got - wanted) <= 0.0051,
                 qPrintable(QString("%1 mm: %2, not %3").arg(thickness).arg(got).arg(wanted)));
      }
  }

  /// A wall of nothing but the cavity between the surface coefficients of the standard: U = 1/(0.13 + R + 0.04).
  void transmittanceOfACavityWall()
  {
    AirCavity cavity;
    cavity.thickness = 0.025;
    Material air = *cavityMaterial(cavity);
    air.id = "air";
    Project p = projectWith(0.01);
    p.materials = {air};
    p.parts = {part("cavity", "air", block(0.1, 0.1, 0.025))};
    p.surfaces = {surface("in", {"cavity.bottom"}), surface("out", {"cavity.top"})};
    p.boundaries = {boundary("inside", Convection{"in", Property{1 / 0.13, ""}, Property{285, ""}}),
                    boundary("outside", Convection{"out", Property{1 / 0.04, ""}, Property{281, ""}})};
    p.watches = {watch("u", Transmittance{"in", number(285), number(281), {}})};
    const CaseResult result = solve(p);
    const double u = readWatches(p, result).front().value.value();
    const double exact = 1 / (0.13 + resistance(AirCavity::Flow::Horizontal, 0.025) + 0.04);
    QVERIFY2(std::abs(u / exact - 1) < 0.01, qPrintable(QString("%1, not %2").arg(u).arg(exact)));
  }

  void brightSidesAndNarrowCavitiesConductLess()
  {
    AirCavity cavity;
    cavity.thickness = 0.03;
    const double dull = cavityConductance(cavity, 293.15).value();
    cavity.emissivityA = 0.05;
    QVERIFY(cavityConductance(cavity, 293.15).value() < 0.5 * dull);
    cavity.emissivityA = 0.9;
    cavity.width = 0.03; // square: ½ (1 + √2 − 1) of the radiation
    const double radiation = 1 / (2 / 0.9 - 1) * 4 * 5.670374419e-8 * std::pow(293.15, 3);
    const double square = cavityConductance(cavity, 293.15).value();
    QVERIFY(std::abs(square - (dull - radiation * (1 - std::sqrt(2) / 2))) < 1e-9);
  }

  void whatCannotBeIsRefused()
  {
    AirCavity cavity;
    for (const auto& spoil : std::vector<std::function<void(AirCavity&)>>{
             [](AirCavity& c) { c.thickness = 0; }, [](AirCavity& c) { c.thickness = 0.4; },
             [](AirCavity& c) { c.emissivityA = 0; }, [](AirCavity& c) { c.emissivityB = 1.2; },
             [](AirCavity& c) { c.width = -1; }}) {
      cavity = {};
      cavity.thickness = 0.02;
      spoil(cavity);
      const auto made = cavityMaterial(cavity);
      QVERIFY(!made && !made.error().remedy.empty() && made.error().object == "air cavity");
    }
  }
};

QTEST_APPLESS_MAIN(TestCavity)
#include "tst_cavity.moc"
