// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The difference of two results as a field: exact where fields are linear whatever the meshes, honest where they are
// not, and what exists in only one of them is shown as such.
#include "TestProjects.h"
#include "results/DifferenceField.h"
#include "results/PartLocator.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two blocks over each other; \p size of elements, \p order.
Project tower(double size, int order = 1)
{
  Project p = projectWith(size);
  p.mesh.secondOrder = order == 2;
  p.materials = {material("brick", 1), material("fibre", 0.2)};
  p.parts = {part("low", "brick", block(0.06, 0.05, 0.03)),
             part("high", "fibre", block(0.06, 0.05, 0.02), Vec3(0, 0, 0.03))};
  p.contacts = {contact("low", "high", AreaConductance{number(100)})};
  p.surfaces = {surface("under", {"low.bottom"}), surface("top", {"high.top"})};
  p.sources = {source("heater", SurfaceFlux{"under", Property{3000, ""}})};
  p.boundaries = {boundary("air", Convection{"top", Property{20, ""}, Property{300, ""}})};
  return p;
}

/// A result with temperatures by place instead of those that were solved.
template <class Field>
CaseResult fieldOn(const Project& p, Field&& field)
{
  CaseResult result = solve(p);
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
    for (std::size_t i = 0; i < 4; ++i)
      result.temperature[static_cast<std::size_t>(result.unknowns.ofTet[t][i])] =
          field(result.mesh.nodes[static_cast<std::size_t>(result.mesh.tets[t][i])],
                result.mesh.geometry.parts[static_cast<std::size_t>(result.mesh.tetPart[t])].id);
  return result;
}

DifferenceField difference(const CaseResult& a, const CaseResult& b)
{
  auto found = differenceOf(a, a.temperature, b, b.temperature);
  if (!found)
    throw std::runtime_error(found.error().sentence());
  return std::move(*found);
}

/// Largest distance of the field from what it should be, over all nodes that have a value.
template <class Field>
double largestError(const CaseResult& own, const DifferenceField& field, Field&& exact)
{
  double worst = 0;
  for (std::size_t t = 0; t < own.mesh.tets.size(); ++t)
    for (std::size_t i = 0; i < 4; ++i) {
      const PartId part = own.mesh.tetPart[t];
      const double value = field.kelvin->at(own.unknowns.ofTet[t][i], part);
      if (std::isfinite(value))
        worst = std::max(worst, std::abs(value - exact(own.mesh.nodes[static_cast<std::size_t>(own.mesh.tets[t][i])],
                                                       own.mesh.geometry.parts[static_cast<std::size_t>(part)].id)));
    }
  return worst;
}

} // namespace

class DifferenceTest : public QObject
{
  Q_OBJECT

private slots:
  void linearFieldsOnDifferentMeshes_data()
  {
    QTest::addColumn<int>("order");
    QTest::addColumn<int>("otherOrder");
    QTest::newRow("first, first") << 1 << 1;
    QTest::newRow("first, second") << 1 << 2;
    QTest::newRow("second, first") << 2 << 1;
  }
  /// Given two linear fields with a jump between the parts on different meshes, then their difference is exact at every
  /// node, and so is what is said of it.
  void linearFieldsOnDifferentMeshes()
  {
    QFETCH(int, order);
    QFETCH(int, otherOrder);
    const auto first = [](const Vec3& x, const std::string& part) {
      return 400 + 3000 * x.z() - 900 * x.x() + (part == "high" ? -40 : 0);
    };
    const auto second = [](const Vec3& x, const std::string& part) {
      return 420 - 1500 * x.z() + 700 * x.y() + (part == "high" ? 25 : 0);
    };
    const CaseResult a = fieldOn(tower(0.012, order), first);
    const CaseResult b = fieldOn(tower(0.009, otherOrder), second);
    QVERIFY(a.mesh.nodes.size() != b.mesh.nodes.size());
    const DifferenceField field = difference(a, b);
    QVERIFY(field.interpolated);
    constexpr double span = 300; // K
    const double error = largestError(
        a, field, [&](const Vec3& x, const std::string& part) { return second(x, part) - first(x, part); });
    QVERIFY2(error <= 1e-9 * span, qPrintable(QString::number(error)));
    QVERIFY2(field.misfit <= 1e-9 * span, qPrintable(QString::number(field.misfit)));
    QVERIFY(std::abs(field.shared - 0.06 * 0.05 * 0.05) < 1e-12 && field.alone == 0);
    // By hand: the mean of a linear field is that at the middle of each part.
    const double mean = (0.6 * (second({0, 0, 0.015}, "low") - first({0, 0, 0.015}, "low")) +
                         0.4 * (second({0, 0, 0.04}, "high") - first({0, 0, 0.04}, "high")));
    QVERIFY2(std::abs(field.mean - mean) < 1e-8, qPrintable(QString::number(field.mean - mean)));
  }

  /// Given one mesh, then the difference is that of the unknowns, and its mean is that of the figures.
  void onOneMeshNothingIsInterpolated()
  {
    Project p = tower(0.012);
    const CaseResult a = solve(p);
    std::get<Convection>(p.boundaries[0].condition).ambient = Property{320, ""};
    const CaseResult b = solve(p);
    const DifferenceField field = difference(a, b);
    QVERIFY(!field.interpolated && field.misfit == 0);
    QVERIFY(largestError(a, field, [](const Vec3&, const std::string&) { return 20.0; }) < 1e-6);
    double mean = 0;
    for (const PartFigures& own : partFigures(b))
      mean += own.mean * (own.id == "low" ? 0.6 : 0.4);
    for (const PartFigures& own : partFigures(a))
      mean -= own.mean * (own.id == "low" ? 0.6 : 0.4);
    QVERIFY(std::abs(field.mean - mean) < 1e-9);
    QVERIFY(std::abs(field.low - 20) < 1e-6 && std::abs(field.high - 20) < 1e-6);
  }

  /// Given a curved field, then the error of the difference is no larger than the misfit says, about, and both shrink
  /// with the square of the element size.
  void theMisfitSaysHowGoodItIs()
  {
    const auto curved = [](const Vec3& x, const std::string&) {
      return 400 + 2e4 * x.x() * x.x() + 1e4 * x.z() * x.y();
    };
    std::vector<double> errors, misfits;
    for (const double size : {0.008, 0.004}) {
      const CaseResult a = fieldOn(tower(size), curved);
      const CaseResult b = fieldOn(tower(size * 0.8), curved);
      const DifferenceField field = difference(a, b);
      errors.push_back(largestError(a, field, [](const Vec3&, const std::string&) { return 0.0; }));
      misfits.push_back(field.misfit);
    }
    QVERIFY2(errors[0] <= 1.5 * misfits[0] && errors[1] <= 1.5 * misfits[1],
             qPrintable(QString("%1 %2, %3 %4").arg(errors[0]).arg(misfits[0]).arg(errors[1]).arg(misfits[1])));
    QVERIFY2(errors[1] < 0.45 * errors[0] && misfits[1] < 0.45 * misfits[0], qPrintable(QString::number(misfits[1])));
  }

  /// Given a fin that only the first has, and a part that only the second has, then both are said, and the fin has no
  /// value.
  void whatExistsInOneAloneIsShownAsSuch()
  {
    Project with = tower(0.01);
    with.parts[1].steps = {join("fin", block(0.02, 0.05, 0.02), {0, 0, 0.02})};
    Project other = tower(0.01);
    other.parts.push_back(part("lid", "brick", block(0.06, 0.05, 0.01), Vec3(0, 0, 0.05)));
    other.parts[2].name = "Lid";
    other.surfaces[1].faces = {"lid.top"};
    const auto flat = [](const Vec3&, const std::string&) { return 300.0; };
    const CaseResult a = fieldOn(with, flat);
    const CaseResult b = fieldOn(other, [](const Vec3&, const std::string&) { return 310.0; });
    const DifferenceField field = difference(a, b);
    QCOMPARE(field.onlyThere, std::vector<std::string>{"lid"});
    QVERIFY(field.onlyHere.empty());
    const double fin = 0.02 * 0.05 * 0.02; // with the elements that reach into it
    QVERIFY2(field.alone > 0.9 * fin && field.alone <= 1.3 * fin, qPrintable(QString::number(field.alone / fin)));
    QVERIFY(largestError(a, field, [](const Vec3&, const std::string&) { return 10.0; }) < 1e-9);
    QVERIFY(std::abs(field.mean - 10) < 1e-9);
  }

  void partsAreFoundByNameToo()
  {
    Project renamed = tower(0.01);
    renamed.parts[0].id = "block-1";
    renamed.surfaces[0].faces = {"block-1.bottom"};
    renamed.contacts[0].partA = "block-1";
    const auto field = difference(fieldOn(tower(0.012), [](const Vec3&, const std::string&) { return 300.0; }),
                                  fieldOn(renamed, [](const Vec3&, const std::string&) { return 305.0; }));
    QVERIFY(field.onlyHere.empty() && field.alone == 0);
    QVERIFY(std::abs(field.mean - 5) < 1e-9);
  }

  void whatCannotBeComparedIsRefused()
  {
    const CaseResult a = solve(tower(0.015));
    Project other = tower(0.015);
    for (Part& own : other.parts)
      own.name = own.id + " of another";
    Project strange = projectWith(0.02);
    strange.materials = {material("clay", 1)};
    strange.parts = {part("pot", "clay", block(0.05, 0.05, 0.05))};
    strange.surfaces = {surface("top", {"pot.top"})};
    strange.boundaries = {boundary("air", Convection{"top", Property{5, ""}, Property{300, ""}})};
    const CaseResult b = solve(strange);
    const auto none = differenceOf(a, a.temperature, b, b.temperature);
    QVERIFY(!none && none.error().problem.find("no part in common") != std::string::npos);
    CaseResult section = b;
    section.mesh.geometry.section.across = 1;
    const auto mixed = differenceOf(a, a.temperature, section, section.temperature);
    QVERIFY(!mixed && mixed.error().problem.find("section") != std::string::npos);
  }

  /// Given places by chance in and around a part, then the grid finds what looking at every element finds.
  void theGridFindsWhatALongSearchFinds()
  {
    Project p = projectWith(0.012);
    p.materials = {material("brick", 1)};
    p.parts = {part("ring", "brick", block(0.08, 0.06, 0.03))};
    p.parts[0].steps = {cut("hole", block(0.03, 0.02, 0.03))};
    const Mesh mesh = meshOf(p);
    const PartLocator locator(mesh, PartId(0));
    std::mt19937 random(9);
    std::uniform_real_distribution<double> anywhere(-0.06, 0.06);
    for (int i = 0; i < 400; ++i) {
      const Vec3 place(anywhere(random), anywhere(random), anywhere(random));
      const Location fast = locator.find(place);
      const Location slow = locate(mesh, place);
      QVERIFY2(std::abs(fast.distance - slow.distance) < 1e-9,
               qPrintable(QString("%1 %2").arg(fast.distance).arg(slow.distance)));
    }
  }
};

QTEST_APPLESS_MAIN(DifferenceTest)
#include "tst_difference.moc"
