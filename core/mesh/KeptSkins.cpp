// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/KeptSkins.h"

#include "base/At.h"
#include "base/Joining.h"
#include "geometry/Geometry.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

std::uint64_t keyOf(int a, int b)
{
  const auto [low, high] = std::minmax(a, b);
  return static_cast<std::uint64_t>(low) << 32U | static_cast<std::uint64_t>(high);
}

Triangle sorted(Triangle triangle)
{
  std::sort(triangle.begin(), triangle.end());
  return triangle;
}

} // namespace

PlaceIndex::Cell PlaceIndex::cellOf(const Vec3& place)
{
  constexpr double cell = 4 * fuseTolerance;
  return {std::llround(place.x() / cell), std::llround(place.y() / cell), std::llround(place.z() / cell)};
}

std::uint64_t PlaceIndex::keyOf(const Cell& cell)
{
  std::uint64_t key = 1469598103934665603ULL; // FNV-1a over the words
  for (const std::int64_t word : cell)
    key = (key ^ static_cast<std::uint64_t>(word)) * 1099511628211ULL ^ (key >> 29U);
  return key;
}

int PlaceIndex::find(const Vec3& place) const
{
  const Cell middle = cellOf(place);
  int nearest = -1;
  double least = fuseTolerance;
  for (std::int64_t i = -1; i <= 1; ++i)
    for (std::int64_t j = -1; j <= 1; ++j)
      for (std::int64_t k = -1; k <= 1; ++k) {
        const auto [begin, end] = cells_.equal_range(keyOf({middle[0] + i, middle[1] + j, middle[2] + k}));
        for (auto it = begin; it != end; ++it)
          if (const double away = (it->second.first - place).norm(); away < least) {
            least = away;
            nearest = it->second.second;
          }
      }
  return nearest;
}

KeptSkins::Skin KeptSkins::skinOf(KeptElements part)
{
  Skin skin;
  skin.part = part.part;
  skin.elements = std::move(part.elements);
  skin.triangles = outerSides(skin.elements);
  skin.neighbours.resize(skin.elements.nodes.size());
  skin.node.assign(skin.elements.nodes.size(), -1);
  for (const Triangle& triangle : skin.triangles)
    for (std::size_t i = 0; i < 3; ++i) {
      std::vector<int>& own = skin.neighbours[at(triangle[i])];
      if (own.empty())
        skin.places.add(skin.elements.nodes[at(triangle[i])], triangle[i]);
      own.push_back(triangle[(i + 1) % 3]); // every edge is met from both of its ends
    }
  return skin;
}

KeptSkins::KeptSkins(std::vector<KeptElements> parts)
{
  for (KeptElements& part : parts)
    parts_.push_back(skinOf(std::move(part)));
}

bool KeptSkins::has(PartId part) const
{
  return std::any_of(parts_.begin(), parts_.end(), [&](const Skin& skin) { return skin.part == part; });
}

std::vector<SizeSource> KeptSkins::sizes() const
{
  std::vector<SizeSource> sources;
  for (const Skin& skin : parts_)
    for (const Triangle& triangle : skin.triangles)
      for (std::size_t i = 0; i < 3; ++i) {
        const Vec3& a = skin.elements.nodes[at(triangle[i])];
        const Vec3& b = skin.elements.nodes[at(triangle[(i + 1) % 3])];
        if (triangle[i] < triangle[(i + 1) % 3]) // every edge is met from both of its ends
          sources.push_back({(a + b) / 2, (b - a).norm()});
      }
  return sources;
}

std::optional<std::vector<Vec3>> KeptSkins::along(const Vec3& from, const Vec3& to) const
{
  const Vec3 way = (to - from).normalized();
  for (const Skin& skin : parts_) {
    int here = skin.places.find(from);
    const int end = skin.places.find(to);
    if (here < 0 || end < 0)
      continue;
    std::vector<Vec3> places;
    double reached = 0;
    while (here >= 0 && here != end) {
      int next = -1;
      double nearest = (to - from).norm() + fuseTolerance;
      for (const int neighbour : skin.neighbours[at(here)]) {
        const Vec3 away = skin.elements.nodes[at(neighbour)] - from;
        const double there = away.dot(way);
        if (there > reached && there < nearest && (away - there * way).norm() < fuseTolerance) {
          next = neighbour;
          nearest = there;
        }
      }
      here = next;
      reached = nearest;
      if (here >= 0 && here != end)
        places.push_back(skin.elements.nodes[at(here)]);
    }
    if (here == end)
      return places;
  }
  return std::nullopt;
}

void KeptSkins::tie(const std::vector<Vec3>& edgeNodes, const std::vector<Piece>& pieces)
{
  PlaceIndex index;
  for (std::size_t n = 0; n < edgeNodes.size(); ++n)
    index.add(edgeNodes[n], static_cast<int>(n));
  std::unordered_set<std::uint64_t> borders;
  for (const Piece& piece : pieces)
    borders.insert(keyOf(piece.first, piece.second));
  for (Skin& skin : parts_) {
    for (std::size_t n = 0; n < skin.node.size(); ++n)
      if (!skin.neighbours[n].empty())
        skin.node[n] = index.find(skin.elements.nodes[n]);
    findFacets(skin, borders);
  }
}

void KeptSkins::findFacets(Skin& skin, const std::unordered_set<std::uint64_t>& borders)
{
  Joining joining(skin.triangles.size());
  std::unordered_map<std::uint64_t, std::size_t> triangleAt; // an edge of the skin
  std::vector<std::pair<std::size_t, Piece>> onBorder;
  for (std::size_t t = 0; t < skin.triangles.size(); ++t)
    for (std::size_t i = 0; i < 3; ++i) {
      const int a = skin.triangles[t][i];
      const int b = skin.triangles[t][(i + 1) % 3];
      const int here = skin.node[at(a)];
      const int there = skin.node[at(b)];
      if (here >= 0 && there >= 0 && borders.contains(keyOf(here, there)))
        onBorder.emplace_back(t, std::minmax(here, there));
      else
        joining.join(t, triangleAt.try_emplace(keyOf(a, b), t).first->second);
    }
  std::map<std::size_t, std::vector<Piece>> border; // of a facet
  for (const auto& [t, piece] : onBorder)
    border[joining.find(t)].push_back(piece);
  std::map<std::size_t, std::vector<std::size_t>> members;
  for (std::size_t t = 0; t < skin.triangles.size(); ++t)
    members[joining.find(t)].push_back(t);
  for (auto& [facet, pieces] : border) {
    std::sort(pieces.begin(), pieces.end());
    skin.facets[pieces] = members[facet];
  }
}

bool KeptSkins::addFace(const Face& face, FaceId index, std::vector<Piece> border, SurfaceMesh& mesh)
{
  std::sort(border.begin(), border.end());
  for (Skin& skin : parts_) {
    if (!face.touches(skin.part))
      continue;
    const auto facet = skin.facets.find(border);
    if (facet == skin.facets.end())
      continue;
    for (const std::size_t t : facet->second) {
      Triangle corners = skin.triangles[t];
      for (int& corner : corners) {
        int& node = skin.node[at(corner)];
        if (node < 0) {
          node = static_cast<int>(mesh.nodes.size());
          mesh.nodes.push_back(skin.elements.nodes[at(corner)]);
        }
        corner = node;
      }
      if (face.parts[0] != skin.part)
        std::swap(corners[1], corners[2]);
      mesh.triangles.push_back(corners);
      mesh.triangleFace.push_back(index);
    }
    return true;
  }
  return false;
}

std::optional<PartMesh> KeptSkins::fill(PartId part, const SurfaceMesh& skin,
                                        const std::vector<std::size_t>& triangles) const
{
  const auto own = std::find_if(parts_.begin(), parts_.end(), [&](const Skin& one) { return one.part == part; });
  if (own == parts_.end() || own->triangles.size() != triangles.size())
    return std::nullopt;
  PlaceIndex index;
  std::set<int> known;
  std::vector<Triangle> wanted;
  for (const std::size_t t : triangles) {
    for (const int node : skin.triangles[t])
      if (known.insert(node).second)
        index.add(skin.nodes[at(node)], node);
    wanted.push_back(sorted(skin.triangles[t]));
  }
  std::vector<std::int32_t> nodes(own->elements.nodes.size(), -1); // of the elements: of the mesh
  std::vector<Triangle> found;
  for (Triangle triangle : own->triangles) {
    for (int& corner : triangle) {
      std::int32_t& node = nodes[at(corner)];
      if (node < 0)
        node = index.find(own->elements.nodes[at(corner)]);
      corner = node;
    }
    found.push_back(sorted(triangle));
  }
  std::sort(wanted.begin(), wanted.end());
  std::sort(found.begin(), found.end());
  if (wanted != found)
    return std::nullopt;
  PartMesh mesh;
  const auto first = static_cast<std::int32_t>(skin.nodes.size());
  for (PartMesh::Corners tet : own->elements.tets) {
    for (std::int32_t& corner : tet) {
      std::int32_t& node = nodes[at(corner)];
      if (node < 0) {
        node = first + static_cast<std::int32_t>(mesh.inner.size());
        mesh.inner.push_back(own->elements.nodes[at(corner)]);
      }
      corner = node;
    }
    mesh.tets.push_back(tet);
  }
  return mesh;
}

} // namespace kiln
