// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/AirCavity.h"

#include "heat/boundaries/Fluid.h"
#include "heat/elements/Radiating.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// Of the air alone, W/(m²·K).
double airCoefficient(const AirCavity& cavity)
{
  constexpr double conductivity = 0.025; // W/(m·K), as the standard takes it
  constexpr double small = 5;            // K
  const double d = cavity.thickness;
  const double dt = cavity.difference;
  const bool large = dt > small;
  double convection = 0;
  switch (cavity.flow) {
  case AirCavity::Flow::Horizontal:
    convection = large ? 0.73 * std::cbrt(dt) : 1.25;
    break;
  case AirCavity::Flow::Upward:
    convection = large ? 1.14 * std::cbrt(dt) : 1.95;
    break;
  case AirCavity::Flow::Downward:
    convection = (large ? 0.09 * std::pow(dt, 0.187) : 0.12) * std::pow(d, -0.44);
    break;
  }
  return std::max(convection, conductivity / d);
}

std::string_view flowWord(AirCavity::Flow flow)
{
  return flow == AirCavity::Flow::Horizontal ? "heat across"
         : flow == AirCavity::Flow::Upward   ? "heat up"
                                             : "heat down";
}

} // namespace

Expected<double> cavityConductance(const AirCavity& cavity, double mean)
{
  constexpr double thickest = 0.3; // m, what the standard covers
  const auto wrong = [](const char* problem, const char* remedy) {
    return failure(Failure::Kind::NotReady, "air cavity", problem, remedy);
  };
  if (!(cavity.thickness > 0) || cavity.thickness > thickest)
    return wrong("Its thickness must lie between 0 and 300 mm.", "Mesh a larger space as an enclosure with air.");
  for (const double emissivity : {cavity.emissivityA, cavity.emissivityB})
    if (!(emissivity > 0) || emissivity > 1)
      return wrong("An emissivity must lie above 0 and not above 1.", "Correct it; bright metal has about 0.05.");
  if (cavity.width < 0 || cavity.difference < 0)
    return wrong("Its width and temperature difference cannot be negative.", "Leave what is not known empty.");
  const double exchange = 1 / (1 / cavity.emissivityA + 1 / cavity.emissivityB - 1);
  const double black = 4 * stefanBoltzmann * mean * mean * mean;
  const double slender = cavity.width > 0 ? cavity.thickness / cavity.width : 0;
  return airCoefficient(cavity) + 0.5 * exchange * black * (1 + std::sqrt(1 + slender * slender) - slender);
}

Expected<Material> cavityMaterial(const AirCavity& cavity)
{
  Material material;
  constexpr double zero = 273.15; // K
  for (const double celsius : {-20., 0., 20., 40., 60., 80., 100., 150., 200., 250., 300., 350., 400.}) {
    const auto conductance = cavityConductance(cavity, zero + celsius);
    if (!conductance)
      return tl::unexpected(conductance.error());
    material.conductivity.table.push_back({{zero + celsius, {}, false}, {*conductance * cavity.thickness, {}, false}});
  }
  material.conductivity.si = material.conductivity.table.front().value.si;
  const FluidState air = stateOf(Fluid::Air, zero + 20, Environment{}.airPressure.si);
  material.density = Number{air.density, {}, false};
  material.specificHeat = Property{air.specificHeat, ""};
  material.name = "Still air, " + formatQuantity(cavity.thickness, Quantity::Length, {}, 3) + ", " +
                  std::string(flowWord(cavity.flow));
  material.source = "ISO 6946:2017, annex D";
  material.comment =
      "For a cavity " + formatQuantity(cavity.thickness, Quantity::Length, {}, 4) + " thick" +
      (cavity.width > 0 ? " and " + formatQuantity(cavity.width, Quantity::Length, {}, 4) + " wide" : std::string()) +
      ", emissivities " + plainNumber(cavity.emissivityA) + " and " + plainNumber(cavity.emissivityB) +
      (cavity.difference > 0
           ? ", " + formatQuantity(cavity.difference, Quantity::TemperatureStep) + " between its sides"
           : std::string()) +
      ". Make it anew when the size changes.";
  return material;
}

} // namespace kiln
