// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Elements of second order: exact where the solution is quadratic, of third order in the temperature elsewhere, with
// the same ledger as the others.
#include "TangentCheck.h"
#include "TransientProjects.h"
#include "heat/elements/Conduction.h"
#include "heat/elements/Element.h"
#include "io/ResultFile.h"
#include "mesh/SecondOrder.h"
#include "run/InputHash.h"

#include <QTest>
#include <cmath>
#include <numbers>
#include <set>
#include <tuple>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

Project second(Project project)
{
  project.mesh.secondOrder = true;
  return project;
}

/// Root of the mean square over the nodes.
template <class Exact>
double meanError(const CaseResult& result, Exact&& exact)
{
  double sum = 0;
  for (std::size_t u = 0; u < result.unknowns.node.size(); ++u)
    sum += std::pow(result.temperature[u] - exact(result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[u])]),
                    2);
  return std::sqrt(sum / static_cast<double>(result.unknowns.node.size()));
}

double elementSize(const CaseResult& result)
{
  double volume = 0;
  for (const double own : meshedVolumes(result.mesh))
    volume += own;
  return std::cbrt(volume / static_cast<double>(tetElements(result.mesh)));
}

/// A plate whose upper edge is held at 300 K + 100 K sin(πx/a): T = 300 + 100 sin(πx/a) sinh(πy/a)/sinh(πb/a).
constexpr double plateWidth = 0.1, plateHeight = 0.08;
Project fourierPlate(double size)
{
  Project p = projectWith(size);
  p.materials = {material("stuff", 5)};
  p.parts = {part("plate", "stuff", block(plateWidth, plateHeight, 0.01), Vec3(plateWidth / 2, plateHeight / 2, 0))};
  p.surfaces = {surface("cold", {"plate.left", "plate.right", "plate.front"}), surface("warm", {"plate.back"})};
  Boundary warm = boundary("warm", FixedSurface{"warm", number(300)});
  std::get<FixedSurface>(warm.condition).temperature =
      Number{300, "300 [K] + 100 [K]*sin(180 [deg]*x/(100 [mm]))", true};
  p.boundaries = {boundary("cold", FixedSurface{"cold", number(300)}), warm};
  return p;
}
double fourier(const Vec3& p)
{
  return 300 + 100 * std::sin(pi * p.x() / plateWidth) * std::sinh(pi * p.y() / plateWidth) /
                   std::sinh(pi * plateHeight / plateWidth);
}

/// Area of an element of six nodes, m².
double bentArea(const Mesh& mesh, std::size_t element)
{
  const auto six = sixOf(element, [&](std::size_t piece) -> const NodeTriangle& { return mesh.triangles[piece]; });
  double area = 0;
  for (const TrianglePoint& point : trianglePoints()) {
    const Vec3 l = point.l;
    // Slopes of the shape functions by the second and third share; the first is one minus them.
    const std::array<double, 6> by1{1 - 4 * l[0], 4 * l[1] - 1, 0, 4 * (l[0] - l[1]), 4 * l[2], -4 * l[2]};
    const std::array<double, 6> by2{1 - 4 * l[0], 0, 4 * l[2] - 1, -4 * l[1], 4 * l[1], 4 * (l[0] - l[2])};
    Vec3 first = Vec3::Zero();
    Vec3 other = Vec3::Zero();
    for (std::size_t i = 0; i < 6; ++i) {
      first += by1[i] * mesh.nodes[static_cast<std::size_t>(six[i])];
      other += by2[i] * mesh.nodes[static_cast<std::size_t>(six[i])];
    }
    area += point.weight * first.cross(other).norm() / 2;
  }
  return area;
}

} // namespace

class TestSecond : public QObject
{
  Q_OBJECT

private slots:
  /// Every edge has one node in its middle; pieces fill the same volume; elements can be told from their pieces.
  void everyEdgeHasAMiddle()
  {
    Project p = fourierPlate(0.02);
    const Mesh first = meshOf(p);
    const Mesh mesh = meshOf(second(p));
    QCOMPARE(mesh.order, 2);
    QCOMPARE(mesh.tets.size() % 8, 0UL);
    double volume = 0;
    for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
      QVERIFY(tetVolume(mesh, t) > 0);
      volume += tetVolume(mesh, t);
    }
    QVERIFY(std::abs(volume / (plateWidth * plateHeight * 0.01) - 1) < 1e-12);
    for (std::size_t e = 0; e < tetElements(mesh); ++e) {
      const auto ten = tenOf(mesh.tets, e);
      const auto place = [&](std::size_t i) { return mesh.nodes[static_cast<std::size_t>(ten[i])]; };
      const std::array<std::array<std::size_t, 2>, 6> edges{{{0, 1}, {1, 2}, {0, 2}, {0, 3}, {1, 3}, {2, 3}}};
      for (std::size_t k = 0; k < 6; ++k)
        QVERIFY((place(4 + k) - (place(edges[k][0]) + place(edges[k][1])) / 2).norm() < 1e-15);
    }
    std::set<std::array<double, 3>> places;
    for (const Vec3& node : mesh.nodes)
      places.insert({node.x(), node.y(), node.z()});
    QCOMPARE(places.size(), mesh.nodes.size());
    QVERIFY(first.order == 1 && first.tets.size() > 8);
  }

  /// k T'' = −q with convection: a parabola, which the elements hold exactly.
  void aSourceIsExact()
  {
    constexpr double k = 2, q = 4e5, h = 150, ambient = 300, length = 0.03;
    Project p = projectWith(0.015);
    p.materials = {material("m", k)};
    p.parts = {part("slab", "m", block(0.02, 0.02, length))};
    p.surfaces = {surface("top", {"slab.top"})};
    p.sources = {source("q", PartDensity{{"slab"}, number(q)})};
    p.boundaries = {boundary("air", Convection{"top", number(h), number(ambient)})};
    const CaseResult result = solve(second(p));
    const double error = largestError(result, [&](const Vec3& at) {
      return ambient + q * length / h + q * (length * length - at.z() * at.z()) / (2 * k);
    });
    QVERIFY2(error < 1e-6, qPrintable(QString::number(error)));
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// Temperature of third order on three meshes, and far better than first order on the same one.
  void aPlateOfThirdOrder()
  {
    std::vector<double> sizes;
    std::vector<double> errors;
    for (const double size : {0.01, 0.006, 0.0036}) {
      const CaseResult result = solve(second(fourierPlate(size)));
      sizes.push_back(elementSize(result));
      errors.push_back(meanError(result, fourier));
    }
    const double order = std::log(errors[0] / errors[2]) / std::log(sizes[0] / sizes[2]);
    qInfo("errors %g %g %g K, order %.2f", errors[0], errors[1], errors[2], order);
    QVERIFY2(order > 2.6, qPrintable(QString::number(order)));
    const CaseResult linear = solve(fourierPlate(0.01));
    QVERIFY(meanError(linear, fourier) > 8 * errors[0]);
  }

  /// K = 1 + 0.01 (T − 300): Kirchhoff's parabola.
  void conductivityThatDependsOnTemperature()
  {
    constexpr double length = 0.05;
    Project p = projectWith(0.01);
    Material m = material("m", 1);
    m.conductivity = table({{300, 1}, {500, 3}});
    p.materials = {m};
    p.parts = {part("slab", "m", block(0.02, 0.02, length))};
    p.surfaces = {surface("bottom", {"slab.bottom"}), surface("top", {"slab.top"})};
    p.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)}),
                    boundary("warm", FixedSurface{"top", number(500)})};
    const auto exact = [&](const Vec3& at) {
      const double whole = 200 + 0.005 * 200 * 200; // ∫ k dT over all
      return 300 + (std::sqrt(1 + 0.02 * whole * at.z() / length) - 1) / 0.01;
    };
    const double fine = largestError(solve(second(p)), exact);
    const double rough = largestError(solve(p), exact);
    QVERIFY2(fine < 0.3 && fine < rough / 4, qPrintable(QString("%1, first order %2").arg(fine).arg(rough)));
  }

  /// Contacts, perfect and not, radiation, a sheet: the ledger closes and both sides agree.
  void theLedgerCloses()
  {
    Project p = projectWith(0.012);
    p.materials = {material("a", 1.5), material("b", 40)};
    p.materials[0].emissivity = number(0.8);
    p.materials[1].emissivity = number(0.3);
    p.parts = {part("one", "a", block(0.02, 0.02, 0.01)), part("two", "b", block(0.02, 0.02, 0.02), Vec3(0, 0, 0.01)),
               part("three", "a", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.03))};
    p.surfaces = {surface("bottom", {"one.bottom"}), surface("top", {"three.top"}), surface("side", {"two.left"})};
    p.contacts = {contact("one", "two", AreaConductance{number(250)}), contact("two", "three", PerfectContact{})};
    p.sources = {source("heat", PartPower{{"three"}, Property{6, ""}})};
    p.boundaries = {boundary("air", Convection{"bottom", Property{80, ""}, Property{300, ""}}),
                    boundary("glow", Radiation{"top", number(290)}),
                    boundary("skin", Sheet{"side", "b", number(0.001)})};
    const CaseResult result = solve(second(p));
    QVERIFY2(result.relativeImbalance() < 1e-9, qPrintable(QString::number(result.relativeImbalance())));
    const double air = wattsOf(result.boundaries, "air");
    const double glow = wattsOf(result.boundaries, "glow");
    QVERIFY(std::abs(6 + air + glow) < 1e-8);
    for (const ContactFigure& one : contactFigures(result)) // all that leaves below comes through both
      QVERIFY2(
          std::abs(std::abs(one.watts) + air) < 1e-6,
          qPrintable(QString("%1 | %2: %3, not %4").arg(one.partA.c_str(), one.partB.c_str()).arg(one.watts).arg(air)));
  }

  void theTangentIsTheSlope()
  {
    Project p = projectWith(0.012);
    Material m = material("a", 1);
    m.conductivity = table({{300, 1}, {500, 2}, {700, 2.5}});
    m.emissivity = number(0.7);
    p.materials = {m};
    p.parts = {part("one", "a", block(0.02, 0.02, 0.01)), part("two", "a", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.01))};
    p.surfaces = {surface("bottom", {"one.bottom"}), surface("top", {"two.top"})};
    Gap gap;
    gap.thickness = number(1e-3);
    gap.conductivity = number(0.03);
    gap.emissivityA = gap.emissivityB = number(0.8);
    p.contacts = {contact("one", "two", gap)};
    p.boundaries = {boundary("air", Convection{"bottom", table({{300, 5}, {700, 30}}), Property{300, ""}}),
                    boundary("glow", Radiation{"top", number(290)})};
    const double error = tangentError(second(p));
    QVERIFY2(error < 1e-6, qPrintable(QString::number(error)));
  }

  /// A quenched slab on a coarse mesh; capacities are lumped, conduction is of second order.
  void aQuenchedSlab()
  {
    Project p = slab(0.04, 0.008);
    p.boundaries = {boundary("a", Convection{"left", Property{100, ""}, Property{300, ""}})};
    inTime(p, 500, 1500).tolerance = number(0.01);
    const double biot = 100 * 0.04 / 2;
    const double fourierNumber = 1e-6 * 1500 / (0.04 * 0.04);
    double exact = 300;
    for (int n = 0; n < 30; ++n) { // z tan z = Bi
      double low = n * pi;
      double high = n * pi + pi / 2 - 1e-12;
      for (int i = 0; i < 200; ++i)
        (((low + high) / 2) * std::tan((low + high) / 2) < biot ? low : high) = (low + high) / 2;
      const double z = low;
      exact += 200 * 4 * std::sin(z) / (2 * z + std::sin(2 * z)) * std::exp(-z * z * fourierNumber) * std::cos(z / 2);
    }
    const double fine = std::abs(valueAt(run(second(p)).record, "middle", 1500) - exact);
    const double rough = std::abs(valueAt(run(p).record, "middle", 1500) - exact);
    qInfo("second order %g K, first %g K", fine, rough);
    QVERIFY2(fine < 0.5 && fine < rough, qPrintable(QString("%1, first order %2").arg(fine).arg(rough)));
  }

  /// A stored mesh is read back with its order; a solve that uses it gives the same.
  void itIsStored()
  {
    const Project p = second(fourierPlate(0.02));
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const auto once = runCase(p, p.cases.front(), path, noProgress);
    const auto again = runCase(p, p.cases.front(), path, noProgress);
    QVERIFY(once && again);
    QCOMPARE(again->mesh.order, 2);
    QVERIFY(again->temperature == once->temperature);
    QCOMPARE(loadResult(resultFile(path, p.cases.front().id))->mesh.order, 2);
  }

  /// Another order is another mesh of the same geometry.
  void theOrderIsPartOfTheMesh()
  {
    const Project p = fourierPlate(0.02);
    QVERIFY(inputHashes(p).mesh != inputHashes(second(p)).mesh);
    QVERIFY(inputHashes(p).geometry == inputHashes(second(p)).geometry);
  }

  /// Bent elements hold volumes and areas of round parts to 1e-4, where straight ones lose per cent.
  void roundPartsAreRound()
  {
    const std::vector<std::tuple<const char*, Form, double, double>> shapes{
        {"cylinder", Cylinder{number(0.03), number(0.04)}, pi * 0.03 * 0.03 * 0.04,
         2 * pi * 0.03 * 0.03 + 2 * pi * 0.03 * 0.04},
        {"sphere", Sphere{number(0.03)}, 4 * pi / 3 * 2.7e-5, 4 * pi * 9e-4},
        {"torus", Torus{number(0.04), number(0.01)}, 2 * pi * pi * 0.04 * 1e-4, 4 * pi * pi * 0.04 * 0.01},
        {"cone", Cone{number(0.03), number(0.015), number(0.04)},
         pi * 0.04 / 3 * (0.03 * 0.03 + 0.03 * 0.015 + 0.015 * 0.015),
         pi * (0.03 * 0.03 + 0.015 * 0.015 + 0.045 * std::hypot(0.015, 0.04))}};
    for (const auto& [name, form, volume, area] : shapes) {
      Project p = projectWith(0.006);
      p.materials = {material("m", 1)};
      p.parts = {part("it", "m", form)};
      const Mesh straight = meshOf(p);
      const Mesh bent = meshOf(second(p));
      const double lost = std::abs(meshedVolumes(straight)[0] / volume - 1);
      const double left = std::abs(integratedVolumes(bent)[0] / volume - 1);
      double sum = 0;
      for (std::size_t e = 0; e < triangleElements(bent); ++e)
        sum += bentArea(bent, e);
      qInfo("%s: volume off by %.1e (straight %.1e), area by %.1e", name, left, lost, std::abs(sum / area - 1));
      QVERIFY(left < 1e-4 && std::abs(sum / area - 1) < 1e-4);
      QVERIFY(left < lost / 50);
      for (std::size_t t = 0; t < bent.tets.size(); ++t)
        QVERIFY(tetVolume(bent, t) > 0);
    }
  }

  /// A hollow cylinder between two temperatures, third order on its bent elements.
  void aHollowCylinder()
  {
    constexpr double inner = 0.01, outer = 0.025;
    const auto exact = [](const Vec3& at) {
      return 400 - 100 * std::log(std::hypot(at.x(), at.y()) / inner) / std::log(outer / inner);
    };
    std::vector<double> sizes;
    std::vector<double> errors;
    double watts = 0;
    for (const double size : {0.008, 0.004}) {
      Project p = projectWith(size);
      p.mesh.fineness = number(0.008 / size); // the chords too
      p.mesh.size = number(0.008);
      p.materials = {material("m", 3)};
      p.parts = {part("tube", "m", Tube{number(outer), number(inner), number(0.01)})};
      p.surfaces = {surface("in", {"tube.inside"}), surface("out", {"tube.outside"})};
      p.boundaries = {boundary("hot", FixedSurface{"in", number(400)}),
                      boundary("cold", FixedSurface{"out", number(300)})};
      const CaseResult result = solve(second(p));
      sizes.push_back(elementSize(result));
      errors.push_back(meanError(result, exact));
      watts = wattsOf(result.boundaries, "hot");
    }
    const double order = std::log(errors[0] / errors[1]) / std::log(sizes[0] / sizes[1]);
    const double expected = 2 * pi * 3 * 0.01 * 100 / std::log(outer / inner);
    qInfo("errors %g %g K, order %.2f; %g of %g W", errors[0], errors[1], order, watts, expected);
    QVERIFY2(order > 2.5, qPrintable(QString::number(order)));
    QVERIFY(std::abs(watts / expected - 1) < 2e-4);
  }

  /// A hollow sphere.
  void aHollowSphere()
  {
    constexpr double inner = 0.01, outer = 0.025;
    const auto exact = [](const Vec3& at) { return 300 + 100 * (1 / at.norm() - 1 / outer) / (1 / inner - 1 / outer); };
    std::vector<double> sizes;
    std::vector<double> errors;
    for (const double fineness : {1.0, 2.0}) {
      Project p = projectWith(0.008);
      p.mesh.fineness = number(fineness);
      p.materials = {material("m", 3)};
      p.parts = {part("shell", "m", Sphere{number(outer)})};
      p.parts[0].steps = {cut("hollow", Sphere{number(inner)})};
      p.surfaces = {surface("in", {"shell.hollow.outside"}), surface("out", {"shell.outside"})};
      p.boundaries = {boundary("hot", FixedSurface{"in", number(400)}),
                      boundary("cold", FixedSurface{"out", number(300)})};
      const CaseResult result = solve(second(p));
      sizes.push_back(elementSize(result));
      errors.push_back(meanError(result, exact));
    }
    const double order = std::log(errors[0] / errors[1]) / std::log(sizes[0] / sizes[1]);
    qInfo("errors %g %g K, order %.2f", errors[0], errors[1], order);
    QVERIFY2(order > 2.5, qPrintable(QString::number(order)));
  }

  /// A total in watts stays itself on bent elements.
  void wattsOnBentElements()
  {
    Project p = projectWith(0.008);
    p.materials = {material("m", 3)};
    p.parts = {part("ball", "m", Sphere{number(0.03)})};
    p.surfaces = {exposedOf("skin", {"ball"})};
    p.sources = {source("q", PartPower{{"ball"}, number(12)})};
    p.boundaries = {boundary("air", Convection{"skin", number(20), number(300)})};
    const CaseResult result = solve(second(p));
    QVERIFY(std::abs(wattsOf(result.sources, "q") - 12) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.boundaries, "air") + 12) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(TestSecond)
#include "tst_second.moc"
