// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/DirectSolver.h"

#include <limits>

#include <algorithm>
#include <cblas.h>
#include <cholmod.h>
#include <cmath>
#include <string>
#include <unistd.h>
#include <vector>

namespace kiln
{
namespace
{

constexpr double usableMemoryShare = 0.7; // of the machine's memory

/// Threads wait for each other by asking the processor again and again: worth it in large factorisations alone.
void shareAmongThreads(bool worthwhile)
{
  static const int all = openblas_get_num_threads();
  openblas_set_num_threads(worthwhile ? all : 1);
}
constexpr double largeFactor = 2e7; // entries

double machineMemory()
{
  return static_cast<double>(sysconf(_SC_PHYS_PAGES)) * static_cast<double>(sysconf(_SC_PAGE_SIZE));
}

} // namespace

struct DirectSolver::State {
  cholmod_common common{};
  cholmod_factor* factor = nullptr;
  const SparseMatrix* matrix = nullptr;

  /// A view of our rows as columns; symmetric, so the lower triangle is the same.
  [[nodiscard]] cholmod_sparse view() const
  {
    cholmod_sparse sparse{};
    sparse.nrow = sparse.ncol = static_cast<std::size_t>(matrix->rows());
    sparse.nzmax = matrix->columns.size();
    sparse.p = const_cast<Index*>(matrix->rowStart.data()); // CHOLMOD's interface is not const-correct
    sparse.i = const_cast<Index*>(matrix->columns.data());
    sparse.x = const_cast<double*>(matrix->values.data());
    sparse.stype = -1;
    sparse.itype = CHOLMOD_INT;
    sparse.xtype = CHOLMOD_REAL;
    sparse.dtype = CHOLMOD_DOUBLE;
    sparse.sorted = 1;
    sparse.packed = 1;
    return sparse;
  }
};

DirectSolver::DirectSolver() : state_(std::make_unique<State>())
{
  cholmod_start(&state_->common);
  state_->common.supernodal = CHOLMOD_SUPERNODAL;
  state_->common.nmethods = 1;
  state_->common.method[0].ordering = CHOLMOD_METIS;
  state_->common.print = 0;
}

DirectSolver::~DirectSolver()
{
  cholmod_free_factor(&state_->factor, &state_->common);
  cholmod_finish(&state_->common);
}

Expected<void> DirectSolver::prepare(const SparseMatrix& matrix)
{
  const bool samePattern = state_->factor != nullptr && state_->matrix != nullptr &&
                           state_->factor->n == static_cast<std::size_t>(matrix.rows());
  state_->matrix = &matrix;
  cholmod_sparse sparse = state_->view();
  if (!samePattern) {
    cholmod_free_factor(&state_->factor, &state_->common);
    state_->factor = cholmod_analyze(&sparse, &state_->common);
    const double need = state_->common.lnz * sizeof(double);
    if (state_->factor == nullptr || need > usableMemoryShare * machineMemory())
      return failure(Failure::Kind::Solver, "linear solver",
                     "The factorisation would need " + std::to_string(static_cast<long>(need / 1e9)) + " GB of memory.",
                     "Use a larger mesh size.");
  }
  shareAmongThreads(state_->common.lnz > largeFactor);
  cholmod_factorize(&sparse, state_->factor, &state_->common);
  shareAmongThreads(false);
  if (state_->common.status != CHOLMOD_OK)
    return failure(Failure::Kind::Solver, "linear solver",
                   state_->common.status == CHOLMOD_OUT_OF_MEMORY
                       ? "The factorisation ran out of memory."
                       : "The equations have no unique solution (the matrix is not positive definite).",
                   "Check that every part has a way for its heat to leave, or use a larger mesh size.");
  return {};
}

Expected<LinearReport> DirectSolver::solve(std::span<const double> b, std::span<double> x, double tolerance)
{
  const auto n = static_cast<std::size_t>(state_->matrix->rows());
  cholmod_dense right{};
  right.nrow = right.nzmax = right.d = n;
  right.ncol = 1;
  right.xtype = CHOLMOD_REAL;
  right.dtype = CHOLMOD_DOUBLE;
  right.x = const_cast<double*>(b.data());
  cholmod_dense* solution = cholmod_solve(CHOLMOD_A, state_->factor, &right, &state_->common);
  if (solution == nullptr)
    return failure(Failure::Kind::Solver, "linear solver", "The back-substitution failed.", "Use a larger mesh size.");
  std::copy_n(static_cast<const double*>(solution->x), n, x.begin());
  cholmod_free_dense(&solution, &state_->common);
  const double residual = relativeResidual(*state_->matrix, b, x);
  if (!std::isfinite(residual))
    return failure(Failure::Kind::Solver, "linear solver", "Its numbers are not finite.",
                   "Look for a value that is extremely large or small.");
  // Rounding leaves that much in what conducts a million times better than it gives away; a next step mends it.
  constexpr double rounding = 1e-6;
  if (!(residual <= std::max(tolerance, rounding)))
    return failure(Failure::Kind::Solver, "linear solver",
                   "The factorisation left a residual of " + std::to_string(residual) + ".",
                   "Check for conductivities that differ by many orders of magnitude.");
  return LinearReport{1, residual};
}

void DirectSolver::approximate(std::span<const double> b, std::span<double> x)
{
  (void)solve(b, x, std::numeric_limits<double>::infinity());
}

} // namespace kiln
