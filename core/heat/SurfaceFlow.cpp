// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/SurfaceFlow.h"

#include "heat/Element.h"
#include "heat/ThermalSystem.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

double cubed(double value) { return value * value * value; }

Vec3 placeAt(const Mesh& mesh, std::size_t triangle, const Vec3& l)
{
  const Triangle& corner = mesh.triangles[triangle];
  return l[0] * mesh.nodes[at(corner[0])] + l[1] * mesh.nodes[at(corner[1])] + l[2] * mesh.nodes[at(corner[2])];
}

} // namespace

TriangleFlow flowOf(const Conditions::FaceConvection& c, const Mesh& mesh, std::size_t triangle, const Vec3& corners)
{
  TriangleFlow flow;
  const double area = triangleArea(mesh, triangle);
  if (c.plain()) {
    flow.slope = triangleMass<1>(c.coefficient * area);
    flow.watts = flow.slope * (Vec3::Constant(c.ambient) - corners);
    return flow;
  }
  for (const TrianglePoint& point : trianglePoints()) {
    const double surface = point.l.dot(corners);
    const Vec3 place = placeAt(mesh, triangle, point.l);
    PropertyValue ambient{c.ambientAt ? c.ambientAt(place) : c.ambient, 0};
    if (c.ambientCurve)
      ambient = valueAt(*c.ambientCurve, surface);
    PropertyValue h{c.coefficientAt ? c.scale * c.coefficientAt(place) : c.coefficient, 0};
    if (c.curve) {
      h = valueAt(*c.curve, surface);
      h.value *= c.scale;
      h.slope *= c.scale;
    }
    const double weight = point.weight * area;
    flow.watts += weight * h.value * (ambient.value - surface) * point.l;
    // Where h falls so fast that the flux does too, the secant keeps the matrix positive.
    const double slope = std::max(h.value * (1 - ambient.slope) - h.slope * (ambient.value - surface), 0.0);
    flow.slope += weight * slope * point.l * point.l.transpose();
  }
  return flow;
}

TriangleFlow flowOf(const Conditions::FaceRadiation& r, const Mesh& mesh, std::size_t triangle, const Vec3& corners)
{
  TriangleFlow flow;
  const double factor = stefanBoltzmann * triangleArea(mesh, triangle);
  const double incoming = std::pow(r.surroundings, 4);
  for (const TrianglePoint& point : trianglePoints()) {
    const double local = point.l.dot(corners);
    PropertyValue emissivity{r.emissivity, 0};
    if (r.curve) {
      emissivity = valueAt(*r.curve, local);
      emissivity.value *= r.scale;
      emissivity.slope *= r.scale;
    }
    const double weight = factor * point.weight;
    const double drive = incoming - local * local * local * local;
    flow.watts += weight * emissivity.value * drive * point.l;
    const double slope = 4 * emissivity.value * cubed(std::max(local, 0.0)) - emissivity.slope * drive;
    flow.slope += weight * std::max(slope, 0.0) * point.l * point.l.transpose();
  }
  return flow;
}

TriangleFlow flowOf(const Conditions::FaceSheet& sheet, const Mesh& mesh, std::size_t triangle, const Vec3& corners)
{
  const Triangle& corner = mesh.triangles[triangle];
  std::array<Vec3, 3> opposite;
  for (std::size_t i = 0; i < 3; ++i)
    opposite[i] = mesh.nodes[at(corner[(i + 2) % 3])] - mesh.nodes[at(corner[(i + 1) % 3])];
  const double conductance = valueAt(*sheet.conductivity, corners.mean()).value * sheet.thickness;
  TriangleFlow flow;
  for (int i = 0; i < 3; ++i) // the gradient of a corner's share is its height's direction over its height
    for (int j = 0; j < 3; ++j)
      flow.slope(i, j) = conductance * opposite[at(i)].dot(opposite[at(j)]) / (4 * triangleArea(mesh, triangle));
  flow.watts = -flow.slope * corners;
  return flow;
}

TriangleFlow flowOf(const Conditions::FaceHeat& heat, const Mesh& mesh, std::size_t triangle)
{
  TriangleFlow flow;
  const double area = triangleArea(mesh, triangle);
  if (!heat.fluxAt) {
    flow.watts = heat.flux * triangleLoad<1>(area);
    return flow;
  }
  for (const TrianglePoint& point : trianglePoints())
    flow.watts += point.weight * area * heat.scale * heat.fluxAt(placeAt(mesh, triangle, point.l)) * point.l;
  return flow;
}

ContactFlow flowOf(const Conditions::FaceContact& c, const Mesh& mesh, std::size_t triangle, const Vec3& first,
                   const Vec3& second)
{
  ContactFlow flow;
  const double area = triangleArea(mesh, triangle);
  flow.slopeFirst = triangleMass<1>(c.conductance * area);
  flow.slopeSecond = flow.slopeFirst;
  flow.watts = flow.slopeFirst * (second - first);
  if (c.radiation <= 0)
    return flow;
  const double factor = stefanBoltzmann * c.radiation * area;
  for (const TrianglePoint& point : trianglePoints()) {
    const double a = point.l.dot(first);
    const double b = point.l.dot(second);
    const double weight = factor * point.weight;
    flow.watts += weight * (std::pow(b, 4) - std::pow(a, 4)) * point.l;
    flow.slopeFirst += 4 * weight * std::pow(std::max(a, 0.0), 3) * point.l * point.l.transpose();
    flow.slopeSecond += 4 * weight * std::pow(std::max(b, 0.0), 3) * point.l * point.l.transpose();
  }
  return flow;
}

double densityIn(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t tet)
{
  if (!heat.densityAt)
    return heat.density;
  Vec3 middle = Vec3::Zero();
  for (const std::int32_t node : mesh.tets[tet])
    middle += mesh.nodes[at(node)] / 4;
  return heat.scale * heat.densityAt(middle);
}

} // namespace kiln
