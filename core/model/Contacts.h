// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

struct PerfectContact {
  bool operator==(const PerfectContact&) const = default;
};
template <class A>
void describe(A&, PerfectContact&)
{
}

struct NoContact {
  bool operator==(const NoContact&) const = default;
};
template <class A>
void describe(A&, NoContact&)
{
}

struct AreaConductance {
  Number conductance; // W/(m²·K)
  bool operator==(const AreaConductance&) const = default;
};
template <class A>
void describe(A& a, AreaConductance& c)
{
  a.number(
      {"conductance", "Area conductance", "", Quantity::AreaConductance, Range::Positive, Usually{"1000 W/(m²·K)"}},
      c.conductance);
}

struct AreaResistance {
  Number resistance; // m²·K/W
  bool operator==(const AreaResistance&) const = default;
};
template <class A>
void describe(A& a, AreaResistance& r)
{
  a.number({"resistance", "Area resistance", "", Quantity::AreaResistance, Range::Positive, Usually{"0.001 m²·K/W"}},
           r.resistance);
}

struct TotalResistance {
  Number resistance; // K/W over the whole touching area
  bool operator==(const TotalResistance&) const = default;
};
template <class A>
void describe(A& a, TotalResistance& r)
{
  a.number({"resistance", "Total resistance", "Over the whole touching area.", Quantity::Resistance, Range::Positive,
            Usually{"1 K/W"}},
           r.resistance);
}

/// A thin layer of something between the parts, with radiation across it where both emissivities are given.
struct Gap {
  Number thickness, conductivity; // m, W/(m·K)
  std::optional<Number> emissivityA, emissivityB;
  bool operator==(const Gap&) const = default;
};
template <class A>
void describe(A& a, Gap& g)
{
  a.number({"thickness", "Thickness",
            "Between parts that do not touch it crosses the space where they are closer than twice this.",
            Quantity::Length, Range::Positive, Usually{"1 mm"}},
           g.thickness);
  a.number({"conductivity", "Conductivity k", "Of what fills it.", Quantity::Conductivity, Range::Positive,
            Usually{"0.026 W/(m·K)"}},
           g.conductivity);
  a.optionalNumber({"emissivityA", "Emissivity, first side", "With the other: radiation across it.", Quantity::Plain,
                    Range::Fraction, Usually{"no radiation"}},
                   g.emissivityA);
  a.optionalNumber({"emissivityB", "Emissivity, second side", "With the other: radiation across it.", Quantity::Plain,
                    Range::Fraction, Usually{"no radiation"}},
                   g.emissivityB);
}

/// How two parts exchange heat: through the faces they share or, where they share none and it is a gap, across the
/// empty space between faces that look at each other. A touching pair without one is perfect and says so.
struct Contact : Object {
  std::string partA, partB;
  std::string surface; ///< of the shared faces only those in it; empty: all that no other contact of the pair names
  std::variant<PerfectContact, NoContact, AreaConductance, AreaResistance, TotalResistance, Gap> exchange;
  std::optional<Number> electricResistance; // Ω·m², nothing: current passes freely where heat passes
  bool muted = false;
  bool operator==(const Contact&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<6> exchangeKinds{{{"perfect", "perfect", "No drop of temperature."},
                                             {"none", "no exchange", "As if a vacuum lay between."},
                                             {"areaConductance", "area conductance", "W/(m²·K) of the touching area."},
                                             {"areaResistance", "area resistance", "m²·K/W of the touching area."},
                                             {"totalResistance", "total resistance", "K/W of the whole touching area."},
                                             {"gap", "gap", "A thin layer of something between the parts."}}};
} // namespace describing
template <class A>
void describe(A& a, Contact& c)
{
  describeObject(a, c);
  a.reference({"partA", "First part", "", Refers::Part, Need::Whole}, c.partA);
  a.reference({"partB", "Second part", "", Refers::Part, Need::Whole}, c.partB);
  a.choice({"kind", "Exchange", ""}, c.exchange, describing::exchangeKinds);
  a.reference({"surface", "Of the faces", "Only the shared faces that lie in it.", Refers::Surface,
               Nothing{"all that the parts share"}},
              c.surface);
  a.optionalNumber({"electricResistance", "Electric resistance of the contact", "Of the touching area.",
                    Quantity::ElectricAreaResistance, Range::Positive, Usually{"none"}},
                   c.electricResistance);
  a.flag({"muted", "Switched off", "As if it were not there: what touches passes heat freely, across a gap nothing."},
         c.muted);
  a.unknown(c.unknown);
}

/// Surfaces that see each other and exchange grey-body radiation. Their emissivities come from finishes and materials.
struct Enclosure : Object {
  std::vector<std::string> surfaces; // ids
  std::optional<Number> opening;     // K, what is seen where the surfaces do not close the space
  std::optional<Number> patchSize;   // m, nothing: chosen from the area
  std::optional<Number> rays;        // from each patch
  bool muted = false;
  bool operator==(const Enclosure&) const = default;
};
template <class A>
void describe(A& a, Enclosure& e)
{
  describeObject(a, e);
  a.references({"surfaces", "Among", "They see each other.", Refers::Surface, Need::Must, Stage::Exchange}, e.surfaces);
  a.optionalNumber({"opening", "Opening to", "What is seen where they leave the space open.", Quantity::Temperature,
                    Range::NonNegative, Usually{"closed"}},
                   e.opening);
  a.optionalNumber({"patchSize", "Patch size", "Of the patches that see each other.", Quantity::Length, Range::Positive,
                    Stage::Exchange, Usually{"chosen from the area"}},
                   e.patchSize);
  a.optionalNumber({"rays", "Rays from a patch", "More are more exact, and slower.", Quantity::Plain, Range::Rays,
                    Stage::Exchange, Usually{"1000"}},
                   e.rays);
  a.flag({"muted", "Switched off", "As if nothing in it radiated.", Stage::Exchange}, e.muted);
  a.unknown(e.unknown);
}

} // namespace kiln
