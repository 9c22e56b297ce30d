// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TransientProjects.h"
#include "heat/ThermalSystem.h"

#include <QString>
#include <cmath>
#include <limits>
#include <numbers>

/// Every way in which heat enters, leaves or crosses, with the same flux all over a face. Made from the lists of kinds
/// of the model: a kind that is added without an answer here does not compile.
namespace kiln::test
{

inline constexpr double pi = std::numbers::pi;
inline constexpr double height = 0.02, conductivity = 1.0, base = 300; // m, W/(m·K), K at the bottom
inline constexpr double flux = 1000;                                   // W/m² in at the top: 20 K over the height
inline constexpr double density = 2 * flux / height;                   // W/m³: as much at the top
inline constexpr double known = std::numeric_limits<double>::quiet_NaN();

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

inline Project slab(const Body& body, int order)
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

inline Number3 along(double x, double y, double z) { return {number(x), number(y), number(z)}; }
inline Property plain(double value) { return Property{value, ""}; }
inline constexpr double linear = base + flux * height / conductivity; // K at the top, flux from above
inline constexpr double parabola = base + density * height * height / (2 * conductivity); // K, heated inside

// --- sources -------------------------------------------------------------------------------------------------------
inline Patch patchOf(Of<PartPower>, Project p, const Body& body)
{
  p.sources = {source("heat", PartPower{{"slab"}, plain(density * body.area() * height)})};
  return {p, parabola, true, true, density * body.area() * height};
}
inline Patch patchOf(Of<PartDensity>, Project p, const Body& body)
{
  p.sources = {source("heat", PartDensity{{"slab"}, plain(density)})};
  return {p, parabola, true, true, density * body.area() * height};
}
inline Patch patchOf(Of<SurfacePower>, Project p, const Body& body)
{
  p.sources = {source("heat", SurfacePower{"top", plain(flux * body.area())})};
  return {p, linear, true, false, flux * body.area()};
}
inline Patch patchOf(Of<SurfaceFlux>, Project p, const Body& body)
{
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  return {p, linear, true, false, flux * body.area()};
}
inline Patch patchOf(Of<PointPower>, Project p, const Body&)
{
  p.sources = {source("heat", PointPower{along(0.001, 0.002, height / 2), plain(2)})};
  return {p, known, false, false, 2};
}
inline Patch patchOf(Of<Beam>, Project p, const Body& body)
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
inline Patch withBoundary(Project p, Boundary own, const Body& body, double top)
{
  p.boundaries.push_back(std::move(own));
  return {p, top, true, false, std::isnan(top) ? known : (top - base) / height * conductivity * body.area()};
}
inline Patch patchOf(Of<Convection>, Project p, const Body& body)
{
  return withBoundary(p, boundary("air", Convection{"top", plain(50), plain(linear + flux / 50)}), body, linear);
}
inline Patch patchOf(Of<Radiation>, Project p, const Body& body)
{
  const double around = std::pow(flux / (0.8 * stefanBoltzmann) + std::pow(linear, 4), 0.25);
  return withBoundary(p, boundary("glow", Radiation{"top", number(around)}), body, linear);
}
inline Patch patchOf(Of<FixedSurface>, Project p, const Body& body)
{
  return withBoundary(p, boundary("hot", FixedSurface{"top", number(linear)}), body, linear);
}
inline Patch patchOf(Of<FixedPart>, Project p, const Body& body)
{
  p.parts.push_back(part("cap", "stuff", body.form(), Vec3(0, 0, height)));
  return withBoundary(p, boundary("hot", FixedPart{"cap", number(linear)}), body, linear);
}
inline Patch patchOf(Of<FixedPoint>, Project p, const Body&)
{
  p.boundaries = {boundary("held", FixedPoint{along(0, 0, 0), number(base)})};
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  return {p, known, false, false, known};
}
inline Patch patchOf(Of<CorrelatedConvection>, Project p, const Body& body)
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
inline Patch patchOf(Of<BodyContact>, Project p, const Body& body)
{
  return withBoundary(p, boundary("plate", BodyContact{"top", number(50), number(linear + flux / 50)}), body, linear);
}
inline Patch patchOf(Of<FlowPassage>, Project p, const Body& body)
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
inline Patch electric(Project p, const Body& body)
{
  p.materials.front().electricConductivity = plain(1000);
  const double current = std::sqrt(density * 1000) * body.area(); // j² / σ = density
  p.boundaries.push_back(boundary("in", CurrentIn{"top", number(current)}));
  p.boundaries.push_back(boundary("out", FixedVoltage{"bottom", number(0)}));
  return {p, parabola, true, true, density * body.area() * height};
}
inline Patch patchOf(Of<FixedVoltage>, Project p, const Body& body) { return electric(std::move(p), body); }
inline Patch patchOf(Of<CurrentIn>, Project p, const Body& body) { return electric(std::move(p), body); }
inline Patch patchOf(Of<Sheet>, Project p, const Body& body)
{
  Sheet foil{"top", "stuff", number(1e-4)};
  foil.through = number(0.01);
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  p.boundaries.push_back(boundary("foil", foil));
  return {p, linear + flux * 0.01, true, false, flux * body.area()}; // the sheet's own side is what the surface shows
}

// --- contacts: a second body lies on the first, and gets the flux from above -----------------------------------------
inline Patch stacked(Project p, const Body& body, Contact own, double jump)
{
  p.parts.push_back(part("cap", "stuff", body.form(), Vec3(0, 0, height)));
  p.surfaces.front() = surface("top", {"cap.top"});
  p.sources = {source("heat", SurfaceFlux{"top", plain(flux)})};
  p.contacts = {std::move(own)};
  return {p, linear + jump + flux * height / conductivity, true, false, flux * body.area()};
}
inline Patch patchOf(Of<PerfectContact>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", PerfectContact{}), 0);
}
inline Patch patchOf(Of<NoContact>, Project p, const Body& body)
{
  Patch patch = stacked(p, body, contact("slab", "cap", NoContact{}), 0);
  patch.project.boundaries.push_back(boundary("hot", Convection{"top", plain(50), plain(base)}));
  patch.top = base + flux / 50;
  return patch;
}
inline Patch patchOf(Of<AreaConductance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", AreaConductance{number(100)}), flux / 100);
}
inline Patch patchOf(Of<AreaResistance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", AreaResistance{number(0.01)}), flux * 0.01);
}
inline Patch patchOf(Of<TotalResistance>, Project p, const Body& body)
{
  return stacked(p, body, contact("slab", "cap", TotalResistance{number(0.01 / body.area())}), flux * 0.01);
}
inline Patch patchOf(Of<Gap>, Project p, const Body& body)
{
  Patch patch = stacked(p, body, contact("slab", "cap", Gap{number(1e-4), number(0.01), number(0.8), number(0.6)}), 0);
  patch.top = known; // radiation crosses, too
  return patch;
}

// --- links -----------------------------------------------------------------------------------------------------------
inline Patch tied(Project p, const Body& body, decltype(Link::exchange) exchange, double kelvin, double top)
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
inline Patch patchOf(Of<Conductor>, Project p, const Body& body)
{
  return tied(p, body, Conductor{"node", "top", number(50 * body.area())}, linear + flux / 50, linear);
}
inline Patch patchOf(Of<RadiationLink>, Project p, const Body& body)
{
  const double around = std::pow(flux / (0.5 * stefanBoltzmann) + std::pow(linear, 4), 0.25);
  return tied(p, body, RadiationLink{"node", "top", number(0.5 * body.area())}, around, linear);
}
inline Patch patchOf(Of<FlowLink>, Project p, const Body& body)
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
inline Patch patchOf(Of<Wire>, Project p, const Body& body)
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

inline std::vector<Named> allKinds()
{
  std::vector<Named> kinds;
  eachKind([&](const char* family, auto kind) {
    kinds.push_back({QString("%1 %2").arg(family).arg(kinds.size()),
                     [kind](Project p, const Body& body) { return patchOf(kind, std::move(p), body); }});
  });
  return kinds;
}

} // namespace kiln::test
