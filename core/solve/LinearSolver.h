// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/elements/CornerParents.h"
#include "heat/elements/SparseMatrix.h"

#include <memory>
#include <span>
#include <string_view>

namespace kiln
{

/// How a linear solve went; the residual is recomputed from the matrix, not taken from the solver.
struct LinearReport {
  int iterations = 0;
  double relativeResidual = 0; ///< ‖b − A x‖₂ / ‖b‖₂
};

/// Solves A x = b for symmetric positive definite A.
/// Contract: prepare() before solve(); the matrix must outlive the last solve(). prepare() may be called again with
/// another matrix of the same pattern. Not for use from two threads.
class LinearSolver
{
public:
  virtual ~LinearSolver() = default;
  [[nodiscard]] virtual std::string_view name() const = 0;
  /// One solve is as good as it gets.
  [[nodiscard]] virtual bool isDirect() const = 0;
  /// Factors, or builds the hierarchy. Fails when the matrix is not positive definite or memory is short.
  [[nodiscard]] virtual Expected<void> prepare(const SparseMatrix& matrix) = 0;
  /// \param x  first guess on entry, solution on return
  /// Fails when the true relative residual stays above \p tolerance; a direct solver's above what rounding leaves.
  [[nodiscard]] virtual Expected<LinearReport> solve(std::span<const double> b, std::span<double> x,
                                                     double tolerance) = 0;
  /// Roughly solves A x = b by a fixed linear map, cheap where that can be: to divide by A inside another iteration.
  /// prepare() before it, as before solve().
  virtual void approximate(std::span<const double> b, std::span<double> x) = 0;
};

enum class LinearBackend { Automatic, Direct, Multigrid };

/// Unknowns above which multigrid beats the factorisation for a few solves (measured: bench/, docs/performance.md).
inline constexpr Index multigridFrom = 30'000;

/// Solver for a matrix of this size. The automatic one falls back: multigrid, multigrid with safer settings, then the
/// factorisation when its predicted memory fits.
/// \param parents  of second order: it begins with the multigrid of the corners
[[nodiscard]] std::unique_ptr<LinearSolver> makeLinearSolver(LinearBackend backend, Index unknowns,
                                                             const CornerParents& parents = {});

/// ‖b − A x‖₂ / ‖b‖₂ (0 when b is zero and x solves it).
[[nodiscard]] double relativeResidual(const SparseMatrix& matrix, std::span<const double> b, std::span<const double> x);

} // namespace kiln
