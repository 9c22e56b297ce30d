// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/GapCrossing.h"

#include "heat/DirectedHeat.h"
#include "heat/Element.h"
#include "heat/SparseMatrix.h"
#include "heat/ThermalSystem.h"
#include "mesh/RayScene.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

/// Unknowns and weights of both sides: the temperature difference A − B is the sum of weight × temperature.
struct Ends {
  std::array<Index, 12> unknown{};
  std::array<double, 12> weight{};
  std::size_t count = 0, ofA = 0; ///< the first ones are those of A
};

Ends endsOf(const Mesh& mesh, const Unknowns& unknowns, const GapPoint& point)
{
  Ends ends;
  const auto add = [&](std::size_t element, const NodeVector& shape, double sign) {
    const SurfaceNodes nodes = nodesOf(mesh, unknowns, element, 0);
    for (std::size_t i = 0; i < nodes.count; ++i) {
      ends.unknown[ends.count] = nodes.own[i];
      ends.weight[ends.count++] = sign * shape[static_cast<Eigen::Index>(i)];
    }
  };
  add(point.elementA, point.shapeA, 1);
  ends.ofA = ends.count;
  add(point.elementB, point.shapeB, -1);
  return ends;
}

struct Pair {
  double a = 0, b = 0;
};

Pair valuesAt(const Ends& ends, std::span<const double> field)
{
  Pair values;
  for (std::size_t i = 0; i < ends.count; ++i)
    (i < ends.ofA ? values.a : values.b) += ends.weight[i] * field[at(ends.unknown[i])];
  values.b = -values.b;
  return values;
}

/// Spreads a flow from A to B over the unknowns of both sides.
void spread(const Ends& ends, double watts, std::span<double> balance)
{
  for (std::size_t i = 0; i < ends.count; ++i)
    balance[at(ends.unknown[i])] -= ends.weight[i] * watts;
}

double slopeOfT4(double temperature) { return 4 * std::pow(std::max(temperature, 0.0), 3); }

} // namespace

std::vector<GapPoint> pointsAcross(const Mesh& mesh, int partA, int partB, double reach)
{
  const std::vector<std::size_t> exposed = exposedTriangles(mesh);
  const RayScene scene(mesh, exposed);
  const std::vector<double> meshed = meshedAreas(mesh);
  double size = 0; // of the model, m: rays are only that precise
  for (const GeometryPart& part : mesh.geometry.parts)
    size = std::max({size, part.high.cwiseAbs().maxCoeff(), part.low.cwiseAbs().maxCoeff()});
  const double nearest = std::max(1e-3 * reach, 3e-7 * size);
  std::vector<GapPoint> points;
  const auto partOf = [&](std::size_t t) { return mesh.geometry.faces[at(mesh.triangleFace[t])].parts[0]; };
  for (const std::size_t t : exposed) {
    if (partOf(t) != partA)
      continue;
    const Vec3 normal = triangleNormal(mesh, t);
    const auto face = at(mesh.triangleFace[t]);
    const double area = triangleArea(mesh, t) * mesh.geometry.faces[face].area / meshed[face];
    // So many that the elements of the other side, which may be smaller, are met evenly.
    constexpr int cuts = 4;
    for (const Vec3& middle : evenPlaces(cuts))
      for (const TrianglePoint& point : trianglePoints()) {
        const bool upright = std::lround(middle[0] * 3 * cuts) % 3 == 1; // the cells between stand on their heads
        const Vec3 l = middle + (upright ? 1.0 : -1.0) * (point.l - Vec3::Constant(1.0 / 3)) / cuts;
        Vec3 place = Vec3::Zero();
        for (std::size_t i = 0; i < 3; ++i)
          place += l[static_cast<Eigen::Index>(i)] * mesh.nodes[at(mesh.triangles[t][i])];
        if (mesh.geometry.section.turned)
          place = mesh.geometry.section.flat(place);
        const auto hit = scene.first(place, normal, nearest, reach);
        constexpr double facing = -0.7; // cosine of the angle between the normals: they look at each other
        if (!hit || partOf(hit->triangle) != partB || triangleNormal(mesh, hit->triangle).dot(normal) >= facing)
          continue;
        const std::size_t pieces = trianglePieces(mesh.order);
        points.push_back({t / pieces, hit->triangle / pieces, shapeAt(mesh, inElement(mesh, t, l)),
                          shapeAt(mesh, inElement(mesh, hit->triangle, hit->weights)),
                          point.weight * area / (cuts * cuts)});
      }
  }
  return points;
}

void GapCrossing::couple(const Unknowns& unknowns, PatternBuilder& builder) const
{
  const GapPoint* before = nullptr;
  for (const GapPoint& point : points) {
    if (before == nullptr || before->elementA != point.elementA || before->elementB != point.elementB) {
      const Ends ends = endsOf(*mesh, unknowns, point);
      builder.couple(std::span(ends.unknown.data(), ends.count));
    }
    before = &point;
  }
}

void GapCrossing::addMatrix(const Unknowns& unknowns, const GapPoint& point, double slope, SparseMatrix& matrix) const
{
  const Ends ends = endsOf(*mesh, unknowns, point);
  for (std::size_t i = 0; i < ends.count; ++i)
    for (std::size_t j = 0; j < ends.count; ++j) // the upper half is mirrored
      if (ends.unknown[j] <= ends.unknown[i])
        matrix.values[at(matrix.position(ends.unknown[i], ends.unknown[j]))] += slope * ends.weight[i] * ends.weight[j];
}

void GapCrossing::addConductance(const Unknowns& unknowns, SparseMatrix& matrix) const
{
  for (const GapPoint& point : points)
    addMatrix(unknowns, point, conductance * point.area, matrix);
}

void GapCrossing::addSlope(const Unknowns& unknowns, std::span<const double> temperature, SparseMatrix& matrix) const
{
  if (radiation <= 0)
    return;
  for (const GapPoint& point : points) {
    const Ends ends = endsOf(*mesh, unknowns, point);
    const Pair t = valuesAt(ends, temperature);
    const double mean = (slopeOfT4(t.a) + slopeOfT4(t.b)) / 2;
    addMatrix(unknowns, point, stefanBoltzmann * radiation * mean * point.area, matrix);
  }
}

void GapCrossing::addRadiation(const Unknowns& unknowns, std::span<const double> temperature,
                               std::span<double> balance) const
{
  if (radiation <= 0)
    return;
  for (const GapPoint& point : points) {
    const Ends ends = endsOf(*mesh, unknowns, point);
    const Pair t = valuesAt(ends, temperature);
    spread(ends, stefanBoltzmann * radiation * (std::pow(t.a, 4) - std::pow(t.b, 4)) * point.area, balance);
  }
}

void GapCrossing::addRest(const Unknowns& unknowns, std::span<const double> temperature,
                          std::span<const double> direction, std::span<double> rest) const
{
  if (radiation <= 0)
    return;
  for (const GapPoint& point : points) {
    const Ends ends = endsOf(*mesh, unknowns, point);
    const Pair t = valuesAt(ends, temperature);
    const Pair along = valuesAt(ends, direction);
    const double half = (slopeOfT4(t.a) - slopeOfT4(t.b)) / 2;
    const double beyond = half * (along.a + along.b); // exact: s_a·d_a − s_b·d_b; kept: mean·(d_a − d_b)
    spread(ends, -stefanBoltzmann * radiation * beyond * point.area, rest);
  }
}

double GapCrossing::flowAt(const Unknowns& unknowns, const GapPoint& point, std::span<const double> temperature) const
{
  const Pair t = valuesAt(endsOf(*mesh, unknowns, point), temperature);
  return point.area * (conductance * (t.a - t.b) + stefanBoltzmann * radiation * (std::pow(t.a, 4) - std::pow(t.b, 4)));
}

void GapCrossing::addFlow(const Unknowns& unknowns, std::span<const double> temperature,
                          std::span<double> received) const
{
  for (const GapPoint& point : points)
    spread(endsOf(*mesh, unknowns, point), flowAt(unknowns, point, temperature), received);
}

} // namespace kiln
