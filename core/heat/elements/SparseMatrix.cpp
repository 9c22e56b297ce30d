// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/SparseMatrix.h"

#include "base/InParallel.h"

#include <algorithm>

namespace kiln
{

Index SparseMatrix::position(Index row, Index column) const
{
  const auto begin = columns.begin() + rowStart[static_cast<std::size_t>(row)];
  const auto end = columns.begin() + rowStart[static_cast<std::size_t>(row) + 1];
  const auto at = std::lower_bound(begin, end, column);
  return at != end && *at == column ? static_cast<Index>(at - columns.begin()) : -1;
}

void PatternBuilder::couple(std::span<const UnknownId> group)
{
  for (const UnknownId row : group) {
    std::vector<Index>& list = pairs_[static_cast<std::size_t>(row)];
    for (const UnknownId column : group)
      if (std::find(list.begin(), list.end(), column) == list.end())
        list.push_back(column);
  }
}

SparseMatrix PatternBuilder::build()
{
  SparseMatrix matrix;
  std::size_t entries = 0;
  for (const auto& list : pairs_)
    entries += list.size();
  matrix.rowStart.reserve(pairs_.size() + 1);
  matrix.columns.reserve(entries);
  matrix.rowStart.push_back(0);
  for (auto& list : pairs_) {
    std::sort(list.begin(), list.end());
    matrix.columns.insert(matrix.columns.end(), list.begin(), list.end());
    matrix.rowStart.push_back(static_cast<Index>(matrix.columns.size()));
    std::vector<Index>().swap(list);
  }
  matrix.values.assign(entries, 0);
  return matrix;
}

void multiply(const SparseMatrix& matrix, std::span<const double> x, std::span<double> y)
{
  inBlocks(static_cast<std::size_t>(matrix.rows()), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
      double sum = 0;
      for (Index i = matrix.rowStart[row]; i < matrix.rowStart[row + 1]; ++i)
        sum += matrix.values[static_cast<std::size_t>(i)] *
               x[static_cast<std::size_t>(matrix.columns[static_cast<std::size_t>(i)])];
      y[row] = sum;
    }
  });
}

} // namespace kiln
