// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/ThermalSystem.h"
#include "solve/LinearSolver.h"

#include <span>
#include <vector>

namespace kiln
{

/// What lies in an enclosure warms as a whole, by a small share of what it exchanges within: one such mode for each, by
/// unknown. They serve as long as the system stays much alike.
using SlowModes = std::vector<std::vector<double>>;

/// Solves (tangent + rest of tangent) · update = right where the rest is no small correction, as with enclosures: GMRES
/// on what is left when the symmetric part, prepared in \p solver, is divided out. No symmetric method ever sees the
/// unsymmetric matrix. Slow modes are solved apart, each with the others (deflation; source: Nicolaides 1987).
/// \param tolerance  of the update, relative
/// \param symmetric  the tangent's symmetric part
/// \param solver     prepared with it, or with one that is much like it
/// \param modes      found where it is empty; nullptr: the steps in time are short, nothing is slow
/// \return how often the symmetric part was divided out
[[nodiscard]] Expected<int> coupledStep(const ThermalSystem& system, const SparseMatrix& symmetric,
                                        LinearSolver& solver, std::span<const double> temperature,
                                        const std::vector<double>& right, std::vector<double>& update, double tolerance,
                                        SlowModes* modes);

} // namespace kiln
