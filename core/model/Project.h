// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Shape.h"
#include "units/Quantity.h"

#include <array>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace kiln
{

/// What every named object has. The id never changes and is what others refer to; the name is free.
struct Object {
  std::string id;
  std::string name;
  std::string comment;
  UnknownKeys unknown;
  bool operator==(const Object&) const = default;
};

/// A value measured at a place.
struct PlacedPoint {
  std::array<double, 3> place{}; ///< m
  double value = 0;              ///< SI
  bool operator==(const PlacedPoint&) const = default;
};

/// A value against time. Its points lie at increasing times, s after the start of the run.
struct Schedule {
  enum class Between { Lines, Steps };
  enum class Beyond { Holds, Zero, Repeats, Refused };
  std::vector<TablePoint> points; ///< s, SI of the parameter's quantity
  Between between = Between::Lines;
  Beyond beyond = Beyond::Holds;
  std::optional<Number> shift; // s later
  std::optional<Number> scale; // times
  std::string from;            ///< the file the points were read from
  UnknownKeys unknown;
  bool operator==(const Schedule&) const = default;
};

/// A named value, used by its name in the formulas of any field.
struct Parameter : Object {
  Quantity quantity = Quantity::Plain;
  Number value;
  std::optional<Number> low, high;  ///< ends of its slider
  std::vector<PlacedPoint> points;  ///< where there are any, it varies in place and its value is their mean
  std::string pointsFrom;           ///< the file they were read from
  std::optional<Schedule> schedule; ///< where there is one, it varies in time and its value is the first
  bool operator==(const Parameter&) const = default;
};

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
  std::string source;                                   // where the values come from
  bool operator==(const Material&) const = default;
};

/// The emissivity of surfaces, apart from the material beneath. A later finish wins over an earlier one.
struct Finish : Object {
  Property emissivity;
  std::optional<Number> solarAbsorptance;
  std::vector<std::string> surfaces;
  bool operator==(const Finish&) const = default;
};

/// Parts that are folded, muted, summed and watched as one.
struct PartGroup : Object {
  bool muted = false;
  bool operator==(const PartGroup&) const = default;
};

struct Part : Object {
  std::string material;
  std::string group; // id, may be empty
  PlacedForm shape;
  std::vector<ShapeStep> steps;
  Repeat repeat;                     // of the whole body; the copies are one part
  std::vector<std::string> yieldsTo; // part ids that keep the space where they overlap this one
  Number3 materialAxes;              // rad, turns the material's axes within the part's frame
  std::optional<Number> meshSize;    // m
  bool muted = false;                // left out of the model
  bool operator==(const Part&) const = default;
};

/// Faces whose normals all lie within an angle of a direction.
struct Facing {
  Number3 direction;
  Number within; // rad
  bool operator==(const Facing&) const = default;
};

/// Faces whose middle lies between two corners; a missing bound leaves that side open.
struct Within {
  std::optional<Number> lowX, highX, lowY, highY, lowZ, highZ; // m
  bool operator==(const Within&) const = default;
};

/// Faces whose middle lies no farther than a distance from a place.
struct Near {
  Number3 place;
  Number distance;
  bool operator==(const Near&) const = default;
};

/// A rule: exposed faces of parts and named faces, kept where they face a direction, lie within a box and near a
/// place, minus other surfaces; then faces picked by hand are added and left out.
struct Surface : Object {
  std::vector<std::string> exposedOf; // part or part group ids
  std::vector<std::string> faces;     // lasting names, "shell.top" or, for every face of a part, "shell.*"
  std::optional<Facing> facing;
  std::optional<Within> within;
  std::optional<Near> near;
  std::vector<std::string> except;  // surface ids
  std::vector<std::string> added;   // lasting names, picked by hand, whatever the rest of the rule says
  std::vector<std::string> without; // lasting names, left out by hand
  bool operator==(const Surface&) const = default;
};

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

struct Boundary : Object {
  std::variant<Convection, Radiation, FixedSurface, FixedPart, FixedPoint, CorrelatedConvection, BodyContact,
               FlowPassage, FixedVoltage, CurrentIn>
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

struct NoStore {
  bool operator==(const NoStore&) const = default;
};
struct CapacityStore {
  Number capacity; // J/K
  bool operator==(const CapacityStore&) const = default;
};
struct MassStore {
  Number mass, specificHeat; // kg, J/(kg·K)
  bool operator==(const MassStore&) const = default;
};
struct FluidStore {
  Number volume; // m³
  Fluid fluid = Fluid::Air;
  bool operator==(const FluidStore&) const = default;
};
/// One temperature for something that is not meshed.
struct Node : Object {
  std::variant<NoStore, CapacityStore, MassStore, FluidStore> storage;
  std::optional<Property> power;              // W, a table runs against its own temperature
  std::optional<Number> temperature;          // K, holds it
  std::optional<Number> acrossPage, downPage; ///< where it is drawn in the network, shares of the page
  bool muted = false;
  bool operator==(const Node&) const = default;
};

// The ends of links are ids of nodes, parts (the whole body, by volume) or surfaces (by area).
struct Conductor {
  std::string endA, endB;
  Number conductance; // W/K
  bool operator==(const Conductor&) const = default;
};
/// σ X (T_A⁴ − T_B⁴)
struct RadiationLink {
  std::string endA, endB;
  Number exchangeArea; // X, m²
  bool operator==(const RadiationLink&) const = default;
};
/// One-way: carries ṁ c_p (T_upstream − T) into the downstream node.
struct FlowLink {
  std::string upstream, downstream; ///< nodes
  Number massFlow, specificHeat;    // kg/s, J/(kg·K)
  bool operator==(const FlowLink&) const = default;
};
struct Link : Object {
  std::variant<Conductor, RadiationLink, FlowLink> exchange;
  bool muted = false;
  bool operator==(const Link&) const = default;
};

/// A field that has another value in one case: "room.ambient" → 35 °C.
struct Change {
  std::string field;
  Number value;
  bool operator==(const Change&) const = default;
};

struct PartStart {
  std::string id; ///< of the part
  Number temperature;
  bool operator==(const PartStart&) const = default;
};
struct StartUniform {
  Number temperature{293.15, "20 °C"}; // K
  std::vector<PartStart> parts;        ///< that start otherwise
  bool operator==(const StartUniform&) const = default;
};
/// The steady state of the same case, with schedules as they are at its start.
struct StartSteady {
  bool operator==(const StartSteady&) const = default;
};
struct StartFromCase {
  std::string of;                ///< case id
  std::optional<Number> instant; // s, nothing: its end
  bool operator==(const StartFromCase&) const = default;
};

struct EndAtTime {
  Number time; // s
  bool operator==(const EndAtTime&) const = default;
};
/// No temperature changes faster.
struct EndSettled {
  Number rate{1.0 / 60, "1 K/min"}; // K/s
  bool operator==(const EndSettled&) const = default;
};
struct EndAtValue {
  std::string watch;
  Number value; // K
  bool falling = false;
  bool operator==(const EndAtValue&) const = default;
};
struct EndRule {
  std::string id;
  std::variant<EndAtTime, EndSettled, EndAtValue> when;
  UnknownKeys unknown;
  bool operator==(const EndRule&) const = default;
};

/// When a watch passes a value, something else changes.
struct RunRule {
  std::string id;
  std::string watch;
  Number value; // K
  bool falling = false;
  std::vector<Change> set;
  std::vector<std::string> mute, unmute; ///< ids
  bool end = false;
  UnknownKeys unknown;
  bool operator==(const RunRule&) const = default;
};

/// How a transient case runs.
struct TransientRun {
  std::variant<StartSteady, StartUniform, StartFromCase> start;
  std::optional<Number> startTime;   // s
  std::vector<EndRule> ends;         ///< any of them; none: settled
  bool endWhenAll = false;           ///< all of them
  std::optional<Number> longest;     // s, it ends then at the latest
  std::optional<Number> tolerance;   // K, error of a step
  std::optional<Number> largestStep; // s
  std::optional<Number> storeWithin; // K, what lines between stored instants may miss
  std::optional<Number> storeEvery;  // s, instead of that
  bool thenSteady = false;           ///< the steady state it would have gone to is solved, too
  std::vector<RunRule> rules;
  UnknownKeys unknown;
  bool operator==(const TransientRun&) const = default;
};

struct Case : Object {
  std::string kind = "steady"; ///< or "transient"
  std::vector<Change> changes;
  std::optional<TransientRun> run; ///< of a transient case
  bool operator==(const Case&) const = default;
};

struct PartFigure {
  enum class Kind { Hottest, Coldest, Mean, Spread };
  Kind kind = Kind::Hottest;
  std::vector<std::string> parts;
  bool operator==(const PartFigure&) const = default;
};
struct SurfaceFigure {
  PartFigure::Kind kind = PartFigure::Kind::Hottest;
  std::string surface;
  bool operator==(const SurfaceFigure&) const = default;
};
struct PointFigure {
  Number3 place;
  bool operator==(const PointFigure&) const = default;
};
/// Heat into the solid through a surface, W.
struct SurfaceHeat {
  std::string surface;
  bool operator==(const SurfaceHeat&) const = default;
};
/// Heat from part A to part B through their contact, W.
struct ContactHeat {
  std::string partA, partB;
  bool operator==(const ContactHeat&) const = default;
};

struct NodeFigure {
  std::string node; ///< or a flow passage: its outlet
  bool operator==(const NodeFigure&) const = default;
};
/// Heat through a link, from A to B, W.
struct LinkHeat {
  std::string link;
  bool operator==(const LinkHeat&) const = default;
};
/// Share of the parts' material that is molten.
struct MoltenShare {
  std::vector<std::string> parts;
  bool operator==(const MoltenShare&) const = default;
};
/// Difference of two temperature watches over a heat watch, K/W.
struct BetweenWatches {
  std::string hot, cold, heat; ///< watch ids
  bool operator==(const BetweenWatches&) const = default;
};

struct Watch : Object {
  std::variant<PartFigure, SurfaceFigure, PointFigure, SurfaceHeat, ContactHeat, NodeFigure, LinkHeat, MoltenShare,
               BetweenWatches>
      figure;
  std::optional<Number> upper, lower; // in its quantity
  bool operator==(const Watch&) const = default;
};

struct ShapeSettings {
  std::optional<Number> tolerance; // m, nothing: fuseTolerance
  UnknownKeys unknown;
  bool operator==(const ShapeSettings&) const = default;
};

struct MeshSettings {
  std::optional<Number> size; // m, nothing: chosen from the parts
  UnknownKeys unknown;
  bool operator==(const MeshSettings&) const = default;
};

/// What correlations need to know once a project.
struct Environment {
  Number3 gravity{{0, {}}, {0, {}}, {-1, {}}}; // direction
  Number airPressure{101325, "101.325 kPa"};   // Pa
  UnknownKeys unknown;
  bool operator==(const Environment&) const = default;
};

/// Everything the engineer set. Compared and copied by value.
struct Project {
  std::string name;
  std::string comment;
  std::vector<Parameter> parameters;
  std::vector<Material> materials;
  std::vector<Finish> finishes;
  std::vector<PartGroup> groups;
  std::vector<Part> parts;
  std::vector<Surface> surfaces;
  std::vector<HeatSource> sources;
  std::vector<Boundary> boundaries;
  std::vector<Contact> contacts;
  std::vector<Enclosure> enclosures;
  std::vector<Node> nodes;
  std::vector<Link> links;
  std::vector<Case> cases;
  std::vector<Watch> watches;
  ShapeSettings shapes;
  MeshSettings mesh;
  std::optional<Environment> environment; // nothing: not asked yet, the usual values count
  UnknownKeys unknown;
  bool operator==(const Project&) const = default;
};

/// First element with this id, or nullptr.
template <class List>
[[nodiscard]] auto* findById(List& list, const std::string& id)
{
  for (auto& item : list)
    if (item.id == id)
      return &item;
  return static_cast<decltype(&list.front())>(nullptr);
}

[[nodiscard]] Quantity quantityOf(const Watch& watch);                ///< of its figure
[[nodiscard]] const std::string& nodeOf(const Boundary& boundary);    ///< its ambient, empty when it has none
[[nodiscard]] const std::string& surfaceOf(const Boundary& boundary); ///< id, empty when it has none
[[nodiscard]] const std::string& surfaceOf(const HeatSource& source);

/// "watch-1", "watch-2", … : the first that no object of the project has.
[[nodiscard]] std::string freeId(const Project& project, const std::string& base);

/// Id that a touching pair goes by while no contact is set for it: "shell|fibre".
[[nodiscard]] std::string pairId(const std::string& partA, const std::string& partB);

/// Touching pair as one contact whatever the order of the parts.
[[nodiscard]] const Contact* findContact(const Project& project, const std::string& partA, const std::string& partB);

} // namespace kiln
