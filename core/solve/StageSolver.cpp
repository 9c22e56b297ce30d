// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/StageSolver.h"

#include "solve/NewtonStep.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>

namespace kiln
{

namespace
{

tl::unexpected<Failure> notConverged()
{
  return failure(Failure::Kind::Solver, "run", "A time step did not converge.", "Shorten the largest step.");
}

void noteStoring(const std::vector<double>& stored, const std::vector<double>& base, double length,
                 std::vector<double>& storing)
{
  storing.resize(stored.size());
  for (std::size_t u = 0; u < stored.size(); ++u)
    storing[u] = (stored[u] - base[u]) / length;
}

} // namespace

StageSolver::Misfit StageSolver::misfitOf(const std::vector<double>& temperature, const std::vector<double>& stored,
                                          const std::vector<double>& base, double length) const
{
  const ThermalSystem& system = model_.system();
  Misfit misfit;
  misfit.right = system.balance(temperature);
  for (std::size_t u = 0; u < temperature.size(); ++u) {
    const double into = (stored[u] - base[u]) / length;
    const bool fixed = system.isFixed()[u] != 0;
    misfit.right[u] = fixed ? 0 : misfit.right[u] - into;
    misfit.norm += std::abs(misfit.right[u]);
    misfit.scale += fixed ? 0 : std::abs(into);
  }
  misfit.scale = std::max({misfit.scale, system.throughput(temperature), system.noiseFloor(temperature)});
  return misfit;
}

Expected<void> StageSolver::update(const std::vector<double>& temperature, const std::vector<double>& right,
                                   double accuracy, std::vector<double>& update)
{
  update.assign(temperature.size(), 0.0);
  const auto started = std::chrono::steady_clock::now();
  const auto iterations =
      newtonStep(model_.system(), now_ ? *now_ : matrix_, *solver_, temperature, right, update, accuracy, nullptr);
  work_.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
  if (!iterations)
    return tl::unexpected(iterations.error());
  work_.linearIterations += *iterations;
  ++work_.newtonSteps;
  if (model_.system().stronglyCoupled())
    keepInReach(temperature, update);
  return {};
}

Expected<void> StageSolver::solve(std::vector<double>& temperature, const std::vector<double>& base, double length,
                                  const Accuracy& wanted, std::vector<double>& storing)
{
  const ThermalSystem& system = model_.system();
  const HeatStore& store = model_.store();
  now_.reset();
  if (store.melts())
    return solveMelting(temperature, base, length, wanted, storing);
  std::vector<double> change;
  double before = std::numeric_limits<double>::infinity();
  double largest = std::numeric_limits<double>::infinity();
  constexpr int mostSteps = 30;
  for (int i = 0; i < mostSteps; ++i) {
    system.applyFixed(temperature);
    const std::vector<double> stored = store.stored(temperature);
    const Misfit misfit = misfitOf(temperature, stored, base, length);
    if (!std::isfinite(misfit.norm))
      break;
    const double closes = wanted.convergence * misfit.scale;
    constexpr double small = 0.02; // of the step's tolerance
    // As the balance fell, so will the next update.
    const double left = i > 0 ? largest * std::min(1.0, misfit.norm / before) : largest;
    if (misfit.norm <= closes && (left < small * wanted.tolerance || misfit.norm <= 1e-3 * closes)) {
      if (const std::string inside = system.unsolvedInside(); !inside.empty())
        return failure(Failure::Kind::Solver, "run", inside + " was not found to its tolerance.", "");
      noteStoring(stored, base, length, storing);
      return {};
    }
    const bool slow = misfit.norm > 0.1 * before;
    if (auto prepared = prepareAnew(temperature, length, slow && i > 0); !prepared)
      return prepared;
    double accuracy = 1e-6;
    if (system.stronglyCoupled()) {
      now_ = tangentAt(temperature, length);
      accuracy = std::clamp(0.05 * closes / misfit.norm, 1e-4, 0.03); // no finer than the end asks for
    }
    if (auto updated = update(temperature, misfit.right, accuracy, change); !updated)
      return updated;
    largest = 0;
    for (std::size_t u = 0; u < temperature.size(); ++u) {
      temperature[u] = std::max(temperature[u] + change[u], 0.0);
      largest = std::max(largest, std::abs(change[u]));
    }
    before = misfit.norm;
  }
  return notConverged();
}

Expected<void> StageSolver::solveMelting(std::vector<double>& temperature, const std::vector<double>& base,
                                         double length, const Accuracy& wanted, std::vector<double>& storing)
{
  const ThermalSystem& system = model_.system();
  const HeatStore& store = model_.store();
  system.applyFixed(temperature);
  std::vector<double> joules = store.stored(temperature);
  std::vector<double> change;
  std::vector<double> preparedSlope;
  Misfit misfit = misfitOf(temperature, joules, base, length);
  constexpr int mostSteps = 40;
  for (int i = 0; i < mostSteps && std::isfinite(misfit.norm); ++i) {
    if (misfit.norm <= wanted.convergence * misfit.scale) {
      noteStoring(joules, base, length, storing);
      return {};
    }
    const std::vector<double> slope = store.slope(temperature);
    const bool other = !std::equal(slope.begin(), slope.end(), preparedSlope.begin(), preparedSlope.end());
    if (auto prepared = prepareAnew(temperature, length, other); !prepared)
      return prepared;
    preparedSlope = slope;
    constexpr double accuracy = 1e-6;
    constexpr double roughly = 0.03;
    if (auto updated = update(temperature, misfit.right, system.stronglyCoupled() ? roughly : accuracy, change);
        !updated)
      return updated;
    // The whole step unless the balance gets much worse: places that begin or end to melt bend it.
    constexpr double worse = 2;
    constexpr double smallest = 1.0 / 64;
    for (double share = 1;; share /= 2) {
      std::vector<double> triedJoules = joules;
      std::vector<double> tried = temperature;
      for (std::size_t u = 0; u < tried.size(); ++u) {
        if (system.isFixed()[u] != 0)
          continue;
        if (slope[u] > 0) {
          triedJoules[u] += share * slope[u] * change[u];
          tried[u] = std::max(store.temperatureAt(UnknownId(u), triedJoules[u], tried[u]), 0.0);
        } else {
          tried[u] = std::max(tried[u] + share * change[u], 0.0);
        }
      }
      Misfit next = misfitOf(tried, triedJoules, base, length);
      if (!(next.norm <= worse * misfit.norm) && share > smallest)
        continue;
      joules = std::move(triedJoules);
      temperature = std::move(tried);
      misfit = std::move(next);
      break;
    }
  }
  return notConverged();
}

Expected<void> StageSolver::prepareAnew(const std::vector<double>& temperature, double length, bool again)
{
  if (!again && length == preparedLength_ && preparedFixed_ == model_.system().isFixed())
    return {};
  matrix_ = tangentAt(temperature, length);
  const auto started = std::chrono::steady_clock::now();
  auto prepared = solver_->prepare(matrix_);
  work_.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
  ++work_.preparations;
  preparedLength_ = length;
  preparedFixed_ = model_.system().isFixed();
  return prepared;
}

SparseMatrix StageSolver::tangentAt(const std::vector<double>& temperature, double length) const
{
  SparseMatrix tangent = model_.system().tangent(temperature);
  model_.store().addSlope(temperature, 1 / length, model_.system().isFixed(), tangent);
  return tangent;
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
