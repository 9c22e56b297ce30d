// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/HeatGround.h"

#include "heat/elements/SparseMatrix.h"

namespace kiln
{

const FaceMass& HeatGround::massOf(FaceId face, const SparseMatrix& pattern) const
{
  const auto [found, fresh] = masses_.try_emplace(face);
  FaceMass& mass = found->second;
  if (!fresh)
    return mass;
  std::map<Index, double> lower;
  std::map<UnknownId, double> load;
  for (const std::int32_t e : elementsOf(face)) {
    const auto element = static_cast<std::size_t>(e);
    const SurfaceNodes own = nodes(element);
    const NodeMatrix block = elementMass(mesh_, element);
    const NodeVector sums = block.rowwise().sum();
    for (std::size_t i = 0; i < own.count; ++i) {
      const auto row = static_cast<Eigen::Index>(i);
      load[own.own[i]] += sums[row];
      for (std::size_t j = 0; j < own.count; ++j)
        if (const double value = block(row, static_cast<Eigen::Index>(j)); value != 0 && own.own[j] <= own.own[i])
          lower[pattern.position(own.own[i], own.own[j])] += value;
    }
  }
  mass.lower.assign(lower.begin(), lower.end());
  mass.load.assign(load.begin(), load.end());
  return mass;
}

void addLower(const SurfaceNodes& rows, const SurfaceNodes& columns, const NodeMatrix& block, SparseMatrix& matrix)
{
  for (std::size_t i = 0; i < rows.count; ++i)
    for (std::size_t j = 0; j < columns.count; ++j)
      if (columns.own[j] <= rows.own[i])
        matrix.values[static_cast<std::size_t>(matrix.position(rows.own[i], columns.own[j]))] +=
            block(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j));
}

void addTo(const SurfaceNodes& nodes, const NodeVector& values, std::span<double> byUnknown)
{
  Eigen::Index i = 0;
  for (const UnknownId u : nodes)
    byUnknown[static_cast<std::size_t>(u)] += values[i++];
}

} // namespace kiln
