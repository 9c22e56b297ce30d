// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Parts.h"

namespace kiln
{

/// A closed space of still air between two surfaces that heat crosses.
struct AirCavity {
  enum class Flow { Horizontal, Upward, Downward };
  Flow flow = Flow::Horizontal; ///< of the heat
  double thickness = 0;         ///< m, along the heat
  double width = 0;             ///< m, across it; 0: much wider than thick
  double emissivityA = 0.9, emissivityB = 0.9;
  double difference = 0; ///< K between its two sides; up to 5 K (or 0, unknown) the simple coefficients count
};

/// Heat that crosses per area and kelvin, W/(m²·K), by conduction or convection of the air and by radiation:
///   h = h_a + ½ E h_r0 (1 + √(1 + d²/b²) − d/b),  E = 1/(1/ε_A + 1/ε_B − 1),  h_r0 = 4 σ T³
/// with h_a the larger of 0.025 W/(m·K)/d and 1.25 (horizontal), 1.95 (upward), 0.12 d^−0.44 (downward); above 5 K
/// 0.73 ΔT^⅓, 1.14 ΔT^⅓, 0.09 ΔT^0.187 d^−0.44. Source: ISO 6946:2017, annex D.
/// \param mean  of the cavity, K
/// Fails on a thickness that is not positive or above 0.3 m, or an emissivity outside 0…1.
[[nodiscard]] Expected<double> cavityConductance(const AirCavity& cavity, double mean);

/// A material of the conductivity h·d that stands for the air, as a table against temperature from −20 to 400 °C, with
/// the density and specific heat of air at 20 °C.
[[nodiscard]] Expected<Material> cavityMaterial(const AirCavity& cavity);

} // namespace kiln
