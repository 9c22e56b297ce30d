// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Patch tests of every way in which heat enters, leaves or crosses: the same flux all over a face gives one temperature
// all over it, at both orders, flat and bent, steady and in time. The tests are made from the lists of kinds of the
// model: a kind that is added without an answer here does not compile.
#include "TransientProjects.h"
#include "heat/ThermalSystem.h"

#include <QTest>
#include <cmath>
#include <limits>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;
constexpr double height = 0.02, conductivity = 1.0, base = 300; // m, W/(m·K), K at the bottom
constexpr double flux = 1000;                                   // W/m² in at the top: 20 K over the height
constexpr double density = 2 * flux / height;                   // W/m³: as much at the top
constexpr double known = std::numeric_limits<double>::quiet_NaN();

/// The body under test: a block, or a cylinder whose faces are round.
struct Body {
  bool bent = false;
  [[nodiscard]] Form form() const
  {
    return bent ? Form(Cylinder{number(0.025), number(height)}) : block(0.05, 0.04, height);
  }
  [[nodiscard]] double area() const { return bent ? pi * 0.025 * 0.025 : 0.05 * 0.04; }
};

/// A project and what it should give.
struct Patch {
  Project project;
  double top = known;        ///< K all over the top; not a number: only the same everywhere
  bool everywhere = true;    ///< false: a flux that is not the same everywhere, of which only the sum is known
  bool inVolume = false;     ///< a parabola, which first order has in the mean only
  double throughput = known; ///< W
};

Project slab(const Body& body, int order)
{
  Project p = projectWith(0.008);
  p.mesh.secondOrder = order == 2;
  p.materials = {heavy("stuff", conductivity, 2000, 1000)};
  p.materials.front().emissivity = number(0.8);
  p.parts = {part("slab", "stuff", body.form())};
  p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
  p.boundaries = {boundary("held", FixedSurface{"bottom", number(base)})};
  p.watches = {watch("hottest", SurfaceFigure{PartFigure::Kind::Hottest, "top"}),
               watch("coldest", SurfaceFigure{PartFigure::Kind::Coldest, "top"})};
  return p;
}

template <class Kind>
struct Of {
};

Number3 along(double x, double y, double z) { return {number(x), number(y), number(z)}; }
Property plain(double value) { return Property{value, ""}; }
constexpr double linear = base + flux * height / conductivity;                     // K at the top, flux from above
constexpr double parabola = base + density * height * height / (2 * conductivity); // K, heated inside

// --- sources -------------------------------------------------------------------------------------------------------
Patch patchOf(Of<PartPower>, Project p, const Body& body)
{
  p.sources = {source("heat", PartPower{{"slab"}, plain(density * body.area() * height)})};
  return {p, parabola, true, true, density * body.area() * height};
}
Patch patchOf(Of<PartDensity>, Project p, const Body& body)
{
  p.sources = {source("heat", PartDensity{{"slab"}, plain(density)})};
  return {p, parabola, true, true, density * body.area() * height};
}
Patch patchOf(Of<SurfacePower>, Project p, const Body& body)
{
  p.sources = {source("heat", SurfacePower{"top", plain(flux * body.area())})};
  return {p, linear, true, false, flux * body.area()};
}
Patch patchOf(Of<SurfaceFlux>, Project p, const Body& body)
{
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  return {p, linear, true, false, flux * body.area()};
}
Patch patchOf(Of<PointPower>, Project p, const Body&)
{
  p.sources = {source("heat", PointPower{along(0.001, 0.002, height / 2), plain(2)})};
  return {p, known, false, false, 2};
}
Patch patchOf(Of<Beam>, Project p, const Body& body)
{
  Finish black;
  black.id = black.name = "black";
  black.emissivity = plain(1);
  black.surfaces = {"top"};
  p.finishes = {black};
  p.sources = {source("heat", Beam{{"top"}, along(0, 0, 1), number(flux)})};
  return {p, linear, true, false, flux * body.area()};
}

// --- boundaries ----------------------------------------------------------------------------------------------------
Patch withBoundary(Project p, Boundary own, const Body& body, double top)
{
  p.boundaries.push_back(std::move(own));
  return {p, top, true, false, std::isnan(top) ? known : (top - base) / height * conductivity * body.area()};
}
Patch patchOf(Of<Convection>, Project p, const Body& body)
{
  return withBoundary(p, boundary("air", Convection{"top", plain(50), plain(linear + flux / 50)}), body, linear);
}
Patch patchOf(Of<Radiation>, Project p, const Body& body)
{
  const double around = std::pow(flux / (0.8 * stefanBoltzmann) + std::pow(linear, 4), 0.25);
  return withBoundary(p, boundary("glow", Radiation{"top", number(around)}), body, linear);
}
Patch patchOf(Of<FixedSurface>, Project p, const Body& body)
{
  return withBoundary(p, boundary("hot", FixedSurface{"top", number(linear)}), body, linear);
}
Patch patchOf(Of<FixedPart>, Project p, const Body& body)
{
  p.parts.push_back(part("cap", "stuff", body.form(), Vec3(0, 0, height)));
  return withBoundary(p, boundary("hot", FixedPart{"cap", number(linear)}), body, linear);
}
Patch patchOf(Of<FixedPoint>, Project p, const Body&)
{
  p.boundaries = {boundary("held", FixedPoint{along(0, 0, 0), number(base)})};
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  return {p, known, false, false, known};
}
Patch patchOf(Of<CorrelatedConvection>, Project p, const Body& body)
{
  CorrelatedConvection air;
  air.surface = "top";
  air.situation = FlowSituation::AlongPlate;
  air.size = number(0.05);
  air.speed = number(3);
  air.ambient = number(400);
  p.environment = Environment{};
  return withBoundary(p, boundary("air", air), body, known);
}
Patch patchOf(Of<BodyContact>, Project p, const Body& body)
{
  return withBoundary(p, boundary("plate", BodyContact{"top", number(50), number(linear + flux / 50)}), body, linear);
}
Patch patchOf(Of<FlowPassage>, Project p, const Body& body)
{
  FlowPassage stream;
  stream.surface = "top";
  stream.direction = along(1, 0, 0);
  stream.inlet = number(linear + flux / 50);
  stream.massFlow = number(1000);
  stream.specificHeat = number(4000); // so much that it keeps its temperature
  stream.coefficient = plain(50);
  stream.stretches = number(1);
  return withBoundary(p, boundary("stream", stream), body, linear);
}
Patch electric(Project p, const Body& body)
{
  p.materials.front().electricConductivity = plain(1000);
  const double current = std::sqrt(density * 1000) * body.area(); // j² / σ = density
  p.boundaries.push_back(boundary("in", CurrentIn{"top", number(current)}));
  p.boundaries.push_back(boundary("out", FixedVoltage{"bottom", number(0)}));
  return {p, parabola, true, true, density * body.area() * height};
}
Patch patchOf(Of<FixedVoltage>, Project p, const Body& body) { return electric(std::move(p), body); }
Patch patchOf(Of<CurrentIn>, Project p, const Body& body) { return electric(std::move(p), body); }
Patch patchOf(Of<Sheet>, Project p, const Body& body)
{
  Sheet foil{"top", "stuff", number(1e-4)};
  foil.through = number(0.01);
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  p.boundaries.push_back(boundary("foil", foil));
  return {p, linear + flux * 0.01, true, false, flux * body.area()}; // the sheet's own side is what the surface shows
}

// --- contacts: a second body lies on the first, and gets the flux from above -----------------------------------------
Patch stacked(Project p, const Body& body, Contact own, double jump)
{
  p.parts.push_back(part("cap", "stuff", body.form(), Vec3(0, 0, height)));
  p.surfaces.front() = surface("top", {"cap.top"});
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  p.contacts = {std::move(own)};
  return {p, linear + jump + flux * height / conductivity, true, false, flux * body.area()};
}
Patch patchOf(Of<PerfectContact>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", PerfectContact{}), 0);
}
Patch patchOf(Of<NoContact>, Project p, const Body& body)
{
  Patch patch = stacked(p, body, contact("slab", "cap", NoContact{}), 0);
  patch.project.boundaries.push_back(boundary("hot", Convection{"top", plain(50), plain(base)}));
  patch.top = base + flux / 50;
  return patch;
}
Patch patchOf(Of<AreaConductance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", AreaConductance{number(100)}), flux / 100);
}
Patch patchOf(Of<AreaResistance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", AreaResistance{number(0.01)}), flux * 0.01);
}
Patch patchOf(Of<TotalResistance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", TotalResistance{number(0.01 / body.area())}), flux * 0.01);
}
Patch patchOf(Of<Gap>, Project p, const Body& body)
{
  Patch patch = stacked(p, body, contact("slab", "cap", Gap{number(1e-4), number(0.01), number(0.8), number(0.6)}), 0);
  patch.top = known; // radiation crosses, too
  return patch;
}

// --- links -----------------------------------------------------------------------------------------------------------
Patch tied(Project p, const Body& body, std::variant<Conductor, RadiationLink, FlowLink, Wire> exchange, double kelvin,
           double top)
{
  Node node;
  node.id = node.name = "node";
  node.temperature = number(kelvin);
  p.nodes = {node};
  Link link;
  link.id = link.name = "link";
  link.exchange = std::move(exchange);
  p.links = {link};
  return {p, top, true, false, std::isnan(top) ? known : flux * body.area()};
}
Patch patchOf(Of<Conductor>, Project p, const Body& body)
{
  return tied(p, body, Conductor{"node", "top", number(50 * body.area())}, linear + flux / 50, linear);
}
Patch patchOf(Of<RadiationLink>, Project p, const Body& body)
{
  const double around = std::pow(flux / (0.5 * stefanBoltzmann) + std::pow(linear, 4), 0.25);
  return tied(p, body, RadiationLink{"node", "top", number(0.5 * body.area())}, around, linear);
}
Patch patchOf(Of<FlowLink>, Project p, const Body& body)
{
  Patch patch = tied(p, body, FlowLink{"node", "after", number(1), number(100)}, linear + flux / 50, linear);
  Node after;
  after.id = after.name = "after";
  patch.project.nodes.push_back(after);
  patch.project.boundaries.push_back(boundary("air", Convection{"top", plain(50), plain(0), "", "after"}));
  patch.top = known; // the stream cools a little
  patch.throughput = known;
  return patch;
}
Patch patchOf(Of<Wire>, Project p, const Body& body)
{
  return tied(p, body, Wire{"node", "top", number(0.1), number(0.01), "stuff", {}, {}, {}}, 400, known);
}

template <class Variant>
struct Kinds;
template <class... Ts>
struct Kinds<std::variant<Ts...>> {
  template <class Visit>
  static void each(Visit&& visit)
  {
    (visit(Of<Ts>{}), ...);
  }
  static constexpr std::size_t count = sizeof...(Ts);
};

/// Calls with every kind of heat flow that the model has.
template <class Visit>
void eachKind(Visit&& visit)
{
  Kinds<decltype(HeatSource::heat)>::each([&](auto kind) { visit("source", kind); });
  Kinds<decltype(Boundary::condition)>::each([&](auto kind) { visit("boundary", kind); });
  Kinds<decltype(Contact::exchange)>::each([&](auto kind) { visit("contact", kind); });
  Kinds<decltype(Link::exchange)>::each([&](auto kind) { visit("link", kind); });
}

struct Named {
  QString name;
  std::function<Patch(Project, const Body&)> make;
};

std::vector<Named> allKinds()
{
  std::vector<Named> kinds;
  eachKind([&](const char* family, auto kind) {
    kinds.push_back({QString("%1 %2").arg(family).arg(kinds.size()),
                     [kind](Project p, const Body& body) { return patchOf(kind, std::move(p), body); }});
  });
  return kinds;
}

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
