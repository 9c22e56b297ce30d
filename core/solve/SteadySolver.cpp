// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/SteadySolver.h"

#include "solve/NewtonStep.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace kiln
{
namespace
{

/// Largest share of the step that keeps every temperature above zero kelvin.
double positiveShare(const std::vector<double>& temperature, const std::vector<double>& update)
{
  constexpr double keep = 0.9; // of the way to zero
  double share = 1;
  for (std::size_t i = 0; i < update.size(); ++i)
    if (temperature[i] + update[i] < 0)
      share = std::min(share, -keep * temperature[i] / update[i]);
  return share;
}

} // namespace

Expected<SteadySolution> solveSteady(const Mesh& mesh, const Conditions& conditions, const SteadyOptions& options,
                                     const Progress& progress)
{
  const ThermalSystem system(mesh, conditions);
  const auto solver = makeLinearSolver(options.backend, system.unknowns());
  SteadySolution solution;
  std::vector<double>& temperature = solution.temperature;
  temperature.assign(static_cast<std::size_t>(system.unknowns()), conditions.startTemperature);
  system.applyFixed(temperature);

  std::vector<double> balance = system.balance(temperature);
  double norm = freeNorm(system, balance);
  std::vector<double> right(temperature.size());
  std::vector<double> update(temperature.size());
  std::vector<double> tried(temperature.size());
  SparseMatrix matrix;
  for (solution.newtonSteps = 1; solution.newtonSteps <= options.mostSteps; ++solution.newtonSteps) {
    progress("solve", std::min(0.9, 0.5 + 0.05 * solution.newtonSteps), "step " + std::to_string(solution.newtonSteps));
    if (!system.linear() || solution.newtonSteps == 1)
      matrix = system.tangent(temperature);
    for (std::size_t i = 0; i < right.size(); ++i)
      right[i] = system.isFixed()[i] != 0 ? 0 : balance[i];
    // A linear problem keeps its matrix; further steps only polish the solution.
    const auto started = std::chrono::steady_clock::now();
    if (!system.linear() || solution.newtonSteps == 1)
      if (auto prepared = solver->prepare(matrix); !prepared)
        return tl::unexpected(prepared.error());
    std::fill(update.begin(), update.end(), 0.0);
    // A loose first step is enough where radiation will bend the answer anyway.
    double linearTolerance = system.linear() || solution.newtonSteps > 3 ? 1e-9 : 1e-6;
    constexpr int freeSteps = 8;
    const bool mustFall = solution.newtonSteps > freeSteps && solution.residual > 1e2 * options.residualTolerance;
    if (system.stronglyCoupled() && mustFall) {
      linearTolerance = 1e-6;
    } else if (system.stronglyCoupled()) { // far from the solution a rough step does as well; Newton mends the rest
      constexpr double far = 20;           // K
      constexpr double loosest = 0.03;
      linearTolerance = loosest;
      if (solution.newtonSteps > 1 && solution.largestUpdate <= far) // no finer than the end asks for
        linearTolerance = std::clamp(0.1 * std::min(options.residualTolerance / solution.residual,
                                                    options.updateTolerance / solution.largestUpdate),
                                     1e-3, loosest);
    }
    const auto iterations = newtonStep(system, matrix, *solver, temperature, right, update, linearTolerance);
    if (!iterations)
      return tl::unexpected(iterations.error());
    solution.linearIterations += *iterations;
    solution.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();

    if (system.stronglyCoupled())
      keepInReach(temperature, update);
    double share = positiveShare(temperature, update);
    constexpr double smallestFall = 1.0 / 64;
    double triedNorm = 0;
    std::vector<double> triedBalance;
    constexpr double smallestShare = 1.0 / 1024;
    for (;; share /= 2) {
      for (std::size_t i = 0; i < tried.size(); ++i)
        tried[i] = temperature[i] + share * update[i];
      triedBalance = system.balance(tried);
      triedNorm = freeNorm(system, triedBalance);
      // From a cold start radiation overshoots once before it converges; only a real runaway is damped. Later steps
      // must mend something where they can, or heat that ends beyond a temperature is jumped over to and fro.
      const double allowedRise = mustFall && share > smallestFall ? 0.9999 : 1e3;
      if (std::isfinite(triedNorm) && (triedNorm < allowedRise * norm || solution.newtonSteps == 1 || norm == 0))
        break;
      if (share < smallestShare)
        return failure(Failure::Kind::Solver, partOfWorst(mesh, conditions, system, balance),
                       "The temperatures run away here.", "Check powers, emissivities and coefficients around it.");
    }
    solution.largestUpdate = 0;
    for (std::size_t i = 0; i < tried.size(); ++i)
      solution.largestUpdate = std::max(solution.largestUpdate, std::abs(tried[i] - temperature[i]));
    temperature.swap(tried);
    balance = std::move(triedBalance);
    norm = triedNorm;
    // Where nothing flows, rounding is compared with the floor of rounding.
    const double throughput = std::max(system.throughput(temperature), system.noiseFloor(temperature));
    solution.residual = norm / throughput;
    const bool exact = system.linear() && solver->isDirect();
    const bool settled = solution.largestUpdate < options.updateTolerance || exact;
    if (solution.residual <= options.residualTolerance && settled) {
      solution.linearSolver = solver->name();
      return solution;
    }
  }
  return failure(Failure::Kind::Solver, partOfWorst(mesh, conditions, system, balance),
                 "The steady solution did not converge in " + std::to_string(options.mostSteps) +
                     " steps; the balance is worst here.",
                 "Check powers, emissivities and coefficients around this part.");
}

} // namespace kiln
