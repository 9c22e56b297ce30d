// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/Streamlines.h"

#include "base/At.h"

#include <algorithm>
#include <limits>
#include <optional>

namespace kiln
{
namespace
{

using Side = std::array<NodeId, 3>;

Side sorted(Side side)
{
  std::sort(side.begin(), side.end());
  return side;
}

Side sideOf(const Tet& tet, std::size_t corner)
{
  Side side{};
  std::size_t n = 0;
  for (std::size_t i = 0; i < 4; ++i)
    if (i != corner)
      side[n++] = tet[i];
  return sorted(side);
}

/// Gradients of the weights of a tetrahedron's corners, 1/m.
std::array<Vec3, 4> slopesOf(const Mesh& mesh, std::size_t tet)
{
  Eigen::Matrix3d edges;
  const Vec3 last = mesh.placeOf(mesh.tets[tet][3]);
  for (Eigen::Index i = 0; i < 3; ++i)
    edges.row(i) = mesh.placeOf(mesh.tets[tet][static_cast<std::size_t>(i)]) - last;
  const Eigen::Matrix3d inverse = edges.transpose().inverse();
  return {inverse.row(0), inverse.row(1), inverse.row(2), -inverse.row(0) - inverse.row(1) - inverse.row(2)};
}

} // namespace

FluxField::FluxField(std::shared_ptr<const Mesh> mesh, const Unknowns& unknowns, std::vector<Vec3> flux,
                     std::vector<char> passes, bool raw)
    : mesh_(std::move(mesh)), flux_(std::move(flux)), passes_(std::move(passes))
{
  if (!raw)
    recovered_ = recoverFlux(*mesh_, unknowns, flux_);
  for (const Vec3& own : flux_)
    largest_ = std::max(largest_, own.norm());
  findNeighbours();
}

void FluxField::findNeighbours()
{
  struct Entry {
    Side side;
    std::uint32_t tet = 0, corner = 0;
    bool operator<(const Entry& other) const { return side < other.side; }
  };
  std::vector<Entry> entries;
  entries.reserve(4 * mesh_->tets.size());
  for (std::size_t t = 0; t < mesh_->tets.size(); ++t)
    for (std::size_t i = 0; i < 4; ++i)
      entries.push_back({sideOf(mesh_->tets[t], i), static_cast<std::uint32_t>(t), static_cast<std::uint32_t>(i)});
  std::sort(entries.begin(), entries.end());
  next_.assign(mesh_->tets.size(), {-1, -1, -1, -1});
  face_.assign(mesh_->tets.size(), {});
  for (std::size_t e = 1; e < entries.size(); ++e)
    if (const Entry& a = entries[e - 1], &b = entries[e]; a.side == b.side) {
      next_[a.tet][a.corner] = static_cast<std::int32_t>(b.tet);
      next_[b.tet][b.corner] = static_cast<std::int32_t>(a.tet);
    }
  for (std::size_t t = 0; t < mesh_->triangles.size(); ++t)
    for (const std::int32_t tet : mesh_->triangleTets[t])
      for (std::size_t i = 0; tet >= 0 && i < 4; ++i)
        if (sideOf(mesh_->tets[kiln::at(tet)], i) == sorted(mesh_->triangles[t]))
          face_[kiln::at(tet)][i] = mesh_->triangleFace[t];
}

std::array<double, 4> FluxField::weights(const Vec3& place, std::size_t tet) const
{
  const std::array<Vec3, 4> slopes = slopesOf(*mesh_, tet);
  std::array<double, 4> weight{};
  const Vec3 last = mesh_->placeOf(mesh_->tets[tet][3]);
  weight[3] = 1;
  for (std::size_t i = 0; i < 3; ++i) {
    weight[i] = slopes[i].dot(place - last);
    weight[3] -= weight[i];
  }
  return weight;
}

Vec3 FluxField::at(const Vec3& place, std::size_t tet) const
{
  if (recovered_.value.empty())
    return flux_[tet];
  const std::array<double, 4> weight = weights(place, tet);
  Vec3 value = Vec3::Zero();
  for (std::size_t i = 0; i < 4; ++i)
    value += weight[i] * recovered_.corner(tet, i);
  return value;
}

/// A line on its way through the tetrahedra.
struct FluxField::Way {
  const FluxField& field;
  double sign;
  std::size_t tet;
  Vec3 place;

  struct Exit {
    double distance = std::numeric_limits<double>::infinity();
    std::size_t corner = 0; ///< opposite the side it leaves by
  };

  /// Where a straight way from the place leaves the tetrahedron; it does not leave by a side that it lies in.
  [[nodiscard]] Exit exitAlong(const Vec3& direction) const
  {
    const std::array<Vec3, 4> slopes = slopesOf(*field.mesh_, tet);
    const std::array<double, 4> weight = field.weights(place, tet);
    Exit exit;
    for (std::size_t i = 0; i < 4; ++i) {
      const double falls = -slopes[i].dot(direction);
      if (falls <= 1e-9 * slopes[i].norm())
        continue;
      const double distance = std::max(weight[i], 0.0) / falls;
      if (distance < exit.distance)
        exit = {distance, i};
    }
    return exit;
  }

  /// Direction at a place, along the outside where it lies in an insulated side and would leave by it.
  [[nodiscard]] std::optional<Vec3> directionAt(const Vec3& there, int along) const
  {
    Vec3 flux = sign * field.at(there, tet);
    if (along >= 0) {
      const Vec3 inward = slopesOf(*field.mesh_, tet)[kiln::at(along)].normalized();
      flux -= std::min(flux.dot(inward), 0.0) * inward;
    }
    constexpr double still = 1e-9; // of the largest
    const double size = flux.norm();
    return size > still * field.largest_ ? std::optional<Vec3>(flux / size) : std::nullopt;
  }
};

void FluxField::follow(const Vec3& place, std::size_t tet, double sign, std::vector<Vec3>& points, FaceId& end) const
{
  Way way{*this, sign, tet, place};
  const std::size_t most = 400 + 20 * static_cast<std::size_t>(std::cbrt(static_cast<double>(next_.size())));
  int along = -1; // side of the tetrahedron that it may not leave by
  int stuck = 0;
  for (std::size_t step = 0; step < most; ++step) {
    const auto first = way.directionAt(way.place, along);
    if (!first)
      return;
    Way::Exit exit = way.exitAlong(*first);
    if (const auto half = way.directionAt(way.place + exit.distance / 2 * *first, along); half) {
      const Way::Exit better = way.exitAlong(*half); // by the direction half-way: second order
      if (std::isfinite(better.distance)) {
        exit = better;
        way.place += exit.distance * *half;
      } else
        way.place += exit.distance * *first;
    }
    const double size = (mesh_->placeOf(mesh_->tets[way.tet][0]) - mesh_->placeOf(mesh_->tets[way.tet][1])).norm();
    if (exit.distance < 1e-6 * size) { // to and fro across an edge
      constexpr int patience = 40;
      if (++stuck > patience)
        return;
      Vec3 middle = Vec3::Zero();
      for (const NodeId node : mesh_->tets[way.tet])
        middle += mesh_->placeOf(node) / 4;
      way.place += 1e-4 * (middle - way.place);
    } else {
      points.push_back(way.place);
    }
    if (const std::int32_t next = next_[way.tet][exit.corner]; next >= 0) {
      way.tet = kiln::at(next);
      along = -1;
    } else if (const FaceId face = face_[way.tet][exit.corner]; face < 0 || passes_[kiln::at(face)] != 0) {
      end = face;
      return;
    } else {
      along = static_cast<int>(exit.corner);
    }
  }
}

Streamline FluxField::through(const Vec3& place, std::size_t tet) const
{
  Streamline line;
  if (largest_ <= 0)
    return line;
  std::vector<Vec3> back;
  follow(place, tet, -1, back, line.begins);
  std::reverse(back.begin(), back.end());
  line.points = std::move(back);
  line.points.push_back(place);
  follow(place, tet, 1, line.points, line.ends);
  return line;
}

} // namespace kiln
