// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/LargePages.h"
#include "heat/elements/Index.h"

#include <span>
#include <utility>
#include <vector>

namespace kiln
{

/// A symmetric sparse matrix with its full pattern stored by rows, columns increasing.
struct SparseMatrix {
  std::vector<Index> rowStart; ///< size rows + 1
  std::vector<Index> columns;
  LargeVector<double> values;

  [[nodiscard]] Index rows() const { return static_cast<Index>(rowStart.size()) - 1; }
  /// Position of (row, column) in values; -1 when it is not in the pattern.
  [[nodiscard]] Index position(Index row, Index column) const;
};

/// Collects a pattern (values zero) in which the members of every coupled group see each other.
class PatternBuilder
{
public:
  explicit PatternBuilder(Index rows) : rows_(rows) {}
  void couple(std::span<const UnknownId> group);
  [[nodiscard]] SparseMatrix build() const;

private:
  /// By row, the groups it is a member of: where each row's begin, and their numbers.
  [[nodiscard]] std::pair<std::vector<std::size_t>, std::vector<Index>> groupsOfRows() const;

  Index rows_;
  std::vector<Index> members_; ///< one group after the other
  std::vector<std::size_t> groupStart_{0};
};

/// Rows that are worth handing to another processor.
inline constexpr std::size_t rowsOfBlock = 8192;

/// y = A x
void multiply(const SparseMatrix& matrix, std::span<const double> x, std::span<double> y);

} // namespace kiln
