// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

namespace kiln
{

/// Properties of a fluid at rest at a temperature and pressure.
struct FluidState {
  double density = 0;      // kg/m³
  double specificHeat = 0; // J/(kg·K)
  double viscosity = 0;    // Pa·s
  double conductivity = 0; // W/(m·K)
  double expansion = 0;    // 1/K

  [[nodiscard]] double prandtl() const { return viscosity * specificHeat / conductivity; }
  [[nodiscard]] double kinematicViscosity() const { return viscosity / density; }
};

struct TemperatureRange {
  double low = 0, high = 0; // K
};
/// Temperatures the property tables cover.
[[nodiscard]] TemperatureRange coveredRange(Fluid fluid);

/// Air: ideal gas, tables at 1 atm of specific heat, viscosity and conductivity (they hardly depend on pressure).
/// Water: saturated liquid. Between the tables' points linear, beyond their ends held.
/// Source: standard property tables as printed in heat-transfer textbooks.
/// \param temperature  K  \param pressure  Pa, used for air only
[[nodiscard]] FluidState stateOf(Fluid fluid, double temperature, double pressure);

} // namespace kiln
