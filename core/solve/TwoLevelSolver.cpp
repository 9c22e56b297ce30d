// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/TwoLevelSolver.h"

#include "base/At.h"
#include "base/FunctionMatrix.h"
#include "base/InParallel.h"
#include "solve/MultigridSolver.h"

#include <Eigen/IterativeLinearSolvers>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr std::size_t rowsOfSweep = 32768; // fewer rows in a block: more that only the diagonal knows of

/// As Eigen asks its iterations' inner solvers to be.
class Cycle
{
public:
  Cycle() = default;
  explicit Cycle(TwoLevelSolver* solver) : solver_(solver) {}
  template <class Matrix>
  Cycle& analyzePattern(const Matrix&)
  {
    return *this;
  }
  template <class Matrix>
  Cycle& factorize(const Matrix&)
  {
    return *this;
  }
  template <class Matrix>
  Cycle& compute(const Matrix&)
  {
    return *this;
  }
  [[nodiscard]] Eigen::ComputationInfo info() const { return Eigen::Success; }
  [[nodiscard]] Eigen::VectorXd solve(const Eigen::VectorXd& b) const
  {
    Eigen::VectorXd x(b.size());
    const auto count = static_cast<std::size_t>(b.size());
    solver_->approximate({b.data(), count}, {x.data(), count});
    return x;
  }

private:
  TwoLevelSolver* solver_ = nullptr;
};

} // namespace

TwoLevelSolver::TwoLevelSolver(const CornerParents& parents, std::unique_ptr<LinearSolver> corners)
    : coarsening_(parents), corners_(std::move(corners)), diagonal_(parents.size()), left_(parents.size()),
      before_(parents.size()), coarseRight_(coarsening_.corners()), coarse_(coarsening_.corners())
{
}

Expected<void> TwoLevelSolver::prepare(const SparseMatrix& matrix)
{
  matrix_ = &matrix;
  coarsening_.take(matrix);
  own_.resize(diagonal_.size());
  bool positive = true;
  for (std::size_t row = 0; row < own_.size(); ++row) {
    own_[row] = matrix.position(static_cast<Index>(row), static_cast<Index>(row));
    positive = positive && matrix.values[at(own_[row])] > 0;
  }
  if (!positive)
    return failure(Failure::Kind::Solver, "linear solver", "The matrix is not positive definite.",
                   "Check for parts without a way for their heat to leave.");
  values_.resize(matrix.values.size());
  inBlocks(diagonal_.size(), rowsOfSweep, [&](std::size_t first, std::size_t end) {
    std::transform(matrix.values.begin() + matrix.rowStart[first], matrix.values.begin() + matrix.rowStart[end],
                   values_.begin() + matrix.rowStart[first], [](double value) { return static_cast<float>(value); });
    for (std::size_t row = first; row < end; ++row) {
      diagonal_[row] = matrix.values[at(own_[row])];
      for (Index k = matrix.rowStart[row]; k < matrix.rowStart[row + 1]; ++k)
        if (const std::size_t column = at(matrix.columns[at(k)]); column < first || column >= end)
          diagonal_[row] += std::abs(matrix.values[at(k)]);
    }
  });
  return corners_->prepare(coarsening_.matrix());
}

/// From nothing.
void TwoLevelSolver::sweepDown(std::span<const double> b, std::span<double> x) const
{
  const SparseMatrix& a = *matrix_; // its pattern
  inBlocks(b.size(), rowsOfSweep, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
      double sum = b[row];
      for (Index k = own_[row]; k-- > a.rowStart[row] && at(a.columns[at(k)]) >= first;)
        sum -= values_[at(k)] * x[at(a.columns[at(k)])];
      x[row] = sum / diagonal_[row];
    }
  });
}

/// b − A x: what the sweep has answered, the lower half within the block, need not be looked at again.
void TwoLevelSolver::leftAfterSweep(std::span<const double> x, std::span<double> left) const
{
  const SparseMatrix& a = *matrix_; // its pattern
  inBlocks(x.size(), rowsOfSweep, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
      double sum = (diagonal_[row] - values_[at(own_[row])]) * x[row];
      for (Index k = a.rowStart[row]; k < own_[row] && at(a.columns[at(k)]) < first; ++k)
        sum -= values_[at(k)] * x[at(a.columns[at(k)])];
      for (Index k = own_[row] + 1; k < a.rowStart[row + 1]; ++k)
        sum -= values_[at(k)] * x[at(a.columns[at(k)])];
      left[row] = sum;
    }
  });
}

/// The transposed sweep, from x.
void TwoLevelSolver::sweepUp(std::span<const double> b, std::span<double> x)
{
  const SparseMatrix& a = *matrix_; // its pattern
  std::copy(x.begin(), x.end(), before_.begin());
  inBlocks(b.size(), rowsOfSweep, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = end; row-- > first;) {
      double sum = b[row];
      for (Index k = a.rowStart[row]; k < a.rowStart[row + 1]; ++k) {
        const std::size_t column = at(a.columns[at(k)]);
        sum -= values_[at(k)] * (column > row && column < end ? x[column] : before_[column]);
      }
      x[row] += sum / diagonal_[row];
    }
  });
}

void TwoLevelSolver::approximate(std::span<const double> b, std::span<double> x)
{
  sweepDown(b, x);
  leftAfterSweep(x, left_);
  coarsening_.restrict(left_, coarseRight_);
  corners_->approximate(coarseRight_, coarse_);
  coarsening_.addProlonged(coarse_, x);
  sweepUp(b, x);
}

Expected<LinearReport> TwoLevelSolver::solve(std::span<const double> b, std::span<double> x, double tolerance)
{
  using Vector = Eigen::VectorXd;
  const auto count = static_cast<Eigen::Index>(b.size());
  const FunctionMatrix matrix(count, [this](const Vector& v) -> Vector {
    Vector product(v.size());
    const auto size = static_cast<std::size_t>(v.size());
    multiply(*matrix_, {v.data(), size}, {product.data(), size});
    return product;
  });
  Eigen::ConjugateGradient<FunctionMatrix, Eigen::Lower | Eigen::Upper, Cycle> gradients;
  gradients.preconditioner() = Cycle(this);
  constexpr double margin = 0.5; // of the tolerance
  constexpr int mostStarts = 3;  // the recursion's residual drifts from the true one; a fresh start mends that
  constexpr int mostIterations = 200;
  gradients.setTolerance(tolerance * margin);
  gradients.setMaxIterations(mostIterations);
  gradients.compute(matrix);
  LinearReport report;
  const Eigen::Map<const Vector> right(b.data(), count);
  Eigen::Map<Vector> solution(x.data(), count);
  for (int start = 0; start < mostStarts; ++start) {
    solution = gradients.solveWithGuess(right, Vector(solution));
    report.iterations += static_cast<int>(gradients.iterations());
    report.relativeResidual = relativeResidual(*matrix_, b, x);
    if (report.relativeResidual <= tolerance || !std::isfinite(report.relativeResidual))
      break;
  }
  if (!(report.relativeResidual <= tolerance))
    return stoppedEarly(report);
  return report;
}

} // namespace kiln
