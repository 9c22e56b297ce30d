// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/CornerCoarsening.h"

#include "base/At.h"
#include "base/InParallel.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr double half = 0.5;
constexpr std::size_t cornersOfBlock = 4096;

} // namespace

CornerCoarsening::CornerCoarsening(const CornerParents& parents) : held_(parents.size(), 0)
{
  std::vector<Index> cornerOf(parents.size(), -1);
  for (std::size_t u = 0; u < parents.size(); ++u)
    if (at(parents[u][0]) == u) {
      cornerOf[u] = static_cast<Index>(fineOf_.size());
      fineOf_.push_back(static_cast<Index>(u));
    }
  childStart_.assign(fineOf_.size() + 1, 0);
  for (const auto& [a, b] : parents) {
    parents_.push_back({cornerOf[at(a)], cornerOf[at(b)]});
    ++childStart_[at(parents_.back()[0]) + 1];
    if (a != b)
      ++childStart_[at(parents_.back()[1]) + 1];
  }
  for (std::size_t c = 0; c < fineOf_.size(); ++c)
    childStart_[c + 1] += childStart_[c];
  children_.resize(childStart_.back());
  std::vector<std::size_t> next(childStart_.begin(), childStart_.end() - 1);
  for (std::size_t u = 0; u < parents_.size(); ++u) {
    const auto [a, b] = parents_[u];
    children_[next[at(a)]++] = {static_cast<Index>(u), a == b ? 1 : half};
    if (a != b)
      children_[next[at(b)]++] = {static_cast<Index>(u), half};
  }
}

/// Calls with (corner, share) of all that a corner's row of Pᵀ A P is summed from.
template <class Visit>
void CornerCoarsening::eachEntry(const SparseMatrix& matrix, std::size_t row, Visit&& visit) const
{
  for (std::size_t c = childStart_[row]; c < childStart_[row + 1]; ++c) {
    const auto& [fine, weight] = children_[c];
    for (Index k = matrix.rowStart[at(fine)]; k < matrix.rowStart[at(fine) + 1]; ++k) {
      const auto [a, b] = parents_[at(matrix.columns[at(k)])];
      if (a == b) {
        visit(a, weight, k, fine);
      } else {
        visit(a, half * weight, k, fine);
        visit(b, half * weight, k, fine);
      }
    }
  }
}

void CornerCoarsening::makePattern(const SparseMatrix& matrix)
{
  std::vector<std::vector<Index>> rows(corners());
  inBlocks(corners(), cornersOfBlock, [&](std::size_t first, std::size_t end) {
    std::vector<Index> seenBy(corners(), -1);
    for (std::size_t row = first; row < end; ++row) {
      eachEntry(matrix, row, [&](Index corner, double, Index, Index) {
        if (seenBy[at(corner)] != static_cast<Index>(row)) {
          seenBy[at(corner)] = static_cast<Index>(row);
          rows[row].push_back(corner);
        }
      });
      std::sort(rows[row].begin(), rows[row].end());
    }
  });
  coarse_.rowStart.assign(1, 0);
  for (const std::vector<Index>& row : rows)
    coarse_.rowStart.push_back(coarse_.rowStart.back() + static_cast<Index>(row.size()));
  coarse_.columns.reserve(at(coarse_.rowStart.back()));
  for (const std::vector<Index>& row : rows)
    coarse_.columns.insert(coarse_.columns.end(), row.begin(), row.end());
  coarse_.values.assign(coarse_.columns.size(), 0);
}

void CornerCoarsening::take(const SparseMatrix& matrix)
{
  if (coarse_.rowStart.empty())
    makePattern(matrix);
  inBlocks(held_.size(), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t u = first; u < end; ++u) {
      held_[u] = 1;
      for (Index k = matrix.rowStart[u]; k < matrix.rowStart[u + 1] && held_[u] != 0; ++k)
        held_[u] = at(matrix.columns[at(k)]) == u || matrix.values[at(k)] == 0 ? 1 : 0;
    }
  });
  inBlocks(corners(), cornersOfBlock, [&](std::size_t first, std::size_t end) {
    std::vector<Index> place(corners(), -1);
    for (std::size_t row = first; row < end; ++row) {
      const auto begin = coarse_.columns.begin() + coarse_.rowStart[row];
      const auto stop = coarse_.columns.begin() + coarse_.rowStart[row + 1];
      for (auto column = begin; column != stop; ++column)
        place[at(*column)] = static_cast<Index>(column - coarse_.columns.begin());
      std::fill(coarse_.values.begin() + coarse_.rowStart[row], coarse_.values.begin() + coarse_.rowStart[row + 1],
                0.0);
      if (held_[at(fineOf_[row])] != 0) {
        const Index own = matrix.position(fineOf_[row], fineOf_[row]);
        coarse_.values[at(place[row])] = matrix.values[at(own)];
        continue;
      }
      eachEntry(matrix, row, [&](Index corner, double share, Index k, Index fine) {
        if (held_[at(fine)] == 0 && held_[at(fineOf_[at(corner)])] == 0)
          coarse_.values[at(place[at(corner)])] += share * matrix.values[at(k)];
      });
    }
  });
}

void CornerCoarsening::restrict(std::span<const double> fine, std::span<double> coarse) const
{
  inBlocks(corners(), cornersOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
      double sum = 0;
      for (std::size_t c = childStart_[row]; c < childStart_[row + 1]; ++c)
        if (held_[at(children_[c].fine)] == 0)
          sum += children_[c].weight * fine[at(children_[c].fine)];
      coarse[row] = held_[at(fineOf_[row])] != 0 ? 0 : sum;
    }
  });
}

void CornerCoarsening::addProlonged(std::span<const double> coarse, std::span<double> fine) const
{
  inBlocks(parents_.size(), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t u = first; u < end; ++u)
      if (held_[u] == 0)
        fine[u] += half * (coarse[at(parents_[u][0])] + coarse[at(parents_[u][1])]);
  });
}

} // namespace kiln
