// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/CaseResult.h"

#include <span>
#include <vector>

namespace kiln
{

/// What can be drawn of a solution besides its temperature.
enum class ResultField {
  HeatFlux,   ///< magnitude, recovered at the nodes, W/m²
  FluxError,  ///< how far the elements' own flux is from the recovered one, W/m²
  MoltenShare ///< 0…1; zero where nothing melts
};

/// Heat flux of every element at these temperatures, W/m².
/// \param temperature  by unknown of the result, K
[[nodiscard]] std::vector<Vec3> elementFlux(const Project& project, const CaseResult& result,
                                            std::span<const double> temperature);

/// Values by unknown. Where parts meet without a jump, the flux is the mean of both sides by volume, the molten share
/// the larger one.
[[nodiscard]] std::vector<double> fieldValues(const Project& project, const CaseResult& result,
                                              std::span<const double> temperature, ResultField field);

} // namespace kiln
