// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/watches/WatchReader.h"

#include <span>
#include <vector>

namespace kiln
{

/// Temperatures inside a step by the cubic that takes the temperatures and rates of both ends (Hermite); a line where
/// nothing is stored.
/// \param share  0…1 of the step
[[nodiscard]] std::vector<double> insideStep(std::span<const double> from, std::span<const double> fromRate,
                                             std::span<const double> to, std::span<const double> toRate, double length,
                                             double share);

/// Share of the step at which a probe passes a value that lies between its values at the two ends.
[[nodiscard]] double crossingShare(const WatchReader& reader, std::span<const double> from,
                                   std::span<const double> fromRate, std::span<const double> to,
                                   std::span<const double> toRate, double length, double value);

} // namespace kiln
