// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneModel.h"

#include "base/At.h"

#include <algorithm>
#include <unordered_map>

namespace kiln
{
namespace
{

/// Cuts one tetrahedron by a plane; corners with positive height are cut away.
struct TetCut {
  std::array<double, 4> height{};
  std::array<Vec3, 4> place;
  std::array<UnknownId, 4> unknown{};

  /// Corners of the cut polygon, three or four, in order.
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
             PointBlend{unknown[at(a)], unknown[at(b)], static_cast<float>(t)});
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

} // namespace

void SceneModel::setSource(Source source)
{
  source_ = std::move(source);
  const auto [low, high] = bounds();
  constexpr double share = 0.002; // of the model's size
  halfPlate_ = share * (high - low).norm();
}

bool SceneModel::isFar(NodeId node) const
{
  const SectionFrame& frame = source_.mesh->geometry.section;
  return frame.is() && source_.mesh->nodes[at(node)][frame.across] > frame.at;
}

Vec3 SceneModel::drawnPlace(NodeId node) const
{
  const SectionFrame& frame = source_.mesh->geometry.section;
  Vec3 place = source_.mesh->placeOf(node);
  if (frame.is())
    place[frame.across] += isFar(node) ? halfPlate_ : -halfPlate_;
  return place;
}

DrawnSurface SceneModel::skin(const std::vector<PartLook>& looks, PartLook wanted) const
{
  DrawnSurface surface;
  if (empty())
    return surface;
  const Mesh& mesh = *source_.mesh;
  std::vector<int> pointOf(at(source_.unknowns->count) * 2, -1); // both sides of a section share an unknown
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = mesh.geometry.faces[at(mesh.triangleFace[t])];
    for (std::size_t side = 0; side < 2; ++side) {
      const PartId part = face.parts[side];
      const PartId other = face.parts[1 - side];
      if (part == noPart || looks[at(part)] != wanted)
        continue;
      // Without tetrahedra a cut cannot be filled: what lies inside is drawn as faces.
      const bool insideShows = mesh.tets.empty() && side == 0;
      if (other != noPart && !insideShows &&
          (looks[at(other)] == PartLook::Shown || (wanted == PartLook::SeeThrough && looks[at(other)] == wanted)))
        continue;
      Triangle drawn{};
      for (std::size_t i = 0; i < 3; ++i) {
        const UnknownId unknown = source_.unknowns->ofTriangle[t][side][i];
        int& point = pointOf[2 * at(unknown) + (isFar(mesh.triangles[t][i]) ? 1 : 0)];
        if (point < 0 || surface.pointPart[at(point)] != part) {
          point = static_cast<int>(surface.points.size());
          surface.points.push_back(drawnPlace(mesh.triangles[t][i]));
          surface.blends.push_back({unknown, unknown, 0});
          surface.pointPart.push_back(part);
        }
        drawn[i] = point;
      }
      if (side == 1)
        std::swap(drawn[1], drawn[2]);
      surface.triangles.push_back(drawn);
      surface.part.push_back(part);
      surface.face.push_back(mesh.triangleFace[t]);
      surface.skin.push_back(static_cast<std::int32_t>(t));
      surface.tet.push_back(mesh.triangleTets[t][side]);
    }
  }
  addEdges(surface);
  recolor(surface);
  return surface;
}

void SceneModel::recolor(DrawnSurface& surface) const
{
  const auto fill = [&](std::vector<double>& values, auto&& valueOf) {
    values.reserve(surface.points.size());
    for (std::size_t i = 0; i < surface.blends.size(); ++i) {
      const PointBlend& blend = surface.blends[i];
      const double from = valueOf(blend.from, surface.pointPart[i]);
      values.push_back(from + static_cast<double>(blend.share) * (valueOf(blend.to, surface.pointPart[i]) - from));
    }
    if (!values.empty()) // line ends carry no colour
      values.resize(surface.points.size(), values.back());
  };
  surface.temperatures.clear();
  surface.values.clear();
  if (source_.temperature && !source_.temperature->empty())
    fill(surface.temperatures, [&](UnknownId unknown, int) { return (*source_.temperature)[at(unknown)]; });
  if (source_.field && !source_.field->empty())
    fill(surface.values, [&](UnknownId unknown, PartId part) { return source_.field->at(unknown, part); });
}

DrawnSurface SceneModel::allFaces() const
{
  DrawnSurface surface;
  if (empty())
    return surface;
  const Mesh& mesh = *source_.mesh;
  for (std::size_t node = 0; node < mesh.nodes.size(); ++node)
    surface.points.push_back(drawnPlace(NodeId(node)));
  surface.triangles.reserve(mesh.triangles.size());
  for (const NodeTriangle& own : mesh.triangles)
    surface.triangles.push_back({own[0], own[1], own[2]});
  surface.face.assign(mesh.triangleFace.begin(), mesh.triangleFace.end());
  for (const FaceId face : surface.face)
    surface.part.push_back(mesh.geometry.faces[at(face)].parts[0]);
  return surface;
}

void SceneModel::addEdges(DrawnSurface& surface)
{
  std::unordered_map<std::uint64_t, int> faceAt;
  faceAt.reserve(surface.triangles.size() * 2);
  constexpr int shared = -2;
  for (std::size_t t = 0; t < surface.triangles.size(); ++t)
    for (std::size_t i = 0; i < 3; ++i) {
      const auto [a, b] = std::minmax(surface.triangles[t][i], surface.triangles[t][(i + 1) % 3]);
      const auto key = static_cast<std::uint64_t>(a) << 32U | static_cast<std::uint64_t>(b);
      const auto [found, isNew] = faceAt.emplace(key, surface.face[t]);
      if (!isNew && found->second == surface.face[t])
        found->second = shared;
    }
  for (const auto& [key, face] : faceAt)
    if (face != shared)
      surface.edges.push_back({static_cast<int>(key >> 32U), static_cast<int>(key & 0xffffffffU)});
}

DrawnSurface SceneModel::section(const std::vector<PartLook>& looks, const SectionPlane& plane) const
{
  DrawnSurface surface;
  if (empty())
    return surface;
  const Mesh& mesh = *source_.mesh;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    if (looks[at(mesh.tetPart[t])] != PartLook::Shown)
      continue;
    TetCut cut;
    for (std::size_t i = 0; i < 4; ++i) {
      cut.place[i] = drawnPlace(mesh.tets[t][i]);
      cut.height[i] = plane.depth(cut.place[i]);
      cut.unknown[i] = source_.unknowns->ofTet[t][i];
    }
    const int first = static_cast<int>(surface.points.size());
    const int count = cut.run([&](const Vec3& place, const PointBlend& blend) {
      surface.points.push_back(place);
      surface.blends.push_back(blend);
      surface.pointPart.push_back(mesh.tetPart[t]);
    });
    for (int i = 2; i < count; ++i) {
      surface.triangles.push_back({first, first + i - 1, first + i});
      surface.part.push_back(mesh.tetPart[t]);
      surface.face.emplace_back();
      surface.skin.push_back(-1);
      surface.tet.push_back(static_cast<std::int32_t>(t));
    }
  }
  addSectionEdges(looks, plane, surface);
  recolor(surface);
  return surface;
}

void SceneModel::addSectionEdges(const std::vector<PartLook>& looks, const SectionPlane& plane,
                                 DrawnSurface& surface) const
{
  const Mesh& mesh = *source_.mesh;
  const auto isShown = [&](PartId part) { return part != noPart && looks[at(part)] == PartLook::Shown; };
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = mesh.geometry.faces[at(mesh.triangleFace[t])];
    if (!isShown(face.parts[0]) && !isShown(face.parts[1]))
      continue;
    const int first = static_cast<int>(surface.points.size());
    for (std::size_t i = 0; i < 3; ++i) {
      const Vec3 a = drawnPlace(mesh.triangles[t][i]);
      const Vec3 b = drawnPlace(mesh.triangles[t][(i + 1) % 3]);
      const double ha = plane.depth(a);
      const double hb = plane.depth(b);
      if ((ha > 0) != (hb > 0))
        surface.points.emplace_back(a + ha / (ha - hb) * (b - a));
    }
    if (surface.points.size() == at(first) + 2)
      surface.edges.push_back({first, first + 1});
  }
}

std::pair<Vec3, Vec3> SceneModel::bounds() const
{
  if (empty() || source_.mesh->geometry.parts.empty())
    return {Vec3::Zero(), Vec3::Zero()};
  Vec3 low = source_.mesh->geometry.parts.front().low;
  Vec3 high = source_.mesh->geometry.parts.front().high;
  for (const GeometryPart& part : source_.mesh->geometry.parts) {
    low = low.cwiseMin(part.low);
    high = high.cwiseMax(part.high);
  }
  return {low, high};
}

} // namespace kiln
