// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/MeshQuality.h"

#include "mesh/SecondOrder.h"
#include "mesh/SectionMesh.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace kiln
{

double smallestDihedral(const Mesh& mesh, std::size_t index)
{
  const Tet& tet = mesh.tets[index];
  if (mesh.geometry.section.is())
    return smallestAngleOf(mesh, index);
  std::array<Vec3, 4> normals;
  for (std::size_t i = 0; i < 4; ++i) {
    const Vec3& a = mesh.nodes[static_cast<std::size_t>(tet[(i + 1) % 4])];
    const Vec3& b = mesh.nodes[static_cast<std::size_t>(tet[(i + 2) % 4])];
    const Vec3& c = mesh.nodes[static_cast<std::size_t>(tet[(i + 3) % 4])];
    normals[i] = (b - a).cross(c - a).normalized();
    if (normals[i].dot(mesh.nodes[static_cast<std::size_t>(tet[i])] - a) > 0)
      normals[i] = -normals[i];
  }
  double largestCosine = -1;
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t j = i + 1; j < 4; ++j)
      largestCosine = std::max(largestCosine, -normals[i].dot(normals[j]));
  return std::acos(std::clamp(largestCosine, -1.0, 1.0));
}

std::vector<std::size_t> flattestTets(const Mesh& mesh, std::size_t most)
{
  std::vector<double> angle;
  angle.reserve(mesh.tets.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    angle.push_back(smallestDihedral(mesh, t));
  std::vector<std::size_t> order(mesh.tets.size());
  std::iota(order.begin(), order.end(), 0U);
  const std::size_t count = std::min(most, order.size());
  std::partial_sort(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(count), order.end(),
                    [&](std::size_t a, std::size_t b) { return angle[a] != angle[b] ? angle[a] < angle[b] : a < b; });
  order.resize(count);
  return order;
}

Vec3 tetMiddle(const Mesh& mesh, std::size_t tet)
{
  Vec3 middle = Vec3::Zero();
  for (const NodeId node : mesh.tets[tet])
    middle += mesh.nodes[static_cast<std::size_t>(node)] / 4;
  return middle;
}

std::size_t countElements(const Mesh& mesh)
{
  if (!mesh.geometry.section.is())
    return tetElements(mesh);
  std::size_t sides = 0; // every triangle of the plane has two
  for (const FaceId face : mesh.triangleFace)
    sides += mesh.geometry.faces[static_cast<std::size_t>(face)].aside ? 1 : 0;
  return sides / 2 / trianglePieces(mesh.order);
}

std::string countWords(double count)
{
  constexpr double thousand = 1000;
  if (count < thousand)
    return std::to_string(std::lround(count));
  return std::to_string(std::lround(count / thousand)) + " k";
}

std::string elementWords(const Mesh& mesh)
{
  return countWords(static_cast<double>(countElements(mesh))) +
         (mesh.geometry.section.is() ? " triangles of " : " tetrahedra of ") +
         (mesh.order == 2 ? "second order" : "first order, a quick look");
}

} // namespace kiln
