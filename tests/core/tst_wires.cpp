// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Wires: conductors of one dimension between nodes, parts and surfaces, against closed forms.
#include "TangentCheck.h"
#include "TransientProjects.h"
#include "run/InputHash.h"

#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

Node heldNode(const std::string& id, double temperature)
{
  Node node;
  node.id = node.name = id;
  node.temperature = number(temperature);
  return node;
}

Link wire(Wire own)
{
  Link link;
  link.id = link.name = "wire";
  link.exchange = std::move(own);
  return link;
}

/// Two held nodes joined by a wire of copper.
Project wireBetweenNodes()
{
  Project p = projectWith(0.01);
  p.materials = {heavy("copper", 400, 8900, 385)};
  p.nodes = {heldNode("a", 400), heldNode("b", 300)};
  p.links = {wire({"a", "b", number(0.2), number(0.002), "copper", {}, {}, {}})};
  return p;
}
constexpr double section = pi * 0.002 * 0.002 / 4;

/// From a surface of a heated block to a cooled one.
Project wireBetweenBodies()
{
  Project p = projectWith(0.006);
  p.materials = {material("block", 200), material("copper", 400)};
  p.parts = {part("hot", "block", block(0.02, 0.02, 0.02)),
             part("cold", "block", block(0.02, 0.02, 0.02), Vec3(0.1, 0, 0))};
  p.surfaces = {surface("pad", {"hot.top"}), surface("base", {"cold.bottom"})};
  p.sources = {source("q", PartPower{{"hot"}, number(2)})};
  p.boundaries = {boundary("sink", FixedSurface{"base", number(300)})};
  p.links = {wire({"pad", "cold", number(0.1), number(0.003), "copper", {}, {}, {}})};
  return p;
}

} // namespace

class TestWires : public QObject
{
  Q_OBJECT

private slots:
  /// k A ΔT / L, to rounding.
  void aBareWire()
  {
    const Project p = wireBetweenNodes();
    const double watts = 400 * section * 100 / 0.2;
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.links, "wire") / watts - 1) < 1e-9);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// A fin between two temperatures: θ = [θb sinh(mx) + θa sinh(m(L − x))]/sinh(mL); what arrives at b, second order
  /// in the cell.
  void aWireThatLosesHeat()
  {
    Project p = wireBetweenNodes();
    auto& own = std::get<Wire>(p.links[0].exchange);
    own.coefficient = number(25);
    own.ambient = number(290);
    const double m = std::sqrt(4 * 25 / (400 * 0.002));
    const double k = 400 * section;
    const double arrives = k * m * (110 - 10 * std::cosh(m * 0.2)) / std::sinh(m * 0.2);
    const CaseResult result = solve(p);
    qInfo("arrives %g of %g W", wattsOf(result.links, "wire"), arrives);
    QVERIFY(std::abs(wattsOf(result.links, "wire") / arrives - 1) < 5e-3);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// Heated along its length: half of it leaves at each end on top of what is conducted.
  void aHeatedWire()
  {
    Project p = wireBetweenNodes();
    std::get<Wire>(p.links[0].exchange).power = number(3);
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.links, "wire") - (1.5 + 400 * section * 100 / 0.2)) < 1e-9);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// k(T) linear: the heat follows the mean conductivity (Kirchhoff).
  void aWireWhoseConductivityFalls()
  {
    Project p = wireBetweenNodes();
    p.materials[0].conductivity = table({{300, 420}, {400, 380}});
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.links, "wire") / (400 * section * 100 / 0.2) - 1) < 1e-6);
    Project bodies = wireBetweenBodies();
    bodies.materials[1].conductivity = table({{300, 420}, {700, 380}});
    QVERIFY(tangentError(bodies) < 1e-6);
  }

  /// From a surface of one part to another part: all the heat of the hot one takes the wire.
  void aWireBetweenBodies()
  {
    Project p = wireBetweenBodies();
    p.watches = {watch("pad", SurfaceFigure{PartFigure::Kind::Mean, "pad"}),
                 watch("cold", PartFigure{PartFigure::Kind::Mean, {"cold"}})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.links, "wire") - 2) < 1e-7);
    const double drop = 2 * 0.1 / (400 * pi * 0.003 * 0.003 / 4);
    const double found = valueOf(p, result, "pad") - valueOf(p, result, "cold");
    qInfo("drop %g of %g K", found, drop);
    QVERIFY(std::abs(found / drop - 1) < 1e-6);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// From a watched point inside one part to a point on another: what is drawn off there leaves through the wire.
  void aWireBetweenPoints()
  {
    Project p = wireBetweenBodies();
    p.watches = {watch("from", PointFigure{{number(0.003), number(0.002), number(0.011)}}),
                 watch("to", PointFigure{{number(0.1), number(0.001), number(0.012)}})};
    std::get<Wire>(p.links[0].exchange).endA = "from";
    std::get<Wire>(p.links[0].exchange).endB = "to";
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.links, "wire") - 2) < 1e-7);
    const double drop = 2 * 0.1 / (400 * pi * 0.003 * 0.003 / 4);
    QVERIFY(std::abs((valueOf(p, result, "from") - valueOf(p, result, "to")) / drop - 1) < 1e-6);
    QVERIFY(result.relativeImbalance() < 1e-9);
    // Moving the point is another model.
    Project moved = p;
    std::get<PointFigure>(moved.watches[0].figure).place.x = number(-0.004);
    QVERIFY(inputHashes(moved).solution != inputHashes(p).solution);
    QVERIFY(inputHashes(moved).mesh == inputHashes(p).mesh);
  }

  /// A part whose only way out is the side of a wire is not left floating.
  void aWireIsAWayOut()
  {
    Project p = wireBetweenBodies();
    p.boundaries.clear();
    p.parts.pop_back();
    p.nodes = {heldNode("far", 300)};
    p.nodes[0].temperature.reset();
    p.surfaces.pop_back();
    auto& own = std::get<Wire>(p.links[0].exchange);
    own.endB = "far";
    own.coefficient = number(20);
    own.ambient = number(295);
    const CaseResult result = solve(p);
    QVERIFY(result.relativeImbalance() < 1e-9);
    QVERIFY(std::abs(wattsOf(result.links, "wire")) < 1e-9); // nothing arrives at a node that passes nothing on
  }

  /// A wire stores: heated at one end suddenly, the heat stored is what went in minus what came out.
  void aWireWarmsUp()
  {
    Project p = wireBetweenNodes();
    inTime(p, 300, 20);
    const Ran ran = run(p);
    QVERIFY(ran.result.relativeImbalance() < 1e-6);
    // After 20 s the Fourier number αt/L² is 0.058: little has arrived. Series for what flows out at b.
    const double alpha = 400 / (8900 * 385.0);
    double sum = 1;
    for (int n = 1; n < 60; ++n)
      sum += 2 * (n % 2 == 0 ? 1 : -1) * std::exp(-alpha * n * n * pi * pi * 20 / 0.04);
    const double arrives = 400 * section * 100 / 0.2 * sum;
    qInfo("arrives %g of %g W", wattsOf(ran.result.links, "wire"), arrives);
    QVERIFY(std::abs(wattsOf(ran.result.links, "wire") - arrives) < 0.01 * 400 * section * 100 / 0.2);
  }

  /// What is missing is said before solving.
  void whatAWireNeeds()
  {
    Project p = wireBetweenNodes();
    auto& own = std::get<Wire>(p.links[0].exchange);
    own.material = "";
    own.coefficient = number(5);
    const auto findings = checkModel(p);
    QVERIFY(mentions(findings, Finding::Severity::Error, {"wire", "no material"}));
    QVERIFY(mentions(findings, Finding::Severity::Error, {"wire", "at its side", "Give the ambient"}));
  }
};

QTEST_GUILESS_MAIN(TestWires)
#include "tst_wires.moc"
