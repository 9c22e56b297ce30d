// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/LineProfile.h"

#include "base/At.h"

#include <algorithm>
#include <array>
#include <optional>
#include <utility>

namespace kiln
{
namespace
{

/// Shares of the corners at a place: affine functions that sum to one.
struct Shares {
  Eigen::Matrix3d inverse;
  Vec3 origin;
  [[nodiscard]] Eigen::Vector4d at(const Vec3& place) const
  {
    const Vec3 rest = inverse * (place - origin);
    return {1 - rest.sum(), rest[0], rest[1], rest[2]};
  }
};

/// The part of the line, by its share, where all four shares are not negative.
std::optional<std::pair<double, double>> inside(const Eigen::Vector4d& start, const Eigen::Vector4d& end)
{
  constexpr double tolerance = 1e-9;
  double low = 0;
  double high = 1;
  for (int i = 0; i < 4; ++i) {
    const double a = start[i] + tolerance;
    const double slope = end[i] - start[i];
    if (slope == 0) {
      if (a < 0)
        return std::nullopt;
      continue;
    }
    const double root = -a / slope;
    if (slope > 0)
      low = std::max(low, root);
    else
      high = std::min(high, root);
  }
  return low < high ? std::optional(std::pair(low, high)) : std::nullopt;
}

} // namespace

std::vector<LinePiece> lineProfile(const Mesh& mesh, const Unknowns& unknowns, std::span<const double> temperature,
                                   std::span<const Vec3> flux, const Vec3& from, const Vec3& to)
{
  std::vector<LinePiece> pieces;
  const double length = (to - from).norm();
  if (length <= 0)
    return pieces;
  const Vec3 along = (to - from) / length;
  const Vec3 low = from.cwiseMin(to);
  const Vec3 high = from.cwiseMax(to);
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    std::array<Vec3, 4> corner;
    for (std::size_t i = 0; i < 4; ++i)
      corner[i] = mesh.nodes[at(mesh.tets[t][i])];
    const Vec3 least = corner[0].cwiseMin(corner[1]).cwiseMin(corner[2].cwiseMin(corner[3]));
    const Vec3 most = corner[0].cwiseMax(corner[1]).cwiseMax(corner[2].cwiseMax(corner[3]));
    if ((least.array() > high.array()).any() || (most.array() < low.array()).any())
      continue;
    Eigen::Matrix3d edges;
    for (int i = 0; i < 3; ++i)
      edges.col(i) = corner[at(i + 1)] - corner[0];
    const Shares shares{edges.inverse(), corner[0]};
    const Eigen::Vector4d start = shares.at(from);
    const Eigen::Vector4d end = shares.at(to);
    const auto found = inside(start, end);
    constexpr double nothing = 1e-9; // of the line: touched, not crossed
    if (!found || found->second - found->first < nothing)
      continue;
    const auto value = [&](double share) {
      const Eigen::Vector4d weights = (1 - share) * start + share * end;
      double kelvin = 0;
      for (std::size_t i = 0; i < 4; ++i)
        kelvin += weights[static_cast<Eigen::Index>(i)] * temperature[at(unknowns.ofTet[t][i])];
      return kelvin;
    };
    pieces.push_back({found->first * length, found->second * length, value(found->first), value(found->second),
                      flux.empty() ? 0 : flux[t].dot(along), mesh.tetPart[t]});
  }
  std::sort(pieces.begin(), pieces.end(),
            [](const LinePiece& a, const LinePiece& b) { return a.from + a.to < b.from + b.to; });
  // Along a face or an edge several tetrahedra have the same stretch: the first is enough.
  std::vector<LinePiece> single;
  for (const LinePiece& piece : pieces)
    if (single.empty() || (piece.from + piece.to) / 2 > single.back().to - 1e-9 * length)
      single.push_back(piece);
  return single;
}

std::optional<double> temperatureAt(const std::vector<LinePiece>& pieces, double along)
{
  constexpr double slack = 1e-9; // m
  for (const LinePiece& piece : pieces)
    if (along >= piece.from - slack && along <= piece.to + slack) {
      const double length = piece.to - piece.from;
      const double share = length > 0 ? std::clamp((along - piece.from) / length, 0.0, 1.0) : 0;
      return piece.temperatureFrom + share * (piece.temperatureTo - piece.temperatureFrom);
    }
  return std::nullopt;
}

std::vector<LinePiece> lessProfile(const std::vector<LinePiece>& pieces, const std::vector<LinePiece>& other)
{
  const bool alike =
      pieces.size() == other.size() &&
      std::equal(pieces.begin(), pieces.end(), other.begin(), [](const LinePiece& a, const LinePiece& b) {
        return a.from == b.from && a.to == b.to && a.part == b.part;
      });
  std::vector<LinePiece> less;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    LinePiece piece = pieces[i];
    const std::optional<double> from = alike ? other[i].temperatureFrom : temperatureAt(other, piece.from);
    const std::optional<double> to = alike ? other[i].temperatureTo : temperatureAt(other, piece.to);
    if (!from || !to)
      continue;
    piece.temperatureFrom -= *from;
    piece.temperatureTo -= *to;
    less.push_back(piece);
  }
  return less;
}

std::vector<double> crossingsOf(const std::vector<LinePiece>& pieces, double kelvin)
{
  std::vector<double> places;
  for (const LinePiece& piece : pieces) {
    const double from = piece.temperatureFrom - kelvin;
    const double to = piece.temperatureTo - kelvin;
    if ((from < 0) != (to < 0))
      places.push_back(piece.from + from / (from - to) * (piece.to - piece.from));
  }
  return places;
}

} // namespace kiln
