// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/LinearSolver.h"

#include "solve/DirectSolver.h"
#include "solve/MultigridSolver.h"
#include "solve/TwoLevelSolver.h"

#include <cmath>
#include <vector>

namespace kiln
{
namespace
{

Index cornersOf(const CornerParents& parents)
{
  Index corners = 0;
  for (std::size_t u = 0; u < parents.size(); ++u)
    corners += static_cast<std::size_t>(parents[u][0]) == u ? 1 : 0;
  return corners;
}

/// Tries its solvers in turn; the first that meets the tolerance is kept for the next matrix.
class FallbackSolver : public LinearSolver
{
public:
  explicit FallbackSolver(const CornerParents& parents)
  {
    if (parents.empty())
      tried_ = 1;
    else
      twoLevels_ =
          std::make_unique<TwoLevelSolver>(parents, makeLinearSolver(LinearBackend::Automatic, cornersOf(parents)));
  }
  [[nodiscard]] std::string_view name() const override { return current_->name(); }
  [[nodiscard]] bool isDirect() const override { return current_->isDirect(); }

  [[nodiscard]] Expected<void> prepare(const SparseMatrix& matrix) override
  {
    matrix_ = &matrix;
    if (!current_)
      advance();
    Expected<void> done = current_->prepare(matrix);
    while (!done && advance())
      done = current_->prepare(matrix);
    return done;
  }

  [[nodiscard]] Expected<LinearReport> solve(std::span<const double> b, std::span<double> x, double tolerance) override
  {
    const std::vector<double> guess(x.begin(), x.end());
    Expected<LinearReport> report = current_->solve(b, x, tolerance);
    while (!report && advance()) {
      std::copy(guess.begin(), guess.end(), x.begin());
      if (current_->prepare(*matrix_))
        report = current_->solve(b, x, tolerance);
    }
    return report;
  }

  void approximate(std::span<const double> b, std::span<double> x) override { current_->approximate(b, x); }

private:
  bool advance()
  {
    switch (tried_++) {
    case 0:
      current_ = std::move(twoLevels_);
      return true;
    case 1:
      current_ = std::make_unique<MultigridSolver>(MultigridSettings::Fast);
      return true;
    case 2:
      current_ = std::make_unique<MultigridSolver>(MultigridSettings::Safe);
      return true;
    case 3:
      current_ = std::make_unique<DirectSolver>();
      return true;
    default:
      return false;
    }
  }

  std::unique_ptr<LinearSolver> current_, twoLevels_;
  const SparseMatrix* matrix_ = nullptr;
  int tried_ = 0;
};

} // namespace

std::unique_ptr<LinearSolver> makeLinearSolver(LinearBackend backend, Index unknowns, const CornerParents& parents)
{
  if (backend == LinearBackend::Direct || (backend == LinearBackend::Automatic && unknowns < multigridFrom))
    return std::make_unique<DirectSolver>();
  if (backend == LinearBackend::Multigrid)
    return std::make_unique<MultigridSolver>(MultigridSettings::Fast);
  return std::make_unique<FallbackSolver>(parents);
}

double relativeResidual(const SparseMatrix& matrix, std::span<const double> b, std::span<const double> x)
{
  std::vector<double> product(b.size());
  multiply(matrix, x, product);
  double rest = 0;
  double size = 0;
  for (std::size_t i = 0; i < b.size(); ++i) {
    rest += (b[i] - product[i]) * (b[i] - product[i]);
    size += b[i] * b[i];
  }
  return size > 0 ? std::sqrt(rest / size) : std::sqrt(rest);
}

} // namespace kiln
