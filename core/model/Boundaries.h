// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

namespace describing
{
inline constexpr ReferenceSpec stoodOn{"surface", "Surface", "", Refers::Surface, Need::Must};
inline constexpr ReferenceSpec lumpedAmbient{"node", "Exchanges with", "A lumped node that is its ambient.",
                                             Refers::Node, Nothing{"the surroundings, at the temperature above"}};
inline constexpr Usually roomWarm{"20 °C"};
} // namespace describing

struct Convection {
  std::string surface;
  Property coefficient;    // W/(m²·K), a table runs against the surface temperature
  Property ambient;        // K, likewise
  std::string situation{}; // name of the CoefficientRange it is meant for, may be empty
  std::string node{};      // lumped node that is its ambient, may be empty
  bool operator==(const Convection&) const = default;
};
template <class A>
void describe(A& a, Convection& c)
{
  a.reference(describing::stoodOn, c.surface);
  a.property({"coefficient", "Coefficient h", "A table runs against the temperature of the surface.",
              Quantity::AreaConductance, Range::NonNegative, InPlace{}, Usually{"10 W/(m²·K)"}},
             c.coefficient);
  a.property({"ambient", "Ambient", "Of the fluid, far away.", Quantity::Temperature, Range::NonNegative, InPlace{},
              describing::roomWarm},
             c.ambient);
  a.optionalText({"situation", "", "Name of the usual range that it is judged by.", Stage::Nothing}, c.situation);
  a.reference(describing::lumpedAmbient, c.node);
}

/// The situations a convection coefficient can be estimated for.
enum class FlowSituation {
  VerticalPlate,
  PlateFacingUp,
  PlateFacingDown,
  VerticalCylinder,
  HorizontalCylinder,
  Sphere,
  AlongPlate,
  AcrossCylinder,
  InsideTube
};
enum class Fluid { Air, Water };
namespace describing
{
inline constexpr KindSpecs<9> situationKinds{{{"verticalPlate", "still fluid, vertical plate"},
                                              {"plateFacingUp", "still fluid, plate facing up"},
                                              {"plateFacingDown", "still fluid, plate facing down"},
                                              {"verticalCylinder", "still fluid, vertical cylinder"},
                                              {"horizontalCylinder", "still fluid, horizontal cylinder"},
                                              {"sphere", "still fluid, sphere"},
                                              {"alongPlate", "flow along a plate"},
                                              {"acrossCylinder", "flow across a cylinder"},
                                              {"insideTube", "flow inside a tube"}}};
inline constexpr KindSpecs<2> fluidKinds{{{"air", "air"}, {"water", "water"}}};
} // namespace describing
/// Convection whose coefficient follows the local surface temperature by a correlation.
struct CorrelatedConvection {
  std::string surface;
  FlowSituation situation = FlowSituation::VerticalPlate;
  Fluid fluid = Fluid::Air;
  Number size;                    // m, what the correlation is written in: height, diameter, length, area ÷ perimeter
  std::optional<Number> diameter; // m, of a vertical cylinder
  std::optional<Number> speed;    // m/s, of forced flow
  std::optional<Number> length;   // m, of a tube
  Number ambient;                 // K
  std::string node{};             // lumped node that is its ambient, may be empty
  bool operator==(const CorrelatedConvection&) const = default;
};
template <class A>
void describe(A& a, CorrelatedConvection& c)
{
  a.reference(describing::stoodOn, c.surface);
  a.choice({"situation", "Situation", "How the fluid passes."}, c.situation, describing::situationKinds);
  a.choice({"fluid", "Fluid", ""}, c.fluid, describing::fluidKinds);
  a.number({"size", "Size", "What the correlation is written in: height, diameter, length, or area over perimeter.",
            Quantity::Length, Range::Positive, Usually{"100 mm"}},
           c.size);
  a.optionalNumber({"diameter", "Diameter", "Of a vertical cylinder.", Quantity::Length, Range::Positive}, c.diameter);
  a.optionalNumber({"speed", "Speed", "Of a fluid that is driven.", Quantity::Speed, Range::NonNegative}, c.speed);
  a.optionalNumber({"length", "Tube length", "", Quantity::Length, Range::Positive}, c.length);
  a.number({"ambient", "Ambient", "Of the fluid, far away.", Quantity::Temperature, Range::NonNegative,
            describing::roomWarm},
           c.ambient);
  a.reference(describing::lumpedAmbient, c.node);
}

struct Radiation {
  std::string surface;
  Number surroundings, viewFactor{1, "1"}; // K, –
  std::string node{};                      // lumped node that is the surroundings, may be empty
  bool operator==(const Radiation&) const = default;
};
template <class A>
void describe(A& a, Radiation& r)
{
  a.reference(describing::stoodOn, r.surface);
  a.number({"surroundings", "Surroundings", "Of what is seen.", Quantity::Temperature, Range::NonNegative,
            describing::roomWarm},
           r.surroundings);
  a.number({"viewFactor", "View factor", "Share of what the surface sees that are the surroundings.", Quantity::Plain,
            Range::Fraction, Usually{"1"}},
           r.viewFactor);
  a.reference(describing::lumpedAmbient, r.node);
}

struct FixedSurface {
  std::string surface;
  Number temperature; // K
  bool operator==(const FixedSurface&) const = default;
};
template <class A>
void describe(A& a, FixedSurface& f)
{
  a.reference(describing::stoodOn, f.surface);
  a.number({"temperature", "Temperature", "Held, whatever heat that takes.", Quantity::Temperature, Range::NonNegative,
            InPlace{}, describing::roomWarm},
           f.temperature);
}

struct FixedPart {
  std::string part;
  Number temperature; // K
  bool operator==(const FixedPart&) const = default;
};
template <class A>
void describe(A& a, FixedPart& f)
{
  a.reference({"part", "Part", "", Refers::Part, Need::Must, Nothing{"choose a part"}}, f.part);
  a.number({"temperature", "Temperature", "Held, whatever heat that takes.", Quantity::Temperature, Range::NonNegative,
            describing::roomWarm},
           f.temperature);
}

/// Holds the mesh node nearest to the place.
struct FixedPoint {
  Number3 place;
  Number temperature; // K
  bool operator==(const FixedPoint&) const = default;
};
template <class A>
void describe(A& a, FixedPoint& f)
{
  a.number3({"place", "Place", "The nearest node of the mesh is held.", Quantity::Length}, f.place);
  a.number({"temperature", "Temperature", "Held, whatever heat that takes.", Quantity::Temperature, Range::NonNegative,
            describing::roomWarm},
           f.temperature);
}

/// A surface against a body that is not modelled, at a temperature of its own.
struct BodyContact {
  std::string surface;
  Number conductance, temperature; // W/(m²·K), K
  std::string node{};              // lumped node that is the body, may be empty
  bool operator==(const BodyContact&) const = default;
};
template <class A>
void describe(A& a, BodyContact& c)
{
  a.reference(describing::stoodOn, c.surface);
  a.number({"conductance", "Area conductance", "Between the surface and that body.", Quantity::AreaConductance,
            Range::Positive, Usually{"100 W/(m²·K)"}},
           c.conductance);
  a.number({"temperature", "Body temperature", "", Quantity::Temperature, Range::NonNegative, describing::roomWarm},
           c.temperature);
  a.reference(describing::lumpedAmbient, c.node);
}

/// A stream along a surface, warmed or cooled on its way: lumped into stretches of equal length, one after the other.
struct FlowPassage {
  std::string surface;
  Number3 direction;    ///< of the flow
  Number inlet;         // K
  Number massFlow;      // kg/s
  Number specificHeat;  // J/(kg·K)
  Property coefficient; // W/(m²·K), a table runs against the surface temperature
  Number stretches{10, "10"};
  bool operator==(const FlowPassage&) const = default;
};
template <class A>
void describe(A& a, FlowPassage& f)
{
  a.reference(describing::stoodOn, f.surface);
  a.number3({"direction", "Flows along", "", Quantity::Plain, Usually{"1 0 0"}}, f.direction);
  a.number({"inlet", "Inlet", "With which the stream comes in.", Quantity::Temperature, Range::NonNegative,
            describing::roomWarm},
           f.inlet);
  a.number({"massFlow", "Mass flow", "", Quantity::MassFlow, Range::Positive, Usually{"0.01 kg/s"}}, f.massFlow);
  a.number({"specificHeat", "Specific heat", "Of the fluid.", Quantity::SpecificHeat, Range::Positive,
            Usually{"4180 J/(kg·K)"}},
           f.specificHeat);
  a.property({"coefficient", "Coefficient h", "A table runs against the temperature of the surface.",
              Quantity::AreaConductance, Range::NonNegative, Usually{"500 W/(m²·K)"}},
             f.coefficient);
  a.number(
      {"stretches", "Stretches", "Of equal length, one after the other.", Quantity::Plain, Range::Count, Usually{"10"}},
      f.stretches);
}

/// A thin conducting layer on a surface that is not meshed: it conducts along the surface and stores heat, and is as
/// warm as the surface beneath.
struct Sheet {
  std::string surface, material;
  Number thickness;                // m
  std::optional<Number> through{}; // m²·K/W between it and what it lies on; nothing: it is as warm as that
  bool operator==(const Sheet&) const = default;
};
template <class A>
void describe(A& a, Sheet& s)
{
  a.reference(describing::stoodOn, s.surface);
  a.reference({"material", "Material", "", Refers::Material, Need::Must, Nothing{"choose a material"}}, s.material);
  a.number({"thickness", "Thickness", "", Quantity::Length, Range::Positive, Usually{"1 mm"}}, s.thickness);
  a.optionalNumber({"through", "Resistance beneath", "Gives it a temperature of its own.", Quantity::AreaResistance,
                    Range::Positive, Usually{"none, as warm as what it lies on"}},
                   s.through);
}

/// Electric current through parts that conduct it.
struct FixedVoltage {
  std::string surface;
  Number voltage; // V
  bool operator==(const FixedVoltage&) const = default;
};
template <class A>
void describe(A& a, FixedVoltage& f)
{
  a.reference(describing::stoodOn, f.surface);
  a.number({"voltage", "Voltage", "Held all over the surface.", Quantity::Voltage, Usually{"0 V"}}, f.voltage);
}

struct CurrentIn {
  std::string surface;
  Number current; // A, spread evenly, positive into the part
  bool operator==(const CurrentIn&) const = default;
};
template <class A>
void describe(A& a, CurrentIn& c)
{
  a.reference(describing::stoodOn, c.surface);
  a.number({"current", "Current", "Spread evenly, positive into the part.", Quantity::Current, Usually{"1 A"}},
           c.current);
}

struct Boundary : Object {
  std::variant<Convection, CorrelatedConvection, Radiation, FixedSurface, FixedPart, FixedPoint, BodyContact,
               FlowPassage, Sheet, FixedVoltage, CurrentIn>
      condition;
  std::optional<Number> from, until; // s, works only between
  bool muted = false;
  bool operator==(const Boundary&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<11> boundaryKinds{
    {{"convection", "Convection", "Heat to a fluid by a coefficient."},
     {"correlation", "Convection by correlation", "The coefficient follows the temperature of each place."},
     {"radiation", "Radiation", "Heat to surroundings that are seen, by the emissivity of the finish."},
     {"fixedSurface", "Fixed temperature", "A surface held at a temperature."},
     {"fixedPart", "Part at a temperature", "A whole part held at a temperature."},
     {"fixedPoint", "Point at a temperature", "The node of the mesh nearest to a place is held."},
     {"bodyContact", "Body not modelled", "Contact with a body at a temperature of its own."},
     {"flowPassage", "Flow passage", "A stream along a surface, warmed or cooled on its way."},
     {"sheet", "Sheet (thin layer)", "Conducts along the surface and stores heat; it is not meshed."},
     {"fixedVoltage", "Voltage", "Of a current through parts that conduct it."},
     {"currentIn", "Electric current", "Into a part that conducts it."}}};
} // namespace describing
template <class A>
void describe(A& a, Boundary& b)
{
  describeObject(a, b);
  a.choice({"kind", "Kind", ""}, b.condition, describing::boundaryKinds);
  a.optionalNumber({"workingFrom", "Works from", "", Quantity::Time, Usually{"the start"}}, b.from);
  a.optionalNumber({"workingUntil", "Works until", "", Quantity::Time, Usually{"the end"}}, b.until);
  a.flag({"muted", "Switched off", "As if it were not there."}, b.muted);
  a.unknown(b.unknown);
}

} // namespace kiln
