// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/SurfaceFlow.h"

#include "heat/elements/Element.h"
#include "heat/elements/Radiating.h"
#include "heat/elements/SparseMatrix.h"

#include <algorithm>
#include <type_traits>

namespace kiln
{
namespace
{

constexpr double infinite = std::numeric_limits<double>::infinity();

constexpr Bend follows{"a coefficient that follows the temperature",
                       "Give the surface a constant coefficient once, to see where the temperatures go."};
constexpr Bend conducts{"the conductivity of a sheet",
                        "Look for a jump in the table of its conductivity, and give the table more points there."};

} // namespace

std::optional<Bend> FaceConvection::bend() const
{
  return curve || ambientCurve ? std::optional(follows) : std::nullopt;
}

std::optional<Bend> FaceRadiation::bend() const { return bendOfRadiation; }

std::optional<Bend> FaceSheet::bend() const
{
  return conductivity->table.empty() ? std::nullopt : std::optional(conducts);
}

void FaceConvection::outside(const HeatGround& ground, TemperatureSpan& span) const
{
  if (ambientCurve) {
    for (const TablePoint& point : ambientCurve->table)
      span.take(point.value.si);
    return;
  }
  if (!ambientAt)
    return span.take(ambient);
  const Mesh& mesh = ground.mesh();
  for (const std::int32_t e : ground.elementsOf(face))
    for (const NodeId node : placesOf(mesh, static_cast<std::size_t>(e)))
      span.take(ambientAt(mesh.placeOf(node)));
}

namespace
{

/// Is it the same all over the face, whatever the temperatures are?
template <class OnFace>
bool isEven(const OnFace&)
{
  return false;
}
bool isEven(const FaceConvection& c) { return !c.curve && !c.coefficientAt && !c.ambientAt && !c.ambientCurve; }
/// Of such a one: W/m² that come in at 0 K, and how they fall with temperature, W/(m²·K).
template <class OnFace>
double evenFlux(const OnFace&)
{
  return 0;
}
double evenFlux(const FaceConvection& c) { return c.coefficient * c.ambient; }
template <class OnFace>
double evenSlope(const OnFace&)
{
  return 0;
}
double evenSlope(const FaceConvection& c) { return c.coefficient; }

} // namespace

namespace
{

/// What comes in per area at a place, W/m², and how it falls with the temperature there, W/(m²·K).
struct LocalFlow {
  double flux, slope;
};

/// Integrated at the points of the element; at first order these are its nodes, each with a third of the area.
/// \param law  from the temperature of a point and a function that gives its place
template <class Law>
SurfaceFlow integrated(const Mesh& mesh, std::size_t element, const NodeVector& values, Law&& law)
{
  SurfaceFlow flow(mesh);
  if (mesh.order == 1) {
    const double third = triangleArea(mesh, element) / 3;
    for (Eigen::Index i = 0; i < 3; ++i) {
      const LocalFlow local = law(values[i], [&] { return placeAt(mesh, element, Vec3::Unit(i)); });
      flow.watts[i] = third * local.flux;
      flow.slope(i, i) = third * local.slope;
    }
    return flow;
  }
  for (const SurfacePoint& point : pointsOf(mesh, element)) {
    const NodeVector& n = point.shape;
    const LocalFlow local = law(n.dot(values), [&] { return placeAt(mesh, element, point.l); });
    flow.watts += point.area * local.flux * n;
    flow.slope += point.area * local.slope * n * n.transpose();
  }
  return flow;
}

} // namespace

SurfaceFlow flowOf(const FaceConvection& c, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  if (isEven(c)) {
    if (mesh.order == 1)
      return integrated(mesh, element, values, [&](double surface, auto&&) {
        return LocalFlow{c.coefficient * (c.ambient - surface), c.coefficient};
      });
    SurfaceFlow flow(mesh);
    flow.slope = c.coefficient * elementMass(mesh, element);
    flow.watts = flow.slope * (NodeVector::Constant(values.size(), c.ambient) - values);
    return flow;
  }
  return integrated(mesh, element, values, [&](double surface, auto&& place) {
    PropertyValue ambient{c.ambientAt ? c.ambientAt(place()) : c.ambient, 0};
    if (c.ambientCurve)
      ambient = valueAt(*c.ambientCurve, surface);
    PropertyValue h{c.coefficientAt ? c.scale * c.coefficientAt(place()) : c.coefficient, 0};
    if (c.curve) {
      h = valueAt(*c.curve, surface);
      h.value *= c.scale;
      h.slope *= c.scale;
    }
    // Where h falls so fast that the flux does too, the secant keeps the matrix positive.
    const double slope = h.value * (1 - ambient.slope) - h.slope * (ambient.value - surface);
    return LocalFlow{h.value * (ambient.value - surface), std::max(slope, 0.0)};
  });
}

SurfaceFlow flowOf(const FaceRadiation& r, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  const double incoming = fourth(r.surroundings);
  return integrated(mesh, element, values, [&](double surface, auto&&) {
    PropertyValue emissivity{r.emissivity, 0};
    if (r.curve) {
      emissivity = valueAt(*r.curve, surface);
      emissivity.value *= r.scale;
      emissivity.slope *= r.scale;
    }
    const double drive = incoming - fourth(surface);
    const double slope = emissivity.value * slopeOfFourth(surface) - emissivity.slope * drive;
    return LocalFlow{stefanBoltzmann * emissivity.value * drive, stefanBoltzmann * std::max(slope, 0.0)};
  });
}

SurfaceFlow flowOf(const FaceSheet& sheet, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  SurfaceFlow flow(mesh);
  std::vector<double> across; // k δ by point, W/K
  for (const SurfacePoint& point : pointsOf(mesh, element))
    across.push_back(sheet.thickness * valueAt(*sheet.conductivity, point.shape.dot(values)).value);
  flow.slope = elementStiffness(mesh, element, across);
  flow.watts = -flow.slope * values;
  return flow;
}

SurfaceFlow flowOf(const FaceHeat& heat, const Mesh& mesh, std::size_t element, const NodeVector&)
{
  SurfaceFlow flow(mesh);
  if (heat.fluxAt && mesh.order == 1) { // prescribed, not exchanged: all of it counts, not that at the nodes alone
    const double area = elementArea(mesh, element);
    for (const TrianglePoint& point : trianglePoints())
      flow.watts += point.weight * area * heat.scale * heat.fluxAt(placeAt(mesh, element, point.l)) * point.l;
    return flow;
  }
  for (const SurfacePoint& point : pointsOf(mesh, element))
    flow.watts += point.area * (heat.fluxAt ? heat.scale * heat.fluxAt(placeAt(mesh, element, point.l)) : heat.flux) *
                  point.shape;
  return flow;
}

template <class OnFace>
template <class Visit>
void FaceFlow<OnFace>::eachElement(const HeatGround& ground, const OnFace& own, Visit&& visit) const
{
  for (const std::int32_t e : ground.elementsOf(own.face))
    visit(static_cast<std::size_t>(e));
}

template <class OnFace>
std::optional<Bend> FaceFlow<OnFace>::bend() const
{
  for (const OnFace& own : faces_)
    if (const auto bend = own.bend())
      return bend;
  return std::nullopt;
}

template <class OnFace>
void FaceFlow<OnFace>::addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const
{
  for (const OnFace& own : faces_)
    if (isEven(own)) {
      const FaceMass& mass = ground.massOf(own.face, matrix);
      for (const auto& [position, area] : mass.lower)
        matrix.values[static_cast<std::size_t>(position)] += evenSlope(own) * area;
      for (const auto& [unknown, area] : mass.load)
        load[static_cast<std::size_t>(unknown)] += evenFlux(own) * area;
    } else if (!own.bend())
      eachElement(ground, own, [&](std::size_t e) {
        const SurfaceNodes nodes = ground.nodes(e);
        const SurfaceFlow flow =
            flowOf(own, ground.mesh(), e, NodeVector::Zero(static_cast<Eigen::Index>(nodes.count)));
        addTo(nodes, flow.watts, load);
        if constexpr (!std::is_same_v<OnFace, FaceHeat>)
          addLower(nodes, nodes, flow.slope, matrix);
      });
}

template <class OnFace>
void FaceFlow<OnFace>::addFlow(const HeatGround& ground, std::span<const double> temperature,
                               std::span<double> balance) const
{
  for (const OnFace& own : faces_)
    if (own.bend())
      eachElement(ground, own, [&](std::size_t e) {
        addTo(ground.nodes(e), flowOf(own, ground.mesh(), e, ground.values(e, 0, temperature)).watts, balance);
      });
}

template <class OnFace>
void FaceFlow<OnFace>::addSlope(const HeatGround& ground, std::span<const double> temperature,
                                SparseMatrix& matrix) const
{
  for (const OnFace& own : faces_)
    if (own.bend())
      eachElement(ground, own, [&](std::size_t e) {
        const SurfaceNodes nodes = ground.nodes(e);
        addLower(nodes, nodes, flowOf(own, ground.mesh(), e, valuesAt(nodes, temperature)).slope, matrix);
      });
}

template <class OnFace>
void FaceFlow<OnFace>::arrivals(const HeatGround& ground, const FlowState& state, std::span<const char>,
                                const ArrivalVisit& visit) const
{
  for (const OnFace& own : faces_)
    eachElement(ground, own, [&](std::size_t e) {
      const SurfaceNodes nodes = ground.nodes(e);
      const SurfaceFlow flow = flowOf(own, ground.mesh(), e, valuesAt(nodes, state.temperature));
      visit({ground.partAt(own.face, 0),
             own.face,
             {nodes.begin(), nodes.count},
             {flow.watts.data(), static_cast<std::size_t>(flow.watts.size())}});
    });
}

template <class OnFace>
std::vector<FlowFigure> FaceFlow<OnFace>::figures(const HeatGround& ground, const FlowState& state) const
{
  if constexpr (std::is_same_v<OnFace, FaceSheet>)
    return {}; // it only moves heat
  else
    return HeatFlow::figures(ground, state);
}

template <class OnFace>
std::vector<FlowFigure> FaceFlow<OnFace>::figuresFrom(const HeatGround&, const FlowState&, double arrived) const
{
  if constexpr (std::is_same_v<OnFace, FaceSheet>)
    return {};
  else
    return {{owner(), arrived, arrived}};
}

/// Face by face: a boundary may bring heat in at one place and take it out at another.
template <class OnFace>
void FaceFlow<OnFace>::addPassing(const HeatGround& ground, const FlowState& state, Passing& passing) const
{
  if constexpr (!std::is_same_v<OnFace, FaceSheet>)
    for (const OnFace& own : faces_) {
      double watts = 0;
      eachElement(ground, own, [&](std::size_t e) {
        watts += flowOf(own, ground.mesh(), e, ground.values(e, 0, state.temperature)).watts.sum();
      });
      passing.take(watts);
    }
}

template <class OnFace>
void FaceFlow<OnFace>::outside(const HeatGround& ground, TemperatureSpan& span) const
{
  for (const OnFace& own : faces_)
    own.outside(ground, span);
}

template <class OnFace>
void FaceFlow<OnFace>::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  if constexpr (std::is_same_v<OnFace, FaceHeat>)
    for (const FaceHeat& own : faces_)
      visit(
          {noPart, own.fluxAt ? -infinite : std::min(own.flux, 0.0), own.fluxAt ? infinite : std::max(own.flux, 0.0)});
}

template <class OnFace>
void FaceFlow<OnFace>::ownVolumes(const HeatGround& ground, const std::function<void(const OwnVolume&)>& visit) const
{
  if constexpr (std::is_same_v<OnFace, FaceSheet>)
    for (const FaceSheet& own : faces_)
      eachElement(ground, own, [&](std::size_t e) {
        const SurfaceNodes nodes = ground.nodes(e);
        const VolumeMatrix volume = ground.mesh().order == 2
                                        ? VolumeMatrix(own.thickness * elementMass(ground.mesh(), e))
                                        : VolumeMatrix(own.thickness * elementLoad(ground.mesh(), e));
        visit({own.material, ground.partAt(own.face, 0), {nodes.begin(), nodes.count}, volume});
      });
}

template class FaceFlow<FaceHeat>;
template class FaceFlow<FaceConvection>;
template class FaceFlow<FaceRadiation>;
template class FaceFlow<FaceSheet>;

} // namespace kiln
