// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeShape.h"
#include "model/Parts.h"

namespace kiln
{

namespace describing
{
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
inline constexpr std::array<std::string_view, 2> betweenKinds{"lines", "steps"};
inline constexpr std::array<std::string_view, 4> beyondKinds{"holds", "zero", "repeats", "refused"};
} // namespace describing

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
void describe(A& a, TakenBody& b)
{
  a.text("id", b.id);
  a.text("name", b.name);
  a.references("faceNames", b.faces);
  a.text("hash", b.hash);
  a.longText("shape", b.shape);
  a.longText("elements", b.elements);
}
template <class A>
void describe(A& a, GeometryFile& f)
{
  describeObject(a, f);
  a.text("path", f.path);
  a.text("hash", f.hash);
  a.number({"unit", "Length of its unit", Quantity::Length, Range::Positive}, f.unit);
  a.optionalNumber({"faceAngle", "Triangles make one face up to", Quantity::Angle, Range::Positive}, f.faceAngle);
  a.optionalNumber({"removeBelow", "Round faces removed below", Quantity::Length, Range::Positive}, f.removeBelow);
  a.flag("linked", f.linked);
  a.list("bodies", f.bodies);
  a.unknown(f.unknown);
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
  a.appearance("colour", p.colour);
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
  a.optionalNumber({"meshSize", "Mesh size", Quantity::Length, Range::Positive}, s.meshSize);
  a.references("added", s.added);
  a.references("without", s.without);
  a.unknown(s.unknown);
}

} // namespace kiln
