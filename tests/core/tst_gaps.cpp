// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Heat across empty gaps between parts that share no faces, and the ways to mend parts that nearly touch.
#include "TangentCheck.h"
#include "TestProjects.h"
#include "geometry/TouchingPairs.h"
#include "readiness/Mend.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double side = 0.05; // m
constexpr double area = side * side;

/// A block held at 400 K below, one held at 300 K above, a gap between them.
Project apart(double gap, std::optional<Gap> filling)
{
  Project p = projectWith(0.02);
  p.materials = {material("a", 1), material("b", 2)};
  p.parts = {part("low", "a", block(side, side, side)), part("high", "b", block(side, side, side), {0, 0, side + gap})};
  p.parts[1].meshSize = number(0.013); // the meshes of the two sides do not match
  p.surfaces = {surface("foot", {"low.bottom"}), surface("head", {"high.top"})};
  p.boundaries = {boundary("hot", FixedSurface{"foot", number(400)}),
                  boundary("cold", FixedSurface{"head", number(300)})};
  p.watches = {watch("crossing", ContactHeat{"low", "high"})};
  if (filling)
    p.contacts = {contact("low", "high", *filling)};
  return p;
}

std::vector<Finding> findingsOf(const Project& project)
{
  const auto findings = checkProject(project);
  if (!findings)
    throw std::runtime_error(findings.error().sentence());
  return *findings;
}

const Mend* mendOf(const std::vector<Finding>& findings, Mend::Action action)
{
  for (const Finding& finding : findings)
    for (const Mend& mend : finding.mends)
      if (mend.action == action)
        return &mend;
  return nullptr;
}

} // namespace

class GapTest : public QObject
{
  Q_OBJECT

private slots:
  void heatCrossesAnEmptyGapWhateverTheMeshes()
  {
    const double gap = 0.001;
    const double k = 0.026;
    const Project p = apart(gap, Gap{number(gap), number(k), {}, {}});
    const CaseResult result = solve(p);
    const double watts = area * 100 / (side / 1 + gap / k + side / 2);
    QVERIFY2(std::abs(valueOf(p, result, "crossing") / watts - 1) < 1e-6,
             qPrintable(QString::number(valueOf(p, result, "crossing") / watts - 1)));
    QVERIFY(std::abs(wattsOf(result.boundaries, "cold") / -watts - 1) < 1e-6);
    QCOMPARE(contactFigures(result).size(), std::size_t{1});
    QVERIFY(std::abs(contactFigures(result)[0].area / area - 1) < 1e-9);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  void radiationCrossesItToo()
  {
    const double gap = 0.002;
    const double k = 0.03;
    Project p = apart(gap, Gap{number(gap), number(k), Number{0.8, {}}, Number{0.6, {}}});
    std::get<FixedSurface>(p.boundaries[0].condition).temperature = number(1200);
    const CaseResult result = solve(p);
    // Two plates: flux q with T1 = 1200 − q·L/k1, T2 = 300 + q·L/k2, found by halving.
    const double effective = 1 / (1 / 0.8 + 1 / 0.6 - 1);
    double low = 0;
    double high = 2e4;
    for (int i = 0; i < 200; ++i) {
      const double q = (low + high) / 2;
      const double t1 = 1200 - q * side / 1;
      const double t2 = 300 + q * side / 2;
      const double crossing = k / gap * (t1 - t2) + 5.670374419e-8 * effective * (std::pow(t1, 4) - std::pow(t2, 4));
      (crossing > q ? low : high) = q;
    }
    QVERIFY(std::abs(valueOf(p, result, "crossing") / (low * area) - 1) < 1e-6);
    QVERIFY(result.relativeImbalance() < 1e-9);
    QVERIFY(tangentError(p) < 1e-6);
  }

  void anUnevenFieldLosesNothingInTheGap()
  {
    Project p = apart(0.001, Gap{number(0.001), number(0.1), Number{0.9, {}}, Number{0.9, {}}});
    p.parts[1].shape.placement.position.x = number(0.02); // they face each other over a part of their faces only
    p.sources = {source("spot", PointPower{{number(0.01), number(0.01), number(0.03)}, number(5)})};
    p.boundaries[0].condition = Convection{"foot", Property{20, {}}, number(300)};
    const CaseResult result = solve(p);
    QVERIFY(result.relativeImbalance() < 1e-9);
    QVERIFY(std::abs(contactFigures(result)[0].area / (side * 0.03) - 1) < 0.03); // seen by rays, to the triangle
    QVERIFY(std::abs(valueOf(p, result, "crossing") + wattsOf(result.boundaries, "cold")) < 1e-6);
  }

  void aGapMuchThinnerThanItsPartsAreApartIsNotReady()
  {
    const std::vector<Finding> findings = findingsOf(apart(0.01, Gap{number(0.001), number(0.026), {}, {}}));
    QVERIFY(mentions(findings, Finding::Severity::Error, {"10 mm apart", "1 mm"}));
    QVERIFY(mendOf(findings, Mend::Action::RemoveObject) != nullptr);
  }

  void partsThatNearlyTouchCanBeBridged()
  {
    Project p = apart(1e-4, std::nullopt);
    const std::vector<Finding> before = findingsOf(p);
    QVERIFY(mentions(before, Finding::Severity::Hint, {"0.1 mm apart"}));
    const Mend* bridge = mendOf(before, Mend::Action::BridgeGap);
    QVERIFY(bridge != nullptr);
    applyMend(p, *bridge);
    const std::vector<Finding> after = findingsOf(p);
    QVERIFY(!hasErrors(after));
    QVERIFY(!mentions(after, Finding::Severity::Hint, {"apart"}));
    const CaseResult result = solve(p);
    const double watts = area * 100 / (side / 1 + 1e-4 / 0.026 + side / 2);
    QVERIFY(std::abs(valueOf(p, result, "crossing") / watts - 1) < 1e-6);
  }

  void aWiderToleranceJoinsThem()
  {
    Project p = apart(2e-5, std::nullopt);
    const std::vector<Finding> before = findingsOf(p);
    const Mend* widen = mendOf(before, Mend::Action::WidenTolerance);
    QVERIFY(widen != nullptr);
    applyMend(p, *widen);
    QVERIFY(p.shapes.tolerance.has_value());
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry.has_value());
    QVERIFY(touch(geometry->table, PartId(0), PartId(1)));
  }

  void aSliverIsNamedWithItsWidth()
  {
    Project p = apart(0, std::nullopt);
    p.parts[1].shape.form = block(side + 4e-5, side, side); // 20 µm over on both sides
    const std::vector<Finding> findings = findingsOf(p);
    QVERIFY(mentions(findings, Finding::Severity::Hint, {"0.02 mm wide", "tolerance"}));
    QVERIFY(mendOf(findings, Mend::Action::WidenTolerance) != nullptr);
  }

  void anAmbientMayFollowTheSurfaceTemperature()
  {
    Project p = projectWith(0.02);
    p.materials = {material("metal", 500)};
    p.parts = {part("plate", "metal", block(side, side, 0.005))};
    p.surfaces = {surface("top", {"plate.top"}), surface("foot", {"plate.bottom"})};
    // Air that warms with the surface: T_a = 290 + 0.4 (T_s − 300).
    Property ambient{250, {}};
    ambient.table = {{number(200), number(250)}, {number(500), number(370)}};
    p.boundaries = {boundary("air", Convection{"top", Property{20, {}}, ambient})};
    p.sources = {source("heat", SurfaceFlux{"foot", number(1000)})};
    const CaseResult result = solve(p);
    // q = h (T − T_a) → T − 290 − 0.4 (T − 300) = 50, at the top.
    const double exact = (50 + 290 - 0.4 * 300) / 0.6;
    QVERIFY(largestError(result, [&](const Vec3& x) { return exact + 1000 * (0.005 - x.z()) / 500; }) < 1e-6);
    QVERIFY(tangentError(p) < 1e-6);
  }

  void aCoefficientIsJudgedByItsSituation()
  {
    Project p = apart(0, std::nullopt);
    Convection convection{"foot", Property{900, "900 W/(m²·K)"}, number(300)};
    convection.situation = "still air, natural";
    p.boundaries[0].condition = convection;
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"far from what is usual for still air", "2 to 25"}));
    std::get<Convection>(p.boundaries[0].condition).coefficient = Property{12, "12 W/(m²·K)"};
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"usual for"}));
  }

  void correlationsAskForGravityOnce()
  {
    Project p = apart(0, std::nullopt);
    CorrelatedConvection flow;
    flow.surface = "foot";
    flow.size = number(0.05);
    flow.ambient = number(300);
    p.boundaries[0].condition = flow;
    const std::vector<Finding> asked = checkModel(p);
    QVERIFY(mentions(asked, Finding::Severity::Hint, {"gravity along −z", "101.325 kPa"}));
    const Mend* confirm = mendOf(asked, Mend::Action::UsualEnvironment);
    QVERIFY(confirm != nullptr);
    applyMend(p, *confirm);
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"gravity"}));
  }
};

QTEST_APPLESS_MAIN(GapTest)
#include "tst_gaps.moc"
