// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/SymmetricProduct.h"

#include <algorithm>
#include <tbb/parallel_for.h>
#include <vector>

namespace kiln
{
namespace
{

/// Adds what the rows from begin to end contribute, on both sides of the diagonal.
void addRows(const UpperHalf& upper, Eigen::Index begin, Eigen::Index end, const Eigen::VectorXd& x, Eigen::VectorXd& y)
{
  const int* const start = upper.outerIndexPtr();
  const int* const column = upper.innerIndexPtr();
  const float* const value = upper.valuePtr();
  for (Eigen::Index row = begin; row < end; ++row) {
    const double own = x[row];
    double sum = 0;
    for (int k = start[row]; k < start[row + 1]; ++k) {
      const double entry = value[k];
      sum += entry * x[column[k]];
      y[column[k]] += entry * own;
    }
    y[row] += sum;
  }
}

} // namespace

Eigen::VectorXd symmetricProduct(const UpperHalf& upper, const Eigen::VectorXd& diagonal, const Eigen::VectorXd& x)
{
  Eigen::VectorXd y = diagonal.cwiseProduct(x);
  constexpr Eigen::Index worthAShare = 200'000; // entries; a thread costs as much as some ten thousand
  constexpr Eigen::Index mostShares = 4;        // each but the first is one more vector to be summed
  const Eigen::Index shares = std::clamp<Eigen::Index>(upper.nonZeros() / worthAShare, 1, mostShares);
  const int* const start = upper.outerIndexPtr();
  const auto rowOf = [&](Eigen::Index share) {
    const auto entry = static_cast<int>(upper.nonZeros() * share / shares);
    return std::lower_bound(start, start + upper.outerSize(), entry) - start;
  };
  std::vector<Eigen::VectorXd> others(static_cast<std::size_t>(shares - 1));
  tbb::parallel_for(Eigen::Index{0}, shares, [&](Eigen::Index share) {
    const Eigen::Index end = share + 1 == shares ? upper.outerSize() : rowOf(share + 1);
    if (share == 0)
      return addRows(upper, 0, end, x, y);
    Eigen::VectorXd& own = others[static_cast<std::size_t>(share - 1)];
    own = Eigen::VectorXd::Zero(x.size());
    addRows(upper, rowOf(share), end, x, own);
  });
  for (const Eigen::VectorXd& own : others)
    y += own;
  return y;
}

} // namespace kiln
