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
void describeObject(A& a, Object& o, Stage ofName = Stage::Nothing)
{
  a.text("id", o.id);
  a.text(KeySpec{"name", ofName}, o.name);
  a.optionalText(KeySpec{"comment", Stage::Nothing}, o.comment);
}
template <class A>
void describe(A& a, Schedule& s)
{
  a.schedule("points", s.points);
  a.choice("between", s.between, describing::betweenKinds);
  a.choice("beyond", s.beyond, describing::beyondKinds);
  a.optionalNumber({"shift", "Later by", Quantity::Time}, s.shift);
  a.optionalNumber({"scale", "Times", Quantity::Plain}, s.scale);
  a.optionalText(KeySpec{"from", Stage::Nothing}, s.from);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Parameter& p)
{
  describeObject(a, p, Stage::AsUsed); // formulas go by it
  a.choice("quantity", p.quantity, describing::quantityKinds);
  a.number({"value", "Value", p.quantity}, p.value);
  a.optionalNumber(NumberSpec{"low", "Slider from", p.quantity}.at(Stage::Nothing), p.low);
  a.optionalNumber(NumberSpec{"high", "Slider to", p.quantity}.at(Stage::Nothing), p.high);
  a.points("points", p.points);
  a.optionalText(KeySpec{"pointsFrom", Stage::Nothing}, p.pointsFrom);
  a.nested("schedule", p.schedule);
  a.unknown(p.unknown);
}
template <class A>
void describe(A& a, PartGroup& g)
{
  describeObject(a, g);
  a.flag(KeySpec{"muted", Stage::Geometry}, g.muted);
  a.unknown(g.unknown);
}
template <class A>
void describe(A& a, TakenBody& b)
{
  a.text("id", b.id);
  a.text(KeySpec{"name", Stage::Nothing}, b.name);
  a.texts("faceNames", b.faces);
  a.text("hash", b.hash);
  a.longText(KeySpec{"shape", Stage::Nothing}, b.shape); // its hash stands for it
  a.longText("elements", b.elements);
}
template <class A>
void describe(A& a, GeometryFile& f)
{
  describeObject(a, f);
  a.text(KeySpec{"path", Stage::Nothing}, f.path); // what was taken in counts, not from where
  a.text(KeySpec{"hash", Stage::Nothing}, f.hash);
  a.number({"unit", "Length of its unit", Quantity::Length, Range::Positive}, f.unit);
  a.optionalNumber(
      NumberSpec{"faceAngle", "Triangles make one face up to", Quantity::Angle, Range::Positive}.at(Stage::Nothing),
      f.faceAngle);
  a.optionalNumber(
      NumberSpec{"removeBelow", "Round faces removed below", Quantity::Length, Range::Positive}.at(Stage::Nothing),
      f.removeBelow);
  a.flag(KeySpec{"linked", Stage::Nothing}, f.linked);
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
  a.optionalNumber(NumberSpec{"density", "Density", Quantity::Density, Range::Positive}.at(Stage::Course), m.density);
  a.optionalProperty(
      NumberSpec{"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}.at(Stage::Course),
      m.specificHeat);
  a.optionalNumber({"emissivity", "Typical emissivity", Quantity::Plain, Range::Fraction}, m.emissivity);
  a.optionalNumber(
      NumberSpec{"serviceTemperature", "Service temperature", Quantity::Temperature, Range::NonNegative}.at(
          Stage::Figures),
      m.serviceTemperature);
  a.optionalNumber(NumberSpec{"latentHeat", "Latent heat", Quantity::LatentHeat, Range::Positive}.at(Stage::Course),
                   m.latentHeat);
  constexpr NumberSpec melts{"meltsFrom", "Melts from", Quantity::Temperature, Range::NonNegative};
  a.optionalNumber(melts.at(Stage::Course), m.meltsFrom);
  a.optionalNumber(NumberSpec{"meltsTo", "Molten at", melts.quantity, melts.range}.at(Stage::Course), m.meltsTo);
  a.optionalProperty({"electricConductivity", "Electric conductivity", Quantity::ElectricConductivity, Range::Positive},
                     m.electricConductivity);
  a.optionalText(KeySpec{"source", Stage::Nothing}, m.source);
  a.unknown(m.unknown);
}
template <class A>
void describe(A& a, Finish& f)
{
  describeObject(a, f);
  a.property({"emissivity", "Emissivity", Quantity::Plain, Range::Share}, f.emissivity);
  a.optionalNumber({"solarAbsorptance", "Solar absorptance", Quantity::Plain, Range::Share}, f.solarAbsorptance);
  a.references({"surfaces", Refers::Surface}, f.surfaces);
  a.unknown(f.unknown);
}
template <class A>
void describe(A& a, Part& p)
{
  describeObject(a, p);
  a.reference({.key = "material", .to = Refers::Material, .stage = Stage::Solution}, p.material);
  // What the group makes of it counts where the group is named.
  a.reference({.key = "group", .to = Refers::Group, .stage = Stage::Nothing}, p.group);
  describe(a, p.shape);
  a.list("steps", p.steps);
  a.nestedChoice("repeat", p.repeat, describing::repeatKinds);
  a.references({"yieldsTo", Refers::Part}, p.yieldsTo);
  a.number3(NumberSpec{"materialAxes", "Material axes turned", Quantity::Angle}.at(Stage::Solution), p.materialAxes);
  a.optionalNumber(NumberSpec{"meshSize", "Mesh size", Quantity::Length, Range::Positive}.at(Stage::Mesh), p.meshSize);
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
  a.references({"exposedOf", Refers::Part | Refers::Group}, s.exposedOf);
  a.references({"faces", Refers::Face}, s.faces);
  a.nested("facing", s.facing);
  a.nested("within", s.within);
  a.nested("near", s.near);
  a.references({"except", Refers::Surface}, s.except);
  NumberSpec size = NumberSpec{"meshSize", "Mesh size", Quantity::Length, Range::Positive}.at(Stage::Mesh);
  size.usesItself = true;
  a.optionalNumber(size, s.meshSize);
  a.references({"added", Refers::Face}, s.added);
  a.references({"without", Refers::Face}, s.without);
  a.unknown(s.unknown);
}

} // namespace kiln
