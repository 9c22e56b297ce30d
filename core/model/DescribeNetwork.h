// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeHeat.h"
#include "model/Network.h"

namespace kiln
{

namespace describing
{
inline constexpr std::array<std::string_view, 4> storeKinds{"none", "capacity", "mass", "fluid"};
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
  a.nestedChoice("storage", n.storage, describing::storeKinds);
  a.optionalProperty({"power", "Power", Quantity::Power}, n.power);
  a.optionalNumber({"temperature", "Held at", Quantity::Temperature, Range::NonNegative}, n.temperature);
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
void describe(A& a, Wire& w)
{
  a.text("endA", w.endA);
  a.text("endB", w.endB);
  a.number({"length", "Length", Quantity::Length, Range::Positive}, w.length);
  a.number({"diameter", "Diameter", Quantity::Length, Range::Positive}, w.diameter);
  a.text("material", w.material);
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
  a.text("of", p.id);
  a.number({"across", "Across the page", Quantity::Plain, Range::Share}, p.across);
  a.number({"down", "Down the page", Quantity::Plain, Range::Share}, p.down);
}

} // namespace kiln
