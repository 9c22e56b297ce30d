// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Section models: plane and turned ones against closed forms and against solid models, with the same ledger.
#include "TransientProjects.h"
#include "geometry/SectionFromModel.h"
#include "geometry/SurfaceFaces.h"
#include "heat/elements/Conduction.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "mesh/SecondOrder.h"
#include "readiness/Readiness.h"

#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

Form rectangle(double width, double height) { return Rectangle{number(width), number(height)}; }

Project planeProject(double size, std::optional<double> depth = std::nullopt)
{
  Project p = projectWith(size);
  PlaneSection plane;
  if (depth)
    plane.depth = number(*depth);
  p.section = Section{plane, {}};
  return p;
}
Project turnedProject(double size)
{
  Project p = projectWith(size);
  p.section = Section{TurnedSection{}, {}};
  return p;
}
Project second(Project project)
{
  project.mesh.secondOrder = true;
  return project;
}

/// Largest |T − exact(place in the plane)|, K.
template <class Exact>
double errorInPlane(const CaseResult& result, Exact&& exact)
{
  double worst = 0;
  for (std::size_t u = 0; u < result.unknowns.node.size(); ++u)
    worst = std::max(worst, std::abs(result.temperature[u] - exact(result.mesh.placeOf(result.unknowns.node[u]))));
  return worst;
}
template <class Exact>
double meanErrorInPlane(const CaseResult& result, Exact&& exact)
{
  double sum = 0;
  for (std::size_t u = 0; u < result.unknowns.node.size(); ++u)
    sum += std::pow(result.temperature[u] - exact(result.mesh.placeOf(result.unknowns.node[u])), 2);
  return std::sqrt(sum / static_cast<double>(result.unknowns.node.size()));
}

/// Observed between the first and the last mesh; the size of elements from their number.
double orderOf(const std::vector<double>& errors, const std::vector<std::size_t>& elements)
{
  return 2 * std::log(errors.front() / errors.back()) /
         std::log(static_cast<double>(elements.back()) / static_cast<double>(elements.front()));
}

/// The plate with a sine along one side as a plane section.
constexpr double plateWidth = 0.1, plateHeight = 0.08;
Project fourierSection(double size)
{
  Project p = planeProject(size);
  p.materials = {material("stuff", 5)};
  p.parts = {part("plate", "stuff", rectangle(plateWidth, plateHeight), Vec3(plateWidth / 2, 0, 0))};
  p.surfaces = {surface("cold", {"plate.left", "plate.right", "plate.bottom"}), surface("warm", {"plate.top"})};
  Boundary warm = boundary("warm", FixedSurface{"warm", number(300)});
  std::get<FixedSurface>(warm.condition).temperature =
      Number{300, "300 [K] + 100 [K]*sin(180 [deg]*x/(100 [mm]))", true};
  p.boundaries = {boundary("cold", FixedSurface{"cold", number(300)}), warm};
  return p;
}
double fourier(const Vec3& p)
{
  return 300 + 100 * std::sin(pi * p.x() / plateWidth) * std::sinh(pi * p.z() / plateWidth) /
                   std::sinh(pi * plateHeight / plateWidth);
}

/// A hollow cylinder of unit-free radii, inside held at 400 K, outside at 300 K.
constexpr double innerRadius = 0.02, outerRadius = 0.05;
double logarithmic(double r) { return 400 - 100 * std::log(r / innerRadius) / std::log(outerRadius / innerRadius); }
Project hollowCylinder(double size)
{
  Project p = turnedProject(size);
  p.materials = {material("stuff", 3)};
  const double wall = outerRadius - innerRadius;
  p.parts = {part("tube", "stuff", rectangle(wall, 0.04), Vec3(innerRadius + wall / 2, 0, 0))};
  p.surfaces = {surface("in", {"tube.left"}), surface("out", {"tube.right"})};
  p.boundaries = {boundary("hot", FixedSurface{"in", number(400)}), boundary("cold", FixedSurface{"out", number(300)})};
  return p;
}

} // namespace

class TestSections : public QObject
{
  Q_OBJECT

private slots:
  /// Two layers with a contact: the flux of the series of resistances, on any mesh, to rounding.
  void aLayeredWallIsExact()
  {
    Project p = planeProject(0.02);
    p.materials = {material("brick", 0.5), material("wool", 0.1)};
    p.parts = {part("inner", "brick", rectangle(0.1, 0.3), Vec3(0.05, 0, 0)),
               part("outer", "wool", rectangle(0.06, 0.3), Vec3(0.13, 0, 0))};
    p.surfaces = {surface("in", {"inner.left"}), surface("out", {"outer.right"})};
    p.contacts = {contact("inner", "outer", AreaConductance{number(20)})};
    p.boundaries = {boundary("hot", Convection{"in", number(25), number(400)}),
                    boundary("cold", Convection{"out", number(8), number(300)})};
    const double perMetre = 100 / (1 / 25.0 + 0.1 / 0.5 + 1 / 20.0 + 0.06 / 0.1 + 1 / 8.0) * 0.3;
    for (const bool quadratic : {false, true}) {
      p.mesh.secondOrder = quadratic;
      const CaseResult result = solve(p);
      QVERIFY(std::abs(wattsOf(result.boundaries, "hot") / perMetre - 1) < 1e-9);
      QVERIFY(std::abs(wattsOf(result.boundaries, "cold") / perMetre + 1) < 1e-9);
      QVERIFY(result.relativeImbalance() < 1e-9);
    }
    p.section = Section{PlaneSection{Across::Y, {}, number(0.25)}, {}};
    QVERIFY(std::abs(wattsOf(solve(p).boundaries, "hot") / (perMetre * 0.25) - 1) < 1e-9);
  }

  /// The plate with a sine along one side: second and third order.
  void aPlateInThePlane()
  {
    for (const auto& [quadratic, least] : {std::pair(false, 1.8), std::pair(true, 2.7)}) {
      std::vector<double> errors;
      std::vector<std::size_t> elements;
      for (const double size : {0.012, 0.006, 0.003}) {
        Project p = fourierSection(size);
        p.mesh.secondOrder = quadratic;
        const CaseResult result = solve(p);
        errors.push_back(meanErrorInPlane(result, fourier));
        elements.push_back(tetElements(result.mesh));
      }
      const double order = orderOf(errors, elements);
      qInfo("order %d: errors %g %g %g K, observed %.2f", quadratic ? 2 : 1, errors[0], errors[1], errors[2], order);
      QVERIFY2(order > least, qPrintable(QString::number(order)));
    }
  }

  /// Turned: ln r, with orders and exact watts 2πkLΔT/ln(b/a).
  void aHollowCylinderTurned()
  {
    const double watts = 2 * pi * 3 * 0.04 * 100 / std::log(outerRadius / innerRadius);
    for (const auto& [quadratic, least] : {std::pair(false, 1.8), std::pair(true, 2.7)}) {
      std::vector<double> errors;
      std::vector<std::size_t> elements;
      double heat = 0;
      for (const double size : {0.003, 0.0015, 0.00075}) {
        Project p = hollowCylinder(size);
        p.mesh.secondOrder = quadratic;
        const CaseResult result = solve(p);
        errors.push_back(meanErrorInPlane(result, [](const Vec3& at) { return logarithmic(at.x()); }));
        elements.push_back(tetElements(result.mesh));
        heat = wattsOf(result.boundaries, "hot");
      }
      const double order = orderOf(errors, elements);
      qInfo("order %d: errors %g %g %g K, observed %.2f, %g of %g W", quadratic ? 2 : 1, errors[0], errors[1],
            errors[2], order, heat, watts);
      QVERIFY2(order > least, qPrintable(QString::number(order)));
      QVERIFY(std::abs(heat / watts - 1) < (quadratic ? 1e-5 : 2e-3));
    }
  }

  /// The weight 2πr is in every sum: volumes, areas, a source and what leaves.
  void wattsOfATurnedSectionAreReal()
  {
    Project p = turnedProject(0.005);
    p.materials = {material("stuff", 30)};
    p.parts = {part("disc", "stuff", rectangle(0.08, 0.01))}; // centred: the axis cuts it in half
    p.surfaces = {surface("top", {"disc.top"}), exposedOf("all", {"disc"})};
    p.sources = {source("q", PartDensity{{"disc"}, number(2e5)})};
    p.boundaries = {boundary("air", Convection{"all", number(20), number(300)})};
    const CaseResult result = solve(p);
    const double volume = pi * 0.04 * 0.04 * 0.01;
    QVERIFY(std::abs(result.mesh.geometry.parts[0].volume / volume - 1) < 1e-9);
    QVERIFY(std::abs(meshedVolumes(result.mesh)[0] / volume - 1) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.sources, "q") / (2e5 * volume) - 1) < 1e-9);
    QVERIFY(std::abs(wattsOf(result.boundaries, "air") / (2e5 * volume) + 1) < 1e-9);
    double area = 0;
    for (const int f : facesOf(p, result.mesh.geometry, "all").faces)
      area += result.mesh.geometry.faces[static_cast<std::size_t>(f)].area;
    QVERIFY(std::abs(area / (2 * pi * 0.04 * 0.04 + 2 * pi * 0.04 * 0.01) - 1) < 1e-9);
    QVERIFY(facesOf(p, result.mesh.geometry, surface("x", {"disc.*"})).faces.size() ==
            3); // not the axis, not the sides
  }

  /// A disc on a cold base, heated in a spot; Bessel series J1(β) = 0.
  void aSpotOnADisc()
  {
    constexpr double b = 0.03, a = 0.01, thick = 0.02, k = 12, q = 5e4;
    Project p = turnedProject(0.002);
    p.materials = {material("stuff", k)};
    p.parts = {part("disc", "stuff", rectangle(2 * b, thick))};
    p.parts[0].steps = {{"spot", SplitFace{"disc.top", SplitByCircle{{}, {}, number(a)}}, {}}};
    p.surfaces = {surface("spot", {"disc.spot.inside"}), surface("base", {"disc.bottom"})};
    p.sources = {source("q", SurfaceFlux{"spot", number(q)})};
    p.boundaries = {boundary("cold", FixedSurface{"base", number(300)})};
    // A flat form has no round split: the same disc as a cylinder cut through its axis.
    p.parts[0].shape.form = Cylinder{number(b), number(thick)};
    p.parts[0].shape.placement = {};
    const auto exact = [&](double r, double z) {
      double sum = q * a * a / (k * b * b) * z;
      double beta = 3.8317;
      for (int n = 0; n < 200; ++n) {
        for (int newton = 0; newton < 8; ++newton) // J1' = J0 − J1/β
          beta -= std::cyl_bessel_j(1, beta) / (std::cyl_bessel_j(0, beta) - std::cyl_bessel_j(1, beta) / beta);
        const double j0 = std::cyl_bessel_j(0, beta);
        const double c = 2 * q * a * std::cyl_bessel_j(1, beta * a / b) / (b * beta * j0 * j0);
        // sinh(βz/b)/cosh(βL/b) without overflow
        const double rise = std::exp(beta * (z - thick) / b) * (1 - std::exp(-2 * beta * z / b)) /
                            (1 + std::exp(-2 * beta * thick / b));
        sum += c * b / (k * beta) * rise * std::cyl_bessel_j(0, beta * r / b);
        beta += pi;
      }
      return 300 + sum;
    };
    for (const bool quadratic : {false, true}) {
      p.mesh.secondOrder = quadratic;
      const CaseResult result = solve(p);
      double hottest = 0;
      for (const double t : result.temperature)
        hottest = std::max(hottest, t);
      const double rise = exact(0, thick) - 300;
      qInfo("order %d: %g K of %g K", quadratic ? 2 : 1, hottest - 300, rise);
      QVERIFY(std::abs((hottest - 300) / rise - 1) < (quadratic ? 5e-4 : 1e-2));
      QVERIFY(std::abs(wattsOf(result.sources, "q") / (q * pi * a * a) - 1) < 1e-6);
    }
  }

  /// A turned section against the solid model it is cut from.
  void aTurnedSectionAgainstTheSolid()
  {
    Project p = projectWith(0.006);
    p.materials = {material("steel", 20), material("wool", 0.2)};
    p.parts = {part("pot", "steel", Cylinder{number(0.03), number(0.04)}),
               part("sleeve", "wool", Tube{number(0.045), number(0.03), number(0.04)})};
    p.surfaces = {exposedOf("all", {"pot", "sleeve"})};
    p.sources = {source("q", PartPower{{"pot"}, number(30)})};
    p.boundaries = {boundary("air", Convection{"all", number(15), number(300)})};
    p.contacts = {contact("pot", "sleeve", AreaConductance{number(150)})};
    p.watches = {watch("top", PartFigure{PartFigure::Kind::Hottest, {"pot"}}),
                 watch("wool", PartFigure{PartFigure::Kind::Mean, {"sleeve"}})};
    const CaseResult solid = solve(second(p));
    p.section = Section{TurnedSection{}, {}};
    const CaseResult turned = solve(second(p));
    QVERIFY(turned.mesh.tets.size() < solid.mesh.tets.size() / 5);
    for (const char* id : {"top", "wool"}) {
      const double rise = valueOf(p, solid, id) - 300;
      qInfo("%s: solid %g, turned %g K", id, valueOf(p, solid, id) - 300, valueOf(p, turned, id) - 300);
      QVERIFY(std::abs((valueOf(p, turned, id) - 300) / rise - 1) < 2e-3);
    }
    QVERIFY(std::abs(wattsOf(turned.sources, "q") - 30) < 1e-9);
    QVERIFY(turned.relativeImbalance() < 1e-9);
  }

  /// A plane section against a long solid, one cut by the same plane; rules keep what they name.
  void aPlaneSectionAgainstTheSolid()
  {
    Project p = projectWith(0.008);
    p.materials = {material("aluminium", 160), material("pad", 1)};
    p.parts = {part("base", "aluminium", block(0.1, 0.06, 0.01))};
    p.parts[0].steps = {
        join("fin", block(0.004, 0.06, 0.04), Vec3(-0.04, 0, 0.01), Row{number(5), {number(0.02), {}, {}}, {}})};
    p.parts.push_back(part("chip", "pad", block(0.03, 0.06, 0.003), Vec3(0, 0, -0.003)));
    p.surfaces = {exposedOf("out", {"base"})};
    p.surfaces[0].facing = Facing{{number(0), number(0), number(1)}, number(1.6)}; // not the ends of the solid
    p.sources = {source("q", PartDensity{{"chip"}, number(2e6)})};
    p.boundaries = {boundary("air", Convection{"out", number(30), number(300)})};
    p.watches = {watch("chip", PartFigure{PartFigure::Kind::Hottest, {"chip"}})};
    Project flat = p;
    flat.section = Section{PlaneSection{Across::Y, {}, number(0.06)}, {}};
    // The ends of the solid face along y: they are taken from its surface.
    p.surfaces.push_back(surface("ends", {}));
    p.surfaces[0].except = {"ends"};
    p.surfaces[1].exposedOf = {"base"};
    p.surfaces[1].facing = Facing{{number(0), number(1), number(0)}, number(0.1)};
    p.surfaces.push_back(p.surfaces[1]);
    p.surfaces[2].id = "ends2";
    p.surfaces[2].facing = Facing{{number(0), number(-1), number(0)}, number(0.1)};
    p.surfaces[0].except = {"ends", "ends2"};
    const CaseResult solid = solve(second(p));
    const CaseResult section = solve(second(flat));
    const double rise = valueOf(p, solid, "chip") - 300;
    qInfo("solid %g K, section %g K", rise, valueOf(flat, section, "chip") - 300);
    QVERIFY(std::abs((valueOf(flat, section, "chip") - 300) / rise - 1) < 1e-3);
    QVERIFY(std::abs(wattsOf(section.boundaries, "air") / wattsOf(solid.boundaries, "air") - 1) < 1e-6);
  }

  /// A plate that loses heat from its faces: the fin of rectangular profile, cosh.
  void aPlateLosesHeatFromItsFaces()
  {
    constexpr double length = 0.1, depth = 0.003, k = 40, h = 50;
    Project p = planeProject(0.004, depth);
    p.materials = {material("stuff", k)};
    p.parts = {part("fin", "stuff", rectangle(length, 0.02), Vec3(length / 2, 0, 0))};
    p.surfaces = {surface("root", {"fin.left"}), surface("faces", {"fin.front", "fin.back"}),
                  exposedOf("edges", {"fin"})};
    p.boundaries = {boundary("hot", FixedSurface{"root", number(400)}),
                    boundary("air", Convection{"faces", number(h), number(300)})};
    const CaseResult result = solve(second(p));
    const double m = std::sqrt(2 * h / (k * depth));
    const double error = errorInPlane(
        result, [&](const Vec3& at) { return 300 + 100 * std::cosh(m * (length - at.x())) / std::cosh(m * length); });
    qInfo("error %g K", error);
    QVERIFY(error < 0.02);
    const double watts = std::sqrt(2 * h * k * depth) * 0.02 * 100 * std::tanh(m * length);
    QVERIFY(std::abs(wattsOf(result.boundaries, "hot") / watts - 1) < 2e-3);
    QCOMPARE(facesOf(p, result.mesh.geometry, "edges").faces.size(), 4UL); // a rule for what is exposed means edges
  }

  /// Two strips that see each other: F = √(1 + (s/w)²) − s/w, both black, in an endless plane section.
  void strapsSeeEachOther()
  {
    constexpr double width = 0.1, apart = 0.05;
    Project p = planeProject(0.01);
    p.materials = {material("stuff", 5000)};
    p.materials[0].emissivity = number(1);
    p.parts = {part("low", "stuff", rectangle(width, 0.01)),
               part("high", "stuff", rectangle(width, 0.01), Vec3(0, 0, 0.01 + apart))};
    p.surfaces = {surface("up", {"low.top"}), surface("down", {"high.bottom"}), surface("under", {"low.bottom"}),
                  surface("over", {"high.top"})};
    p.boundaries = {boundary("hot", FixedSurface{"under", number(800)}),
                    boundary("cold", FixedSurface{"over", number(300)})};
    Enclosure enclosure;
    enclosure.id = enclosure.name = "gap";
    enclosure.surfaces = {"up", "down"};
    enclosure.opening = number(300);
    enclosure.rays = number(20000);
    p.enclosures = {enclosure};
    p.watches = {watch("up", SurfaceFigure{PartFigure::Kind::Mean, "up"}),
                 watch("down", SurfaceFigure{PartFigure::Kind::Mean, "down"})};
    const CaseResult result = solve(p);
    const double ratio = apart / width;
    const double factor = std::sqrt(1 + ratio * ratio) - ratio;
    double across = 0;
    for (const auto& exchange : result.enclosures.front().exchanges)
      across += std::abs(exchange.watts);
    const auto fourth = [](double t) { return t * t * t * t; };
    const double hot = valueOf(p, result, "up");
    const double cold = valueOf(p, result, "down");
    const double expected = 5.670374419e-8 * width * factor * (fourth(hot) - fourth(cold));
    qInfo("%g of %g W/m", across, expected);
    QVERIFY(std::abs(across / expected - 1) < 5e-3);
  }

  /// The whole demo kiln, cut in one action: nothing stands in the way, every case included, and it solves with its
  /// chamber; the heat put in is that of the slice.
  void theDemoIsCut()
  {
    const auto demo = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    QVERIFY(demo);
    const auto solid = buildGeometry(*demo);
    QVERIFY(solid);
    SectionFromModel made = sectionFrom(*demo, solid->table, Section{PlaneSection{}, {}});
    QVERIFY(!made.notes.empty());
    for (const Finding& finding : checkModel(made.project))
      QVERIFY2(finding.severity != Finding::Severity::Error, finding.sentence().c_str());
    for (const Case& one : made.project.cases)
      for (const Change& change : one.changes)
        QVERIFY2(!change.field.ends_with(".power"), change.field.c_str());
    made.project.enclosures.front().rays = number(1000);
    const CaseResult result = solve(made.project);
    QVERIFY(result.relativeImbalance() < 1e-6);
    const int coils = result.mesh.geometry.partIndex("coils");
    const double whole = solid->table.parts[static_cast<std::size_t>(solid->table.partIndex("coils"))].volume;
    const double slice = result.mesh.geometry.parts[static_cast<std::size_t>(coils)].volume; // for a metre
    QVERIFY(std::abs(wattsOf(result.sources, "coil-power") / (1440 * slice / whole) - 1) < 1e-9);
    qInfo("%g W/m, coils at %g K", wattsOf(result.sources, "coil-power"),
          *std::max_element(result.temperature.begin(), result.temperature.end()));
  }

  /// A slanting sun on a section: what stands in the way shades all along the depth, W/m by hand.
  void aBeamIsShaded()
  {
    Project p = planeProject(0.01);
    p.materials = {material("stuff", 50)};
    p.parts = {part("ground", "stuff", rectangle(1, 0.02)),
               part("wall", "stuff", rectangle(0.02, 0.3), Vec3(0, 0, 0.02))};
    p.surfaces = {surface("lit", {"ground.top"}), surface("base", {"ground.bottom"})};
    Finish black;
    black.id = black.name = "black";
    black.emissivity = Property{1, {}};
    black.solarAbsorptance = number(1);
    black.surfaces = {"lit"};
    p.finishes = {black};
    // 45° in the plane, and as much along the depth.
    p.sources = {source("sun", Beam{{"lit"}, {number(1), number(1), number(1)}, {800, {}}})};
    p.boundaries = {boundary("cold", FixedSurface{"base", number(300)})};
    const double shadow = 0.3; // the wall's height at 45°, left of it
    const double expected = 800 / std::sqrt(3.0) * (1 - 0.02 - shadow);
    const double watts = wattsOf(solve(p).sources, "sun");
    qInfo("%g of %g W/m", watts, expected);
    QVERIFY(std::abs(watts / expected - 1) < 5e-3);
  }

  /// Concentric spheres in a turned section: the grey formula, with view factors all around the axis.
  void spheresInSpheres()
  {
    constexpr double inner = 0.03, outer = 0.05, e1 = 0.7, e2 = 0.4;
    Project p = turnedProject(0.004);
    p.materials = {material("stuff", 5000)};
    p.parts = {part("ball", "stuff", Sphere{number(inner)}), part("shell", "stuff", Sphere{number(0.055)})};
    p.parts[1].steps = {cut("hollow", Sphere{number(outer)})};
    p.surfaces = {surface("ball-skin", {"ball.outside"}), surface("inside", {"shell.hollow.outside"}),
                  surface("outside", {"shell.outside"})};
    Finish bright;
    bright.id = bright.name = "bright";
    bright.emissivity = Property{e1, {}};
    bright.surfaces = {"ball-skin"};
    Finish dull = bright;
    dull.id = dull.name = "dull";
    dull.emissivity = Property{e2, {}};
    dull.surfaces = {"inside"};
    p.finishes = {bright, dull};
    p.sources = {source("q", PartPower{{"ball"}, number(40)})};
    p.boundaries = {boundary("cold", FixedSurface{"outside", number(300)})};
    Enclosure enclosure;
    enclosure.id = enclosure.name = "gap";
    enclosure.surfaces = {"ball-skin", "inside"};
    enclosure.rays = number(8000);
    p.enclosures = {enclosure};
    p.watches = {watch("hot", SurfaceFigure{PartFigure::Kind::Mean, "ball-skin"}),
                 watch("cool", SurfaceFigure{PartFigure::Kind::Mean, "inside"})};
    const CaseResult result = solve(p);
    const double area = 4 * pi * inner * inner;
    const auto fourth = [](double t) { return t * t * t * t; };
    const double expected =
        std::pow(fourth(valueOf(p, result, "cool")) +
                     40 / (5.670374419e-8 * area) * (1 / e1 + inner * inner / (outer * outer) * (1 / e2 - 1)),
                 0.25);
    qInfo("%g of %g K", valueOf(p, result, "hot"), expected);
    QVERIFY(std::abs(valueOf(p, result, "hot") - expected) < 1);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// A gap between two parts of a turned section that share nothing: conduction through still air, ln r.
  void aGapIsTurned()
  {
    Project p = turnedProject(0.003);
    p.materials = {material("stuff", 5000)};
    p.parts = {part("rod", "stuff", rectangle(0.02, 0.03)),
               part("sleeve", "stuff", rectangle(0.005, 0.03), Vec3(0.0135, 0, 0))};
    p.contacts = {contact("rod", "sleeve", Gap{number(0.001), number(0.03), std::nullopt, std::nullopt})};
    p.surfaces = {surface("outside", {"sleeve.right"})};
    p.sources = {source("q", PartPower{{"rod"}, number(5)})};
    p.boundaries = {boundary("cold", FixedSurface{"outside", number(300)})};
    p.watches = {watch("rod", PartFigure{PartFigure::Kind::Mean, {"rod"}})};
    const CaseResult result = solve(p);
    const double rise = 5 / (0.03 / 0.001 * 2 * pi * 0.01 * 0.03); // at the area of the first part
    qInfo("%g of %g K", valueOf(p, result, "rod") - 300, rise);
    QVERIFY(std::abs((valueOf(p, result, "rod") - 300) / rise - 1) < 0.06);
    QVERIFY(result.relativeImbalance() < 1e-7);
  }

  /// A long rod quenched: what it stores is its real capacity, and the mean cools as the series says.
  void aRodIsQuenched()
  {
    Project p = turnedProject(0.002);
    p.materials = {heavy("steel", 40, 7800, 500)};
    p.parts = {part("rod", "steel", rectangle(0.04, 0.01))};
    p.surfaces = {surface("side", {"rod.right"})};
    p.boundaries = {boundary("oil", Convection{"side", number(20), number(300)})};
    inTime(p, 500, 600);
    p.watches = {watch("mean", PartFigure{PartFigure::Kind::Mean, {"rod"}})};
    const CaseResult result = solve(p);
    // Bi = hR/k = 0.01: θ = A exp(−ζ² Fo), ζ J1(ζ) = Bi J0(ζ), mean A 2 J1(ζ)/ζ.
    double zeta = std::sqrt(2 * 0.01);
    for (int i = 0; i < 50; ++i)
      zeta = std::sqrt(2 * 0.01 * std::cyl_bessel_j(0, zeta) / (2 * std::cyl_bessel_j(1, zeta) / zeta));
    const double j0 = std::cyl_bessel_j(0, zeta);
    const double j1 = std::cyl_bessel_j(1, zeta);
    const double amplitude = 2 / zeta * j1 / (j0 * j0 + j1 * j1);
    const double fourier = 40 / (7800 * 500.0) * 600 / (0.02 * 0.02);
    const double mean = 300 + 200 * amplitude * std::exp(-zeta * zeta * fourier) * 2 * j1 / zeta;
    qInfo("mean %g of %g K", valueOf(p, result, "mean"), mean);
    QVERIFY(std::abs(valueOf(p, result, "mean") - mean) < 0.1);
  }

  /// Project and result files carry a section; the mesh comes back with its columns.
  void filesCarryASection()
  {
    Project p = second(hollowCylinder(0.01));
    p.section = Section{TurnedSection{number(-0.001), number(0.002)}, {}};
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("section.kiln").toStdString();
    QVERIFY(saveProject(p, file));
    const auto loaded = loadProject(file);
    QVERIFY(loaded && loaded->section == p.section);
    const Mesh mesh = meshOf(p);
    QCOMPARE(mesh.column.size(), mesh.nodes.size());
    for (std::size_t n = 0; n < mesh.nodes.size(); ++n)
      QVERIFY((mesh.placeOf(NodeId(n)) - mesh.placeOf(mesh.column[n])).norm() < 1e-12);
  }

  /// What cannot be a section says why.
  void refusalsNameTheObject()
  {
    Project p = planeProject(0.01);
    p.materials = {material("stuff", 1)};
    p.parts = {part("near", "stuff", block(0.1, 0.02, 0.1)),
               part("far", "stuff", block(0.1, 0.02, 0.1), Vec3(0, 1, 0))};
    const auto met = buildGeometry(p);
    QVERIFY(met && met->table.parts.size() == 1);
    QVERIFY(mentions(checkOnGeometry(p, met->table), Finding::Severity::Hint, {"far", "does not meet"}));
    p.section = Section{PlaneSection{Across::Y, number(5), {}}, {}};
    const auto missed = buildGeometry(p);
    QVERIFY(!missed && missed.error().problem.find("meets no part") != std::string::npos);
    p.section = Section{PlaneSection{}, {}};
    p.sources = {source("heater", PartPower{{"near"}, number(5)})};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"heater", "no depth"}));
    p.section = Section{TurnedSection{}, {}};
    p.sources = {source("sun", Beam{})};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"sun", "turned section"}));
    p.section.reset();
    p.parts = {part("flat", "stuff", rectangle(0.1, 0.1))};
    const auto thin = buildGeometry(p);
    QVERIFY(!thin && thin.error().object == "part flat");
    QVERIFY(thin.error().problem.find("flat form") != std::string::npos);
  }

  /// Circle, ring, outline with an arc, cut-outs and repeats.
  void flatShapes()
  {
    Project p = planeProject(0.01, 1.0);
    p.materials = {material("stuff", 1)};
    p.parts = {part("ring", "stuff", Disc{number(0.05), number(0.02)}),
               part("dee", "stuff",
                    FlatOutline{{{number(0.1), number(0), number(0.05)},
                                 {number(0.2), number(0), {}},
                                 {number(0.15), number(0.08), {}}}})};
    p.parts.push_back(part("plate", "stuff", rectangle(0.2, 0.1), Vec3(0, 0, 0.2)));
    p.parts[2].steps = {
        cut("hole", Disc{number(0.01), {}}, Vec3(-0.06, 0, 0.05), Row{number(4), {number(0.04), {}, {}}, {}})};
    const Mesh mesh = meshOf(second(p));
    const auto volume = [&](std::size_t part) { return mesh.geometry.parts[part].volume; };
    QVERIFY(std::abs(volume(0) / (pi * (0.05 * 0.05 - 0.02 * 0.02)) - 1) < 1e-9);
    QVERIFY(std::abs(volume(1) / (pi * 0.05 * 0.05 / 2 + 0.1 * 0.08 / 2) - 1) < 1e-9);
    QVERIFY(std::abs(volume(2) / (0.2 * 0.1 - 4 * pi * 1e-4) - 1) < 1e-9);
    const std::vector<double> bent = integratedVolumes(mesh);
    for (std::size_t part = 0; part < 3; ++part)
      QVERIFY2(std::abs(bent[part] / volume(part) - 1) < 1e-4, qPrintable(QString::number(bent[part] / volume(part))));
    std::size_t holes = 0;
    for (const Face& face : mesh.geometry.faces)
      for (const std::string& name : face.names)
        holes += name.starts_with("plate.hole") && !face.aside ? 1 : 0;
    QVERIFY(holes >= 4);
  }
};

QTEST_GUILESS_MAIN(TestSections)
#include "tst_sections.moc"
