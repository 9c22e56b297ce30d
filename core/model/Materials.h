// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

namespace kiln
{

/// Conductivity is the same in all directions, or has its own values along the second and third material axis.
struct Material : Object {
  Property conductivity;                                // W/(m·K)
  std::optional<Property> conductivityY, conductivityZ; // W/(m·K)
  std::optional<Number> density;                        // kg/m³
  std::optional<Property> specificHeat;                 // J/(kg·K)
  std::optional<Number> emissivity;                     // typical
  std::optional<Number> serviceTemperature;             // K, offered as the limit of parts made of it
  std::optional<Number> latentHeat;                     // J/kg, taken up between the two temperatures
  std::optional<Number> meltsFrom, meltsTo;             // K
  std::optional<Property> electricConductivity;         // S/m
  std::string standsFor;                                ///< another material, whose values it takes
  std::string source;                                   // where the values come from
  bool operator==(const Material&) const = default;
};
template <class A>
void describe(A& a, Material& m)
{
  describeObject(a, m);
  constexpr Quantity k = Quantity::Conductivity;
  a.property(
      {"conductivity", "Conductivity k", "In all directions, or along the first material axis.", k, Range::Positive},
      m.conductivity);
  a.optionalProperty({"conductivityY", "Conductivity k, second axis", "Along the second material axis.", k,
                      Range::Positive, Usually{"as the first"}},
                     m.conductivityY);
  a.optionalProperty({"conductivityZ", "Conductivity k, third axis", "Along the third material axis.", k,
                      Range::Positive, Usually{"as the first"}},
                     m.conductivityZ);
  a.optionalNumber({"density", "Density", "Needed in time.", Quantity::Density, Range::Positive, Stage::Course},
                   m.density);
  a.optionalProperty(
      {"specificHeat", "Specific heat", "Needed in time.", Quantity::SpecificHeat, Range::Positive, Stage::Course},
      m.specificHeat);
  a.optionalNumber(
      {"emissivity", "Typical emissivity", "Where no finish lies on it.", Quantity::Plain, Range::Fraction},
      m.emissivity);
  a.optionalNumber({"serviceTemperature", "Service temperature", "Offered as the limit of parts made of it.",
                    Quantity::Temperature, Range::NonNegative, Stage::Figures},
                   m.serviceTemperature);
  a.optionalNumber(
      {"latentHeat", "Latent heat", "Taken up while it melts.", Quantity::LatentHeat, Range::Positive, Stage::Course},
      m.latentHeat);
  a.optionalNumber({"meltsFrom", "Solidus", "Alone: its one melting temperature.", Quantity::Temperature,
                    Range::NonNegative, Stage::Course},
                   m.meltsFrom);
  a.optionalNumber({"meltsTo", "Liquidus", "Alone: its one melting temperature.", Quantity::Temperature,
                    Range::NonNegative, Stage::Course},
                   m.meltsTo);
  a.optionalProperty({"electricConductivity", "Electric conductivity", "Of a material that carries a current.",
                      Quantity::ElectricConductivity, Range::Positive},
                     m.electricConductivity);
  a.reference({"standsFor", "Stands for", "Another material, whose values it takes: a case may choose it.",
               Refers::Material, Nothing{"itself"}},
              m.standsFor);
  a.optionalText({"source", "Source", "Where the values come from.", Stage::Nothing}, m.source);
  a.unknown(m.unknown);
}

/// The emissivity of surfaces, apart from the material beneath. A later finish wins over an earlier one.
struct Finish : Object {
  Property emissivity;
  std::optional<Number> solarAbsorptance;
  std::vector<std::string> surfaces;
  bool operator==(const Finish&) const = default;
};
template <class A>
void describe(A& a, Finish& f)
{
  describeObject(a, f);
  a.property({"emissivity", "Emissivity", "Of what it lies on; a later finish wins over an earlier one.",
              Quantity::Plain, Range::Share},
             f.emissivity);
  a.optionalNumber({"solarAbsorptance", "Solar absorptance", "Share of the sun or a lamp that it takes up.",
                    Quantity::Plain, Range::Share, Usually{"the emissivity"}},
                   f.solarAbsorptance);
  a.references({"surfaces", "On", "What it lies on.", Refers::Surface}, f.surfaces);
  a.unknown(f.unknown);
}

} // namespace kiln
