// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/SurfaceFlow.h"

#include "heat/Element.h"
#include "heat/ThermalSystem.h" // the Stefan–Boltzmann constant

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

double cubed(double value) { return value * value * value; }

} // namespace

SurfaceFlow flowOf(const Conditions::FaceConvection& c, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  SurfaceFlow flow(mesh);
  if (c.plain()) {
    flow.slope = c.coefficient * elementMass(mesh, element);
    flow.watts = flow.slope * (NodeVector::Constant(values.size(), c.ambient) - values);
    return flow;
  }
  for (const SurfacePoint& point : pointsOf(mesh, element)) {
    const NodeVector& n = point.shape;
    const double surface = n.dot(values);
    const Vec3 place = placeAt(mesh, element, point.l);
    PropertyValue ambient{c.ambientAt ? c.ambientAt(place) : c.ambient, 0};
    if (c.ambientCurve)
      ambient = valueAt(*c.ambientCurve, surface);
    PropertyValue h{c.coefficientAt ? c.scale * c.coefficientAt(place) : c.coefficient, 0};
    if (c.curve) {
      h = valueAt(*c.curve, surface);
      h.value *= c.scale;
      h.slope *= c.scale;
    }
    const double weight = point.area;
    flow.watts += weight * h.value * (ambient.value - surface) * n;
    // Where h falls so fast that the flux does too, the secant keeps the matrix positive.
    const double slope = std::max(h.value * (1 - ambient.slope) - h.slope * (ambient.value - surface), 0.0);
    flow.slope += weight * slope * n * n.transpose();
  }
  return flow;
}

SurfaceFlow flowOf(const Conditions::FaceRadiation& r, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  SurfaceFlow flow(mesh);
  const double incoming = std::pow(r.surroundings, 4);
  for (const SurfacePoint& point : pointsOf(mesh, element)) {
    const NodeVector& n = point.shape;
    const double local = n.dot(values);
    PropertyValue emissivity{r.emissivity, 0};
    if (r.curve) {
      emissivity = valueAt(*r.curve, local);
      emissivity.value *= r.scale;
      emissivity.slope *= r.scale;
    }
    const double weight = stefanBoltzmann * point.area;
    const double drive = incoming - local * local * local * local;
    flow.watts += weight * emissivity.value * drive * n;
    const double slope = 4 * emissivity.value * cubed(std::max(local, 0.0)) - emissivity.slope * drive;
    flow.slope += weight * std::max(slope, 0.0) * n * n.transpose();
  }
  return flow;
}

SurfaceFlow flowOf(const Conditions::FaceSheet& sheet, const Mesh& mesh, std::size_t element, const NodeVector& values)
{
  SurfaceFlow flow(mesh);
  std::vector<double> across; // k δ by point, W/K
  for (const SurfacePoint& point : pointsOf(mesh, element))
    across.push_back(sheet.thickness * valueAt(*sheet.conductivity, point.shape.dot(values)).value);
  flow.slope = elementStiffness(mesh, element, across);
  flow.watts = -flow.slope * values;
  return flow;
}

SurfaceFlow flowOf(const Conditions::FaceHeat& heat, const Mesh& mesh, std::size_t element)
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

ContactFlow flowOf(const Conditions::FaceContact& c, const Mesh& mesh, std::size_t element, const NodeVector& first,
                   const NodeVector& second)
{
  ContactFlow flow;
  flow.slopeFirst = c.conductance * elementMass(mesh, element);
  flow.slopeSecond = flow.slopeFirst;
  flow.watts = flow.slopeFirst * (second - first);
  if (c.radiation <= 0)
    return flow;
  for (const SurfacePoint& point : pointsOf(mesh, element)) {
    const NodeVector& n = point.shape;
    const double a = n.dot(first);
    const double b = n.dot(second);
    const double weight = stefanBoltzmann * c.radiation * point.area;
    flow.watts += weight * (std::pow(b, 4) - std::pow(a, 4)) * n;
    flow.slopeFirst += 4 * weight * std::pow(std::max(a, 0.0), 3) * n * n.transpose();
    flow.slopeSecond += 4 * weight * std::pow(std::max(b, 0.0), 3) * n * n.transpose();
  }
  return flow;
}

double densityIn(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t tet)
{
  if (!heat.densityAt)
    return heat.density;
  Vec3 middle = Vec3::Zero();
  for (const std::int32_t node : mesh.tets[tet])
    middle += mesh.placeOf(node) / 4;
  return heat.scale * heat.densityAt(middle);
}

} // namespace kiln
