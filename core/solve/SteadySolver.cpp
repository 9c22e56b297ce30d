// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/SteadySolver.h"

#include "solve/CoupledStep.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace kiln
{
namespace
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

/// Radiation hardly couples what is cold, so that a step from there shoots far over, and one back below zero: no
/// temperature more than doubles or halves in one step.
void keepInReach(const std::vector<double>& temperature, std::vector<double>& update)
{
  for (std::size_t i = 0; i < update.size(); ++i)
    update[i] = std::clamp(update[i], -temperature[i] / 2, temperature[i]);
}

/// Solves tangent · update = right. The symmetric part is solved as it is; the unsymmetric rest (the slope of k(T))
/// follows by corrections with the same factors, each smaller than the one before.
/// \return linear iterations
Expected<int> newtonStep(const ThermalSystem& system, const SparseMatrix& matrix, LinearSolver& solver,
                         std::span<const double> temperature, const std::vector<double>& right,
                         std::vector<double>& update, double tolerance)
{
  if (system.stronglyCoupled())
    return coupledStep(system, matrix, solver, temperature, right, update, tolerance);
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
    if (system.stronglyCoupled()) { // far from the solution a rough step does as well; Newton mends the rest
      constexpr double far = 20;    // K
      linearTolerance = solution.newtonSteps == 1 || solution.largestUpdate > far ? 0.03 : 1e-3;
    }
    const auto iterations = newtonStep(system, matrix, *solver, temperature, right, update, linearTolerance);
    if (!iterations)
      return tl::unexpected(iterations.error());
    solution.linearIterations += *iterations;
    solution.linearSeconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();

    if (system.stronglyCoupled())
      keepInReach(temperature, update);
    double share = positiveShare(temperature, update);
    double triedNorm = 0;
    std::vector<double> triedBalance;
    constexpr double smallestShare = 1.0 / 1024;
    for (;; share /= 2) {
      for (std::size_t i = 0; i < tried.size(); ++i)
        tried[i] = temperature[i] + share * update[i];
      triedBalance = system.balance(tried);
      triedNorm = freeNorm(system, triedBalance);
      // From a cold start radiation overshoots once before it converges; only a real runaway is damped.
      constexpr double allowedRise = 1e3;
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
