// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/ThermalSystem.h"
#include "solve/CoupledStep.h"
#include "solve/LinearSolver.h"

#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// Solves tangent · update = right. The symmetric part, \p matrix, is solved as it is; the unsymmetric rest (the slope
/// of k(T)) follows by corrections with the same factors, each smaller than the one before, or, where the coupling is
/// strong, inside a Krylov iteration.
/// \param solver  prepared with \p matrix
/// \param update  first guess on entry
/// \param modes   \ref coupledStep
/// \return linear iterations
[[nodiscard]] Expected<int> newtonStep(const ThermalSystem& system, const SparseMatrix& matrix, LinearSolver& solver,
                                       std::span<const double> temperature, const std::vector<double>& right,
                                       std::vector<double>& update, double tolerance, SlowModes* modes);

/// Radiation hardly couples what is cold, so that a step from there shoots far over, and one back below zero: no
/// temperature grows to more than \p reach times what it was, or is more than halved, in one step.
void keepInReach(const std::vector<double>& temperature, std::vector<double>& update, double reach = 2);

/// Σ|balance| over the unknowns that are not fixed, W.
[[nodiscard]] double freeNorm(const ThermalSystem& system, const std::vector<double>& balance);

/// "part Shell": where the balance is worst.
[[nodiscard]] std::string partOfWorst(const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
                                      const std::vector<double>& balance);

} // namespace kiln
