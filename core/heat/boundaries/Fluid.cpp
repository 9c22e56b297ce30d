// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/Fluid.h"

#include <algorithm>
#include <array>
#include <span>

namespace kiln
{
namespace
{

struct TableLine {
  double temperature, density, specificHeat, viscosity, conductivity, expansion;
};

constexpr double gasConstantOfAir = 287.05; // J/(kg·K)

// K, –, J/(kg·K), Pa·s, W/(m·K), –
constexpr std::array airLines{
    TableLine{200, 0, 1007, 132.5e-7, 18.1e-3, 0},  TableLine{250, 0, 1006, 159.6e-7, 22.3e-3, 0},
    TableLine{300, 0, 1007, 184.6e-7, 26.3e-3, 0},  TableLine{350, 0, 1009, 208.2e-7, 30.0e-3, 0},
    TableLine{400, 0, 1014, 230.1e-7, 33.8e-3, 0},  TableLine{450, 0, 1021, 250.7e-7, 37.3e-3, 0},
    TableLine{500, 0, 1030, 270.1e-7, 40.7e-3, 0},  TableLine{600, 0, 1051, 305.8e-7, 46.9e-3, 0},
    TableLine{700, 0, 1075, 338.8e-7, 52.4e-3, 0},  TableLine{800, 0, 1099, 369.8e-7, 57.3e-3, 0},
    TableLine{900, 0, 1121, 398.1e-7, 62.0e-3, 0},  TableLine{1000, 0, 1141, 424.4e-7, 66.7e-3, 0},
    TableLine{1200, 0, 1175, 473.0e-7, 76.3e-3, 0}, TableLine{1400, 0, 1207, 530.0e-7, 91.0e-3, 0},
};

// K, kg/m³, J/(kg·K), Pa·s, W/(m·K), 1/K
constexpr std::array waterLines{
    TableLine{273.15, 1000, 4217, 1750e-6, 0.569, -68.05e-6}, TableLine{280, 1000, 4198, 1422e-6, 0.582, 46.04e-6},
    TableLine{290, 999, 4184, 1080e-6, 0.598, 174.0e-6},      TableLine{300, 997, 4179, 855e-6, 0.613, 276.1e-6},
    TableLine{310, 993, 4178, 695e-6, 0.628, 361.9e-6},       TableLine{320, 989, 4180, 577e-6, 0.640, 436.7e-6},
    TableLine{330, 984, 4184, 489e-6, 0.650, 504.0e-6},       TableLine{340, 979, 4188, 420e-6, 0.660, 566.0e-6},
    TableLine{350, 974, 4195, 365e-6, 0.668, 624.2e-6},       TableLine{360, 967, 4203, 324e-6, 0.674, 697.9e-6},
    TableLine{373.15, 958, 4217, 279e-6, 0.680, 750.1e-6},
};

std::span<const TableLine> linesOf(Fluid fluid)
{
  return fluid == Fluid::Air ? std::span<const TableLine>(airLines) : std::span<const TableLine>(waterLines);
}

TableLine between(std::span<const TableLine> lines, double temperature)
{
  const double t = std::clamp(temperature, lines.front().temperature, lines.back().temperature);
  const auto above = std::upper_bound(lines.begin() + 1, lines.end() - 1, t,
                                      [](double value, const TableLine& line) { return value < line.temperature; });
  const TableLine& a = *(above - 1);
  const TableLine& b = *above;
  const double share = (t - a.temperature) / (b.temperature - a.temperature);
  const auto mix = [share](double x, double y) { return x + share * (y - x); };
  return {t,
          mix(a.density, b.density),
          mix(a.specificHeat, b.specificHeat),
          mix(a.viscosity, b.viscosity),
          mix(a.conductivity, b.conductivity),
          mix(a.expansion, b.expansion)};
}

} // namespace

TemperatureRange coveredRange(Fluid fluid)
{
  return {linesOf(fluid).front().temperature, linesOf(fluid).back().temperature};
}

FluidState stateOf(Fluid fluid, double temperature, double pressure)
{
  const TableLine line = between(linesOf(fluid), temperature);
  FluidState state{line.density, line.specificHeat, line.viscosity, line.conductivity, line.expansion};
  if (fluid == Fluid::Air) {
    state.density = pressure / (gasConstantOfAir * temperature);
    state.expansion = 1 / temperature;
  }
  return state;
}

} // namespace kiln
