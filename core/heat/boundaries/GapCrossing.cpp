// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/GapCrossing.h"

#include "base/At.h"
#include "heat/boundaries/DirectedHeat.h"
#include "heat/elements/Element.h"
#include "heat/elements/Radiating.h"
#include "heat/elements/SparseMatrix.h"
#include "mesh/RayScene.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

/// Unknowns and weights of both sides: the temperature difference A − B is the sum of weight × temperature.
struct Ends {
  std::array<UnknownId, 12> unknown{};
  std::array<double, 12> weight{};
  std::size_t count = 0, ofA = 0; ///< the first ones are those of A
};

Ends endsOf(const HeatGround& ground, const GapPoint& point)
{
  Ends ends;
  const auto add = [&](std::size_t element, const NodeVector& shape, double sign) {
    const SurfaceNodes nodes = ground.nodes(element);
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

void addMatrix(const Ends& ends, double slope, SparseMatrix& matrix)
{
  for (std::size_t i = 0; i < ends.count; ++i)
    for (std::size_t j = 0; j < ends.count; ++j) // the upper half is mirrored
      if (ends.unknown[j] <= ends.unknown[i])
        matrix.values[at(matrix.position(ends.unknown[i], ends.unknown[j]))] += slope * ends.weight[i] * ends.weight[j];
}

} // namespace

std::vector<GapPoint> pointsAcross(const Mesh& mesh, PartId partA, PartId partB, double reach)
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

double GapCrossing::area() const
{
  double sum = 0;
  for (const GapPoint& point : points_)
    sum += point.area;
  return sum;
}

std::optional<Bend> GapCrossing::bend() const
{
  constexpr Bend radiates{"radiation across a gap", "Check that the emissivities of the gap's sides are right."};
  return law_.radiation > 0 ? std::optional(radiates) : std::nullopt;
}

void GapCrossing::couple(const HeatGround& ground, PatternBuilder& builder) const
{
  const GapPoint* before = nullptr;
  for (const GapPoint& point : points_) {
    if (before == nullptr || before->elementA != point.elementA || before->elementB != point.elementB) {
      const Ends ends = endsOf(ground, point);
      builder.couple(std::span(ends.unknown.data(), ends.count));
    }
    before = &point;
  }
}

void GapCrossing::addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double>) const
{
  for (const GapPoint& point : points_)
    addMatrix(endsOf(ground, point), law_.conductance * point.area, matrix);
}

void GapCrossing::addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const
{
  if (law_.radiation <= 0)
    return;
  for (const GapPoint& point : points_) {
    const Ends ends = endsOf(ground, point);
    const Pair t = valuesAt(ends, temperature);
    const double mean = (slopeOfFourth(t.a) + slopeOfFourth(t.b)) / 2;
    addMatrix(ends, stefanBoltzmann * law_.radiation * mean * point.area, matrix);
  }
}

void GapCrossing::addFlow(const HeatGround& ground, std::span<const double> temperature,
                          std::span<double> balance) const
{
  if (law_.radiation <= 0)
    return;
  for (const GapPoint& point : points_) {
    const Ends ends = endsOf(ground, point);
    const Pair t = valuesAt(ends, temperature);
    spread(ends, stefanBoltzmann * law_.radiation * (fourth(t.a) - fourth(t.b)) * point.area, balance);
  }
}

void GapCrossing::addRest(const HeatGround& ground, std::span<const double> temperature,
                          std::span<const double> direction, double, std::span<double> rest) const
{
  if (law_.radiation <= 0)
    return;
  for (const GapPoint& point : points_) {
    const Ends ends = endsOf(ground, point);
    const Pair t = valuesAt(ends, temperature);
    const Pair along = valuesAt(ends, direction);
    const double half = (slopeOfFourth(t.a) - slopeOfFourth(t.b)) / 2;
    const double beyond = half * (along.a + along.b); // exact: s_a·d_a − s_b·d_b; kept: mean·(d_a − d_b)
    spread(ends, -stefanBoltzmann * law_.radiation * beyond * point.area, rest);
  }
}

void GapCrossing::arrivals(const HeatGround& ground, const FlowState& state, std::span<const char>,
                           const ArrivalVisit& visit) const
{
  for (const GapPoint& point : points_) {
    const Ends ends = endsOf(ground, point);
    const Pair t = valuesAt(ends, state.temperature);
    const double toB =
        point.area * (law_.conductance * (t.a - t.b) + stefanBoltzmann * law_.radiation * (fourth(t.a) - fourth(t.b)));
    std::array<double, 12> watts{};
    for (std::size_t i = 0; i < ends.count; ++i)
      watts[i] = -ends.weight[i] * toB;
    const std::span<const UnknownId> unknowns(ends.unknown.data(), ends.count);
    const std::span<const double> arrived(watts.data(), ends.count);
    visit({partA_, elementFace(ground.mesh(), point.elementA), unknowns.first(ends.ofA), arrived.first(ends.ofA)});
    visit({partB_, elementFace(ground.mesh(), point.elementB), unknowns.subspan(ends.ofA), arrived.subspan(ends.ofA)});
  }
}

std::vector<FlowFigure> GapCrossing::figures(const HeatGround& ground, const FlowState& state) const
{
  double toB = 0;
  arrivals(ground, state, {}, [&](const Arrival& arrival) { toB += arrival.part == partB_ ? arrival.total() : 0; });
  return {{owner(), toB, 0}};
}

} // namespace kiln
