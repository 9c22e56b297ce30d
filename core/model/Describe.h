// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "units/Quantity.h"

#include <array>
#include <string_view>

/// One description of every object's keys, read by all who walk over a project: the file reader and writer,
/// the list of editable fields, the search for misspelt keys. An archive offers
///   text, reference, references, flag, number, optionalNumber, number3, outline, choice, list, nested, unknown.
/// Keys stand here in the order of the file.
namespace kiln
{

/// Which values a number may take.
enum class Range { Any, Positive, NonNegative, Fraction };

/// What one number of an object is.
struct NumberSpec {
  std::string_view key;
  std::string_view label;
  Quantity quantity;
  Range range = Range::Any;
};

namespace describing
{
inline constexpr std::array<std::string_view, 8> formKinds{"block", "cylinder", "tube",  "sphere",
                                                           "cone",  "torus",    "prism", "turnedProfile"};
inline constexpr std::array<std::string_view, 5> sourceKinds{"partPower", "partDensity", "surfacePower", "surfaceFlux",
                                                             "pointPower"};
inline constexpr std::array<std::string_view, 5> boundaryKinds{"convection", "radiation", "fixedSurface", "fixedPart",
                                                               "fixedPoint"};
inline constexpr std::array<std::string_view, 5> exchangeKinds{"perfect", "none", "areaConductance", "areaResistance",
                                                               "totalResistance"};
inline constexpr std::array<std::string_view, 5> figureKinds{"part", "surface", "point", "surfaceHeat", "contactHeat"};
inline constexpr std::array<std::string_view, 3> extremeKinds{"hottest", "coldest", "mean"};
inline constexpr std::array<std::string_view, 2> stepActions{"join", "cut"};
} // namespace describing

template <class A>
void describe(A& a, Block& b)
{
  a.number({"sizeX", "Size x", Quantity::Length, Range::Positive}, b.sizeX);
  a.number({"sizeY", "Size y", Quantity::Length, Range::Positive}, b.sizeY);
  a.number({"sizeZ", "Size z", Quantity::Length, Range::Positive}, b.sizeZ);
}
template <class A>
void describe(A& a, Cylinder& c)
{
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, c.radius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, c.height);
}
template <class A>
void describe(A& a, Tube& t)
{
  a.number({"outerRadius", "Outer radius", Quantity::Length, Range::Positive}, t.outerRadius);
  a.number({"innerRadius", "Inner radius", Quantity::Length, Range::Positive}, t.innerRadius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, t.height);
}
template <class A>
void describe(A& a, Sphere& s)
{
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, s.radius);
}
template <class A>
void describe(A& a, Cone& c)
{
  a.number({"bottomRadius", "Bottom radius", Quantity::Length, Range::NonNegative}, c.bottomRadius);
  a.number({"topRadius", "Top radius", Quantity::Length, Range::NonNegative}, c.topRadius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, c.height);
}
template <class A>
void describe(A& a, Torus& t)
{
  a.number({"ringRadius", "Ring radius", Quantity::Length, Range::Positive}, t.ringRadius);
  a.number({"tubeRadius", "Tube radius", Quantity::Length, Range::Positive}, t.tubeRadius);
}
template <class A>
void describe(A& a, Prism& p)
{
  a.outline("outline", p.outline);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, p.height);
}
template <class A>
void describe(A& a, TurnedProfile& t)
{
  a.outline("outline", t.outline);
  a.number({"angle", "Angle", Quantity::Angle, Range::Positive}, t.angle);
}
template <class A>
void describe(A& a, PlacedForm& s)
{
  a.choice("kind", s.form, describing::formKinds);
  a.number3({"position", "Position", Quantity::Length}, s.placement.position);
  a.number3({"rotation", "Rotation", Quantity::Angle}, s.placement.rotation);
}
template <class A>
void describe(A& a, ShapeStep& s)
{
  a.text("id", s.id);
  a.choice("do", s.action, describing::stepActions);
  describe(a, s.shape);
  a.unknown(s.unknown);
}
template <class A>
void describeObject(A& a, Object& o)
{
  a.text("id", o.id);
  a.text("name", o.name);
  a.optionalText("comment", o.comment);
}
template <class A>
void describe(A& a, Material& m)
{
  describeObject(a, m);
  a.number({"conductivity", "Conductivity k", Quantity::Conductivity, Range::Positive}, m.conductivity);
  a.optionalNumber({"density", "Density", Quantity::Density, Range::Positive}, m.density);
  a.optionalNumber({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, m.specificHeat);
  a.optionalNumber({"emissivity", "Typical emissivity", Quantity::Plain, Range::Fraction}, m.emissivity);
  a.unknown(m.unknown);
}
template <class A>
void describe(A& a, Finish& f)
{
  describeObject(a, f);
  a.number({"emissivity", "Emissivity", Quantity::Plain, Range::Fraction}, f.emissivity);
  a.references("surfaces", f.surfaces);
  a.unknown(f.unknown);
}
template <class A>
void describe(A& a, Part& p)
{
  describeObject(a, p);
  a.optionalText("material", p.material);
  describe(a, p.shape);
  a.list("steps", p.steps);
  a.optionalNumber({"meshSize", "Mesh size", Quantity::Length, Range::Positive}, p.meshSize);
  a.flag("muted", p.muted);
  a.unknown(p.unknown);
}
template <class A>
void describe(A& a, Facing& f)
{
  a.number3({"direction", "Direction", Quantity::Plain}, f.direction);
  a.number({"within", "Within", Quantity::Angle, Range::NonNegative}, f.within);
}
template <class A>
void describe(A& a, Surface& s)
{
  describeObject(a, s);
  a.references("exposedOf", s.exposedOf);
  a.references("faces", s.faces);
  a.nested("facing", s.facing);
  a.references("except", s.except);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, PartPower& p)
{
  a.references("parts", p.parts);
  a.number({"power", "Power", Quantity::Power}, p.power);
}
template <class A>
void describe(A& a, PartDensity& p)
{
  a.references("parts", p.parts);
  a.number({"density", "Heat density", Quantity::HeatDensity}, p.density);
}
template <class A>
void describe(A& a, SurfacePower& s)
{
  a.text("surface", s.surface);
  a.number({"power", "Power", Quantity::Power}, s.power);
}
template <class A>
void describe(A& a, SurfaceFlux& s)
{
  a.text("surface", s.surface);
  a.number({"flux", "Heat flux", Quantity::HeatFlux}, s.flux);
}
template <class A>
void describe(A& a, PointPower& p)
{
  a.number3({"place", "Place", Quantity::Length}, p.place);
  a.number({"power", "Power", Quantity::Power}, p.power);
}
template <class A>
void describe(A& a, HeatSource& s)
{
  describeObject(a, s);
  a.choice("kind", s.heat, describing::sourceKinds);
  a.flag("muted", s.muted);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Convection& c)
{
  a.text("surface", c.surface);
  a.number({"coefficient", "Coefficient h", Quantity::AreaConductance, Range::NonNegative}, c.coefficient);
  a.number({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative}, c.ambient);
}
template <class A>
void describe(A& a, Radiation& r)
{
  a.text("surface", r.surface);
  a.number({"surroundings", "Surroundings", Quantity::Temperature, Range::NonNegative}, r.surroundings);
  a.number({"viewFactor", "View factor", Quantity::Plain, Range::Fraction}, r.viewFactor);
}
template <class A>
void describe(A& a, FixedSurface& f)
{
  a.text("surface", f.surface);
  a.number({"temperature", "Temperature", Quantity::Temperature, Range::NonNegative}, f.temperature);
}
template <class A>
void describe(A& a, FixedPart& f)
{
  a.text("part", f.part);
  a.number({"temperature", "Temperature", Quantity::Temperature, Range::NonNegative}, f.temperature);
}
template <class A>
void describe(A& a, FixedPoint& f)
{
  a.number3({"place", "Place", Quantity::Length}, f.place);
  a.number({"temperature", "Temperature", Quantity::Temperature, Range::NonNegative}, f.temperature);
}
template <class A>
void describe(A& a, Boundary& b)
{
  describeObject(a, b);
  a.choice("kind", b.condition, describing::boundaryKinds);
  a.flag("muted", b.muted);
  a.unknown(b.unknown);
}
template <class A>
void describe(A&, PerfectContact&)
{
}
template <class A>
void describe(A&, NoContact&)
{
}
template <class A>
void describe(A& a, AreaConductance& c)
{
  a.number({"conductance", "Area conductance", Quantity::AreaConductance, Range::Positive}, c.conductance);
}
template <class A>
void describe(A& a, AreaResistance& r)
{
  a.number({"resistance", "Area resistance", Quantity::AreaResistance, Range::Positive}, r.resistance);
}
template <class A>
void describe(A& a, TotalResistance& r)
{
  a.number({"resistance", "Total resistance", Quantity::Resistance, Range::Positive}, r.resistance);
}
template <class A>
void describe(A& a, Contact& c)
{
  describeObject(a, c);
  a.text("partA", c.partA);
  a.text("partB", c.partB);
  a.choice("kind", c.exchange, describing::exchangeKinds);
  a.unknown(c.unknown);
}
template <class A>
void describe(A& a, Case& c)
{
  describeObject(a, c);
  a.text("kind", c.kind);
  a.changes("changes", c.changes);
  a.unknown(c.unknown);
}
template <class A>
void describe(A& a, PartFigure& f)
{
  a.choice("figure", f.kind, describing::extremeKinds);
  a.references("parts", f.parts);
}
template <class A>
void describe(A& a, SurfaceFigure& f)
{
  a.choice("figure", f.kind, describing::extremeKinds);
  a.text("surface", f.surface);
}
template <class A>
void describe(A& a, PointFigure& f)
{
  a.number3({"place", "Place", Quantity::Length}, f.place);
}
template <class A>
void describe(A& a, SurfaceHeat& f)
{
  a.text("surface", f.surface);
}
template <class A>
void describe(A& a, ContactHeat& f)
{
  a.text("partA", f.partA);
  a.text("partB", f.partB);
}
template <class A>
void describe(A& a, Watch& w)
{
  describeObject(a, w);
  a.choice("kind", w.figure, describing::figureKinds);
  const Quantity quantity = isHeat(w) ? Quantity::Power : Quantity::Temperature;
  a.optionalNumber({"upper", "Upper limit", quantity}, w.upper);
  a.optionalNumber({"lower", "Lower limit", quantity}, w.lower);
  a.unknown(w.unknown);
}
template <class A>
void describe(A& a, MeshSettings& m)
{
  a.optionalNumber({"size", "Mesh size", Quantity::Length, Range::Positive}, m.size);
  a.unknown(m.unknown);
}
template <class A>
void describe(A& a, Project& p)
{
  a.text("name", p.name);
  a.optionalText("comment", p.comment);
  a.list("materials", p.materials);
  a.list("finishes", p.finishes);
  a.list("parts", p.parts);
  a.list("surfaces", p.surfaces);
  a.list("sources", p.sources);
  a.list("boundaries", p.boundaries);
  a.list("contacts", p.contacts);
  a.list("cases", p.cases);
  a.list("watches", p.watches);
  a.nested("mesh", p.mesh);
  a.unknown(p.unknown);
}

} // namespace kiln
