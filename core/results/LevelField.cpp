// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/LevelField.h"

#include "heat/watches/ShareAbove.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace kiln
{
namespace
{

/// The polygon in which a level cuts a tetrahedron, three or four corners, in order around it.
struct LevelCut {
  std::array<Vec3, 4> corner;
  int count = 0;

  LevelCut(const std::array<Vec3, 4>& place, const std::array<double, 4>& value, double level)
  {
    std::array<int, 4> above{};
    std::array<int, 4> below{};
    int aboveCount = 0;
    int belowCount = 0;
    for (int i = 0; i < 4; ++i)
      value[at(i)] > level ? above[at(aboveCount++)] = i : below[at(belowCount++)] = i;
    const auto cross = [&](int a, int b) {
      const double t = (level - value[at(a)]) / (value[at(b)] - value[at(a)]);
      corner[at(count++)] = place[at(a)] + t * (place[at(b)] - place[at(a)]);
    };
    if (aboveCount == 2) {
      cross(above[0], below[0]);
      cross(above[0], below[1]);
      cross(above[1], below[1]);
      cross(above[1], below[0]);
      return;
    }
    const bool one = aboveCount == 1;
    for (int i = 0; i < 3; ++i)
      cross(one ? above[0] : above[at(i)], one ? below[at(i)] : below[0]);
  }
};

} // namespace

double LevelSurface::wholeArea() const { return std::accumulate(area.begin(), area.end(), 0.0); }

std::vector<PartId> LevelRegion::parts() const
{
  std::vector<PartId> found;
  for (std::size_t p = 0; p < volume.size(); ++p)
    if (volume[p] > 0)
      found.emplace_back(p);
  return found;
}

LevelField::LevelField(std::shared_ptr<const Mesh> mesh, std::shared_ptr<const Unknowns> unknowns,
                       std::shared_ptr<const std::vector<double>> byUnknown)
    : mesh_(std::move(mesh)), unknowns_(std::move(unknowns)),
      valueAt_([values = std::move(byUnknown)](UnknownId unknown, PartId) { return (*values)[at(unknown)]; })
{
  prepare();
}

LevelField::LevelField(std::shared_ptr<const Mesh> mesh, std::shared_ptr<const Unknowns> unknowns,
                       std::shared_ptr<const PartwiseField> field)
    : mesh_(std::move(mesh)), unknowns_(std::move(unknowns)),
      valueAt_([own = std::move(field)](UnknownId unknown, PartId part) { return own->at(unknown, part); })
{
  prepare();
}

void LevelField::prepare()
{
  const std::size_t tets = mesh_->tets.size();
  corners_.resize(tets);
  span_.resize(tets);
  volume_.resize(tets);
  partVolume_.assign(mesh_->geometry.parts.size(), 0);
  low_ = std::numeric_limits<double>::infinity();
  high_ = -low_;
  for (std::size_t t = 0; t < tets; ++t) {
    for (std::size_t i = 0; i < 4; ++i)
      corners_[t][i] = valueAt_(unknowns_->ofTet[t][i], mesh_->tetPart[t]);
    const auto [low, high] = std::minmax_element(corners_[t].begin(), corners_[t].end());
    span_[t] = {*low, *high};
    low_ = std::min(low_, *low);
    high_ = std::max(high_, *high);
    volume_[t] = tetVolume(*mesh_, t);
    partVolume_[at(mesh_->tetPart[t])] += volume_[t];
  }
}

LevelSurface LevelField::surfaceAt(double level, const std::vector<char>& parts) const
{
  LevelSurface surface;
  surface.area.assign(partVolume_.size(), 0);
  for (std::size_t t = 0; t < span_.size(); ++t) {
    if (!(span_[t][0] <= level && span_[t][1] > level))
      continue;
    const PartId part = mesh_->tetPart[t];
    if (!parts.empty() && parts[at(part)] == 0)
      continue;
    std::array<Vec3, 4> place;
    Vec3 middle = Vec3::Zero();
    std::size_t top = 0;
    for (std::size_t i = 0; i < 4; ++i) {
      place[i] =
          mesh_->nodes[at(mesh_->tets[t][i])]; // of a section with its thickness, so that areas are the real ones
      if (corners_[t][i] > corners_[t][top])
        top = i;
    }
    LevelCut cut(place, corners_[t], level);
    const auto first = static_cast<std::int32_t>(surface.points.size());
    for (int i = 0; i < cut.count; ++i)
      middle += cut.corner[at(i)] / cut.count;
    const Vec3 normal = (cut.corner[1] - cut.corner[0]).cross(cut.corner[2] - cut.corner[0]);
    const bool towards = normal.dot(place[top] - middle) > 0;
    if (towards) // to the lower side
      std::reverse(cut.corner.begin(), cut.corner.begin() + cut.count);
    surface.points.insert(surface.points.end(), cut.corner.begin(), cut.corner.begin() + cut.count);
    surface.pointPart.resize(surface.points.size(), part);
    for (std::int32_t i = 2; i < cut.count; ++i) {
      surface.triangles.push_back({first, first + i - 1, first + i});
      surface.part.push_back(part);
      surface.area[at(part)] +=
          (cut.corner[at(i - 1)] - cut.corner[0]).cross(cut.corner[at(i)] - cut.corner[0]).norm() / 2;
    }
  }
  return surface;
}

LevelRegion LevelField::region(double level, bool above) const
{
  LevelRegion region;
  region.volume.assign(partVolume_.size(), 0);
  region.share.assign(partVolume_.size(), 0);
  for (std::size_t t = 0; t < span_.size(); ++t) {
    const double share = span_[t][0] > level ? 1 : span_[t][1] <= level ? 0 : shareAbove(corners_[t], level);
    region.volume[at(mesh_->tetPart[t])] += (above ? share : 1 - share) * volume_[t];
  }
  for (std::size_t p = 0; p < partVolume_.size(); ++p) {
    region.whole += region.volume[p];
    region.share[p] = partVolume_[p] > 0 ? region.volume[p] / partVolume_[p] : 0;
  }
  region.reached.assign(mesh_->geometry.faces.size(), 0);
  for (std::size_t t = 0; t < mesh_->triangles.size(); ++t) {
    const Face& face = mesh_->geometry.faces[at(mesh_->triangleFace[t])];
    char& reached = region.reached[at(mesh_->triangleFace[t])];
    for (std::size_t side = 0; side < 2 && reached == 0; ++side)
      if (const PartId part = face.parts[side]; part != noPart)
        for (const UnknownId unknown : unknowns_->ofTriangle[t][side])
          if (unknown >= 0 && (valueAt_(unknown, part) > level) == above)
            reached = 1;
  }
  return region;
}

} // namespace kiln
