// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/SureRecord.h"
#include "units/Quantity.h"

namespace kiln
{

/// A figure with a digit more than its bar: "104.23 °C" beside ±0.15 K.
[[nodiscard]] std::string figureText(const SureRecord::OfWatch& watch, Quantity quantity, TemperatureUnit unit);

/// "±1.2 K by three meshes, towards 104 °C (order 1.9)", "does not settle with the mesh …".
[[nodiscard]] std::string sureText(const SureRecord::OfWatch& watch, Quantity quantity);

} // namespace kiln
