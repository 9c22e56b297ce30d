// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/MultigridSolver.h"

#include <HYPRE.h>
#include <HYPRE_IJ_mv.h>
#include <HYPRE_krylov.h>
#include <HYPRE_parcsr_ls.h>
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <mpi.h>
#include <numeric>
#include <string>
#include <vector>

namespace kiln
{
namespace
{

static_assert(sizeof(HYPRE_Int) == sizeof(Index), "hypre must be built with 32-bit integers");

constexpr int mostIterations = 300;

/// Starts MPI in a single process without daemons or network, once; ends it with the program.
void startMpiOnce()
{
  static const bool started = [] {
    int already = 0;
    MPI_Initialized(&already);
    if (already != 0)
      return true;
    setenv("OMPI_MCA_ess_singleton_isolated", "1", 0);
    setenv("OMPI_MCA_pml", "ob1", 0);
    setenv("OMPI_MCA_btl", "self", 0);
    MPI_Init(nullptr, nullptr);
    HYPRE_Init();
    std::atexit([] {
      HYPRE_Finalize();
      MPI_Finalize();
    });
    return true;
  }();
  static_cast<void>(started);
}

class IjVector
{
public:
  explicit IjVector(Index rows) : rows_(rows)
  {
    HYPRE_IJVectorCreate(MPI_COMM_SELF, 0, rows - 1, &vector_);
    HYPRE_IJVectorSetObjectType(vector_, HYPRE_PARCSR);
  }
  ~IjVector() { HYPRE_IJVectorDestroy(vector_); }
  IjVector(const IjVector&) = delete;
  IjVector& operator=(const IjVector&) = delete;

  HYPRE_ParVector set(std::span<const double> values, const std::vector<HYPRE_Int>& indices)
  {
    HYPRE_IJVectorInitialize(vector_);
    HYPRE_IJVectorSetValues(vector_, rows_, indices.data(), values.data());
    HYPRE_IJVectorAssemble(vector_);
    HYPRE_ParVector parallel = nullptr;
    HYPRE_IJVectorGetObject(vector_, reinterpret_cast<void**>(&parallel));
    return parallel;
  }
  void get(std::span<double> values, const std::vector<HYPRE_Int>& indices) const
  {
    HYPRE_IJVectorGetValues(vector_, rows_, indices.data(), values.data());
  }

private:
  HYPRE_IJVector vector_ = nullptr;
  HYPRE_Int rows_;
};

} // namespace

struct MultigridSolver::State {
  MultigridSettings settings;
  const SparseMatrix* matrix = nullptr;
  HYPRE_IJMatrix ij = nullptr;
  HYPRE_ParCSRMatrix parallel = nullptr;
  HYPRE_Solver preconditioner = nullptr;
  HYPRE_Solver krylov = nullptr;
  std::vector<HYPRE_Int> indices;

  void clear()
  {
    if (krylov != nullptr)
      HYPRE_ParCSRPCGDestroy(krylov);
    if (preconditioner != nullptr)
      HYPRE_BoomerAMGDestroy(preconditioner);
    if (ij != nullptr)
      HYPRE_IJMatrixDestroy(ij);
    krylov = preconditioner = nullptr;
    ij = nullptr;
  }

  void loadMatrix()
  {
    const Index n = matrix->rows();
    indices.resize(static_cast<std::size_t>(n));
    std::iota(indices.begin(), indices.end(), 0);
    std::vector<HYPRE_Int> counts(indices.size());
    for (std::size_t row = 0; row < counts.size(); ++row)
      counts[row] = matrix->rowStart[row + 1] - matrix->rowStart[row];
    HYPRE_IJMatrixCreate(MPI_COMM_SELF, 0, n - 1, 0, n - 1, &ij);
    HYPRE_IJMatrixSetObjectType(ij, HYPRE_PARCSR);
    HYPRE_IJMatrixSetRowSizes(ij, counts.data());
    HYPRE_IJMatrixSetMaxOffProcElmts(ij, 0);
    HYPRE_IJMatrixInitialize(ij);
    HYPRE_IJMatrixSetValues(ij, n, counts.data(), indices.data(), matrix->columns.data(), matrix->values.data());
    HYPRE_IJMatrixAssemble(ij);
    HYPRE_IJMatrixGetObject(ij, reinterpret_cast<void**>(&parallel));
  }

  void createPreconditioner()
  {
    constexpr HYPRE_Int hmis = 10, extendedInterpolation = 6, forward = 3, backward = 4, l1Symmetric = 8,
                        gaussElimination = 9;
    HYPRE_BoomerAMGCreate(&preconditioner);
    HYPRE_BoomerAMGSetCoarsenType(preconditioner, hmis);
    HYPRE_BoomerAMGSetInterpType(preconditioner, extendedInterpolation);
    HYPRE_BoomerAMGSetPMaxElmts(preconditioner, 4);
    HYPRE_BoomerAMGSetStrongThreshold(preconditioner, 0.25);
    // An aggressive first level takes three times as many iterations where sheets are thin.
    HYPRE_BoomerAMGSetAggNumLevels(preconditioner, 0);
    if (settings == MultigridSettings::Fast) {
      constexpr HYPRE_Int sweeps = 2;
      HYPRE_BoomerAMGSetCycleRelaxType(preconditioner, forward, 1);
      HYPRE_BoomerAMGSetCycleRelaxType(preconditioner, backward, 2);
      HYPRE_BoomerAMGSetCycleNumSweeps(preconditioner, sweeps, 1);
      HYPRE_BoomerAMGSetCycleNumSweeps(preconditioner, sweeps, 2);
    } else {
      HYPRE_BoomerAMGSetRelaxType(preconditioner, l1Symmetric);
    }
    HYPRE_BoomerAMGSetCycleRelaxType(preconditioner, gaussElimination, 3);
    HYPRE_BoomerAMGSetRelaxOrder(preconditioner, 0);
    HYPRE_BoomerAMGSetMaxIter(preconditioner, 1);
    HYPRE_BoomerAMGSetTol(preconditioner, 0);
    HYPRE_BoomerAMGSetPrintLevel(preconditioner, 0);
  }
};

tl::unexpected<Failure> stoppedEarly(const LinearReport& report)
{
  return failure(Failure::Kind::Solver, "linear solver",
                 "Conjugate gradients stopped after " + std::to_string(report.iterations) +
                     " iterations with a relative residual of " + std::to_string(report.relativeResidual) + ".",
                 "Check for conductivities that differ by many orders of magnitude.");
}

MultigridSolver::MultigridSolver(MultigridSettings settings) : state_(std::make_unique<State>())
{
  startMpiOnce();
  state_->settings = settings;
}

MultigridSolver::~MultigridSolver() { state_->clear(); }

Expected<void> MultigridSolver::prepare(const SparseMatrix& matrix)
{
  State& s = *state_;
  s.clear();
  s.matrix = &matrix;
  HYPRE_ClearAllErrors();
  s.loadMatrix();
  s.createPreconditioner();
  HYPRE_ParCSRPCGCreate(MPI_COMM_SELF, &s.krylov);
  HYPRE_PCGSetMaxIter(s.krylov, mostIterations);
  HYPRE_PCGSetTwoNorm(s.krylov, 1);
  HYPRE_PCGSetPrecond(s.krylov, reinterpret_cast<HYPRE_PtrToSolverFcn>(HYPRE_BoomerAMGSolve),
                      reinterpret_cast<HYPRE_PtrToSolverFcn>(HYPRE_BoomerAMGSetup), s.preconditioner);
  IjVector zero(matrix.rows());
  const std::vector<double> zeros(s.indices.size(), 0.0);
  HYPRE_ParVector vector = zero.set(zeros, s.indices);
  HYPRE_ParCSRPCGSetup(s.krylov, s.parallel, vector, vector);
  if (HYPRE_GetError() != 0)
    return failure(Failure::Kind::Solver, "linear solver", "The multigrid hierarchy could not be built.",
                   "Check for parts without a way for their heat to leave.");
  return {};
}

Expected<LinearReport> MultigridSolver::solve(std::span<const double> b, std::span<double> x, double tolerance)
{
  State& s = *state_;
  LinearReport report;
  const bool nothing = std::all_of(b.begin(), b.end(), [](double value) { return value == 0; });
  if (nothing) {
    std::fill(x.begin(), x.end(), 0.0);
    return report;
  }
  HYPRE_ClearAllErrors();
  constexpr double margin = 0.5; // of the tolerance
  constexpr int mostStarts = 3;  // the recursion's residual drifts from the true one; a fresh start mends that
  HYPRE_PCGSetTol(s.krylov, tolerance * margin);
  IjVector right(s.matrix->rows());
  IjVector left(s.matrix->rows());
  HYPRE_ParVector rightVector = right.set(b, s.indices);
  HYPRE_ParVector leftVector = left.set(x, s.indices);
  for (int start = 0; start < mostStarts; ++start) {
    HYPRE_ParCSRPCGSolve(s.krylov, s.parallel, rightVector, leftVector);
    left.get(x, s.indices);
    HYPRE_Int iterations = 0;
    HYPRE_PCGGetNumIterations(s.krylov, &iterations);
    report.iterations += iterations;
    report.relativeResidual = relativeResidual(*s.matrix, b, x);
    if (report.relativeResidual <= tolerance || HYPRE_GetError() != 0)
      break;
  }
  if (!(report.relativeResidual <= tolerance))
    return stoppedEarly(report);
  return report;
}

/// One cycle of the hierarchy.
void MultigridSolver::approximate(std::span<const double> b, std::span<double> x)
{
  State& s = *state_;
  std::fill(x.begin(), x.end(), 0.0);
  IjVector right(s.matrix->rows());
  IjVector left(s.matrix->rows());
  HYPRE_ParVector rightVector = right.set(b, s.indices);
  HYPRE_ParVector leftVector = left.set(x, s.indices);
  HYPRE_BoomerAMGSolve(s.preconditioner, s.parallel, rightVector, leftVector);
  left.get(x, s.indices);
}

} // namespace kiln
