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
/// \param storing   what goes into store, by unknown, W; empty in a steady state
[[nodiscard]] CaseResult resultOf(const Project& project, const Case& oneCase, Mesh mesh, std::string meshHash,
                                  Conditions conditions, SteadySolution solution, std::span<const double> storing = {});

} // namespace kiln
