// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/NewtonStep.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

double freeNorm(const ThermalSystem& system, const std::vector<double>& balance)
{
  double sum = 0;
  for (std::size_t i = 0; i < balance.size(); ++i)
    if (system.isFixed()[i] == 0)
      sum += std::abs(balance[i]);
  return sum;
}

std::string partOfWorst(const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
                        const std::vector<double>& balance)
{
  std::size_t worst = 0;
  double size = -1;
  for (std::size_t i = 0; i < balance.size(); ++i)
    if (system.isFixed()[i] == 0 && !(std::abs(balance[i]) <= size)) {
      size = std::abs(balance[i]);
      worst = i;
    }
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    const auto& own = conditions.unknowns.ofTet[t];
    if (std::find(own.begin(), own.end(), static_cast<Index>(worst)) != own.end())
      return "part " + mesh.geometry.parts[static_cast<std::size_t>(mesh.tetPart[t])].name;
  }
  return "project";
}

void keepInReach(const std::vector<double>& temperature, std::vector<double>& update, double reach)
{
  for (std::size_t i = 0; i < update.size(); ++i)
    update[i] = std::clamp(update[i], -temperature[i] / 2, (reach - 1) * temperature[i]);
}

Expected<int> newtonStep(const ThermalSystem& system, const SparseMatrix& matrix, LinearSolver& solver,
                         std::span<const double> temperature, const std::vector<double>& right,
                         std::vector<double>& update, double tolerance, SlowModes* modes)
{
  if (system.stronglyCoupled())
    return coupledStep(system, matrix, solver, temperature, right, update, tolerance, modes);
  auto report = solver.solve(right, update, tolerance);
  if (!report)
    return tl::unexpected(report.error());
  int iterations = report->iterations;
  constexpr int mostCorrections = 6;
  constexpr double enough = 0.02; // of the update; Newton's next step mends the rest
  std::vector<double> corrected(right.size());
  for (int i = 0; system.hasRest() && i < mostCorrections; ++i) {
    const std::vector<double> rest = system.restOfTangent(temperature, update);
    for (std::size_t j = 0; j < right.size(); ++j)
      corrected[j] = right[j] - rest[j];
    std::vector<double> next = update;
    report = solver.solve(corrected, next, tolerance);
    if (!report)
      return tl::unexpected(report.error());
    iterations += report->iterations;
    double change = 0;
    double size = 0;
    for (std::size_t j = 0; j < next.size(); ++j) {
      change = std::max(change, std::abs(next[j] - update[j]));
      size = std::max(size, std::abs(next[j]));
    }
    if (change > size)
      break; // far from the solution the rest is no correction; the secant is the safer step
    update = std::move(next);
    if (change < enough * size)
      break;
  }
  return iterations;
}

} // namespace kiln
