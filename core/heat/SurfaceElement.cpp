// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/SurfaceElement.h"

#include "heat/Element.h"

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

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

std::array<Vec3, 3> cornersOf(const Mesh& mesh, std::size_t element)
{
  Triangle corners{};
  if (mesh.order == 2) {
    for (std::size_t i = 0; i < 3; ++i)
      corners[i] = mesh.triangles[4 * element + i][i];
  } else {
    corners = mesh.triangles[element];
  }
  return {mesh.nodes[at(corners[0])], mesh.nodes[at(corners[1])], mesh.nodes[at(corners[2])]};
}

Vec3 placeAt(const Mesh& mesh, std::size_t element, const Vec3& l)
{
  const auto [a, b, c] = cornersOf(mesh, element);
  return mesh.geometry.section.flat(l[0] * a + l[1] * b + l[2] * c);
}

double elementArea(const Mesh& mesh, std::size_t element)
{
  const std::size_t pieces = trianglePieces(mesh.order);
  double area = 0;
  for (std::size_t i = 0; i < pieces; ++i)
    area += triangleArea(mesh, pieces * element + i);
  return area;
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
  const double area = elementArea(mesh, element);
  if (mesh.order == 2)
    return triangleMass<2>(area);
  return triangleMass<1>(area);
}

NodeVector elementLoad(const Mesh& mesh, std::size_t element)
{
  const double area = elementArea(mesh, element);
  if (mesh.order == 2)
    return triangleLoad<2>(area);
  return triangleLoad<1>(area);
}

NodeMatrix elementStiffness(const Mesh& mesh, std::size_t element)
{
  const std::array<Vec3, 3> corner = cornersOf(mesh, element);
  const double area = (corner[1] - corner[0]).cross(corner[2] - corner[0]).norm() / 2;
  // Gradients of the corners' shares have the directions of the heights: their products are those of the opposite
  // sides.
  Eigen::Matrix3d products;
  for (int i = 0; i < 3; ++i)
    for (int j = 0; j < 3; ++j) {
      const auto opposite = [&](int k) -> Vec3 { return corner[at((k + 2) % 3)] - corner[at((k + 1) % 3)]; };
      products(i, j) = opposite(i).dot(opposite(j)) / (4 * area * area);
    }
  if (mesh.order == 1)
    return area * products;
  NodeMatrix stiffness = NodeMatrix::Zero(6, 6);
  for (const TrianglePoint& point : trianglePoints()) {
    Eigen::Matrix<double, 6, 3> slopes = Eigen::Matrix<double, 6, 3>::Zero(); // of the shape functions by the shares
    for (int i = 0; i < 3; ++i)
      slopes(i, i) = 4 * point.l[i] - 1;
    for (int e = 0; e < 3; ++e) {
      const auto [a, b] = triangleEdges[at(e)];
      slopes(3 + e, a) = 4 * point.l[b];
      slopes(3 + e, b) = 4 * point.l[a];
    }
    stiffness += point.weight * area * slopes * products * slopes.transpose();
  }
  return stiffness;
}

} // namespace kiln
