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
struct PartDensity {
  std::vector<std::string> parts;
  Property density; // W/m³
  bool operator==(const PartDensity&) const = default;
};
struct SurfacePower {
  std::string surface;
  Property power; // W, shared by area
  bool operator==(const SurfacePower&) const = default;
};
struct SurfaceFlux {
  std::string surface;
  Property flux; // W/m², positive into the solid
  bool operator==(const SurfaceFlux&) const = default;
};
struct PointPower {
  Number3 place;
  Property power; // W
  bool operator==(const PointPower&) const = default;
};
/// Directed heat, as of the sun: parallel rays that the model itself shades, caught by the absorptance of the finish.
struct Beam {
  std::vector<std::string> surfaces; ///< that catch it
  Number3 from;                      ///< direction in which it is seen
  Number flux;                       // W/m² across the rays
  bool operator==(const Beam&) const = default;
};

/// Switches a source on below and off above a set point, half a band away; or, graded, turns it down within the band.
struct Thermostat {
  std::string watch;
  Number setPoint; // K
  Number band;     // K, the whole of it
  bool graded = false;
  UnknownKeys unknown;
  bool operator==(const Thermostat&) const = default;
};

struct HeatSource : Object {
  std::variant<PartPower, PartDensity, SurfacePower, SurfaceFlux, PointPower, Beam> heat;
  std::string follows;               ///< its table runs against: empty, each place; "mean", its own mean; or a watch
  std::optional<Number> from, until; // s, works only between
  std::optional<Thermostat> thermostat;
  bool muted = false;
  bool operator==(const HeatSource&) const = default;
};

struct Convection {
  std::string surface;
  Property coefficient;    // W/(m²·K), a table runs against the surface temperature
  Property ambient;        // K, likewise
  std::string situation{}; // name of the CoefficientRange it is meant for, may be empty
  std::string node{};      // lumped node that is its ambient, may be empty
  bool operator==(const Convection&) const = default;
};
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
/// A surface against a body that is not modelled, at a temperature of its own.
struct BodyContact {
  std::string surface;
  Number conductance, temperature; // W/(m²·K), K
  std::string node{};              // lumped node that is the body, may be empty
  bool operator==(const BodyContact&) const = default;
};
struct Radiation {
  std::string surface;
  Number surroundings, viewFactor{1, "1"}; // K, –
  std::string node{};                      // lumped node that is the surroundings, may be empty
  bool operator==(const Radiation&) const = default;
};
struct FixedSurface {
  std::string surface;
  Number temperature; // K
  bool operator==(const FixedSurface&) const = default;
};
struct FixedPart {
  std::string part;
  Number temperature; // K
  bool operator==(const FixedPart&) const = default;
};
/// Holds the mesh node nearest to the place.
struct FixedPoint {
  Number3 place;
  Number temperature; // K
  bool operator==(const FixedPoint&) const = default;
};

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
/// Electric current through parts that conduct it.
struct FixedVoltage {
  std::string surface;
  Number voltage; // V
  bool operator==(const FixedVoltage&) const = default;
};
struct CurrentIn {
  std::string surface;
  Number current; // A, spread evenly, positive into the part
  bool operator==(const CurrentIn&) const = default;
};
/// A thin conducting layer on a surface that is not meshed: it conducts along the surface and stores heat, and is as
/// warm as the surface beneath.
struct Sheet {
  std::string surface, material;
  Number thickness;                // m
  std::optional<Number> through{}; // m²·K/W between it and what it lies on; nothing: it is as warm as that
  bool operator==(const Sheet&) const = default;
};

struct Boundary : Object {
  std::variant<Convection, Radiation, FixedSurface, FixedPart, FixedPoint, CorrelatedConvection, BodyContact,
               FlowPassage, FixedVoltage, CurrentIn, Sheet>
      condition;
  std::optional<Number> from, until; // s, works only between
  bool muted = false;
  bool operator==(const Boundary&) const = default;
};

struct PerfectContact {
  bool operator==(const PerfectContact&) const = default;
};
struct NoContact {
  bool operator==(const NoContact&) const = default;
};
struct AreaConductance {
  Number conductance; // W/(m²·K)
  bool operator==(const AreaConductance&) const = default;
};
struct AreaResistance {
  Number resistance; // m²·K/W
  bool operator==(const AreaResistance&) const = default;
};
struct TotalResistance {
  Number resistance; // K/W over the whole touching area
  bool operator==(const TotalResistance&) const = default;
};

/// A thin layer of something between the parts, with radiation across it where both emissivities are given.
struct Gap {
  Number thickness, conductivity; // m, W/(m·K)
  std::optional<Number> emissivityA, emissivityB;
  bool operator==(const Gap&) const = default;
};

/// How two parts exchange heat: through the faces they share or, where they share none and it is a gap, across the
/// empty space between faces that look at each other. A touching pair without one is perfect and says so.
struct Contact : Object {
  std::string partA, partB;
  std::string surface; ///< of the shared faces only those in it; empty: all that no other contact of the pair names
  std::variant<PerfectContact, NoContact, AreaConductance, AreaResistance, TotalResistance, Gap> exchange;
  std::optional<Number> electricResistance; // Ω·m², nothing: current passes freely where heat passes
  bool operator==(const Contact&) const = default;
};

/// Surfaces that see each other and exchange grey-body radiation. Their emissivities come from finishes and materials.
struct Enclosure : Object {
  std::vector<std::string> surfaces; // ids
  std::optional<Number> opening;     // K, what is seen where the surfaces do not close the space
  std::optional<Number> patchSize;   // m, nothing: chosen from the area
  std::optional<Number> rays;        // from each patch
  bool muted = false;
  bool operator==(const Enclosure&) const = default;
};

} // namespace kiln
