// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "results/CaseResult.h"
#include "solve/SteadySolver.h"

#include <span>

namespace kiln
{

/// A solved case with all that is read from it: fluxes, heat through faces and contacts, the ledger.
/// \param project   as the case sees it
/// \param system    of the mesh and the conditions
/// \param solution  with all unknowns
/// \param storing   what goes into store, by unknown, W; empty in a steady state
/// \return without its mesh, which is given to it afterwards, and without \ref addPatchErrors
[[nodiscard]] CaseResult resultOf(const Project& project, const Case& oneCase, const Mesh& mesh, std::string meshHash,
                                  const Conditions& conditions, const ThermalSystem& system, SteadySolution solution,
                                  std::span<const double> storing = {});

/// What the size of the patches of enclosures is worth in a result that has all else.
void addPatchErrors(CaseResult& result, const Mesh& mesh, const Conditions& conditions);

} // namespace kiln
