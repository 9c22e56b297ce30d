// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/StageSolver.h"

#include "solve/NewtonStep.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>

namespace kiln
{

Expected<void> StageSolver::solve(std::vector<double>& temperature, const std::vector<double>& base, double length,
                                  const Accuracy& wanted, std::vector<double>& storing)
{
  const ThermalSystem& system = model_.system();
  const HeatStore& store = model_.store();
  const std::size_t count = temperature.size();
  std::vector<double> right(count);
  std::vector<double> update(count);
  double before = std::numeric_limits<double>::infinity();
  double largest = std::numeric_limits<double>::infinity();
  constexpr int mostSteps = 30;
  for (int i = 0; i < mostSteps; ++i) {
    system.applyFixed(temperature);
    const std::vector<double> balance = system.balance(temperature);
    const std::vector<double> stored = store.stored(temperature);
    double norm = 0;
    double size = 0;
    for (std::size_t u = 0; u < count; ++u) {
      const double into = (stored[u] - base[u]) / length;
      const bool fixed = system.isFixed()[u] != 0;
      right[u] = fixed ? 0 : balance[u] - into;
      norm += std::abs(right[u]);
      size += fixed ? 0 : std::abs(into);
    }
    if (!std::isfinite(norm))
      break;
    const double closes = wanted.convergence;
    const double scale = std::max({size, system.throughput(temperature), system.noiseFloor(temperature)});
    constexpr double small = 0.02; // of the step's tolerance
    // As the balance fell, so will the next update.
    const double left = i > 0 ? largest * std::min(1.0, norm / before) : largest;
    if (norm <= closes * scale && (left < small * wanted.tolerance || norm <= 1e-3 * closes * scale)) {
      storing.resize(count);
      for (std::size_t u = 0; u < count; ++u)
        storing[u] = (stored[u] - base[u]) / length;
      return {};
    }
    const bool slow = norm > 0.1 * before;
    if (auto prepared = prepareAnew(temperature, length, slow && i > 0); !prepared)
      return prepared;
    std::fill(update.begin(), update.end(), 0.0);
    const auto started = std::chrono::steady_clock::now();
    // No finer than the end asks for.
    const double accuracy = system.stronglyCoupled() ? std::clamp(0.05 * closes * scale / norm, 1e-3, 0.03) : 1e-6;
    const auto iterations = newtonStep(system, matrix_, *solver_, temperature, right, update, accuracy);
    work_.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
    if (!iterations)
      return tl::unexpected(iterations.error());
    work_.linearIterations += *iterations;
    ++work_.newtonSteps;
    store.stopAtBends(temperature, update);
    if (system.stronglyCoupled())
      keepInReach(temperature, update);
    largest = 0;
    for (std::size_t u = 0; u < count; ++u) {
      temperature[u] = std::max(temperature[u] + update[u], 0.0);
      largest = std::max(largest, std::abs(update[u]));
    }
    before = norm;
  }
  return failure(Failure::Kind::Solver, "run", "A time step did not converge.", "Shorten the largest step.");
}

Expected<void> StageSolver::prepareAnew(const std::vector<double>& temperature, double length, bool again)
{
  if (!again && length == preparedLength_ && preparedFixed_ == model_.system().isFixed())
    return {};
  matrix_ = model_.system().tangent(temperature);
  const std::vector<double> slope = model_.store().slope(temperature);
  for (Index row = 0; row < matrix_.rows(); ++row)
    matrix_.values[static_cast<std::size_t>(matrix_.position(row, row))] +=
        slope[static_cast<std::size_t>(row)] / length;
  const auto started = std::chrono::steady_clock::now();
  auto prepared = solver_->prepare(matrix_);
  work_.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
  ++work_.preparations;
  preparedLength_ = length;
  preparedFixed_ = model_.system().isFixed();
  return prepared;
}

std::vector<double> StageSolver::roughly(const std::vector<double>& right) const
{
  std::vector<double> temperatures(right.size(), 0.0);
  constexpr double rough = 0.05;
  if (!solver_->solve(right, temperatures, rough))
    solver_->approximate(right, temperatures);
  return temperatures;
}

} // namespace kiln
