// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/ThermalSystem.h"
#include "solve/LinearSolver.h"

#include <span>
#include <vector>

namespace kiln
{

/// Solves (tangent + rest of tangent) · update = right where the rest is no small correction, as with enclosures: GMRES
/// on what is left when the symmetric part, prepared in \p solver, is divided out. No symmetric method ever sees the
/// unsymmetric matrix.
/// \param tolerance  of the update, relative
/// \param symmetric  what \p solver was prepared with
/// \return how often the symmetric part was divided out
[[nodiscard]] Expected<int> coupledStep(const ThermalSystem& system, const SparseMatrix& symmetric,
                                        LinearSolver& solver, std::span<const double> temperature,
                                        const std::vector<double>& right, std::vector<double>& update,
                                        double tolerance);

} // namespace kiln
