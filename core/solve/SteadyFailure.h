// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/ThermalSystem.h"
#include "model/Project.h"

#include <optional>
#include <span>
#include <vector>

namespace kiln
{

/// Where a sink takes out more heat than can flow in above 0 K: which, and what to do. Nothing where that is not so.
/// \param temperature  by unknown, K, where the iteration stood or was going
[[nodiscard]] std::optional<Failure> coldFailure(const ThermalSystem& system, std::span<const double> temperature,
                                                 const Project* named);

/// Why a steady solution was not found: the part where the balance is worst, what bends there, how far it swings, and
/// what would help.
[[nodiscard]] Failure steadyFailure(const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
                                    std::span<const double> temperature, const std::vector<double>& balance, int steps);

} // namespace kiln
