// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/RoundNumber.h"

#include "units/Quantity.h"

#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

/// Never "-0".
double rounded(double value, double perOne) { return std::round(value * perOne) / perOne + 0.0; }

} // namespace

Number lengthNumber(double metres)
{
  const double millimetres = rounded(metres * 1e3, 1e3);
  return {millimetres / 1e3, plainNumber(millimetres) + " mm", false};
}

Number angleNumber(double radians)
{
  const double degrees = rounded(radians * 180 / std::numbers::pi, 1e6);
  return {degrees * std::numbers::pi / 180, plainNumber(degrees) + " deg", false};
}

Number coefficientNumber(double si)
{
  const double value = rounded(si, 100);
  return {value, plainNumber(value) + " W/(m²·K)", false};
}

} // namespace kiln
