// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SectionCut.h"

#include "base/At.h"
#include "base/InParallel.h"
#include "mesh/SecondOrder.h"

#include <array>

namespace kiln
{
namespace
{

/// Cuts one tetrahedron by a plane; corners with positive height are cut away.
struct TetCut {
  std::array<double, 4> height{};
  std::array<Vec3, 4> place;
  std::array<UnknownId, 4> unknown{};

  /// Corners of the cut polygon, three or four, in order, each with the two corners of the tet that it lies between.
  template <class Corner>
  int run(Corner&& corner) const
  {
    std::array<int, 4> above{};
    std::array<int, 4> below{};
    int aboveCount = 0;
    int belowCount = 0;
    for (int i = 0; i < 4; ++i) {
      if (height[at(i)] > 0)
        above[at(aboveCount++)] = i;
      else
        below[at(belowCount++)] = i;
    }
    if (aboveCount == 0 || belowCount == 0)
      return 0;
    const auto cross = [&](int a, int b) {
      const double t = height[at(a)] / (height[at(a)] - height[at(b)]);
      corner(place[at(a)] + t * (place[at(b)] - place[at(a)]),
             PointBlend{unknown[at(a)], unknown[at(b)], static_cast<float>(t)}, 1U << at(a) | 1U << at(b));
    };
    if (aboveCount == 2) {
      cross(above[0], below[0]);
      cross(above[0], below[1]);
      cross(above[1], below[1]);
      cross(above[1], below[0]);
      return 4;
    }
    const bool oneAbove = aboveCount == 1;
    for (int i = 0; i < 3; ++i)
      cross(oneAbove ? above[0] : above[at(i)], oneAbove ? below[at(i)] : below[0]);
    return 3;
  }
};

/// Which sides of a piece of an element lie within the element: at second order only.
class InnerSides
{
public:
  InnerSides(const Mesh& mesh, std::size_t tet) : order_(mesh.order)
  {
    if (order_ != 2)
      return;
    constexpr std::array<unsigned, 10> touched{1, 2, 4, 8, 3, 6, 5, 9, 10, 12}; // corners that each node lies between
    const auto ten = tenOf(mesh.tets, tet / tetPieces(2));
    for (std::size_t i = 0; i < 4; ++i)
      for (std::size_t node = 0; node < ten.size(); ++node)
        if (ten[node] == mesh.tets[tet][i])
          touched_[i] = touched[node];
  }
  /// The side opposite to a corner of the piece: one that touches all corners of the element lies on none of its faces.
  [[nodiscard]] bool is(std::size_t corner) const
  {
    constexpr unsigned all = 15;
    unsigned side = 0;
    for (std::size_t i = 0; i < 4; ++i)
      if (i != corner)
        side |= touched_[i];
    return order_ == 2 && side == all;
  }

private:
  int order_;
  std::array<unsigned, 4> touched_{};
};

/// What a list of another surface names lies behind the points that are there already.
template <class Corners>
void append(std::vector<Corners>& list, const std::vector<Corners>& more, int behind)
{
  for (Corners corners : more) {
    for (auto& corner : corners)
      corner += behind;
    list.push_back(corners);
  }
}

template <class Value>
void append(std::vector<Value>& list, const std::vector<Value>& more)
{
  list.insert(list.end(), more.begin(), more.end());
}

/// A cut face behind another.
void append(DrawnSurface& surface, const DrawnSurface& more)
{
  const int behind = static_cast<int>(surface.points.size());
  append(surface.points, more.points);
  append(surface.blends, more.blends);
  append(surface.pointPart, more.pointPart);
  append(surface.triangles, more.triangles, behind);
  append(surface.part, more.part);
  append(surface.tet, more.tet);
  append(surface.elementEdges, more.elementEdges, behind);
}

/// So many pieces of work that two processors share them evenly, and each is worth its start.
constexpr std::size_t shares = 32;

template <class Work>
void inShares(std::size_t count, Work&& work)
{
  inParallel(shares, [&](std::size_t share) { work(share, count * share / shares, count * (share + 1) / shares); });
}

} // namespace

SectionCut::SectionCut(const SceneModel& model, const std::vector<PartLook>& looks, const SectionPlane& plane)
    : model_(model), mesh_(*model.source().mesh), looks_(looks), plane_(plane), height_(mesh_.nodes.size())
{
  inShares(height_.size(), [&](std::size_t, std::size_t from, std::size_t to) {
    for (std::size_t node = from; node < to; ++node)
      height_[node] = static_cast<float>(plane.depth(mesh_.placeOf(NodeId(node))));
  });
  for (std::size_t p = 0; p < mesh_.geometry.parts.size(); ++p)
    shift_.push_back(static_cast<float>(plane.normal.dot(model.offset(PartId(p)))));
  const auto [low, high] = model.bounds();
  constexpr double rounding = 1e-5; // of the model's size
  slack_ = static_cast<float>(rounding * (high - low).norm() + model.halfPlate());
}

bool SectionCut::isShown(PartId part) const { return part != noPart && looks_[at(part)] == PartLook::Shown; }

template <class Nodes>
bool SectionCut::passes(const Nodes& nodes, PartId part) const
{
  float low = height_[at(nodes[0])];
  float high = low;
  for (const auto node : nodes) {
    low = std::min(low, height_[at(node)]);
    high = std::max(high, height_[at(node)]);
  }
  return low + shift_[at(part)] > slack_ || high + shift_[at(part)] < -slack_;
}

void SectionCut::addTriangles(DrawnSurface& surface) const
{
  std::vector<DrawnSurface> pieces(shares);
  inShares(mesh_.tets.size(),
           [&](std::size_t share, std::size_t from, std::size_t to) { cutElements(from, to, pieces[share]); });
  for (const DrawnSurface& piece : pieces)
    append(surface, piece);
  surface.face.resize(surface.triangles.size());
  surface.skin.resize(surface.triangles.size(), -1);
}

void SectionCut::cutElements(std::size_t from, std::size_t to, DrawnSurface& surface) const
{
  for (std::size_t t = from; t < to; ++t)
    if (isShown(mesh_.tetPart[t]) && !passes(mesh_.tets[t], mesh_.tetPart[t]))
      cutElement(t, surface);
}

void SectionCut::cutElement(std::size_t tet, DrawnSurface& surface) const
{
  const PartId part = mesh_.tetPart[tet];
  TetCut cut;
  for (std::size_t i = 0; i < 4; ++i) {
    cut.place[i] = model_.drawnPlace(mesh_.tets[tet][i], part);
    cut.height[i] = plane_.depth(cut.place[i]);
    cut.unknown[i] = model_.source().unknowns->ofTet[tet][i];
  }
  const int first = static_cast<int>(surface.points.size());
  std::array<unsigned, 4> between{};
  std::size_t corners = 0;
  const int count = cut.run([&](const Vec3& place, const PointBlend& blend, unsigned edge) {
    surface.points.push_back(place);
    surface.blends.push_back(blend);
    surface.pointPart.push_back(part);
    between[corners++] = edge;
  });
  if (count == 0)
    return;
  for (int i = 2; i < count; ++i) {
    surface.triangles.push_back({first, first + i - 1, first + i});
    surface.part.push_back(part);
    surface.tet.push_back(static_cast<std::int32_t>(tet));
  }
  const InnerSides inner(mesh_, tet);
  for (int i = 0; i < count; ++i) { // each side of the polygon lies in the side opposite to one corner
    const unsigned side = between[at(i)] | between[at((i + 1) % count)];
    for (std::size_t corner = 0; corner < 4; ++corner)
      if ((side & 1U << corner) == 0 && !inner.is(corner))
        surface.elementEdges.push_back({first + i, first + (i + 1) % count});
  }
}

void SectionCut::addEdges(DrawnSurface& surface) const
{
  for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
    const Face& face = mesh_.geometry.faces[at(mesh_.triangleFace[t])];
    const PartId part = isShown(face.parts[0]) ? face.parts[0] : face.parts[1];
    if (!isShown(part) || passes(mesh_.triangles[t], part))
      continue;
    const int first = static_cast<int>(surface.points.size());
    for (std::size_t i = 0; i < 3; ++i) {
      const Vec3 a = model_.drawnPlace(mesh_.triangles[t][i], part);
      const Vec3 b = model_.drawnPlace(mesh_.triangles[t][(i + 1) % 3], part);
      const double ha = plane_.depth(a);
      const double hb = plane_.depth(b);
      if ((ha > 0) != (hb > 0))
        surface.points.emplace_back(a + ha / (ha - hb) * (b - a));
    }
    if (surface.points.size() == at(first) + 2)
      surface.edges.push_back({first, first + 1});
  }
}

} // namespace kiln
