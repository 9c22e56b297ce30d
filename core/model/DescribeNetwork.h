// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeHeat.h"
#include "model/Network.h"

namespace kiln
{

namespace describing
{
inline constexpr std::array<std::string_view, 4> storeKinds{"none", "capacity", "mass", "fluid"};
inline constexpr Refers ends = Refers::Node | Refers::Part | Refers::Surface | Refers::Watch;
inline constexpr std::array<std::string_view, 4> linkKinds{"conductance", "radiation", "flow", "wire"};
} // namespace describing

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
  a.nestedChoice(KeySpec{"storage", Stage::Course}, n.storage, describing::storeKinds);
  a.optionalProperty({"power", "Power", Quantity::Power}, n.power);
  a.optionalNumber({"temperature", "Held at", Quantity::Temperature, Range::NonNegative}, n.temperature);
  a.flag("muted", n.muted);
  a.unknown(n.unknown);
}
template <class A>
void describe(A& a, Conductor& c)
{
  a.reference({"endA", describing::ends, describing::Whole}, c.endA);
  a.reference({"endB", describing::ends, describing::Whole}, c.endB);
  a.number({"conductance", "Conductance", Quantity::Conductance, Range::Positive}, c.conductance);
}
template <class A>
void describe(A& a, RadiationLink& r)
{
  a.reference({"endA", describing::ends, describing::Whole}, r.endA);
  a.reference({"endB", describing::ends, describing::Whole}, r.endB);
  a.number({"exchangeArea", "Exchange area", Quantity::Area, Range::Positive}, r.exchangeArea);
}
template <class A>
void describe(A& a, FlowLink& f)
{
  a.reference({"upstream", Refers::Node, describing::Whole}, f.upstream);
  a.reference({"downstream", Refers::Node, describing::Whole}, f.downstream);
  a.number({"massFlow", "Mass flow", Quantity::MassFlow, Range::Positive}, f.massFlow);
  a.number({"specificHeat", "Specific heat", Quantity::SpecificHeat, Range::Positive}, f.specificHeat);
}
template <class A>
void describe(A& a, Wire& w)
{
  a.reference({"endA", describing::ends, describing::Whole}, w.endA);
  a.reference({"endB", describing::ends, describing::Whole}, w.endB);
  a.number({"length", "Length", Quantity::Length, Range::Positive}, w.length);
  a.number({"diameter", "Diameter", Quantity::Length, Range::Positive}, w.diameter);
  a.reference({"material", Refers::Material, describing::Must}, w.material);
  a.optionalNumber({"power", "Power", Quantity::Power}, w.power);
  a.optionalNumber({"coefficient", "Coefficient", Quantity::AreaConductance, Range::Positive}, w.coefficient);
  a.optionalNumber({"ambient", "Ambient", Quantity::Temperature, Range::NonNegative}, w.ambient);
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
void describe(A& a, NetworkPlace& p)
{
  a.reference({"of", Refers::Node | Refers::Part, describing::Whole, surroundingsId}, p.id);
  a.number({"across", "Across the page", Quantity::Plain, Range::Share}, p.across);
  a.number({"down", "Down the page", Quantity::Plain, Range::Share}, p.down);
}

} // namespace kiln
