// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Lumped nodes, links, flows, beams, sources that follow a temperature, electric currents, melting.
#include "NetworkProjects.h"
#include "TangentCheck.h"
#include "TransientProjects.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double sigma = 5.670374419e-8; // W/(m²·K⁴)

double temperatureOf(const CaseResult& result, const std::string& id)
{
  for (const NodeState& state : result.nodes)
    if (state.id == id)
      return state.temperature;
  throw std::runtime_error("no node " + id);
}

/// A bar along x, 100 × 20 × 20 mm.
Project bar(double conductivity, double meshSize = 0.008)
{
  Project p = projectWith(meshSize);
  p.materials = {material("metal", conductivity)};
  p.parts = {part("bar", "metal", block(0.1, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"}), surface("top", {"bar.top"}),
                surface("bottom", {"bar.bottom"})};
  return p;
}

/// A finish of the surface "lit".
Finish sunlit(double absorptance)
{
  Finish dark;
  dark.id = dark.name = "dark";
  dark.emissivity = Property{0.9, ""};
  dark.solarAbsorptance = number(absorptance);
  dark.surfaces = {"lit"};
  return dark;
}

} // namespace

class TestNetwork : public QObject
{
  Q_OBJECT

private slots:
  /// Chip 10 W – 2 W/K – case – 0.5 W/K – air at 300 K; case – 0.25 W/K – air, too. By hand: case 300 + 10/0.75,
  /// chip 5 K above it.
  void threeNodesAsByHand()
  {
    Project p = projectWith(0.01);
    p.nodes = {node("chip", {}, 10), node("case"), node("air", 300)};
    p.links = {link("a", Conductor{"chip", "case", number(2)}), link("b", Conductor{"case", "air", number(0.5)}),
               link("c", Conductor{"air", "case", number(0.25)})};
    p.watches = {watch("hot", NodeFigure{"chip"}), watch("cold", NodeFigure{"air"}), watch("q", LinkHeat{"a"}),
                 watch("r", BetweenWatches{"hot", "cold", "q"})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(temperatureOf(result, "case") - (300 + 10 / 0.75)) < 1e-6);
    QVERIFY(std::abs(temperatureOf(result, "chip") - (300 + 10 / 0.75 + 5)) < 1e-6);
    QVERIFY(std::abs(wattsOf(result.links, "b") - 10 * 0.5 / 0.75) < 1e-6);
    QVERIFY(std::abs(wattsOf(result.links, "c") + 10 * 0.25 / 0.75) < 1e-6); // from air to case: negative
    QVERIFY(std::abs(valueOf(p, result, "r") - (1 / 0.75 + 0.5)) < 1e-7);
    QVERIFY(result.relativeImbalance() < 1e-9);
    QVERIFY(std::abs(result.heatIn - 10) < 1e-9);
  }

  void radiationLinkAsByHand()
  {
    Project p = projectWith(0.01);
    p.nodes = {node("hot", {}, 50), node("sky", 250)};
    p.links = {link("r", RadiationLink{"hot", "sky", number(0.03)})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(temperatureOf(result, "hot") - std::pow(50 / (sigma * 0.03) + std::pow(250, 4), 0.25)) < 1e-5);
  }

  /// A surface that gives h A (T − T_node) to a node, which a link ties to 300 K: three resistances in a row.
  void surfaceToNode()
  {
    Project p = bar(20);
    Convection toAir{"right", Property{50, ""}, Property{300, ""}, {}, "cavity"};
    p.boundaries = {boundary("toAir", toAir)};
    p.sources = {source("heat", SurfacePower{"left", Property{8, ""}})};
    p.nodes = {node("cavity"), node("room", 300)};
    p.links = {link("wall", Conductor{"cavity", "room", number(0.4)})};
    p.watches = {watch("end", SurfaceFigure{PartFigure::Kind::Mean, "left"})};
    const CaseResult result = solve(p);
    const double cavity = 300 + 8 / 0.4;
    const double right = cavity + 8 / (50 * 0.0004);
    const double left = right + 8 * 0.1 / (20 * 0.0004);
    QVERIFY(std::abs(temperatureOf(result, "cavity") - cavity) < 1e-4);
    QVERIFY2(std::abs(valueOf(p, result, "end") - left) < 1e-3, qPrintable(QString::number(valueOf(p, result, "end"))));
    QVERIFY(std::abs(wattsOf(result.boundaries, "toAir") + 8) < 1e-5);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// Two bars joined only by a link between their faces.
  void linkBetweenSurfaces()
  {
    Project p = bar(20);
    p.parts.push_back(part("other", "metal", block(0.1, 0.02, 0.02), {0.5, 0, 0}));
    p.surfaces.push_back(surface("otherLeft", {"other.left"}));
    p.surfaces.push_back(surface("otherRight", {"other.right"}));
    p.sources = {source("heat", SurfacePower{"left", Property{4, ""}})};
    p.boundaries = {boundary("held", FixedSurface{"otherRight", number(300)})};
    p.links = {link("strap", Conductor{"right", "otherLeft", number(0.2)})};
    p.watches = {watch("end", SurfaceFigure{PartFigure::Kind::Mean, "left"})};
    const CaseResult result = solve(p);
    const double expected = 300 + 4 * (0.1 / (20 * 0.0004) + 1 / 0.2 + 0.1 / (20 * 0.0004));
    QVERIFY2(std::abs(valueOf(p, result, "end") - expected) < 1e-3,
             qPrintable(QString::number(valueOf(p, result, "end")) + " " + QString::number(expected)));
    QVERIFY(std::abs(wattsOf(result.links, "strap") - 4) < 1e-5);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// A stream along a wall held at one temperature leaves it at T_w − (T_w − T_in) e^(−hA/ṁc).
  void flowChainReachesTheExponential()
  {
    for (const int stretches : {1, 5, 20}) {
      Project p = bar(200, 0.01);
      FlowPassage flow;
      flow.surface = "top";
      flow.direction.x = number(1);
      flow.inlet = number(290);
      flow.massFlow = number(0.001);
      flow.specificHeat = number(1000);
      flow.coefficient = Property{600, ""};
      flow.stretches = number(stretches);
      p.boundaries = {boundary("wall", FixedPart{"bar", number(350)}), boundary("stream", flow)};
      p.watches = {watch("outlet", NodeFigure{"stream"})};
      const CaseResult result = solve(p);
      const double exact = 350 - 60 * std::exp(-600 * 0.1 * 0.02 / 1.0);
      const double outlet = valueOf(p, result, "outlet");
      QVERIFY2(std::abs(outlet - exact) < 2e-3, qPrintable(QString::number(outlet - exact)));
      const double taken = 0.001 * 1000 * (outlet - 290);
      QVERIFY(std::abs(wattsOf(result.boundaries, "stream") + taken) < 1e-6 * taken);
      QVERIFY(result.relativeImbalance() < 1e-6);
    }
  }

  void flowLinksCarryHeatDownstream()
  {
    Project p = projectWith(0.01);
    p.nodes = {node("in", 300), node("first", {}, 20), node("second", {}, 30)};
    p.links = {link("f1", FlowLink{"in", "first", number(0.01), number(1000)}),
               link("f2", FlowLink{"first", "second", number(0.01), number(1000)})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(temperatureOf(result, "first") - 302) < 1e-6);
    QVERIFY(std::abs(temperatureOf(result, "second") - 305) < 1e-6);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// Heat that falls with the temperature of its own place, of the mean, or of a watch.
  void sourcesFollowTemperatures()
  {
    for (const std::string follows : {"", "mean", "end"}) {
      Project p = bar(5000); // nearly one temperature
      HeatSource heater = source("heater", PartPower{{"bar"}, table({{300, 20}, {400, 0}})});
      heater.follows = follows;
      p.sources = {heater};
      p.boundaries = {boundary("air", Convection{"right", Property{100, ""}, Property{300, ""}})};
      p.watches = {watch("end", SurfaceFigure{PartFigure::Kind::Mean, "right"})};
      const CaseResult result = solve(p);
      // 20 (1 − ΔT/100) = 0.04 ΔT
      const double rise = 20 / (0.2 + 0.04);
      QVERIFY2(std::abs(valueOf(p, result, "end") - 300 - rise) < 0.1,
               qPrintable(QString::fromStdString(follows) + QString::number(valueOf(p, result, "end"))));
      QVERIFY(std::abs(wattsOf(result.sources, "heater") - 0.04 * rise) < 5e-3);
      QVERIFY(result.relativeImbalance() < 1e-6);
    }
  }

  /// A wire between two voltages whose resistivity rises with temperature: the profile of the closed form.
  /// k T'' + σ(T) φ'² = 0 with σ constant: φ linear, T = T0 + (σ V²/2kL²) x (L − x).
  void jouleBarIsAParabola()
  {
    Project p = bar(15, 0.004);
    p.materials[0].electricConductivity = Property{1e6, ""};
    p.boundaries = {
        boundary("live", FixedVoltage{"left", number(0.05)}), boundary("ground", FixedVoltage{"right", number(0)}),
        boundary("holdL", FixedSurface{"left", number(300)}), boundary("holdR", FixedSurface{"right", number(300)})};
    p.watches = {watch("middle", PointFigure{{{0, {}}, {0, {}}, {0.01, {}}}})};
    const CaseResult result = solve(p);
    const double peak = 1e6 * 0.05 * 0.05 / (8 * 15);
    QVERIFY2(std::abs(valueOf(p, result, "middle") - 300 - peak) < 0.02 * peak,
             qPrintable(QString::number(valueOf(p, result, "middle") - 300) + " " + QString::number(peak)));
    const double watts = 0.05 * 0.05 * 1e6 * 0.0004 / 0.1;
    QVERIFY(std::abs(wattsOf(result.boundaries, "live") - watts) < 1e-6 * watts);
    QVERIFY(std::abs(result.electrodes.front().current - watts / 0.05) < 1e-5 * watts / 0.05);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// With σ = σ0/(1 + a (T − T0)) and insulated sides, current I through a bar with convection at one temperature:
  /// R(T) = R0 (1 + a ΔT), I² R(ΔT) = h A ΔT has a closed form.
  void jouleFollowsTheResistivity()
  {
    Project p = bar(5000);
    std::vector<std::pair<double, double>> points; // fine enough for the hyperbola
    for (int i = 0; i <= 200; ++i)
      points.emplace_back(300 + i, 1e5 / (1 + 0.004 * i));
    p.materials[0].electricConductivity = table(points);
    p.boundaries = {boundary("in", CurrentIn{"left", number(40)}), boundary("ground", FixedVoltage{"right", number(0)}),
                    boundary("air", Convection{"top", Property{100, ""}, Property{300, ""}})};
    p.watches = {watch("t", PartFigure{PartFigure::Kind::Mean, {"bar"}})};
    const CaseResult result = solve(p);
    const double r0 = 0.1 / (1e5 * 0.0004);
    const double heat = 40 * 40 * r0;
    const double rise = heat / (100 * 0.002 - 0.004 * heat);
    QVERIFY2(std::abs(valueOf(p, result, "t") - 300 - rise) < 2e-3 * rise,
             qPrintable(QString::number(valueOf(p, result, "t") - 300) + " " + QString::number(rise)));
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void contactWithElectricResistanceHeats()
  {
    Project p = bar(200);
    p.materials[0].electricConductivity = Property{1e7, ""};
    p.parts.push_back(part("next", "metal", block(0.1, 0.02, 0.02), {0.1, 0, 0}));
    p.surfaces.push_back(surface("end", {"next.right"}));
    Contact joint = contact("bar", "next", PerfectContact{});
    joint.electricResistance = number(4e-8);
    p.contacts = {joint};
    p.boundaries = {boundary("in", CurrentIn{"left", number(100)}), boundary("ground", FixedVoltage{"end", number(0)}),
                    boundary("hold", FixedSurface{"end", number(300)})};
    const CaseResult result = solve(p);
    const double ohms = 2 * 0.1 / (1e7 * 0.0004) + 4e-8 / 0.0004;
    QVERIFY(std::abs(wattsOf(result.boundaries, "in") - 1e4 * ohms) < 1e-5 * 1e4 * ohms);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// A wide plate above a floor, with a square hole in it: the floor is lit through the hole only.
  void beamThroughASquareHole()
  {
    Project p = projectWith(0.02);
    p.materials = {material("stuff", 1)};
    Part shade = part("shade", "stuff", block(0.6, 0.6, 0.01), {0, 0, 0.2});
    shade.steps = {cut("hole", block(0.1, 0.1, 0.03), {0, 0, -0.01})};
    p.parts = {part("floor", "stuff", block(0.3, 0.3, 0.02), {-0.05, 0, 0}), shade};
    p.parts[0].meshSize = number(0.01);
    p.surfaces = {surface("lit", {"floor.top"}), surface("under", {"floor.bottom"}), exposedOf("all", {"shade"})};
    p.finishes = {sunlit(0.8)};
    Beam beam{{"lit"}, {{0, {}}, {0, {}}, {1, {}}}, number(1000)};
    p.sources = {source("sun", beam)};
    p.boundaries = {boundary("cool", FixedSurface{"under", number(300)}),
                    boundary("shadeAir", Convection{"all", Property{5, ""}, Property{300, ""}})};
    const CaseResult straight = solve(p);
    const double exact = 1000 * 0.8 * 0.01;
    QVERIFY2(std::abs(wattsOf(straight.sources, "sun") - exact) < 0.01 * exact,
             qPrintable(QString::number(wattsOf(straight.sources, "sun"))));
    QCOMPARE(straight.caught.size(), std::size_t{1});
    QCOMPARE(straight.caught[0].surface, std::string("lit"));
    QVERIFY(std::abs(straight.caught[0].watts - wattsOf(straight.sources, "sun")) < 1e-9);
    // From 30° off straight above the hole's edges cut some of it: thickness 10 mm takes 10·tan 30° of 100 mm.
    std::get<Beam>(p.sources[0].heat).from = {{std::sin(M_PI / 6), {}}, {0, {}}, {std::cos(M_PI / 6), {}}};
    const CaseResult slanted = solve(p);
    const double less = exact * std::cos(M_PI / 6) * (1 - 0.1 * std::tan(M_PI / 6));
    QVERIFY2(std::abs(wattsOf(slanted.sources, "sun") - less) < 0.01 * less,
             qPrintable(QString::number(wattsOf(slanted.sources, "sun"))));
    QVERIFY(slanted.relativeImbalance() < 1e-6);
  }

  /// A sun that climbs by a table of directions and strengths: what a plate has caught is the integral of both.
  void beamFollowsATable()
  {
    Project p = projectWith(0.05);
    p.materials = {heavy("stuff", 100, 2000, 500)};
    p.parts = {part("plate", "stuff", block(0.2, 0.2, 0.02))};
    p.surfaces = {surface("lit", {"plate.top"})};
    p.finishes = {sunlit(0.7)};
    const auto course = [](const std::string& id, Quantity quantity, std::vector<std::array<double, 2>> points) {
      Parameter own;
      own.id = own.name = id;
      own.quantity = quantity;
      own.schedule = Schedule{};
      own.value = number(points.front()[1]);
      for (const auto& [time, value] : points)
        own.schedule->points.push_back({number(time), number(value)});
      return own;
    };
    p.parameters = {course("aside", Quantity::Plain, {{0, 1}, {3600, 0}}),
                    course("upward", Quantity::Plain, {{0, 0}, {3600, 1}}),
                    course("strength", Quantity::HeatFlux, {{0, 200}, {3600, 1000}})};
    p.sources = {
        source("sun", Beam{{"lit"}, {{1, "aside", true}, {0, {}}, {0, "upward", true}}, {200, "strength", true}})};
    p.watches = {watch("t", PartFigure{PartFigure::Kind::Mean, {"plate"}})};
    inTime(p, 300, 3600);
    const Ran ran = run(p);
    double caught = 0; // Simpson, s the share of the hour: strength · cosine of the direction to the normal
    constexpr int steps = 2000;
    for (int i = 0; i <= steps; ++i) {
      const double s = static_cast<double>(i) / steps;
      const double value = (200 + 800 * s) * s / std::hypot(1 - s, s);
      caught += (i == 0 || i == steps ? 1 : i % 2 == 1 ? 4 : 2) * value / (3.0 * steps);
    }
    const double rise = 0.7 * caught * 0.04 * 3600 / (0.04 * 0.02 * 2000 * 500);
    const double obtained = valueAt(ran.record, "t", 3600) - 300;
    QVERIFY2(std::abs(obtained / rise - 1) < 2e-3, qPrintable(QString("%1 %2").arg(obtained).arg(rise)));
  }

  /// A slab across its melting point: the front lies where the line of conduction passes it.
  void twoPhaseSlab()
  {
    Project p = bar(2, 0.005);
    p.materials[0].latentHeat = number(2e5);
    p.materials[0].meltsFrom = number(329.75);
    p.materials[0].meltsTo = number(330.25);
    p.boundaries = {boundary("cold", FixedSurface{"left", number(300)}),
                    boundary("hot", FixedSurface{"right", number(400)})};
    p.watches = {watch("molten", MoltenShare{{"bar"}})};
    const CaseResult result = solve(p);
    QVERIFY2(std::abs(valueOf(p, result, "molten") - 0.7) < 0.01,
             qPrintable(QString::number(valueOf(p, result, "molten"))));
  }

  /// Emissivity that rises with temperature: σ ε(T) (T⁴ − T_r⁴) = q at the bar's end.
  void emissivityFollowsTemperature()
  {
    Project p = bar(5000);
    Finish finish;
    finish.id = finish.name = "oxide";
    finish.emissivity = table({{300, 0.2}, {700, 0.8}});
    finish.surfaces = {"right"};
    p.finishes = {finish};
    p.sources = {source("heat", PartPower{{"bar"}, Property{3, ""}})};
    p.boundaries = {boundary("sky", Radiation{"right", number(300)})};
    p.watches = {watch("t", SurfaceFigure{PartFigure::Kind::Mean, "right"})};
    const double t = valueOf(p, solve(p), "t");
    const double emissivity = std::min(0.2 + 0.6 * (t - 300) / 400, 0.8);
    QVERIFY2(std::abs(sigma * emissivity * 0.0004 * (std::pow(t, 4) - std::pow(300, 4)) - 3) < 1e-3,
             qPrintable(QString::number(t)));
  }

  void termsHaveExactTangents()
  {
    Project p = bar(20, 0.012);
    Convection toAir{"right", table({{400, 10}, {800, 60}}), Property{300, ""}, {}, "cavity"};
    Radiation toNode{"top", number(300), number(1), "cavity"};
    FlowPassage flow;
    flow.surface = "bottom";
    flow.direction.x = number(1);
    flow.inlet = number(290);
    flow.massFlow = number(0.001);
    flow.specificHeat = number(1000);
    flow.coefficient = table({{400, 100}, {800, 400}});
    flow.stretches = number(3);
    p.boundaries = {boundary("toAir", toAir), boundary("toNode", toNode), boundary("stream", flow)};
    p.materials[0].emissivity = number(0.7);
    HeatSource heater = source("heater", PartPower{{"bar"}, table({{400, 5}, {800, 25}})});
    heater.follows = "mean";
    p.sources = {heater, source("local", SurfaceFlux{"left", table({{400, 5000}, {800, 500}})})};
    p.nodes = {node("cavity", {}, 3), node("room", 300)};
    p.links = {link("wall", Conductor{"cavity", "room", number(0.4)}),
               link("sky", RadiationLink{"bar", "room", number(0.01)})};
    const double error = tangentError(p);
    // That the mean of a stretch shifts with its coefficient is left to Newton's next step.
    QVERIFY2(error < 1e-4, qPrintable(QString::number(error)));
  }

  void badNetworksAreRefused()
  {
    Project p = projectWith(0.01);
    p.nodes = {node("alone", {}, 5)};
    const auto findings = [](const Project& q) {
      auto found = checkProject(q);
      return found ? *found : std::vector<Finding>{findingOf(q, found.error())};
    };
    using enum Finding::Severity;
    QVERIFY(mentions(findings(p), Error, {"alone", "no path"}));
    p.nodes = {node("a"), node("b")};
    p.links = {link("one", FlowLink{"a", "b", number(0.1), number(1000)}),
               link("two", FlowLink{"b", "a", number(0.1), number(1000)})};
    QVERIFY(mentions(findings(p), Error, {"ring", "inlet"}));
    p.links = {link("one", FlowLink{"a", "b", number(0), number(1000)})};
    QVERIFY(mentions(findings(p), Error, {"Mass flow", "greater than zero"}));
    p.links = {link("one", Conductor{"a", "nowhere", number(1)})};
    QVERIFY(mentions(findings(p), Error, {"nowhere"}));
    p.links = {link("one", Conductor{"a", "a", number(1)})};
    QVERIFY(mentions(findings(p), Error, {"same"}));

    Project q = bar(20);
    q.materials[0].electricConductivity = Property{1e6, ""};
    q.boundaries = {boundary("in", CurrentIn{"left", number(4)}),
                    boundary("air", Convection{"top", Property{5, ""}, Property{300, ""}})};
    QVERIFY(mentions(findings(q), Error, {"nowhere a voltage"}));
    q.boundaries.push_back(boundary("ground", FixedVoltage{"right", number(0)}));
    q.materials[0].electricConductivity = table({{300, 1e6}, {400, -1}});
    QVERIFY(mentions(findings(q), Error, {"row 2"}));
    Project r = bar(20);
    r.sources = {source("sun", Beam{{"top"}, {{0, {}}, {0, {}}, {-1, {}}}, number(800)})};
    r.boundaries = {boundary("air", Convection{"top", Property{5, ""}, Property{300, ""}})};
    QVERIFY(mentions(findings(r), Hint, {"below the horizon"}));
    r.materials[0].latentHeat = number(1e5);
    QVERIFY(mentions(findings(r), Error, {"latent heat", "no temperature"}));
  }
};

QTEST_GUILESS_MAIN(TestNetwork)
#include "tst_network.moc"
