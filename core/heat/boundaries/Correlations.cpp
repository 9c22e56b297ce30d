// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/Correlations.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double standardGravity = 9.80665; // m/s²

bool within(double value, double low, double high) { return value >= low && value <= high; }

/// (0.825 + 0.387 Ra^1/6 / [1 + (0.492/Pr)^9/16]^8/27)².
double nusseltVerticalPlate(double ra, double pr)
{
  const double prandtlPart = std::pow(1 + std::pow(0.492 / pr, 9.0 / 16), 8.0 / 27);
  return std::pow(0.825 + 0.387 * std::pow(ra, 1.0 / 6) / prandtlPart, 2);
}

double nusseltHorizontalCylinder(double ra, double pr)
{
  const double prandtlPart = std::pow(1 + std::pow(0.559 / pr, 9.0 / 16), 8.0 / 27);
  return std::pow(0.60 + 0.387 * std::pow(ra, 1.0 / 6) / prandtlPart, 2);
}

double nusseltSphere(double ra, double pr)
{
  return 2 + 0.589 * std::pow(ra, 0.25) / std::pow(1 + std::pow(0.469 / pr, 9.0 / 16), 4.0 / 9);
}

void naturalFlow(CorrelationResult& r, FlowSituation situation, bool hotter)
{
  const double ra = r.rayleigh;
  switch (situation) {
  case FlowSituation::VerticalPlate:
  case FlowSituation::VerticalCylinder:
    r.nusselt = nusseltVerticalPlate(ra, r.prandtl);
    r.regime = ra < 1e9 ? "laminar" : "turbulent";
    r.inRange = ra <= 1e12;
    r.validity = "Ra ≤ 10¹²";
    r.source = "Churchill and Chu 1975, vertical plate";
    return;
  case FlowSituation::PlateFacingUp:
  case FlowSituation::PlateFacingDown:
    if ((situation == FlowSituation::PlateFacingUp) == hotter) { // the fluid leaves the plate freely
      // The two branches change where they meet, so that the coefficient does not jump.
      r.nusselt = std::max(0.54 * std::pow(ra, 0.25), 0.15 * std::cbrt(ra));
      r.regime = 0.15 * std::cbrt(ra) > 0.54 * std::pow(ra, 0.25) ? "turbulent" : "laminar";
      r.inRange = within(ra, 1e4, 1e11);
      r.validity = "10⁴ ≤ Ra ≤ 10¹¹";
    } else {
      r.nusselt = 0.27 * std::pow(ra, 0.25);
      r.regime = "held under the plate";
      r.inRange = within(ra, 1e5, 1e10);
      r.validity = "10⁵ ≤ Ra ≤ 10¹⁰";
    }
    r.source = "McAdams 1954, horizontal plate";
    return;
  case FlowSituation::HorizontalCylinder:
    r.nusselt = nusseltHorizontalCylinder(ra, r.prandtl);
    r.regime = ra < 1e9 ? "laminar" : "turbulent";
    r.inRange = within(ra, 1e-6, 1e12);
    r.validity = "10⁻⁶ ≤ Ra ≤ 10¹²";
    r.source = "Churchill and Chu 1975, horizontal cylinder";
    return;
  default:
    r.nusselt = nusseltSphere(ra, r.prandtl);
    r.regime = "laminar";
    r.inRange = ra <= 1e11 && r.prandtl >= 0.7 - 0.02;
    r.validity = "Ra ≤ 10¹¹, Pr ≥ 0.7";
    r.source = "Churchill 1983, sphere";
  }
}

void alongPlate(CorrelationResult& r)
{
  constexpr double transition = 5e5;
  const double prandtlPart = std::cbrt(r.prandtl);
  if (r.reynolds <= transition) {
    r.nusselt = 0.664 * std::sqrt(r.reynolds) * prandtlPart;
    r.regime = "laminar";
  } else {
    r.nusselt = (0.037 * std::pow(r.reynolds, 0.8) - 871) * prandtlPart;
    r.regime = "laminar, then turbulent";
  }
  r.inRange = r.reynolds <= 1e8 && within(r.prandtl, 0.6, 60);
  r.validity = "Re ≤ 10⁸, 0.6 ≤ Pr ≤ 60";
  r.source = "Pohlhausen 1921 and mixed boundary layer, flat plate";
}

void acrossCylinder(CorrelationResult& r)
{
  const double first =
      0.62 * std::sqrt(r.reynolds) * std::cbrt(r.prandtl) / std::pow(1 + std::pow(0.4 / r.prandtl, 2.0 / 3), 0.25);
  r.nusselt = 0.3 + first * std::pow(1 + std::pow(r.reynolds / 282000, 5.0 / 8), 4.0 / 5);
  r.regime = r.reynolds < 2e5 ? "laminar boundary layer" : "turbulent boundary layer";
  r.inRange = r.reynolds * r.prandtl >= 0.2 && r.reynolds <= 1e7;
  r.validity = "Re·Pr ≥ 0.2, Re ≤ 10⁷";
  r.source = "Churchill and Bernstein 1977, cylinder in cross flow";
}

double nusseltTubeLaminar(const CorrelationResult& r, double diameterOverLength)
{
  const double graetz = diameterOverLength * r.reynolds * r.prandtl;
  return 3.66 + 0.0668 * graetz / (1 + 0.04 * std::pow(graetz, 2.0 / 3));
}

double nusseltTubeTurbulent(double reynolds, double prandtl)
{
  const double friction = std::pow(0.79 * std::log(reynolds) - 1.64, -2);
  return friction / 8 * (reynolds - 1000) * prandtl /
         (1 + 12.7 * std::sqrt(friction / 8) * (std::pow(prandtl, 2.0 / 3) - 1));
}

void insideTube(CorrelationResult& r, double diameterOverLength)
{
  constexpr double laminarTo = 2300;
  constexpr double turbulentFrom = 4000;
  if (r.reynolds <= laminarTo) {
    r.nusselt = nusseltTubeLaminar(r, diameterOverLength);
    r.regime = "laminar";
    r.source = "Hausen 1943, tube of constant wall temperature";
  } else if (r.reynolds >= turbulentFrom) {
    r.nusselt = nusseltTubeTurbulent(r.reynolds, r.prandtl);
    r.regime = "turbulent";
    r.source = "Gnielinski 1976, smooth tube";
  } else {
    CorrelationResult low = r;
    low.reynolds = laminarTo;
    const double share = (r.reynolds - laminarTo) / (turbulentFrom - laminarTo);
    r.nusselt = (1 - share) * nusseltTubeLaminar(low, diameterOverLength) +
                share * nusseltTubeTurbulent(turbulentFrom, r.prandtl);
    r.regime = "between laminar and turbulent, interpolated";
    r.source = "Hausen 1943 and Gnielinski 1976";
  }
  r.inRange = r.reynolds <= 5e6 && within(r.prandtl, 0.5, 2000);
  r.validity = "Re ≤ 5·10⁶, 0.5 ≤ Pr ≤ 2000";
}

tl::unexpected<Failure> missing(const std::string& what)
{
  return failure(Failure::Kind::NotReady, "", "Its correlation needs a " + what + ".", "Give the " + what + ".");
}

} // namespace

std::string_view sizeMeaning(FlowSituation situation)
{
  switch (situation) {
  case FlowSituation::VerticalPlate:
  case FlowSituation::VerticalCylinder:
    return "height";
  case FlowSituation::PlateFacingUp:
  case FlowSituation::PlateFacingDown:
    return "area ÷ perimeter";
  case FlowSituation::AlongPlate:
    return "length along the flow";
  case FlowSituation::InsideTube:
    return "inner diameter";
  default:
    return "diameter";
  }
}

std::string_view situationName(FlowSituation situation)
{
  return describing::situationKinds[static_cast<std::size_t>(situation)].label;
}

bool isForced(FlowSituation situation)
{
  return situation == FlowSituation::AlongPlate || situation == FlowSituation::AcrossCylinder ||
         situation == FlowSituation::InsideTube;
}

Expected<CorrelationResult> correlate(const CorrelatedConvection& flow, const Environment& environment,
                                      double surfaceTemperature)
{
  if (flow.size.si <= 0)
    return missing(std::string(sizeMeaning(flow.situation)));
  const bool forced = isForced(flow.situation);
  if (forced && (!flow.speed || flow.speed->si <= 0))
    return missing("speed");
  const bool tube = flow.situation == FlowSituation::InsideTube;
  if (tube && (!flow.length || flow.length->si <= 0))
    return missing("tube length");
  CorrelationResult r;
  const double ambient = flow.ambient.si;
  r.filmTemperature = tube ? ambient : (ambient + surfaceTemperature) / 2;
  const FluidState fluid = stateOf(flow.fluid, r.filmTemperature, environment.airPressure.si);
  r.prandtl = fluid.prandtl();
  const double size = flow.size.si;
  if (forced) {
    r.reynolds = flow.speed->si * size / fluid.kinematicViscosity();
    if (flow.situation == FlowSituation::AlongPlate)
      alongPlate(r);
    else if (tube)
      insideTube(r, size / flow.length->si);
    else
      acrossCylinder(r);
  } else {
    const double difference = std::abs(surfaceTemperature - ambient);
    const double diffusivity = fluid.conductivity / (fluid.density * fluid.specificHeat);
    r.rayleigh = standardGravity * std::abs(fluid.expansion) * difference * std::pow(size, 3) /
                 (fluid.kinematicViscosity() * diffusivity);
    naturalFlow(r, flow.situation, surfaceTemperature >= ambient);
    if (flow.situation == FlowSituation::VerticalCylinder && flow.diameter && r.rayleigh > 0 &&
        flow.diameter->si / size < 35 / std::pow(r.rayleigh / r.prandtl, 0.25)) {
      r.inRange = false; // the boundary layer is as thick as the cylinder
      r.validity = "diameter ÷ height ≥ 35/Gr^¼: a thinner cylinder loses more";
    }
  }
  const TemperatureRange covered = coveredRange(flow.fluid);
  if (r.filmTemperature < covered.low || r.filmTemperature > covered.high)
    r.inRange = false;
  r.coefficient = r.nusselt * fluid.conductivity / size;
  return r;
}

Expected<Property> coefficientCurve(const CorrelatedConvection& flow, const Environment& environment)
{
  constexpr double farthest = 3000; // K from the ambient
  constexpr double nearest = 0.05;  // K
  constexpr int perDecade = 14;
  std::vector<double> steps{0};
  for (double step = nearest; step < farthest; step *= std::pow(10, 1.0 / perDecade))
    steps.push_back(step);
  Property curve;
  for (auto step = steps.rbegin(); step != steps.rend(); ++step)
    if (*step > 0 && flow.ambient.si - *step > 20)
      curve.table.push_back({{flow.ambient.si - *step, {}}, {}});
  for (const double step : steps)
    curve.table.push_back({{flow.ambient.si + step, {}}, {}});
  for (TablePoint& point : curve.table) {
    const Expected<CorrelationResult> result = correlate(flow, environment, point.at.si);
    if (!result)
      return tl::unexpected(result.error());
    point.value.si = result->coefficient;
  }
  curve.si = curve.table.front().value.si;
  return curve;
}

const std::vector<CoefficientRange>& coefficientRanges()
{
  static const std::vector<CoefficientRange> ranges{
      {"still air, natural", 2, 25},
      {"moving air, fan or wind", 10, 250},
      {"still water, natural", 50, 1200},
      {"moving water", 300, 20000},
      {"oil, moving", 50, 1700},
      {"boiling water", 2500, 100000},
      {"condensing steam", 4000, 100000},
      {"quench in water", 1000, 15000},
      {"quench in oil", 300, 3000},
      {"water spray", 500, 30000},
      {"gas at rest in a narrow gap", 1, 10},
      {"wall indoors, heat across, with radiation (ISO 6946)", 7.1, 8.33},
      {"ceiling indoors, heat up, with radiation (ISO 6946)", 9.1, 10.99},
      {"floor indoors, heat down, with radiation (ISO 6946)", 5.35, 6.46},
      {"outdoors, with radiation (ISO 6946)", 20, 31.25},
  };
  return ranges;
}

const std::vector<CoefficientRange>& contactRanges()
{
  static const std::vector<CoefficientRange> ranges{
      {"dry metal, rough, light pressure (0.1 MPa)", 500, 3000},
      {"dry metal, ground, 1 MPa", 2000, 15000},
      {"dry metal, ground, 10 MPa", 10000, 60000},
      {"dry ceramic or brick, laid", 50, 500},
      {"fibre insulation against a sheet", 20, 200},
      {"thermal grease", 10000, 100000},
      {"soft pad, 0.5 mm", 1500, 12000},
      {"glued joint, 0.1 mm", 1500, 10000},
      {"air gap 0.1 mm", 200, 400},
      {"air gap 1 mm", 20, 60},
      {"solder or braze", 100000, 1000000},
  };
  return ranges;
}

} // namespace kiln
