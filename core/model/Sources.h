// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

// What a source gives may be a table against a temperature: that of the place itself, or see HeatSource::follows.
struct PartPower {
  std::vector<std::string> parts;
  Property power; // W, shared by volume
  bool operator==(const PartPower&) const = default;
};
template <class A>
void describe(A& a, PartPower& p)
{
  a.references({"parts", "In", "Parts and groups that share it by volume.", Refers::Part | Refers::Group, Need::Must},
               p.parts);
  a.property({"power", "Power", "Of all of them together.", Quantity::Power, Usually{"100 W"}}, p.power);
}

struct PartDensity {
  std::vector<std::string> parts;
  Property density; // W/m³
  bool operator==(const PartDensity&) const = default;
};
template <class A>
void describe(A& a, PartDensity& p)
{
  a.references({"parts", "In", "Parts and groups that it heats.", Refers::Part | Refers::Group, Need::Must}, p.parts);
  a.property({"density", "Volumetric heat source", "At every place of them.", Quantity::HeatDensity, InPlace{},
              Usually{"1e5 W/m³"}},
             p.density);
}

struct SurfacePower {
  std::string surface;
  Property power; // W, shared by area
  bool operator==(const SurfacePower&) const = default;
};
template <class A>
void describe(A& a, SurfacePower& s)
{
  a.reference({"surface", "Surface", "Its faces share it by area.", Refers::Surface, Need::Must}, s.surface);
  a.property({"power", "Power", "Of the whole surface.", Quantity::Power, Usually{"100 W"}}, s.power);
}

struct SurfaceFlux {
  std::string surface;
  Property flux; // W/m², positive into the solid
  bool operator==(const SurfaceFlux&) const = default;
};
template <class A>
void describe(A& a, SurfaceFlux& s)
{
  a.reference({"surface", "Surface", "", Refers::Surface, Need::Must}, s.surface);
  a.property({"flux", "Heat flux", "Positive into the solid.", Quantity::HeatFlux, InPlace{}, Usually{"1000 W/m²"}},
             s.flux);
}

struct PointPower {
  Number3 place;
  Property power; // W
  bool operator==(const PointPower&) const = default;
};
template <class A>
void describe(A& a, PointPower& p)
{
  a.number3({"place", "Place", "", Quantity::Length}, p.place);
  a.property({"power", "Power", "", Quantity::Power, Usually{"10 W"}}, p.power);
}

/// Directed heat, as of the sun: parallel rays that the model itself shades, caught by the absorptance of the finish.
struct Beam {
  std::vector<std::string> surfaces; ///< that catch it
  Number3 from;                      ///< direction in which it is seen
  Number flux;                       // W/m² across the rays
  bool operator==(const Beam&) const = default;
};
template <class A>
void describe(A& a, Beam& b)
{
  a.references({"surfaces", "Caught by", "Each by the absorptance of its finish.", Refers::Surface, Need::Must},
               b.surfaces);
  a.number3({"from", "Comes from", "Direction in which it is seen.", Quantity::Plain, Usually{"0 0 1"}}, b.from);
  a.number({"flux", "Heat flux across the rays", "Of a face square to it.", Quantity::HeatFlux, Range::NonNegative,
            Usually{"800 W/m²"}},
           b.flux);
}

/// Switches a source on below and off above a set point, half a band away; or, graded, turns it down within the band.
struct Thermostat {
  std::string watch;
  Number setPoint; // K
  Number band;     // K, the whole of it
  bool graded = false;
  UnknownKeys unknown;
  bool operator==(const Thermostat&) const = default;
};
template <class A>
void describe(A& a, Thermostat& t)
{
  a.reference({"watch", "Thermostat", "The temperature it acts on.", Refers::Watch, Need::Whole, Nothing{"none"}},
              t.watch);
  a.number({"setPoint", "Set point", "", Quantity::Temperature, Range::NonNegative, Usually{"100 °C"}}, t.setPoint);
  a.number(
      {"band", "Band", "The whole of it, from off to on.", Quantity::TemperatureStep, Range::Positive, Usually{"4 K"}},
      t.band);
  a.flag({"graded", "Graded across the band", "Turned down within the band, instead of switched half a band away."},
         t.graded);
  a.unknown(t.unknown);
}

struct HeatSource : Object {
  std::variant<PartPower, PartDensity, SurfacePower, SurfaceFlux, PointPower, Beam> heat;
  std::string follows;               ///< its table runs against: empty, each place; "mean", its own mean; or a watch
  std::optional<Number> from, until; // s, works only between
  std::optional<Thermostat> thermostat;
  bool muted = false;
  bool operator==(const HeatSource&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<6> sourceKinds{
    {{"partPower", "Power in parts", "Shared by volume."},
     {"partDensity", "Volumetric heat source", "At every place of them."},
     {"surfacePower", "Power on a surface", "Shared by area."},
     {"surfaceFlux", "Heat flux on a surface", "Positive into the solid."},
     {"pointPower", "Power at a point", "Shared among the nodes around it."},
     {"beam", "Directed radiation (sun, lamp)", "Parallel rays that the model itself shades."}}};
} // namespace describing
template <class A>
void describe(A& a, HeatSource& s)
{
  describeObject(a, s);
  a.choice({"kind", "Kind", ""}, s.heat, describing::sourceKinds);
  a.reference({"follows", "Its table follows",
               "The temperature that a table runs against: “mean”, its own mean, or that of a watch.", Refers::Watch,
               Others{"mean", "its own mean temperature"}, Nothing{"each place's own temperature"}},
              s.follows);
  a.optionalNumber({"workingFrom", "Works from", "", Quantity::Time, Usually{"the start"}}, s.from);
  a.optionalNumber({"workingUntil", "Works until", "", Quantity::Time, Usually{"the end"}}, s.until);
  a.nested({"thermostat", "Thermostat", "Switches it by a watch.", Stage::Course}, s.thermostat);
  a.flag({"muted", "Switched off", "As if it were not there."}, s.muted);
  a.unknown(s.unknown);
}

} // namespace kiln
