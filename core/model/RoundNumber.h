// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Number.h"

/// Numbers as one would write them, of values that were computed or pointed at.
namespace kiln
{

/// A length in mm, rounded to a millionth of a metre: "12.5 mm".
[[nodiscard]] Number lengthNumber(double metres);
/// An angle in degrees, rounded to a millionth of one: "45 deg".
[[nodiscard]] Number angleNumber(double radians);
/// A coefficient or conductance of an area, rounded to hundredths: "12.34 W/(m²·K)".
[[nodiscard]] Number coefficientNumber(double si);

} // namespace kiln
