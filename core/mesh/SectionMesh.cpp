// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SectionMesh.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace kiln
{
namespace
{

/// Makes the layer over one mesh of areas.
class LayerBuilder
{
public:
  LayerBuilder(const FaceTable& geometry, const AreaMesh& areas)
      : frame_(geometry.section), areas_(areas), near_(areas.nodes.size()), far_(areas.nodes.size())
  {
    mesh_.geometry = geometry;
  }

  Mesh build()
  {
    for (const Triangle& triangle : areas_.triangles)
      for (const int node : triangle)
        addColumn(node);
    for (std::size_t t = 0; t < areas_.triangles.size(); ++t) {
      addPrism(t);
      addSide(t, near_, areas_.triangleFront[t], -1);
      addSide(t, far_, areas_.triangleBack[t], 1);
    }
    addBorders();
    return std::move(mesh_);
  }

private:
  /// A node on each side; on the axis of a turned section both are the same.
  void addColumn(int node)
  {
    if (near_[at(node)] >= 0)
      return;
    const Vec3& place = areas_.nodes[at(node)];
    double half = frame_.halfLayer(place);
    constexpr double onAxis = 1e-9; // m
    if (frame_.turned && half < onAxis)
      half = 0;
    const auto add = [&](double across) {
      Vec3 moved = place;
      moved[frame_.across] = frame_.at + across;
      mesh_.nodes.push_back(moved);
      return NodeId(mesh_.nodes.size() - 1);
    };
    near_[at(node)] = far_[at(node)] = add(-half);
    mesh_.column.push_back(near_[at(node)]);
    if (half > 0) {
      far_[at(node)] = add(half);
      mesh_.column.push_back(near_[at(node)]);
    }
  }

  /// Neighbouring prisms divide the side between them alike because both go by the order of the nodes.
  void addPrism(std::size_t t)
  {
    Triangle sorted = areas_.triangles[t];
    std::sort(sorted.begin(), sorted.end());
    for (std::size_t k = 0; k < 3; ++k) { // column k stands with both its nodes
      if (near_[at(sorted[k])] == far_[at(sorted[k])])
        continue;
      Tet tet{};
      std::size_t n = 0;
      for (std::size_t i = 0; i <= k; ++i)
        tet[n++] = near_[at(sorted[i])];
      for (std::size_t i = k; i < 3; ++i)
        tet[n++] = far_[at(sorted[i])];
      const auto node = [&](std::size_t i) -> const Vec3& { return mesh_.nodes[at(tet[i])]; };
      if ((node(1) - node(0)).cross(node(2) - node(0)).dot(node(3) - node(0)) < 0)
        std::swap(tet[2], tet[3]);
      mesh_.tets.push_back(tet);
      mesh_.tetPart.push_back(areas_.trianglePart[t]);
    }
  }

  /// The flat side; of a turned section it is only there to be drawn.
  void addSide(std::size_t t, const std::vector<NodeId>& nodes, FaceId face, int outwards)
  {
    if (face < 0)
      return;
    NodeTriangle triangle{};
    for (std::size_t i = 0; i < 3; ++i)
      triangle[i] = nodes[at(areas_.triangles[t][i])];
    Vec3 out = Vec3::Zero();
    out[frame_.across] = outwards;
    addTriangle(triangle, face, out);
  }

  void addTriangle(NodeTriangle triangle, FaceId face, const Vec3& out)
  {
    const auto node = [&](std::size_t i) -> const Vec3& { return mesh_.nodes[at(triangle[i])]; };
    if ((node(1) - node(0)).cross(node(2) - node(0)).dot(out) < 0)
      std::swap(triangle[1], triangle[2]);
    mesh_.triangles.push_back(triangle);
    mesh_.triangleFace.push_back(face);
  }

  void addBorders()
  {
    std::map<std::pair<int, int>, std::vector<std::size_t>> beside;
    for (std::size_t t = 0; t < areas_.triangles.size(); ++t)
      for (std::size_t i = 0; i < 3; ++i)
        beside[std::minmax(areas_.triangles[t][i], areas_.triangles[t][(i + 1) % 3])].push_back(t);
    for (const AreaMesh::Border& border : areas_.borders) {
      const auto [a, b] = std::minmax(border.nodes[0], border.nodes[1]);
      const auto found = beside.find({a, b});
      if (found == beside.end())
        continue;
      const Face& face = mesh_.geometry.faces[at(border.face)];
      for (const std::size_t t : found->second)
        if (areas_.trianglePart[t] == face.parts[0]) {
          addBorder(a, b, border.face, outOf(t, a, b));
          break;
        }
    }
  }

  /// From the corner that faces an edge towards it.
  [[nodiscard]] Vec3 outOf(std::size_t t, int a, int b) const
  {
    for (const int corner : areas_.triangles[t])
      if (corner != a && corner != b)
        return (areas_.nodes[at(a)] + areas_.nodes[at(b)]) / 2 - areas_.nodes[at(corner)];
    return Vec3::Zero();
  }

  void addBorder(int a, int b, FaceId face, const Vec3& out)
  {
    if (near_[at(b)] != far_[at(b)])
      addTriangle({near_[at(a)], near_[at(b)], far_[at(b)]}, face, out);
    if (near_[at(a)] != far_[at(a)])
      addTriangle({near_[at(a)], far_[at(a)], far_[at(b)]}, face, out);
  }

  const SectionFrame& frame_;
  const AreaMesh& areas_;
  std::vector<NodeId> near_, far_;
  Mesh mesh_;
};

} // namespace

double smallestAngleOf(const Mesh& mesh, std::size_t index)
{
  Tet tet = mesh.tets[index];
  if (mesh.order == 2)
    for (std::size_t i = 0; i < 4; ++i)
      tet[i] = mesh.tets[index / 8 * 8 + i][i];
  std::vector<Vec3> corners;
  for (const NodeId node : tet) {
    const Vec3 place = mesh.geometry.section.flat(mesh.nodes[at(node)]);
    if (std::none_of(corners.begin(), corners.end(), [&](const Vec3& c) { return c == place; }))
      corners.push_back(place);
  }
  if (corners.size() != 3)
    return 0;
  double smallest = std::numbers::pi;
  for (std::size_t i = 0; i < 3; ++i) {
    const Vec3 a = (corners[(i + 1) % 3] - corners[i]).normalized();
    const Vec3 b = (corners[(i + 2) % 3] - corners[i]).normalized();
    smallest = std::min(smallest, std::acos(std::clamp(a.dot(b), -1.0, 1.0)));
  }
  return smallest;
}

Mesh layerOver(const FaceTable& geometry, const AreaMesh& areas)
{
  Mesh mesh = LayerBuilder(geometry, areas).build();
  double smallest = std::numbers::pi;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    smallest = std::min(smallest, smallestAngleOf(mesh, t));
  mesh.smallestDihedral = smallest * 180 / std::numbers::pi;
  return mesh;
}

} // namespace kiln
