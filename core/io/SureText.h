// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/SureRun.h"

namespace kiln
{

/// A figure with a digit more than its bar: "104.23 °C" beside ±0.15 K.
[[nodiscard]] std::string figureText(const SureRecord::OfWatch& watch, Quantity quantity, TemperatureUnit unit);

} // namespace kiln
