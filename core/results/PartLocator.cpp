// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/PartLocator.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

struct Box {
  Vec3 low = Vec3::Constant(std::numeric_limits<double>::infinity());
  Vec3 high = Vec3::Constant(-std::numeric_limits<double>::infinity());

  void take(const Vec3& place)
  {
    low = low.cwiseMin(place);
    high = high.cwiseMax(place);
  }
};

Box boxOf(const Mesh& mesh, std::size_t tet)
{
  Box box;
  for (const NodeId node : mesh.tets[tet])
    box.take(mesh.nodes[at(node)]);
  return box;
}

} // namespace

PartLocator::PartLocator(const Mesh& mesh, PartId part) : mesh_(mesh)
{
  Box all;
  std::vector<std::size_t> own;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    if (mesh.tetPart[t] == part) {
      own.push_back(t);
      for (const NodeId node : mesh.tets[t])
        all.take(mesh.nodes[at(node)]);
    }
  if (own.empty())
    return;
  const Vec3 extent = (all.high - all.low).cwiseMax(1e-12);
  constexpr double perCell = 2; // elements
  const double edge = std::cbrt(extent.prod() * perCell / static_cast<double>(own.size()));
  low_ = all.low;
  for (std::size_t d = 0; d < 3; ++d) {
    constexpr double most = 256;
    const auto axis = static_cast<Eigen::Index>(d);
    count_[d] = static_cast<int>(std::clamp(std::ceil(extent[axis] / edge), 1.0, most));
    size_[axis] = extent[axis] / count_[d];
  }
  cells_.resize(at(count_[0]) * at(count_[1]) * at(count_[2]));
  for (const std::size_t t : own) {
    const Box box = boxOf(mesh, t);
    const Cell from = cellOf(box.low);
    const Cell to = cellOf(box.high);
    for (int i = from[0]; i <= to[0]; ++i)
      for (int j = from[1]; j <= to[1]; ++j)
        for (int k = from[2]; k <= to[2]; ++k)
          cells_[indexOf({i, j, k})].push_back(static_cast<std::uint32_t>(t));
  }
}

PartLocator::Cell PartLocator::cellOf(const Vec3& place) const
{
  Cell cell{};
  for (std::size_t d = 0; d < 3; ++d) {
    const auto axis = static_cast<Eigen::Index>(d);
    const double steps = std::floor((place[axis] - low_[axis]) / size_[axis]);
    cell[d] = static_cast<int>(std::clamp(steps, 0.0, static_cast<double>(count_[d] - 1)));
  }
  return cell;
}

std::size_t PartLocator::indexOf(const Cell& cell) const
{
  return (at(cell[0]) * at(count_[1]) + at(cell[1])) * at(count_[2]) + at(cell[2]);
}

void PartLocator::look(const Cell& cell, const Vec3& place, Location& best) const
{
  for (const std::uint32_t t : cells_[indexOf(cell)]) {
    // Cheap refusal: it is no nearer than its first corner less its longest edge from there.
    const Tet& tet = mesh_.tets[t];
    const Vec3& corner = mesh_.nodes[at(tet[0])];
    double reach = 0;
    for (std::size_t i = 1; i < 4; ++i)
      reach = std::max(reach, (mesh_.nodes[at(tet[i])] - corner).squaredNorm());
    if ((corner - place).norm() - std::sqrt(reach) >= best.distance)
      continue;
    if (const Location here = locateIn(mesh_, t, place); here.distance < best.distance)
      best = here;
  }
}

/// An element of the cell of the place that holds it: quicker than measuring distances; nothing where none does.
std::optional<Location> PartLocator::holding(const Vec3& place) const
{
  constexpr double slack = -1e-9; // of its heights: on a side, but for rounding
  for (const std::uint32_t t : cells_[indexOf(cellOf(place))]) {
    const Tet& tet = mesh_.tets[t];
    const Vec3& corner = mesh_.nodes[at(tet[0])];
    Eigen::Matrix3d edges;
    edges << mesh_.nodes[at(tet[1])] - corner, mesh_.nodes[at(tet[2])] - corner, mesh_.nodes[at(tet[3])] - corner;
    const Vec3 local = edges.inverse() * (place - corner);
    const Eigen::Vector4d weights(1 - local.sum(), local.x(), local.y(), local.z());
    if (weights.minCoeff() < slack)
      continue;
    const Eigen::Vector4d inside = weights.cwiseMax(0);
    return Location{t, inside / inside.sum(), 0};
  }
  return std::nullopt;
}

/// The cell of the place, then those around it in growing shells, until none can hold anything nearer.
Location PartLocator::find(const Vec3& place) const
{
  constexpr double rounding = 1e-9; // m
  if (const auto inside = holding(place))
    return *inside;
  Location best;
  best.distance = std::numeric_limits<double>::infinity();
  const Cell middle = cellOf(place);
  const int widest = std::max({count_[0], count_[1], count_[2]});
  const double step = size_.minCoeff();
  for (int ring = 0; ring <= widest && best.distance > std::max(0, ring - 1) * step; ++ring) {
    for (int i = std::max(0, middle[0] - ring); i <= std::min(count_[0] - 1, middle[0] + ring); ++i)
      for (int j = std::max(0, middle[1] - ring); j <= std::min(count_[1] - 1, middle[1] + ring); ++j)
        for (int k = std::max(0, middle[2] - ring); k <= std::min(count_[2] - 1, middle[2] + ring); ++k)
          if (std::max({std::abs(i - middle[0]), std::abs(j - middle[1]), std::abs(k - middle[2])}) == ring)
            look({i, j, k}, place, best);
    if (best.distance < rounding)
      break;
  }
  if (best.distance < rounding)
    best.distance = 0;
  return best;
}

} // namespace kiln
