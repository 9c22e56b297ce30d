// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/HeatGround.h"

#include "heat/elements/SparseMatrix.h"

namespace kiln
{

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
