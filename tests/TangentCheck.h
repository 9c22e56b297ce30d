// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TestProjects.h"
#include "heat/ThermalSystem.h"

#include <cmath>
#include <random>

namespace kiln::test
{

/// Largest |balance(T + s v) − balance(T − s v)|/2s + J v, over the size of J v.
inline double tangentError(const Project& project)
{
  const Mesh mesh = meshOf(project);
  const auto conditions = resolveConditions(project, mesh);
  if (!conditions)
    throw std::runtime_error(conditions.error().sentence());
  const ThermalSystem system(mesh, *conditions);
  std::mt19937 random(3);
  std::uniform_real_distribution<double> anywhere(0, 1);
  std::vector<double> temperature(static_cast<std::size_t>(system.unknowns()));
  std::vector<double> direction(temperature.size());
  for (std::size_t i = 0; i < temperature.size(); ++i) {
    temperature[i] = 500 + 150 * anywhere(random);
    direction[i] = system.isFixed()[i] != 0 ? 0 : anywhere(random) - 0.5;
  }
  system.applyFixed(temperature);
  const SparseMatrix matrix = system.tangent(temperature);
  std::vector<double> product(temperature.size());
  multiply(matrix, direction, product);
  const std::vector<double> rest = system.restOfTangent(temperature, direction);
  const double step = 1e-3; // K, small against the tables' intervals
  std::vector<double> up = temperature;
  std::vector<double> down = temperature;
  for (std::size_t i = 0; i < up.size(); ++i) {
    up[i] += step * direction[i];
    down[i] -= step * direction[i];
  }
  const std::vector<double> high = system.balance(up);
  const std::vector<double> low = system.balance(down);
  double worst = 0;
  double size = 0;
  for (std::size_t i = 0; i < up.size(); ++i)
    if (system.isFixed()[i] == 0) {
      worst = std::max(worst, std::abs((high[i] - low[i]) / (2 * step) + product[i] + rest[i]));
      size = std::max(size, std::abs(product[i]));
    }
  return worst / size;
}

} // namespace kiln::test
