// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SecondOrder.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <unordered_map>

namespace kiln
{
namespace
{

/// Nodes in the middle of edges, each made once.
class Middles
{
public:
  explicit Middles(Mesh& mesh) : mesh_(mesh) { nodes_.reserve(mesh.tets.size() * 2); }

  NodeId of(NodeId a, NodeId b)
  {
    const auto [low, high] = std::minmax(a, b);
    const auto key = static_cast<std::uint64_t>(low) << 32U | static_cast<std::uint64_t>(high);
    const auto [found, fresh] = nodes_.try_emplace(key, NodeId(mesh_.nodes.size()));
    if (fresh) {
      mesh_.nodes.push_back((mesh_.nodes[at(a)] + mesh_.nodes[at(b)]) / 2);
      edges_.push_back({a, b, found->second});
    }
    return found->second;
  }

  /// Two ends and the node between them, of every edge.
  [[nodiscard]] const std::vector<std::array<NodeId, 3>>& edges() const { return edges_; }

private:
  Mesh& mesh_;
  std::vector<std::array<NodeId, 3>> edges_;
  std::unordered_map<std::uint64_t, NodeId> nodes_;
};

double volumeOf(const Mesh& mesh, const Tet& t)
{
  const Vec3& a = mesh.nodes[at(t[0])];
  return (mesh.nodes[at(t[1])] - a).cross(mesh.nodes[at(t[2])] - a).dot(mesh.nodes[at(t[3])] - a);
}

/// Sum of the positive products of face normals of a tetrahedron over its volume: what conducts the wrong way.
double wrongWay(const Mesh& mesh, const Tet& t)
{
  const auto place = [&](std::size_t i) -> const Vec3& { return mesh.nodes[at(t[i])]; };
  const double sixVolumes = volumeOf(mesh, t);
  std::array<Vec3, 4> gradient;
  for (std::size_t i = 0; i < 4; ++i) {
    const Vec3& a = place((i + 1) % 4);
    gradient[i] = (place((i + 2) % 4) - a).cross(place((i + 3) % 4) - a) * (i % 2 == 0 ? -1 : 1);
  }
  double sum = 0;
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t j = 0; j < i; ++j)
      sum += std::max(gradient[i].dot(gradient[j]), 0.0);
  return sum / std::max(std::abs(sixVolumes), 1e-300);
}

/// Four corner pieces, then the octahedron between them cut along its shortest diagonal.
void divide(Mesh& mesh, Middles& middles, const Tet& tet, std::vector<Tet>& pieces)
{
  std::array<std::array<NodeId, 4>, 4> middle{};
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t j = i + 1; j < 4; ++j)
      middle[i][j] = middle[j][i] = middles.of(tet[i], tet[j]);
  for (std::size_t i = 0; i < 4; ++i) {
    Tet piece{};
    for (std::size_t j = 0; j < 4; ++j)
      piece[j] = j == i ? tet[i] : middle[i][j];
    pieces.push_back(piece);
  }
  struct Cut {
    std::array<NodeId, 2> diagonal;
    std::array<NodeId, 4> ring;
  };
  const std::array<Cut, 3> cuts{
      {{{middle[0][1], middle[2][3]}, {middle[0][2], middle[1][2], middle[1][3], middle[0][3]}},
       {{middle[0][2], middle[1][3]}, {middle[0][1], middle[1][2], middle[2][3], middle[0][3]}},
       {{middle[0][3], middle[1][2]}, {middle[0][1], middle[0][2], middle[2][3], middle[1][3]}}}};
  const auto length = [&](const Cut& cut) {
    return (mesh.nodes[at(cut.diagonal[0])] - mesh.nodes[at(cut.diagonal[1])]).squaredNorm();
  };
  const Cut& cut =
      *std::min_element(cuts.begin(), cuts.end(), [&](const Cut& a, const Cut& b) { return length(a) < length(b); });
  for (std::size_t i = 0; i < 4; ++i) {
    Tet piece{cut.diagonal[0], cut.diagonal[1], cut.ring[i], cut.ring[(i + 1) % 4]};
    if (volumeOf(mesh, piece) < 0)
      std::swap(piece[2], piece[3]);
    pieces.push_back(piece);
  }
}

/// The nodes in the middle of a section's edges share temperatures as the ends of the edges do.
void extendColumns(Mesh& mesh, Middles& middles)
{
  mesh.column.resize(mesh.nodes.size());
  const std::vector<std::array<NodeId, 3>> edges = middles.edges(); // a copy: asking for a middle may add one
  for (const auto& [a, b, between] : edges) {
    const NodeId first = mesh.column[at(a)];
    const NodeId second = mesh.column[at(b)];
    mesh.column[at(between)] = first == second ? first : middles.of(first, second);
  }
}

} // namespace

Mesh linearPieces(const Mesh& mesh)
{
  Mesh pieces = mesh;
  pieces.order = 1;
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const auto ten = tenOf(mesh.tets, e); // corners, then the middles 01 12 02 03 13 23
    struct Cut {
      std::size_t from, to;
      std::array<std::size_t, 4> ring;
    };
    constexpr std::array<Cut, 3> cuts{{{4, 9, {6, 5, 8, 7}}, {6, 8, {4, 5, 9, 7}}, {7, 5, {4, 6, 9, 8}}}};
    double least = std::numeric_limits<double>::infinity();
    for (const Cut& cut : cuts) {
      std::array<Tet, 4> tried{};
      double wrong = 0;
      for (std::size_t i = 0; i < 4; ++i) {
        tried[i] = {ten[cut.from], ten[cut.to], ten[cut.ring[i]], ten[cut.ring[(i + 1) % 4]]};
        if (volumeOf(mesh, tried[i]) < 0)
          std::swap(tried[i][2], tried[i][3]);
        wrong += wrongWay(mesh, tried[i]);
      }
      if (wrong < least) {
        least = wrong;
        std::copy(tried.begin(), tried.end(), pieces.tets.begin() + static_cast<std::ptrdiff_t>(8 * e + 4));
      }
    }
  }
  if (!pieces.triangleTets.empty())
    (void)connectTriangles(pieces); // as the mesh was connected
  return pieces;
}

void makeSecondOrder(Mesh& mesh)
{
  Middles middles(mesh);
  std::vector<Tet> tets;
  std::vector<PartId> tetPart;
  tets.reserve(8 * mesh.tets.size());
  tetPart.reserve(8 * mesh.tets.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    divide(mesh, middles, mesh.tets[t], tets);
    tetPart.insert(tetPart.end(), 8, mesh.tetPart[t]);
  }
  std::vector<NodeTriangle> triangles;
  std::vector<FaceId> triangleFace;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const auto [a, b, c] = mesh.triangles[t];
    const NodeId ab = middles.of(a, b);
    const NodeId bc = middles.of(b, c);
    const NodeId ac = middles.of(a, c);
    for (const NodeTriangle& piece :
         {NodeTriangle{a, ab, ac}, NodeTriangle{ab, b, bc}, NodeTriangle{ac, bc, c}, NodeTriangle{ab, bc, ac}})
      triangles.push_back(piece);
    triangleFace.insert(triangleFace.end(), 4, mesh.triangleFace[t]);
  }
  if (!mesh.column.empty())
    extendColumns(mesh, middles);
  mesh.tets = std::move(tets);
  mesh.tetPart = std::move(tetPart);
  mesh.triangles = std::move(triangles);
  mesh.triangleFace = std::move(triangleFace);
  mesh.order = 2;
}

} // namespace kiln
