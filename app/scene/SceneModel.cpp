// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneModel.h"

#include "base/At.h"
#include "mesh/SecondOrder.h"
#include "scene/SectionCut.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace kiln
{

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

std::vector<Vec3> SceneModel::pulledApart(int axis, double share) const
{
  std::vector<Vec3> offsets;
  if (empty() || share <= 0)
    return offsets;
  const auto [low, high] = bounds();
  const Vec3 middle = (low + high) / 2;
  const double size = (high - low).norm();
  double farthest = 0;
  for (const GeometryPart& part : source_.mesh->geometry.parts) {
    offsets.emplace_back(Vec3::Zero());
    offsets.back()[axis] = (part.low[axis] + part.high[axis]) / 2 - middle[axis];
    farthest = std::max(farthest, std::abs(offsets.back()[axis]));
  }
  for (Vec3& offset : offsets)
    offset *= farthest > 0 ? share * size / farthest : 0;
  return offsets;
}

Vec3 SceneModel::drawnPlace(NodeId node, PartId part) const
{
  const SectionFrame& frame = source_.mesh->geometry.section;
  Vec3 place = source_.mesh->placeOf(node) + offset(part);
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
      if (other != noPart && !insideShows && offsets_.empty() &&
          (looks[at(other)] == PartLook::Shown || (wanted == PartLook::SeeThrough && looks[at(other)] == wanted)))
        continue;
      Triangle drawn{};
      for (std::size_t i = 0; i < 3; ++i) {
        const UnknownId unknown = source_.unknowns->ofTriangle[t][side][i];
        int& point = pointOf[2 * at(unknown) + (isFar(mesh.triangles[t][i]) ? 1 : 0)];
        if (point < 0 || surface.pointPart[at(point)] != part) {
          point = static_cast<int>(surface.points.size());
          surface.points.push_back(drawnPlace(mesh.triangles[t][i], part));
          surface.blends.push_back({unknown, unknown, 0});
          surface.pointPart.push_back(part);
        }
        drawn[i] = point;
      }
      addElementEdges(t, drawn, surface);
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
  surface.triangles.reserve(mesh.triangles.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const auto first = static_cast<int>(surface.points.size());
    for (const NodeId node : mesh.triangles[t])
      surface.points.push_back(drawnPlace(node, mesh.geometry.faces[at(mesh.triangleFace[t])].parts[0]));
    surface.triangles.push_back({first, first + 1, first + 2});
  }
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

/// Of an element, not of its pieces: of those at its corners the two edges from there (mesh/SecondOrder.h).
void SceneModel::addElementEdges(std::size_t triangle, const Triangle& drawn, DrawnSurface& surface) const
{
  const std::size_t piece = triangle % trianglePieces(source_.mesh->order);
  if (source_.mesh->order == 2 && piece == 3)
    return;
  for (std::size_t i = 0; i < 3; ++i)
    if (source_.mesh->order != 2 || i == piece || (i + 1) % 3 == piece)
      surface.elementEdges.push_back({drawn[i], drawn[(i + 1) % 3]});
}

DrawnSurface SceneModel::sections(const std::vector<PartLook>& looks, const SectionPlanes& planes) const
{
  DrawnSurface surface;
  if (empty())
    return surface;
  std::vector<SectionCut> cuts;
  cuts.reserve(planes.size());
  for (const SectionPlane& plane : planes)
    cuts.emplace_back(*this, looks, plane).addTriangles(surface);
  for (const SectionCut& cut : cuts) // after all that carries a colour
    cut.addEdges(surface);
  recolor(surface);
  return surface;
}

std::pair<Vec3, Vec3> SceneModel::bounds() const
{
  if (empty() || source_.mesh->geometry.parts.empty())
    return {Vec3::Zero(), Vec3::Zero()};
  const auto& parts = source_.mesh->geometry.parts;
  Vec3 low = parts.front().low + offset(PartId(0));
  Vec3 high = parts.front().high + offset(PartId(0));
  for (std::size_t p = 0; p < parts.size(); ++p) {
    low = low.cwiseMin(parts[p].low + offset(PartId(p)));
    high = high.cwiseMax(parts[p].high + offset(PartId(p)));
  }
  return {low, high};
}

} // namespace kiln
