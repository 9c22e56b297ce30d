// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Boundaries.h"

namespace kiln
{

struct NoStore {
  bool operator==(const NoStore&) const = default;
};
template <class A>
void describe(A&, NoStore&)
{
}

struct CapacityStore {
  Number capacity; // J/K
  bool operator==(const CapacityStore&) const = default;
};
template <class A>
void describe(A& a, CapacityStore& s)
{
  a.number({"capacity", "Heat capacity", "", Quantity::HeatCapacity, Range::Positive, Usually{"100 J/K"}}, s.capacity);
}

struct MassStore {
  Number mass, specificHeat; // kg, J/(kg·K)
  bool operator==(const MassStore&) const = default;
};
template <class A>
void describe(A& a, MassStore& s)
{
  a.number({"mass", "Mass", "", Quantity::Mass, Range::Positive, Usually{"0.1 kg"}}, s.mass);
  a.number({"specificHeat", "Specific heat", "", Quantity::SpecificHeat, Range::Positive, Usually{"900 J/(kg·K)"}},
           s.specificHeat);
}

struct FluidStore {
  Number volume; // m³
  Fluid fluid = Fluid::Air;
  bool operator==(const FluidStore&) const = default;
};
template <class A>
void describe(A& a, FluidStore& s)
{
  a.number({"volume", "Volume", "", Quantity::Volume, Range::Positive, Usually{"0.001 m³"}}, s.volume);
  a.choice({"fluid", "Filled with", ""}, s.fluid, describing::fluidKinds);
}

/// One temperature for something that is not meshed.
struct Node : Object {
  std::variant<NoStore, CapacityStore, MassStore, FluidStore> storage;
  std::optional<Property> power;     // W, a table runs against its own temperature
  std::optional<Number> temperature; // K, holds it
  bool muted = false;
  bool operator==(const Node&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<4> storeKinds{{{"none", "nothing"},
                                          {"capacity", "by its heat capacity"},
                                          {"mass", "by mass and specific heat"},
                                          {"fluid", "as a volume of air or water"}}};
} // namespace describing
template <class A>
void describe(A& a, Node& n)
{
  describeObject(a, n);
  a.nestedChoice({"storage", "Stores heat", "What it holds, in time.", Stage::Course}, n.storage,
                 describing::storeKinds);
  a.optionalProperty({"power", "Power", "A table runs against its own temperature.", Quantity::Power, Usually{"none"}},
                     n.power);
  a.optionalNumber({"temperature", "Held at", "Whatever heat that takes.", Quantity::Temperature, Range::NonNegative,
                    Usually{"not held"}},
                   n.temperature);
  a.flag({"muted", "Switched off", "With its links, as if it were not there."}, n.muted);
  a.unknown(n.unknown);
}

namespace describing
{
inline constexpr Refers ends = Refers::Node | Refers::Part | Refers::Surface | Refers::Watch;
inline constexpr std::string_view endHelp =
    "A node, a part (its whole body), a surface (by area) or the place of a point watch.";
inline constexpr ReferenceSpec firstEnd{"endA", "From", endHelp, ends, Need::Whole};
inline constexpr ReferenceSpec secondEnd{"endB", "To", endHelp, ends, Need::Whole};
} // namespace describing

// The ends of links are ids of nodes, parts (the whole body, by volume) or surfaces (by area).
struct Conductor {
  std::string endA, endB;
  Number conductance; // W/K
  bool operator==(const Conductor&) const = default;
};
template <class A>
void describe(A& a, Conductor& c)
{
  a.reference(describing::firstEnd, c.endA);
  a.reference(describing::secondEnd, c.endB);
  a.number({"conductance", "Conductance", "", Quantity::Conductance, Range::Positive, Usually{"1 W/K"}}, c.conductance);
}

/// σ X (T_A⁴ − T_B⁴)
struct RadiationLink {
  std::string endA, endB;
  Number exchangeArea; // X, m²
  bool operator==(const RadiationLink&) const = default;
};
template <class A>
void describe(A& a, RadiationLink& r)
{
  a.reference(describing::firstEnd, r.endA);
  a.reference(describing::secondEnd, r.endB);
  a.number({"exchangeArea", "Exchange area", "Area that would exchange as much if it were black and saw nothing else.",
            Quantity::Area, Range::Positive, Usually{"0.01 m²"}},
           r.exchangeArea);
}

/// One-way: carries ṁ c_p (T_upstream − T) into the downstream node.
struct FlowLink {
  std::string upstream, downstream; ///< nodes
  Number massFlow, specificHeat;    // kg/s, J/(kg·K)
  bool operator==(const FlowLink&) const = default;
};
template <class A>
void describe(A& a, FlowLink& f)
{
  a.reference({"upstream", "Flows from", "", Refers::Node, Need::Whole}, f.upstream);
  a.reference({"downstream", "Flows to", "", Refers::Node, Need::Whole}, f.downstream);
  a.number({"massFlow", "Mass flow", "", Quantity::MassFlow, Range::Positive, Usually{"0.01 kg/s"}}, f.massFlow);
  a.number({"specificHeat", "Specific heat", "Of the fluid.", Quantity::SpecificHeat, Range::Positive,
            Usually{"4180 J/(kg·K)"}},
           f.specificHeat);
}

/// A round conductor of one dimension: conducts along its length, stores heat, may be heated and lose heat at its side.
struct Wire {
  std::string endA, endB;
  Number length, diameter; // m
  std::string material;
  std::optional<Number> power;       // W over its length
  std::optional<Number> coefficient; // W/(m²·K) at its side; nothing: insulated
  std::optional<Number> ambient;     // K, of what is around its side
  bool operator==(const Wire&) const = default;
};
template <class A>
void describe(A& a, Wire& w)
{
  a.reference(describing::firstEnd, w.endA);
  a.reference(describing::secondEnd, w.endB);
  a.number({"length", "Length", "", Quantity::Length, Range::Positive, Usually{"100 mm"}}, w.length);
  a.number({"diameter", "Diameter", "", Quantity::Length, Range::Positive, Usually{"1 mm"}}, w.diameter);
  a.reference({"material", "Material", "", Refers::Material, Need::Must, Nothing{"choose a material"}}, w.material);
  a.optionalNumber({"power", "Power", "Over its length.", Quantity::Power, Usually{"none"}}, w.power);
  a.optionalNumber(
      {"coefficient", "Coefficient", "At its side.", Quantity::AreaConductance, Range::Positive, Usually{"insulated"}},
      w.coefficient);
  a.optionalNumber({"ambient", "Ambient", "Around its side.", Quantity::Temperature, Range::NonNegative}, w.ambient);
}

struct Link : Object {
  std::variant<Conductor, RadiationLink, Wire, FlowLink> exchange;
  bool muted = false;
  bool operator==(const Link&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<4> linkKinds{
    {{"conductance", "Conductance between two", "Heat by W/K and the difference."},
     {"radiation", "Radiation between two", "Heat by an area and the difference of fourth powers."},
     {"wire", "Wire between two", "Conducts along its length, stores heat, may be heated and lose heat at its side."},
     {"flow", "Flow from node to node", "A stream carries heat one way."}}};
} // namespace describing
template <class A>
void describe(A& a, Link& l)
{
  describeObject(a, l);
  a.choice({"kind", "Kind", ""}, l.exchange, describing::linkKinds);
  a.flag({"muted", "Switched off", "As if it were not there."}, l.muted);
  a.unknown(l.unknown);
}

inline constexpr const char* surroundingsId = "?surroundings";
/// Where something is drawn in the network, shares of the page.
struct NetworkPlace {
  std::string id; ///< of a node or a part, or surroundingsId
  Number across, down;
  bool operator==(const NetworkPlace&) const = default;
};
template <class A>
void describe(A& a, NetworkPlace& p)
{
  a.reference({"of", "Of", "A node, a part, or ?surroundings.", Refers::Node | Refers::Part, Need::Whole,
               Others{surroundingsId, "the surroundings"}},
              p.id);
  a.number({"across", "Across the page", "", Quantity::Plain, Range::Share}, p.across);
  a.number({"down", "Down the page", "", Quantity::Plain, Range::Share}, p.down);
}

} // namespace kiln
