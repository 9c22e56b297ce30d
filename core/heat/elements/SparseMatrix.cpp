// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/SparseMatrix.h"

#include "base/InParallel.h"

#include <algorithm>
#include <numeric>

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
  members_.insert(members_.end(), group.begin(), group.end());
  groupStart_.push_back(members_.size());
}

std::pair<std::vector<std::size_t>, std::vector<Index>> PatternBuilder::groupsOfRows() const
{
  std::vector<std::size_t> start(static_cast<std::size_t>(rows_) + 1, 0);
  for (const Index row : members_)
    ++start[static_cast<std::size_t>(row) + 1];
  std::partial_sum(start.begin(), start.end(), start.begin());
  std::vector<Index> groups(members_.size());
  std::vector<std::size_t> next(start.begin(), start.end() - 1);
  for (std::size_t group = 0; group + 1 < groupStart_.size(); ++group)
    for (std::size_t i = groupStart_[group]; i < groupStart_[group + 1]; ++i)
      groups[next[static_cast<std::size_t>(members_[i])]++] = static_cast<Index>(group);
  return {std::move(start), std::move(groups)};
}

SparseMatrix PatternBuilder::build() const
{
  const auto rows = static_cast<std::size_t>(rows_);
  const auto byRow = groupsOfRows();
  const auto& start = byRow.first;
  const auto& groups = byRow.second;
  SparseMatrix matrix;
  matrix.rowStart.assign(rows + 1, 0);
  std::vector<std::vector<Index>> columns((rows + rowsOfBlock - 1) / rowsOfBlock); // of the rows of a block
  inBlocks(rows, rowsOfBlock, [&](std::size_t first, std::size_t end) {
    std::vector<Index>& found = columns[first / rowsOfBlock];
    std::vector<Index> seen;
    for (std::size_t row = first; row < end; ++row) {
      seen.clear();
      for (std::size_t g = start[row]; g < start[row + 1]; ++g) {
        const auto group = static_cast<std::size_t>(groups[g]);
        seen.insert(seen.end(), members_.begin() + static_cast<std::ptrdiff_t>(groupStart_[group]),
                    members_.begin() + static_cast<std::ptrdiff_t>(groupStart_[group + 1]));
      }
      std::sort(seen.begin(), seen.end());
      seen.erase(std::unique(seen.begin(), seen.end()), seen.end());
      found.insert(found.end(), seen.begin(), seen.end());
      matrix.rowStart[row + 1] = static_cast<Index>(seen.size());
    }
  });
  std::partial_sum(matrix.rowStart.begin(), matrix.rowStart.end(), matrix.rowStart.begin());
  matrix.columns.resize(static_cast<std::size_t>(matrix.rowStart.back()));
  inParallel(columns.size(), [&](std::size_t block) {
    std::copy(columns[block].begin(), columns[block].end(),
              matrix.columns.begin() + matrix.rowStart[block * rowsOfBlock]);
  });
  matrix.values.assign(matrix.columns.size(), 0);
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
