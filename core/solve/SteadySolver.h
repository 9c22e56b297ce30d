// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"
#include "heat/ThermalSystem.h"
#include "model/Project.h"
#include "solve/CoupledStep.h"
#include "solve/LinearSolver.h"

#include <memory>
#include <string>
#include <vector>

namespace kiln
{

struct SteadySolution {
  std::vector<double> temperature; ///< by unknown, K
  int newtonSteps = 0;
  int linearIterations = 0; ///< summed
  std::string linearSolver;
  double linearSeconds = 0; ///< spent in the linear solver
  double residual = 0;      ///< Σ|balance| over the free unknowns ÷ throughput
  double largestUpdate = 0; ///< of the last step, K
  int slowSteps = 0;        ///< steps in a time of its own that it took
};

/// What one solve leaves to the next one of a system that is much alike.
struct SteadyShared {
  std::unique_ptr<LinearSolver> solver; ///< prepared with the matrix
  SparseMatrix matrix;
  SlowModes modes;
  int divisions = 0;               ///< that its last step took; 0: not known
  std::vector<double> temperature; ///< by unknown, K: where the next one begins
};

struct SteadyOptions {
  LinearBackend backend = LinearBackend::Automatic;
  double residualTolerance = 1e-7; ///< bounds the energy imbalance; the ledger promises 1e-6
  double updateTolerance = 1e-4;   ///< K
  int mostSteps = 60;              ///< of Newton's method
  int mostSlowSteps = 400;         ///< afterwards, where that does not arrive
  const Project* named = nullptr;  ///< for messages that name what is set
  SteadyShared* shared = nullptr;
  const ThermalSystem* system = nullptr; ///< of this mesh and these conditions; nothing: one is made
};

/// Steady temperatures by damped Newton with the exact tangent; where that does not arrive, by steps in a time of its
/// own in which every place follows its balance more slowly, which grows until the steps are Newton's again.
/// Converged when the summed balance is small against the throughput *and* the last update is small in kelvin.
/// Fails naming the part of the worst node with what bends there, or the sink that would go below 0 K.
[[nodiscard]] Expected<SteadySolution> solveSteady(const Mesh& mesh, const Conditions& conditions,
                                                   const SteadyOptions& options, const Progress& progress);

} // namespace kiln
