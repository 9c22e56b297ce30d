// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/LevelLines.h"

#include <QString>
#include <vector>

namespace kiln
{

/// Multiples of a step from one value to another.
[[nodiscard]] std::vector<double> ticks(double from, double to, double step);

/// A tick's number, without the noise of adding steps.
[[nodiscard]] QString tickText(double value, double step);

} // namespace kiln
