// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How fast the solve is, as ratios within one run: assembly for a tet, our solve against calling hypre bare on the same
// matrix, the two backends at several sizes, and where the time of the demo goes.
#include "Assembly.h"
#include "heat/ThermalSystem.h"
#include "io/ProjectFile.h"
#include "mesh/VolumeMesh.h"
#include "run/CaseRun.h"
#include "solve/DirectSolver.h"
#include "solve/MultigridSolver.h"

#include <HYPRE.h>
#include <HYPRE_IJ_mv.h>
#include <HYPRE_krylov.h>
#include <HYPRE_parcsr_ls.h>
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <mpi.h>
#include <numeric>
#include <sys/resource.h>

using namespace kiln;

namespace
{

double now() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

/// Best of a few runs, s: the machine is noisy.
template <class Work>
double best(int runs, Work&& work)
{
  double fastest = 1e9;
  for (int i = 0; i < runs; ++i) {
    const double start = now();
    work();
    fastest = std::min(fastest, now() - start);
  }
  return fastest;
}

double peakMegabytes()
{
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) / 1024;
}

/// hypre called directly with the documented settings, from arrays to solution, s.
double bareHypre(const SparseMatrix& matrix, const std::vector<double>& b, double tolerance)
{
  const double start = now();
  const HYPRE_Int n = matrix.rows();
  std::vector<HYPRE_Int> rows(static_cast<std::size_t>(n)), counts(rows.size());
  std::iota(rows.begin(), rows.end(), 0);
  for (std::size_t r = 0; r < rows.size(); ++r)
    counts[r] = matrix.rowStart[r + 1] - matrix.rowStart[r];
  HYPRE_IJMatrix ij = nullptr;
  HYPRE_IJMatrixCreate(MPI_COMM_SELF, 0, n - 1, 0, n - 1, &ij);
  HYPRE_IJMatrixSetObjectType(ij, HYPRE_PARCSR);
  HYPRE_IJMatrixSetRowSizes(ij, counts.data());
  HYPRE_IJMatrixInitialize(ij);
  HYPRE_IJMatrixSetValues(ij, n, counts.data(), rows.data(), matrix.columns.data(), matrix.values.data());
  HYPRE_IJMatrixAssemble(ij);
  HYPRE_ParCSRMatrix a = nullptr;
  HYPRE_IJMatrixGetObject(ij, reinterpret_cast<void**>(&a));
  const auto vector = [&](const std::vector<double>& values, HYPRE_IJVector& handle) {
    HYPRE_IJVectorCreate(MPI_COMM_SELF, 0, n - 1, &handle);
    HYPRE_IJVectorSetObjectType(handle, HYPRE_PARCSR);
    HYPRE_IJVectorInitialize(handle);
    HYPRE_IJVectorSetValues(handle, n, rows.data(), values.data());
    HYPRE_IJVectorAssemble(handle);
    HYPRE_ParVector parallel = nullptr;
    HYPRE_IJVectorGetObject(handle, reinterpret_cast<void**>(&parallel));
    return parallel;
  };
  HYPRE_IJVector right = nullptr, left = nullptr;
  const HYPRE_ParVector rightVector = vector(b, right);
  const HYPRE_ParVector leftVector = vector(std::vector<double>(b.size(), 0.0), left);
  HYPRE_Solver amg = nullptr, pcg = nullptr;
  HYPRE_BoomerAMGCreate(&amg);
  HYPRE_BoomerAMGSetCoarsenType(amg, 10);
  HYPRE_BoomerAMGSetInterpType(amg, 6);
  HYPRE_BoomerAMGSetPMaxElmts(amg, 4);
  HYPRE_BoomerAMGSetStrongThreshold(amg, 0.25);
  HYPRE_BoomerAMGSetAggNumLevels(amg, 1);
  HYPRE_BoomerAMGSetCycleRelaxType(amg, 13, 1);
  HYPRE_BoomerAMGSetCycleRelaxType(amg, 14, 2);
  HYPRE_BoomerAMGSetCycleRelaxType(amg, 9, 3);
  HYPRE_BoomerAMGSetRelaxOrder(amg, 0);
  HYPRE_BoomerAMGSetMaxIter(amg, 1);
  HYPRE_BoomerAMGSetTol(amg, 0);
  HYPRE_ParCSRPCGCreate(MPI_COMM_SELF, &pcg);
  HYPRE_PCGSetTwoNorm(pcg, 1);
  HYPRE_PCGSetMaxIter(pcg, 300);
  HYPRE_PCGSetTol(pcg, tolerance);
  HYPRE_PCGSetPrecond(pcg, reinterpret_cast<HYPRE_PtrToSolverFcn>(HYPRE_BoomerAMGSolve),
                      reinterpret_cast<HYPRE_PtrToSolverFcn>(HYPRE_BoomerAMGSetup), amg);
  HYPRE_ParCSRPCGSetup(pcg, a, rightVector, leftVector);
  HYPRE_ParCSRPCGSolve(pcg, a, rightVector, leftVector);
  std::vector<double> x(b.size());
  HYPRE_IJVectorGetValues(left, n, rows.data(), x.data());
  const double seconds = now() - start;
  HYPRE_ParCSRPCGDestroy(pcg);
  HYPRE_BoomerAMGDestroy(amg);
  HYPRE_IJVectorDestroy(left);
  HYPRE_IJVectorDestroy(right);
  HYPRE_IJMatrixDestroy(ij);
  return seconds;
}

/// What is ours in the demo's time: everything but the kernel's fuse, TetGen's filling and the linear solver.
void measureOwnShare(const Project& demo, double whole, const CaseResult& result)
{
  const double fuse = best(2, [&] { static_cast<void>(buildGeometry(demo)); });
  const auto geometry = buildGeometry(demo);
  const MeshSizes sizes = chooseSizes(demo, *geometry);
  const double skinTime = best(2, [&] { static_cast<void>(meshSurface(*geometry, sizes)); });
  const auto skin = meshSurface(*geometry, sizes);
  const double fill = best(2, [&] { static_cast<void>(meshVolume(geometry->table, *skin, sizes)); });
  double linear = 0;
  for (const StageTime& stage : result.info.times)
    linear += stage.stage == "of it linear" ? stage.seconds : 0;
  std::printf(
      "  fuse %.2f s, skin %.2f s (%.1f us a triangle), filling %.2f s, linear solver %.2f s: the rest and the skin "
      "are ours, %.0f %%\n",
      fuse, skinTime, 1e6 * skinTime / static_cast<double>(skin->triangles.size()), fill, linear,
      100 * (whole - fuse - fill - linear) / whole);
}

void measureSize(const Project& demo, double globalSize)
{
  Project project = demo;
  project.mesh.size = Number{globalSize, {}};
  const auto geometry = buildGeometry(project);
  const auto mesh = buildMesh(project, *geometry, noProgress);
  const auto conditions = resolveConditions(project, *mesh);
  const ThermalSystem system(*mesh, *conditions);
  const double assembly = best(5, [&] { assembleConduction(system); });
  std::vector<double> temperature(static_cast<std::size_t>(system.unknowns()), 600.0);
  const SparseMatrix matrix = system.tangent(temperature);
  const std::vector<double> right = system.balance(temperature);
  constexpr double tolerance = 1e-8;
  const double ours = best(3, [&] {
    MultigridSolver solver(MultigridSettings::Fast);
    std::vector<double> x(right.size(), 0.0);
    if (!solver.prepare(matrix) || !solver.solve(right, x, 2 * tolerance))
      std::puts("multigrid failed");
  });
  const double bare = best(3, [&] { bareHypre(matrix, right, tolerance); });
  double direct = 0;
  constexpr Index largestDirect = 120'000;
  if (system.unknowns() < largestDirect)
    direct = best(1, [&] {
      DirectSolver solver;
      std::vector<double> x(right.size(), 0.0);
      if (!solver.prepare(matrix) || !solver.solve(right, x, tolerance))
        std::puts("direct failed");
    });
  std::printf(
      "%8zu tets %8d unknowns | assembly %5.1f ns a tet | ours %6.2f s, hypre bare %6.2f s, ratio %4.2f | direct "
      "%6.2f s, direct/multigrid %5.1f\n",
      mesh->tets.size(), system.unknowns(), assembly * 1e9 / static_cast<double>(mesh->tets.size()), ours, bare,
      ours / bare, direct, direct / ours);
}

} // namespace

int main()
{
  auto demo = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  if (!demo) {
    std::puts(demo.error().sentence().c_str());
    return 1;
  }
  demo->mesh = {}; // a quick look
  const std::filesystem::path folder = std::filesystem::temp_directory_path() / "usual-kiln-bench";
  std::filesystem::remove_all(folder);
  std::filesystem::create_directories(folder);
  const double start = now();
  const auto result = runCase(*demo, demo->cases.front(), folder, noProgress);
  if (!result) {
    std::puts("the demo did not solve");
    return 1;
  }
  const double whole = now() - start;
  std::printf("demo, file to figures: %.2f s, %zu tets, peak %.0f MB = %.2f kB a tet\n", whole,
              result->mesh.tets.size(), peakMegabytes(),
              peakMegabytes() * 1024 / static_cast<double>(result->mesh.tets.size()));
  for (const StageTime& stage : result->info.times)
    std::printf("  %-12s %6.2f s  %4.0f %%\n", stage.stage.c_str(), stage.seconds, 100 * stage.seconds / whole);
  std::filesystem::remove_all(folder);
  measureOwnShare(*demo, whole, *result);
  for (const double size : {0.08, 0.03, 0.022, 0.018})
    measureSize(*demo, size);
  return 0;
}
