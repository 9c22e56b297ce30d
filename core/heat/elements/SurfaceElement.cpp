// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/SurfaceElement.h"

#include "base/At.h"
#include "heat/elements/Element.h"

namespace kiln
{
namespace
{

std::array<NodeId, 6> sixNodes(const Mesh& mesh, std::size_t element)
{
  return sixOf(element, [&](std::size_t piece) -> const NodeTriangle& { return mesh.triangles[piece]; });
}

using Six = Eigen::Matrix<double, 6, 3>;

/// Places of the six nodes, a row each, m.
Six sixPlaces(const Mesh& mesh, std::size_t element)
{
  Six places;
  Eigen::Index row = 0;
  for (const NodeId node : sixNodes(mesh, element))
    places.row(row++) = mesh.nodes[at(node)].transpose();
  return places;
}

/// Derivatives of the six shape functions by the second and third barycentric coordinate, the first being what is left.
Eigen::Matrix<double, 6, 2> sixSlopes(const Vec3& l)
{
  Six slopes = Six::Zero();
  for (int i = 0; i < 3; ++i)
    slopes(i, i) = 4 * l[i] - 1;
  for (int e = 0; e < 3; ++e) {
    const auto [a, b] = triangleEdges[at(e)];
    slopes(3 + e, a) = 4 * l[b];
    slopes(3 + e, b) = 4 * l[a];
  }
  return slopes.rightCols<2>().colwise() - slopes.col(0);
}

/// Twice the area of the element per share of the barycentric triangle at \p l, m².
double twiceArea(const Six& places, const Vec3& l)
{
  const Eigen::Matrix<double, 3, 2> tangents = places.transpose() * sixSlopes(l);
  return tangents.col(0).cross(tangents.col(1)).norm();
}

/// Shape functions at the points of the rule.
const std::array<NodeVector, 7>& sixShapes()
{
  static const std::array<NodeVector, 7> shapes = [] {
    std::array<NodeVector, 7> made;
    for (std::size_t i = 0; i < made.size(); ++i)
      made[i] = triangleShape<2>(trianglePoints()[i].l);
    return made;
  }();
  return shapes;
}

bool isStraight(const Six& places)
{
  for (Eigen::Index e = 0; e < 3; ++e) {
    const auto [a, b] = triangleEdges[static_cast<std::size_t>(e)];
    const auto chord = (places.row(b) - places.row(a)).eval();
    constexpr double bend = 1e-9; // of the edge
    if ((places.row(3 + e) - places.row(a) - chord / 2).squaredNorm() > bend * bend * chord.squaredNorm())
      return false;
  }
  return true;
}

SurfacePoints cornerPoints(const Mesh& mesh, std::size_t triangle)
{
  SurfacePoints points;
  const double third = triangleArea(mesh, triangle) / 3;
  for (Eigen::Index i = 0; i < 3; ++i)
    points.own[points.count++] = {Vec3::Unit(i), Vec3::Unit(i), third};
  return points;
}

} // namespace

SurfaceNodes nodesOf(const Mesh& mesh, const Unknowns& unknowns, std::size_t element, std::size_t side)
{
  SurfaceNodes nodes;
  if (mesh.order == 2) {
    nodes.own = sixOf(
        element, [&](std::size_t piece) -> const auto& { return unknowns.ofTriangle[piece][side]; });
    nodes.count = 6;
  } else {
    std::copy_n(unknowns.ofTriangle[element][side].begin(), 3, nodes.own.begin());
  }
  return nodes;
}

NumbersOf<NodeId, 3, 6> placesOf(const Mesh& mesh, std::size_t element)
{
  NumbersOf<NodeId, 3, 6> nodes;
  if (mesh.order == 2) {
    nodes.own = sixNodes(mesh, element);
    nodes.count = 6;
  } else {
    std::copy_n(mesh.triangles[element].begin(), 3, nodes.own.begin());
  }
  return nodes;
}

NodeVector valuesAt(const SurfaceNodes& nodes, std::span<const double> temperature)
{
  NodeVector values(static_cast<Eigen::Index>(nodes.count));
  for (std::size_t i = 0; i < nodes.count; ++i)
    values[static_cast<Eigen::Index>(i)] = temperature[at(nodes.own[i])];
  return values;
}

NodeVector shapeAt(const Mesh& mesh, const Vec3& l)
{
  if (mesh.order == 2)
    return triangleShape<2>(l);
  return l;
}

SurfacePoints pointsOf(const Mesh& mesh, std::size_t element)
{
  if (mesh.order == 1)
    return cornerPoints(mesh, element);
  const Six places = sixPlaces(mesh, element);
  const bool straight = isStraight(places);
  const double area = twiceArea(places, Vec3::Constant(1.0 / 3)) / 2;
  SurfacePoints points;
  for (std::size_t i = 0; i < trianglePoints().size(); ++i) {
    const TrianglePoint& point = trianglePoints()[i];
    points.own[points.count++] = {point.l, sixShapes()[i],
                                  point.weight * (straight ? area : twiceArea(places, point.l) / 2)};
  }
  return points;
}

SurfacePoints pointsOfPiece(const Mesh& mesh, std::size_t triangle)
{
  if (mesh.order == 1)
    return cornerPoints(mesh, triangle);
  const Six places = sixPlaces(mesh, triangle / 4);
  SurfacePoints points;
  for (Eigen::Index i = 0; i < 3; ++i) {
    Vec3 l = Vec3::Constant(1.0 / 6);
    l[i] = 2.0 / 3;
    l = inElement(mesh, triangle, l);
    constexpr double share = 1.0 / 12; // of the element
    points.own[points.count++] = {l, triangleShape<2>(l), share * twiceArea(places, l) / 2};
  }
  return points;
}

Vec3 inElement(const Mesh& mesh, std::size_t triangle, const Vec3& l)
{
  if (mesh.order == 1)
    return l;
  // Pieces in the order of makeSecondOrder: a ab ac, ab b bc, ac bc c, ab bc ac.
  static const std::array<Eigen::Matrix3d, 4> corners = [] {
    const Vec3 a = Vec3::UnitX();
    const Vec3 b = Vec3::UnitY();
    const Vec3 c = Vec3::UnitZ();
    const Vec3 ab = (a + b) / 2;
    const Vec3 bc = (b + c) / 2;
    const Vec3 ac = (a + c) / 2;
    std::array<Eigen::Matrix3d, 4> made;
    made[0] << a, ab, ac;
    made[1] << ab, b, bc;
    made[2] << ac, bc, c;
    made[3] << ab, bc, ac;
    return made;
  }();
  return corners[triangle % 4] * l;
}

Vec3 placeAt(const Mesh& mesh, std::size_t element, const Vec3& l)
{
  if (mesh.order == 2)
    return mesh.geometry.section.flat(sixPlaces(mesh, element).transpose() * triangleShape<2>(l));
  Vec3 place = Vec3::Zero();
  for (std::size_t i = 0; i < 3; ++i)
    place += l[static_cast<Eigen::Index>(i)] * mesh.nodes[at(mesh.triangles[element][i])];
  return mesh.geometry.section.flat(place);
}

double elementArea(const Mesh& mesh, std::size_t element)
{
  double area = 0;
  for (const SurfacePoint& point : pointsOf(mesh, element))
    area += point.area;
  return area;
}

std::vector<double> integratedAreas(const Mesh& mesh)
{
  std::vector<double> areas(mesh.geometry.faces.size(), 0.0);
  for (std::size_t e = 0; e < triangleElements(mesh); ++e)
    areas[at(elementFace(mesh, e))] += elementArea(mesh, e);
  return areas;
}

std::vector<std::vector<std::int32_t>> elementsByFace(const Mesh& mesh)
{
  std::vector<std::vector<std::int32_t>> elements(mesh.geometry.faces.size());
  for (std::size_t e = 0; e < triangleElements(mesh); ++e)
    elements[at(elementFace(mesh, e))].push_back(static_cast<std::int32_t>(e));
  return elements;
}

NodeMatrix elementMass(const Mesh& mesh, std::size_t element)
{
  if (mesh.order == 1) // each point is a node
    return triangleArea(mesh, element) / 3 * NodeMatrix::Identity(3, 3);
  static const NodeMatrix straight = [] {
    NodeMatrix sum = NodeMatrix::Zero(6, 6);
    for (std::size_t i = 0; i < trianglePoints().size(); ++i)
      sum += trianglePoints()[i].weight * sixShapes()[i] * sixShapes()[i].transpose();
    return sum;
  }();
  if (const Six places = sixPlaces(mesh, element); isStraight(places))
    return twiceArea(places, Vec3::Constant(1.0 / 3)) / 2 * straight;
  NodeMatrix mass = NodeMatrix::Zero(6, 6);
  const SurfacePoints points = pointsOf(mesh, element);
  for (const SurfacePoint& point : points)
    mass += point.area * point.shape * point.shape.transpose();
  return mass;
}

NodeVector elementLoad(const Mesh& mesh, std::size_t element)
{
  NodeVector load = NodeVector::Zero(mesh.order == 2 ? 6 : 3);
  for (const SurfacePoint& point : pointsOf(mesh, element))
    load += point.area * point.shape;
  return load;
}

NodeMatrix elementStiffness(const Mesh& mesh, std::size_t element, std::span<const double> factor)
{
  const SurfacePoints points = pointsOf(mesh, element);
  const auto count = static_cast<Eigen::Index>(mesh.order == 2 ? 6 : 3);
  NodeMatrix stiffness = NodeMatrix::Zero(count, count);
  std::size_t p = 0;
  for (const SurfacePoint& point : points) {
    Eigen::Matrix<double, Eigen::Dynamic, 2, 0, 6, 2> slopes(count, 2);
    Eigen::Matrix<double, 3, 2> tangents;
    if (mesh.order == 2) {
      slopes = sixSlopes(point.l);
      tangents = sixPlaces(mesh, element).transpose() * slopes;
    } else {
      slopes << -1, -1, 1, 0, 0, 1;
      const auto corner = [&](std::size_t i) -> const Vec3& { return mesh.nodes[at(mesh.triangles[element][i])]; };
      tangents << corner(1) - corner(0), corner(2) - corner(0);
    }
    const Eigen::Matrix2d metric = tangents.transpose() * tangents;
    stiffness += factor[p++] * point.area * slopes * metric.inverse() * slopes.transpose();
  }
  return stiffness;
}

} // namespace kiln
