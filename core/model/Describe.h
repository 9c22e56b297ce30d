// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "units/Quantity.h"

#include <array>
#include <string_view>

/// One description of every object's keys, read by all who walk over a project: the file reader and writer,
/// the list of editable fields, the search for misspelt keys. An archive offers
///   text, references, flag, number, optionalNumber, property, optionalProperty, number3, outline, points,
///   schedule, choice, nestedChoice, list, nested, unknown.
/// Keys stand here in the order of the file.
namespace kiln
{

/// Which values a number may take.
enum class Range { Any, Positive, NonNegative, Fraction, Share, Count };

/// What one number of an object is.
struct NumberSpec {
  std::string_view key;
  std::string_view label;
  Quantity quantity;
  Range range = Range::Any;
  bool varies = false; ///< a formula may use the place x, y, z
};

namespace describing
{
inline constexpr std::array<std::string_view, 8> formKinds{"block", "cylinder", "tube",  "sphere",
                                                           "cone",  "torus",    "prism", "turnedProfile"};
inline constexpr std::array<std::string_view, 6> sourceKinds{"partPower",   "partDensity", "surfacePower",
                                                             "surfaceFlux", "pointPower",  "beam"};
inline constexpr std::array<std::string_view, 10> boundaryKinds{
    "convection",  "radiation",   "fixedSurface", "fixedPart",    "fixedPoint",
    "correlation", "bodyContact", "flowPassage",  "fixedVoltage", "currentIn"};
inline constexpr std::array<std::string_view, 9> situationKinds{
    "verticalPlate", "plateFacingUp", "plateFacingDown", "verticalCylinder", "horizontalCylinder",
    "sphere",        "alongPlate",    "acrossCylinder",  "insideTube"};
inline constexpr std::array<std::string_view, 2> fluidKinds{"air", "water"};
inline constexpr std::array<std::string_view, 6> exchangeKinds{
    "perfect", "none", "areaConductance", "areaResistance", "totalResistance", "gap"};
inline constexpr std::array<std::string_view, 9> figureKinds{
    "part", "surface", "point", "surfaceHeat", "contactHeat", "node", "linkHeat", "moltenShare", "resistance"};
inline constexpr std::array<std::string_view, 4> extremeKinds{"hottest", "coldest", "mean", "spread"};
inline constexpr std::array<std::string_view, 4> storeKinds{"none", "capacity", "mass", "fluid"};
inline constexpr std::array<std::string_view, 3> linkKinds{"conductance", "radiation", "flow"};
inline constexpr std::array<std::string_view, 3> startKinds{"steady", "uniform", "case"};
inline constexpr std::array<std::string_view, 3> endKinds{"time", "settled", "value"};
inline constexpr std::array<std::string_view, 2> betweenKinds{"lines", "steps"};
inline constexpr std::array<std::string_view, 4> beyondKinds{"holds", "zero", "repeats", "refused"};
inline constexpr std::array<std::string_view, 7> stepActions{"join", "cut", "round", "bevel", "push", "tilt", "split"};
inline constexpr std::array<std::string_view, 3> repeatKinds{"once", "row", "ring"};
inline constexpr std::array<std::string_view, 4> splitKinds{"line", "rectangle", "circle", "outline"};
inline constexpr std::array<std::string_view, 30> quantityKinds{"number",
                                                                "length",
                                                                "area",
                                                                "angle",
                                                                "temperature",
                                                                "temperatureDifference",
                                                                "power",
                                                                "heatFlux",
                                                                "heatDensity",
                                                                "conductivity",
                                                                "density",
                                                                "specificHeat",
                                                                "areaConductance",
                                                                "areaResistance",
                                                                "resistance",
                                                                "speed",
                                                                "pressure",
                                                                "time",
                                                                "volume",
                                                                "mass",
                                                                "massFlow",
                                                                "heatCapacity",
                                                                "conductance",
                                                                "latentHeat",
                                                                "temperatureRate",
                                                                "energy",
                                                                "voltage",
                                                                "current",
                                                                "electricConductivity",
                                                                "electricAreaResistance"};
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
  a.optionalText("upTo", p.upTo);
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
void describe(A&, Once&)
{
}
template <class A>
void describe(A& a, Row& r)
{
  a.number({"count", "Copies", Quantity::Plain, Range::Count}, r.count);
  a.number3({"pitch", "Pitch", Quantity::Length}, r.pitch);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, Ring& r)
{
  a.number({"count", "Copies", Quantity::Plain, Range::Count}, r.count);
  a.number({"angle", "Spacing angle", Quantity::Angle}, r.angle);
  a.number3({"centre", "Ring centre", Quantity::Length}, r.centre);
  a.number3({"axis", "Ring axis", Quantity::Plain}, r.axis);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, Join& j)
{
  describe(a, j.shape);
  a.nestedChoice("repeat", j.repeat, describing::repeatKinds);
}
template <class A>
void describe(A& a, Cut& c)
{
  describe(a, c.shape);
  a.nestedChoice("repeat", c.repeat, describing::repeatKinds);
}
template <class A>
void describe(A& a, RoundEdges& r)
{
  a.references("faces", r.faces);
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, r.radius);
}
template <class A>
void describe(A& a, BevelEdges& b)
{
  a.references("faces", b.faces);
  a.number({"distance", "Distance", Quantity::Length, Range::Positive}, b.distance);
}
template <class A>
void describe(A& a, PushFace& p)
{
  a.text("face", p.face);
  a.number({"distance", "Outwards by", Quantity::Length}, p.distance);
}
template <class A>
void describe(A& a, TiltFace& t)
{
  a.text("face", t.face);
  a.number({"angle", "Lean outwards", Quantity::Angle}, t.angle);
}
template <class A>
void describe(A& a, SplitByLine& l)
{
  a.number({"fromA", "From, along", Quantity::Length}, l.fromA);
  a.number({"fromB", "From, across", Quantity::Length}, l.fromB);
  a.number({"toA", "To, along", Quantity::Length}, l.toA);
  a.number({"toB", "To, across", Quantity::Length}, l.toB);
}
template <class A>
void describe(A& a, SplitByRectangle& r)
{
  a.number({"centreA", "Centre, along", Quantity::Length}, r.centreA);
  a.number({"centreB", "Centre, across", Quantity::Length}, r.centreB);
  a.number({"sizeA", "Size, along", Quantity::Length, Range::Positive}, r.sizeA);
  a.number({"sizeB", "Size, across", Quantity::Length, Range::Positive}, r.sizeB);
}
template <class A>
void describe(A& a, SplitByCircle& c)
{
  a.number({"centreA", "Centre, along", Quantity::Length}, c.centreA);
  a.number({"centreB", "Centre, across", Quantity::Length}, c.centreB);
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, c.radius);
}
template <class A>
void describe(A& a, SplitByOutline& o)
{
  a.outline("outline", o.outline);
}
template <class A>
void describe(A& a, SplitFace& s)
{
  a.text("face", s.face);
  a.choice("line", s.line, describing::splitKinds);
}
template <class A>
void describe(A& a, ShapeStep& s)
{
  a.text("id", s.id);
  a.choice("do", s.action, describing::stepActions);
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
void describe(A& a, Schedule& s)
{
  a.schedule("points", s.points);
  a.choice("between", s.between, describing::betweenKinds);
  a.choice("beyond", s.beyond, describing::beyondKinds);
  a.optionalNumber({"shift", "Later by", Quantity::Time}, s.shift);
  a.optionalNumber({"scale", "Times", Quantity::Plain}, s.scale);
  a.optionalText("from", s.from);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Parameter& p)
{
  describeObject(a, p);
  a.choice("quantity", p.quantity, describing::quantityKinds);
  a.number({"value", "Value", p.quantity}, p.value);
  a.optionalNumber({"low", "Slider from", p.quantity}, p.low);
  a.optionalNumber({"high", "Slider to", p.quantity}, p.high);
  a.points("points", p.points);
  a.optionalText("pointsFrom", p.pointsFrom);
  a.nested("schedule", p.schedule);
  a.unknown(p.unknown);
}
template <class A>
void describe(A& a, PartGroup& g)
{
  describeObject(a, g);
  a.flag("muted", g.muted);
  a.unknown(g.unknown);
}
template <class A>
void describe(A& a, Material& m)
{
  describeObject(a, m);
  constexpr Quantity k = Quantity::Conductivity;
  a.property({"conductivity", "Conductivity k", k, Range::Positive}, m.conductivity);
  a.optionalProperty({"conductivityY", "Conductivity k, second axis", k, Range::Positive}, m.conductivityY);
  a.optionalProperty({"conductivityZ", "Conductivity k, third axis", k, Range::Positive}, m.conductivityZ);
  a.optionalNumber({"density", "Density", Quantity::Density, Range::Positive}, m.density);
  a.optionalProperty({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, m.specificHeat);
  a.optionalNumber({"emissivity", "Typical emissivity", Quantity::Plain, Range::Fraction}, m.emissivity);
  a.optionalNumber({"serviceTemperature", "Service temperature", Quantity::Temperature, Range::NonNegative},
                   m.serviceTemperature);
  a.optionalNumber({"latentHeat", "Latent heat", Quantity::LatentHeat, Range::Positive}, m.latentHeat);
  a.optionalNumber({"meltsFrom", "Melts from", Quantity::Temperature, Range::NonNegative}, m.meltsFrom);
  a.optionalNumber({"meltsTo", "Molten at", Quantity::Temperature, Range::NonNegative}, m.meltsTo);
  a.optionalProperty({"electricConductivity", "Electric conductivity", Quantity::ElectricConductivity, Range::Positive},
                     m.electricConductivity);
  a.optionalText("source", m.source);
  a.unknown(m.unknown);
}
template <class A>
void describe(A& a, Finish& f)
{
  describeObject(a, f);
  a.property({"emissivity", "Emissivity", Quantity::Plain, Range::Share}, f.emissivity);
  a.optionalNumber({"solarAbsorptance", "Solar absorptance", Quantity::Plain, Range::Share}, f.solarAbsorptance);
  a.references("surfaces", f.surfaces);
  a.unknown(f.unknown);
}
template <class A>
void describe(A& a, Part& p)
{
  describeObject(a, p);
  a.optionalText("material", p.material);
  a.optionalText("group", p.group);
  describe(a, p.shape);
  a.list("steps", p.steps);
  a.nestedChoice("repeat", p.repeat, describing::repeatKinds);
  a.references("yieldsTo", p.yieldsTo);
  a.number3({"materialAxes", "Material axes turned", Quantity::Angle}, p.materialAxes);
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
void describe(A& a, Within& w)
{
  a.optionalNumber({"lowX", "x from", Quantity::Length}, w.lowX);
  a.optionalNumber({"highX", "x to", Quantity::Length}, w.highX);
  a.optionalNumber({"lowY", "y from", Quantity::Length}, w.lowY);
  a.optionalNumber({"highY", "y to", Quantity::Length}, w.highY);
  a.optionalNumber({"lowZ", "z from", Quantity::Length}, w.lowZ);
  a.optionalNumber({"highZ", "z to", Quantity::Length}, w.highZ);
}
template <class A>
void describe(A& a, Near& n)
{
  a.number3({"place", "Place", Quantity::Length}, n.place);
  a.number({"distance", "Within", Quantity::Length, Range::NonNegative}, n.distance);
}
template <class A>
void describe(A& a, Surface& s)
{
  describeObject(a, s);
  a.references("exposedOf", s.exposedOf);
  a.references("faces", s.faces);
  a.nested("facing", s.facing);
  a.nested("within", s.within);
  a.nested("near", s.near);
  a.references("except", s.except);
  a.references("added", s.added);
  a.references("without", s.without);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, PartPower& p)
{
  a.references("parts", p.parts);
  a.property({"power", "Power", Quantity::Power}, p.power);
}
template <class A>
void describe(A& a, PartDensity& p)
{
  a.references("parts", p.parts);
  a.property({"density", "Heat density", Quantity::HeatDensity, Range::Any, true}, p.density);
}
template <class A>
void describe(A& a, SurfacePower& s)
{
  a.text("surface", s.surface);
  a.property({"power", "Power", Quantity::Power}, s.power);
}
template <class A>
void describe(A& a, SurfaceFlux& s)
{
  a.text("surface", s.surface);
  a.property({"flux", "Heat flux", Quantity::HeatFlux, Range::Any, true}, s.flux);
}
template <class A>
void describe(A& a, PointPower& p)
{
  a.number3({"place", "Place", Quantity::Length}, p.place);
  a.property({"power", "Power", Quantity::Power}, p.power);
}
template <class A>
void describe(A& a, Beam& b)
{
  a.references("surfaces", b.surfaces);
  a.number3({"from", "Comes from", Quantity::Plain}, b.from);
  a.number({"flux", "Heat flux across the beam", Quantity::HeatFlux, Range::NonNegative}, b.flux);
}
template <class A>
void describe(A& a, Thermostat& t)
{
  a.text("watch", t.watch);
  a.number({"setPoint", "Set point", Quantity::Temperature, Range::NonNegative}, t.setPoint);
  a.number({"band", "Band", Quantity::TemperatureStep, Range::Positive}, t.band);
  a.flag("graded", t.graded);
  a.unknown(t.unknown);
}
template <class A>
void describe(A& a, HeatSource& s)
{
  describeObject(a, s);
  a.choice("kind", s.heat, describing::sourceKinds);
  a.optionalText("follows", s.follows);
  a.optionalNumber({"workingFrom", "Works from", Quantity::Time}, s.from);
  a.optionalNumber({"workingUntil", "Works until", Quantity::Time}, s.until);
  a.nested("thermostat", s.thermostat);
  a.flag("muted", s.muted);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Convection& c)
{
  a.text("surface", c.surface);
  a.property({"coefficient", "Coefficient h", Quantity::AreaConductance, Range::NonNegative, true}, c.coefficient);
  a.property({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative, true}, c.ambient);
  a.optionalText("situation", c.situation);
  a.optionalText("node", c.node);
}
template <class A>
void describe(A& a, CorrelatedConvection& c)
{
  a.text("surface", c.surface);
  a.choice("situation", c.situation, describing::situationKinds);
  a.choice("fluid", c.fluid, describing::fluidKinds);
  a.number({"size", "Size", Quantity::Length, Range::Positive}, c.size);
  a.optionalNumber({"diameter", "Diameter", Quantity::Length, Range::Positive}, c.diameter);
  a.optionalNumber({"speed", "Speed", Quantity::Speed, Range::NonNegative}, c.speed);
  a.optionalNumber({"length", "Tube length", Quantity::Length, Range::Positive}, c.length);
  a.number({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative}, c.ambient);
  a.optionalText("node", c.node);
}
template <class A>
void describe(A& a, BodyContact& c)
{
  a.text("surface", c.surface);
  a.number({"conductance", "Area conductance", Quantity::AreaConductance, Range::Positive}, c.conductance);
  a.number({"temperature", "Body temperature", Quantity::Temperature, Range::NonNegative}, c.temperature);
  a.optionalText("node", c.node);
}
template <class A>
void describe(A& a, Radiation& r)
{
  a.text("surface", r.surface);
  a.number({"surroundings", "Surroundings", Quantity::Temperature, Range::NonNegative}, r.surroundings);
  a.number({"viewFactor", "View factor", Quantity::Plain, Range::Fraction}, r.viewFactor);
  a.optionalText("node", r.node);
}
template <class A>
void describe(A& a, FixedSurface& f)
{
  a.text("surface", f.surface);
  a.number({"temperature", "Temperature", Quantity::Temperature, Range::NonNegative, true}, f.temperature);
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
void describe(A& a, FlowPassage& f)
{
  a.text("surface", f.surface);
  a.number3({"direction", "Flows along", Quantity::Plain}, f.direction);
  a.number({"inlet", "Inlet", Quantity::Temperature, Range::NonNegative}, f.inlet);
  a.number({"massFlow", "Mass flow", Quantity::MassFlow, Range::Positive}, f.massFlow);
  a.number({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, f.specificHeat);
  a.property({"coefficient", "Coefficient h", Quantity::AreaConductance, Range::NonNegative}, f.coefficient);
  a.number({"stretches", "Stretches", Quantity::Plain, Range::Count}, f.stretches);
}
template <class A>
void describe(A& a, FixedVoltage& f)
{
  a.text("surface", f.surface);
  a.number({"voltage", "Voltage", Quantity::Voltage}, f.voltage);
}
template <class A>
void describe(A& a, CurrentIn& c)
{
  a.text("surface", c.surface);
  a.number({"current", "Current", Quantity::Current}, c.current);
}
template <class A>
void describe(A& a, Boundary& b)
{
  describeObject(a, b);
  a.choice("kind", b.condition, describing::boundaryKinds);
  a.optionalNumber({"workingFrom", "Works from", Quantity::Time}, b.from);
  a.optionalNumber({"workingUntil", "Works until", Quantity::Time}, b.until);
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
void describe(A& a, Gap& g)
{
  a.number({"thickness", "Thickness", Quantity::Length, Range::Positive}, g.thickness);
  a.number({"conductivity", "Conductivity k", Quantity::Conductivity, Range::Positive}, g.conductivity);
  a.optionalNumber({"emissivityA", "Emissivity, first side", Quantity::Plain, Range::Fraction}, g.emissivityA);
  a.optionalNumber({"emissivityB", "Emissivity, second side", Quantity::Plain, Range::Fraction}, g.emissivityB);
}
template <class A>
void describe(A& a, Contact& c)
{
  describeObject(a, c);
  a.text("partA", c.partA);
  a.text("partB", c.partB);
  a.choice("kind", c.exchange, describing::exchangeKinds);
  a.optionalNumber(
      {"electricResistance", "Electric resistance of the contact", Quantity::ElectricAreaResistance, Range::Positive},
      c.electricResistance);
  a.unknown(c.unknown);
}
template <class A>
void describe(A& a, Enclosure& e)
{
  describeObject(a, e);
  a.references("surfaces", e.surfaces);
  a.optionalNumber({"opening", "Opening to", Quantity::Temperature, Range::NonNegative}, e.opening);
  a.optionalNumber({"patchSize", "Patch size", Quantity::Length, Range::Positive}, e.patchSize);
  a.optionalNumber({"rays", "Rays from a patch", Quantity::Plain, Range::Count}, e.rays);
  a.flag("muted", e.muted);
  a.unknown(e.unknown);
}
template <class A>
void describe(A&, NoStore&)
{
}
template <class A>
void describe(A& a, CapacityStore& s)
{
  a.number({"capacity", "Heat capacity", Quantity::HeatCapacity, Range::Positive}, s.capacity);
}
template <class A>
void describe(A& a, MassStore& s)
{
  a.number({"mass", "Mass", Quantity::Mass, Range::Positive}, s.mass);
  a.number({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, s.specificHeat);
}
template <class A>
void describe(A& a, FluidStore& s)
{
  a.number({"volume", "Volume", Quantity::Volume, Range::Positive}, s.volume);
  a.choice("fluid", s.fluid, describing::fluidKinds);
}
template <class A>
void describe(A& a, Node& n)
{
  describeObject(a, n);
  a.nestedChoice("storage", n.storage, describing::storeKinds);
  a.optionalProperty({"power", "Power", Quantity::Power}, n.power);
  a.optionalNumber({"temperature", "Held at", Quantity::Temperature, Range::NonNegative}, n.temperature);
  a.optionalNumber({"acrossPage", "Across the page", Quantity::Plain}, n.acrossPage);
  a.optionalNumber({"downPage", "Down the page", Quantity::Plain}, n.downPage);
  a.flag("muted", n.muted);
  a.unknown(n.unknown);
}
template <class A>
void describe(A& a, Conductor& c)
{
  a.text("endA", c.endA);
  a.text("endB", c.endB);
  a.number({"conductance", "Conductance", Quantity::Conductance, Range::Positive}, c.conductance);
}
template <class A>
void describe(A& a, RadiationLink& r)
{
  a.text("endA", r.endA);
  a.text("endB", r.endB);
  a.number({"exchangeArea", "Exchange area", Quantity::Area, Range::Positive}, r.exchangeArea);
}
template <class A>
void describe(A& a, FlowLink& f)
{
  a.text("upstream", f.upstream);
  a.text("downstream", f.downstream);
  a.number({"massFlow", "Mass flow", Quantity::MassFlow, Range::Positive}, f.massFlow);
  a.number({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, f.specificHeat);
}
template <class A>
void describe(A& a, Link& l)
{
  describeObject(a, l);
  a.choice("kind", l.exchange, describing::linkKinds);
  a.flag("muted", l.muted);
  a.unknown(l.unknown);
}
template <class A>
void describe(A& a, PartStart& s)
{
  a.text("part", s.id);
  a.number({"temperature", "Start temperature", Quantity::Temperature, Range::NonNegative}, s.temperature);
}
template <class A>
void describe(A& a, StartUniform& s)
{
  a.number({"temperature", "Start temperature", Quantity::Temperature, Range::NonNegative}, s.temperature);
  a.list("parts", s.parts);
}
template <class A>
void describe(A&, StartSteady&)
{
}
template <class A>
void describe(A& a, StartFromCase& s)
{
  a.text("case", s.of);
  a.optionalNumber({"instant", "At its instant", Quantity::Time}, s.instant);
}
template <class A>
void describe(A& a, EndAtTime& e)
{
  a.number({"time", "Ends at", Quantity::Time, Range::Positive}, e.time);
}
template <class A>
void describe(A& a, EndSettled& e)
{
  a.number({"rate", "No place changes faster than", Quantity::TemperatureRate, Range::Positive}, e.rate);
}
template <class A>
void describe(A& a, EndAtValue& e)
{
  a.text("watch", e.watch);
  a.number({"value", "Passes", Quantity::Temperature}, e.value);
  a.flag("falling", e.falling);
}
template <class A>
void describe(A& a, EndRule& e)
{
  a.text("id", e.id);
  a.choice("when", e.when, describing::endKinds);
  a.unknown(e.unknown);
}
template <class A>
void describe(A& a, RunRule& r)
{
  a.text("id", r.id);
  a.text("watch", r.watch);
  a.number({"value", "Passes", Quantity::Temperature}, r.value);
  a.flag("falling", r.falling);
  a.changes("set", r.set);
  a.references("mute", r.mute);
  a.references("unmute", r.unmute);
  a.flag("end", r.end);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, TransientRun& t)
{
  a.nestedChoice("start", t.start, describing::startKinds);
  a.optionalNumber({"startTime", "Starts at", Quantity::Time}, t.startTime);
  a.list("ends", t.ends);
  a.flag("endWhenAll", t.endWhenAll);
  a.optionalNumber({"longest", "At the latest", Quantity::Time, Range::Positive}, t.longest);
  a.optionalNumber({"tolerance", "Error of a step", Quantity::TemperatureStep, Range::Positive}, t.tolerance);
  a.optionalNumber({"largestStep", "Largest step", Quantity::Time, Range::Positive}, t.largestStep);
  a.optionalNumber({"storeWithin", "Stored within", Quantity::TemperatureStep, Range::Positive}, t.storeWithin);
  a.optionalNumber({"storeEvery", "Stored every", Quantity::Time, Range::Positive}, t.storeEvery);
  a.flag("thenSteady", t.thenSteady);
  a.list("rules", t.rules);
  a.unknown(t.unknown);
}
template <class A>
void describe(A& a, Case& c)
{
  describeObject(a, c);
  a.text("kind", c.kind);
  a.changes("changes", c.changes);
  a.nested("run", c.run);
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
void describe(A& a, NodeFigure& f)
{
  a.text("node", f.node);
}
template <class A>
void describe(A& a, LinkHeat& f)
{
  a.text("link", f.link);
}
template <class A>
void describe(A& a, MoltenShare& f)
{
  a.references("parts", f.parts);
}
template <class A>
void describe(A& a, BetweenWatches& f)
{
  a.text("hot", f.hot);
  a.text("cold", f.cold);
  a.text("heat", f.heat);
}
template <class A>
void describe(A& a, Watch& w)
{
  describeObject(a, w);
  a.choice("kind", w.figure, describing::figureKinds);
  const Quantity quantity = quantityOf(w);
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
void describe(A& a, Environment& e)
{
  a.number3({"gravity", "Gravity", Quantity::Plain}, e.gravity);
  a.number({"airPressure", "Air pressure", Quantity::Pressure, Range::Positive}, e.airPressure);
  a.unknown(e.unknown);
}
template <class A>
void describe(A& a, ShapeSettings& s)
{
  a.optionalNumber({"tolerance", "Parts closer than this touch", Quantity::Length, Range::Positive}, s.tolerance);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Project& p)
{
  a.text("name", p.name);
  a.optionalText("comment", p.comment);
  a.list("parameters", p.parameters);
  a.list("materials", p.materials);
  a.list("finishes", p.finishes);
  a.list("groups", p.groups);
  a.list("parts", p.parts);
  a.list("surfaces", p.surfaces);
  a.list("sources", p.sources);
  a.list("boundaries", p.boundaries);
  a.list("contacts", p.contacts);
  a.list("enclosures", p.enclosures);
  a.list("nodes", p.nodes);
  a.list("links", p.links);
  a.list("cases", p.cases);
  a.list("watches", p.watches);
  a.nested("shapes", p.shapes);
  a.nested("mesh", p.mesh);
  a.nested("environment", p.environment);
  a.unknown(p.unknown);
}

} // namespace kiln
