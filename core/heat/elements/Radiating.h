// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <algorithm>

namespace kiln
{

inline constexpr double stefanBoltzmann = 5.670374419e-8; // W/(m²·K⁴), CODATA 2018

/// T⁴ and its slope; what an iteration takes below 0 K emits nothing more.
[[nodiscard]] inline double fourth(double kelvin) { return kelvin * kelvin * kelvin * kelvin; }
[[nodiscard]] inline double slopeOfFourth(double kelvin)
{
  const double positive = std::max(kelvin, 0.0);
  return 4 * positive * positive * positive;
}

} // namespace kiln
