// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeParts.h"
#include "model/Heat.h"

namespace kiln
{

namespace describing
{
inline constexpr std::array<std::string_view, 6> sourceKinds{"partPower",   "partDensity", "surfacePower",
                                                             "surfaceFlux", "pointPower",  "beam"};
inline constexpr std::array<std::string_view, 11> boundaryKinds{
    "convection",  "radiation",   "fixedSurface", "fixedPart", "fixedPoint", "correlation",
    "bodyContact", "flowPassage", "fixedVoltage", "currentIn", "sheet"};
inline constexpr std::array<std::string_view, 9> situationKinds{
    "verticalPlate", "plateFacingUp", "plateFacingDown", "verticalCylinder", "horizontalCylinder",
    "sphere",        "alongPlate",    "acrossCylinder",  "insideTube"};
inline constexpr std::array<std::string_view, 2> fluidKinds{"air", "water"};
inline constexpr std::array<std::string_view, 6> exchangeKinds{
    "perfect", "none", "areaConductance", "areaResistance", "totalResistance", "gap"};
} // namespace describing

template <class A>
void describe(A& a, PartPower& p)
{
  a.references({"parts", Refers::Part | Refers::Group, describing::Must}, p.parts);
  a.property({"power", "Power", Quantity::Power}, p.power);
}
template <class A>
void describe(A& a, PartDensity& p)
{
  a.references({"parts", Refers::Part | Refers::Group, describing::Must}, p.parts);
  a.property({"density", "Heat density", Quantity::HeatDensity, Range::Any, true}, p.density);
}
template <class A>
void describe(A& a, SurfacePower& s)
{
  a.reference({"surface", Refers::Surface, describing::Must}, s.surface);
  a.property({"power", "Power", Quantity::Power}, s.power);
}
template <class A>
void describe(A& a, SurfaceFlux& s)
{
  a.reference({"surface", Refers::Surface, describing::Must}, s.surface);
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
  a.references({"surfaces", Refers::Surface, describing::Must}, b.surfaces);
  a.number3({"from", "Comes from", Quantity::Plain}, b.from);
  a.number({"flux", "Heat flux across the beam", Quantity::HeatFlux, Range::NonNegative}, b.flux);
}
template <class A>
void describe(A& a, Thermostat& t)
{
  a.reference({"watch", Refers::Watch, describing::Whole}, t.watch);
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
  a.reference({"follows", Refers::Watch, ReferenceSpec::Need::May, "mean"}, s.follows);
  a.optionalNumber({"workingFrom", "Works from", Quantity::Time}, s.from);
  a.optionalNumber({"workingUntil", "Works until", Quantity::Time}, s.until);
  a.nested(KeySpec{"thermostat", Stage::Course}, s.thermostat);
  a.flag("muted", s.muted);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Convection& c)
{
  a.reference({"surface", Refers::Surface, describing::Must}, c.surface);
  a.property({"coefficient", "Coefficient h", Quantity::AreaConductance, Range::NonNegative, true}, c.coefficient);
  a.property({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative, true}, c.ambient);
  a.optionalText(KeySpec{"situation", Stage::Nothing}, c.situation);
  a.reference({"node", Refers::Node}, c.node);
}
template <class A>
void describe(A& a, CorrelatedConvection& c)
{
  a.reference({"surface", Refers::Surface, describing::Must}, c.surface);
  a.choice("situation", c.situation, describing::situationKinds);
  a.choice("fluid", c.fluid, describing::fluidKinds);
  a.number({"size", "Size", Quantity::Length, Range::Positive}, c.size);
  a.optionalNumber({"diameter", "Diameter", Quantity::Length, Range::Positive}, c.diameter);
  a.optionalNumber({"speed", "Speed", Quantity::Speed, Range::NonNegative}, c.speed);
  a.optionalNumber({"length", "Tube length", Quantity::Length, Range::Positive}, c.length);
  a.number({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative}, c.ambient);
  a.reference({"node", Refers::Node}, c.node);
}
template <class A>
void describe(A& a, BodyContact& c)
{
  a.reference({"surface", Refers::Surface, describing::Must}, c.surface);
  a.number({"conductance", "Area conductance", Quantity::AreaConductance, Range::Positive}, c.conductance);
  a.number({"temperature", "Body temperature", Quantity::Temperature, Range::NonNegative}, c.temperature);
  a.reference({"node", Refers::Node}, c.node);
}
template <class A>
void describe(A& a, Radiation& r)
{
  a.reference({"surface", Refers::Surface, describing::Must}, r.surface);
  a.number({"surroundings", "Surroundings", Quantity::Temperature, Range::NonNegative}, r.surroundings);
  a.number({"viewFactor", "View factor", Quantity::Plain, Range::Fraction}, r.viewFactor);
  a.reference({"node", Refers::Node}, r.node);
}
template <class A>
void describe(A& a, FixedSurface& f)
{
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
  a.number({"temperature", "Temperature", Quantity::Temperature, Range::NonNegative, true}, f.temperature);
}
template <class A>
void describe(A& a, FixedPart& f)
{
  a.reference({"part", Refers::Part, describing::Must}, f.part);
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
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
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
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
  a.number({"voltage", "Voltage", Quantity::Voltage}, f.voltage);
}
template <class A>
void describe(A& a, CurrentIn& c)
{
  a.reference({"surface", Refers::Surface, describing::Must}, c.surface);
  a.number({"current", "Current", Quantity::Current}, c.current);
}
template <class A>
void describe(A& a, Sheet& s)
{
  a.reference({"surface", Refers::Surface, describing::Must}, s.surface);
  a.reference({"material", Refers::Material, describing::Must}, s.material);
  a.number({"thickness", "Thickness", Quantity::Length, Range::Positive}, s.thickness);
  a.optionalNumber({"through", "Resistance beneath", Quantity::AreaResistance, Range::Positive}, s.through);
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
  a.reference({"partA", Refers::Part, describing::Whole}, c.partA);
  a.reference({"partB", Refers::Part, describing::Whole}, c.partB);
  a.reference({"surface", Refers::Surface}, c.surface);
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
  a.references({.key = "surfaces", .to = Refers::Surface, .need = describing::Must, .stage = Stage::Exchange},
               e.surfaces);
  a.optionalNumber({"opening", "Opening to", Quantity::Temperature, Range::NonNegative}, e.opening);
  a.optionalNumber(NumberSpec{"patchSize", "Patch size", Quantity::Length, Range::Positive}.at(Stage::Exchange),
                   e.patchSize);
  a.optionalNumber(NumberSpec{"rays", "Rays from a patch", Quantity::Plain, Range::Rays}.at(Stage::Exchange), e.rays);
  a.flag(KeySpec{"muted", Stage::Exchange}, e.muted);
  a.unknown(e.unknown);
}

} // namespace kiln
