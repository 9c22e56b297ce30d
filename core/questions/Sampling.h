// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/AskedValues.h"

namespace kiln
{

/// A value for every axis of a question, in their order.
using AskedPoint = std::vector<OwnValue>;

/// What counts where it is left open, as the schema says.
inline constexpr int usualSamples = 64, usualBudget = 60;

/// Places in the unit cube that fill it evenly.
/// \param dimensions  at most 100
[[nodiscard]] std::vector<std::vector<double>> sobolShares(int dimensions, int count);
/// One place in each of \p count layers of every dimension, by chance.
[[nodiscard]] std::vector<std::vector<double>> latinShares(int dimensions, int count, unsigned seed);

/// The points of a sweep. Fails naming the question where values do not go together, or there would be too many.
[[nodiscard]] Expected<std::vector<AskedPoint>> pointsOf(const Question& question, const AskSweep& sweep,
                                                         const std::vector<AskedAxis>& axes);

/// Points about what is set, as likely as the tolerances say; axes without one stay as they are set. By a Sobol
/// sequence, moved by the seed.
[[nodiscard]] std::vector<AskedPoint> spreadPoints(const std::vector<AskedAxis>& axes, int count, unsigned seed);

} // namespace kiln
