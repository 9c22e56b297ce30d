// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/boundaries/Fluid.h"

#include <string>
#include <string_view>
#include <vector>

/// Convection coefficients from correlations. Natural flow uses the properties at the film temperature (mean of
/// surface and ambient), forced flow along a plate and across a cylinder too, flow in a tube those of the stream.
namespace kiln
{

/// A coefficient with everything it rests on.
struct CorrelationResult {
  double coefficient = 0; // W/(m²·K)
  double nusselt = 0, prandtl = 0;
  double rayleigh = 0;        // natural flow only
  double reynolds = 0;        // forced flow only
  double filmTemperature = 0; // K, where the properties were taken
  std::string regime;         // "laminar", "turbulent", …
  bool inRange = true;
  std::string validity; // "10⁴ ≤ Ra ≤ 10¹¹"
  std::string source;   // who published it
};

/// What the size of a situation means: "height", "diameter", "area ÷ perimeter", "length".
[[nodiscard]] std::string_view sizeMeaning(FlowSituation situation);
/// "vertical plate", "flow across a cylinder", …
[[nodiscard]] std::string_view situationName(FlowSituation situation);
[[nodiscard]] bool isForced(FlowSituation situation);

/// Coefficient at one surface temperature.
/// Fails on a missing speed, size or tube length, naming it.
/// \param surfaceTemperature  K
[[nodiscard]] Expected<CorrelationResult> correlate(const CorrelatedConvection& flow, const Environment& environment,
                                                    double surfaceTemperature);

/// The coefficient as a table against the surface temperature, fine near the ambient where it changes fast.
[[nodiscard]] Expected<Property> coefficientCurve(const CorrelatedConvection& flow, const Environment& environment);

/// Usual coefficients of a situation.
struct CoefficientRange {
  std::string_view situation;
  double low, high; // W/(m²·K)
};
[[nodiscard]] const std::vector<CoefficientRange>& coefficientRanges();

/// The same for kinds of contact.
[[nodiscard]] const std::vector<CoefficientRange>& contactRanges();

} // namespace kiln
