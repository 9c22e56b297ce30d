// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/RecoveredFlux.h"

#include "base/At.h"

#include <cmath>
#include <unordered_map>

namespace kiln
{
namespace
{

/// Integral of |d|² over a tet whose corners have \p d, per volume (linear between them).
double meanSquare(const std::array<Vec3, 4>& d)
{
  double squares = 0;
  Vec3 sum = Vec3::Zero();
  for (const Vec3& corner : d) {
    squares += corner.squaredNorm();
    sum += corner;
  }
  return (squares + sum.squaredNorm()) / 20;
}

} // namespace

RecoveredFlux recoverFlux(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Vec3>& flux)
{
  RecoveredFlux recovered;
  recovered.slot.resize(mesh.tets.size());
  std::unordered_map<std::uint64_t, Index> slots;
  std::vector<double> volume;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    const double own = tetVolume(mesh, t);
    for (std::size_t i = 0; i < 4; ++i) {
      const auto key =
          static_cast<std::uint64_t>(unknowns.ofTet[t][i]) << 16U | static_cast<std::uint16_t>(mesh.tetPart[t]);
      const auto [found, isNew] = slots.emplace(key, static_cast<Index>(recovered.value.size()));
      if (isNew) {
        recovered.value.push_back(Vec3::Zero());
        volume.push_back(0);
      }
      recovered.slot[t][i] = found->second;
      recovered.value[at(found->second)] += own * flux[t];
      volume[at(found->second)] += own;
    }
  }
  for (std::size_t s = 0; s < volume.size(); ++s)
    recovered.value[s] /= volume[s];
  return recovered;
}

FluxError fluxError(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Vec3>& flux)
{
  const RecoveredFlux recovered = recoverFlux(mesh, unknowns, flux);
  FluxError error;
  error.tet.resize(mesh.tets.size());
  error.part.resize(mesh.geometry.parts.size());
  std::vector<double> whole(error.part.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    std::array<Vec3, 4> own;
    std::array<Vec3, 4> difference;
    for (std::size_t i = 0; i < 4; ++i) {
      own[i] = recovered.corner(t, i);
      difference[i] = own[i] - flux[t];
    }
    const double square = meanSquare(difference);
    const std::size_t part = at(mesh.tetPart[t]);
    error.tet[t] = std::sqrt(square);
    error.part[part] += square * tetVolume(mesh, t);
    whole[part] += meanSquare(own) * tetVolume(mesh, t);
  }
  for (std::size_t p = 0; p < whole.size(); ++p)
    error.part[p] = whole[p] > 0 ? std::sqrt(error.part[p] / whole[p]) : 0;
  return error;
}

} // namespace kiln
