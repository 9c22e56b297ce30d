// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/SteadySolver.h"

#include "solve/NewtonStep.h"
#include "solve/SteadyFailure.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <optional>

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

double secondsSince(std::chrono::steady_clock::time_point start)
{
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

class SteadyIteration
{
public:
  SteadyIteration(const Mesh& mesh, const Conditions& conditions, const SteadyOptions& options,
                  const Progress& progress)
      : mesh_(mesh), conditions_(conditions), options_(options), progress_(progress),
        ownSystem_(options.system == nullptr ? std::make_unique<ThermalSystem>(mesh, conditions) : nullptr),
        system_(options.system == nullptr ? *ownSystem_ : *options.system),
        kept_(options.shared != nullptr ? *options.shared : own_)
  {
    if (!kept_.solver || kept_.matrix.rows() != system_.unknowns())
      kept_ = {makeLinearSolver(options.backend, system_.unknowns(), cornerParents(mesh_, conditions_.unknowns)),
               {},
               {},
               0,
               std::move(kept_.temperature)};
  }

  Expected<SteadySolution> run()
  {
    Done solved = tl::unexpected(Failure{});
    if (std::vector<double> before = std::move(kept_.temperature);
        before.size() == static_cast<std::size_t>(system_.unknowns())) {
      beginAt(std::move(before));
      lastIterations_ = kept_.divisions;
      solved = newton();
    }
    if (!solved) {
      begin(0);
      solved = newton();
    }
    // A coefficient that is nothing at the surroundings' own temperature leaves heat no way out there.
    if (!solved && !system_.linear() && !coldFailure(system_, temperature(), options_.named)) {
      const Failure first = solved.error();
      constexpr double away = 20; // K, towards where the heat drives the model
      begin(netSource() < 0 ? -away : away);
      solved = newton();
      if (!solved) {
        begin(netSource() < 0 ? -away : away);
        solved = slowly();
      }
      if (!solved && first.object != "project" && solved.error().kind != Failure::Kind::Solver)
        return tl::unexpected(first);
    }
    if (!solved)
      return tl::unexpected(explained(solved.error()));
    (void)system_.balance(temperature()); // at the very temperatures that are given back
    if (const std::string inside = system_.unsolvedInside(); !inside.empty())
      return failure(Failure::Kind::Solver, "project", inside + " was not found to its tolerance.",
                     "Check emissivities and electric conductivities; a finer mesh may help.");
    solution_.linearSolver = kept_.solver->name();
    if (options_.shared != nullptr) {
      kept_.temperature = temperature();
      kept_.divisions = lastIterations_;
    }
    return std::move(solution_);
  }

private:
  using Done = Expected<void>;
  std::vector<double>& temperature() { return solution_.temperature; }
  [[nodiscard]] const std::vector<double>& temperature() const { return solution_.temperature; }

  void begin(double away)
  {
    beginAt(std::vector<double>(static_cast<std::size_t>(system_.unknowns()), conditions_.startTemperature + away));
  }

  void beginAt(std::vector<double> start)
  {
    temperature() = std::move(start);
    system_.applyFixed(temperature());
    balance_ = system_.balance(temperature());
    norm_ = freeNorm(system_, balance_);
    solution_.residual = 0;
    solution_.largestUpdate = 0;
    updateBefore_ = 0;
    lastIterations_ = 0;
    lagging_.reset();
  }

  /// W that sources put in, where nothing else drives the model.
  [[nodiscard]] double netSource() const
  {
    double watts = 0;
    for (const auto& [source, own] : system_.bySource(temperature()))
      watts += own;
    return watts;
  }

  [[nodiscard]] Failure explained(const Failure& failure)
  {
    if (auto cold = coldFailure(system_, temperature(), options_.named))
      return *cold;
    if (failure.object == "run" || failure.kind != Failure::Kind::Solver || failure.object == "memory")
      return failure;
    return steadyFailure(mesh_, conditions_, system_, temperature(), balance_, options_.mostSteps);
  }

  std::vector<double> freeBalance() const
  {
    std::vector<double> right = balance_;
    for (std::size_t i = 0; i < right.size(); ++i)
      if (system_.isFixed()[i] != 0)
        right[i] = 0;
    return right;
  }

  /// The solver is prepared with it from now on; one of the same values stays as it is.
  Done prepare(SparseMatrix matrix)
  {
    if (options_.shared != nullptr && matrix.values == kept_.matrix.values && matrix.columns == kept_.matrix.columns)
      return {};
    const auto started = std::chrono::steady_clock::now();
    kept_.matrix = std::move(matrix);
    kept_.modes.clear();
    auto prepared = kept_.solver->prepare(kept_.matrix);
    if (!prepared)
      kept_.matrix = {};
    solution_.linearSeconds += secondsSince(started);
    return prepared;
  }

  Done solve(double tolerance, std::vector<double>& update)
  {
    const auto started = std::chrono::steady_clock::now();
    update.assign(temperature().size(), 0.0);
    const SparseMatrix& matrix = lagging_ ? *lagging_ : kept_.matrix;
    const auto iterations =
        newtonStep(system_, matrix, *kept_.solver, temperature(), freeBalance(), update, tolerance, &kept_.modes);
    if (!iterations)
      return tl::unexpected(iterations.error());
    lastIterations_ = *iterations;
    solution_.linearIterations += *iterations;
    solution_.linearSeconds += secondsSince(started);
    constexpr double reachFromCold = 3.5; // it is far, and a step that is too long is mended by the next
    if (system_.stronglyCoupled())
      keepInReach(temperature(), update, solution_.newtonSteps <= 1 ? reachFromCold : 2);
    return {};
  }

  /// Takes the tried state over and measures it.
  /// \param share  of the step that leads to it
  void take(std::vector<double> tried, std::vector<double> balance, double norm, double share)
  {
    updateBefore_ = share < 1 ? 0 : solution_.largestUpdate;
    solution_.largestUpdate = 0;
    for (std::size_t i = 0; i < tried.size(); ++i)
      solution_.largestUpdate = std::max(solution_.largestUpdate, std::abs(tried[i] - temperature()[i]));
    temperature().swap(tried);
    balance_ = std::move(balance);
    norm_ = norm;
    // Where nothing flows, rounding is compared with the floor of rounding.
    solution_.residual = norm_ / std::max(system_.throughput(temperature()), system_.noiseFloor(temperature()));
  }

  [[nodiscard]] bool arrived() const
  {
    const bool exact = system_.linear() && kept_.solver->isDirect();
    return solution_.residual <= options_.residualTolerance && (leftToMove() < options_.updateTolerance || exact);
  }

  /// How far the solution may still be away, K: as much as the last step moved, or, where steps shrink quickly, what is
  /// left of them. Source: Deuflhard, Newton Methods for Nonlinear Problems (2011), §2.1.
  [[nodiscard]] double leftToMove() const
  {
    constexpr double quickly = 0.1;
    const double shrinks = updateBefore_ > 0 ? solution_.largestUpdate / updateBefore_ : 1;
    return shrinks < quickly ? shrinks / (1 - shrinks) * solution_.largestUpdate : solution_.largestUpdate;
  }

  /// Far from the solution a rough step does as well; Newton mends the rest.
  [[nodiscard]] double linearTolerance(bool mustFall) const
  {
    constexpr int few = 3;
    if (!system_.stronglyCoupled())
      return system_.linear() || solution_.newtonSteps > few ? 1e-9 : 1e-6;
    if (mustFall)
      return 1e-6;
    constexpr double loosest = 3e-3; // rougher first steps shoot over
    constexpr double finest = 1e-6;
    if (solution_.newtonSteps <= 1)
      return loosest;
    // No finer than the end asks for, nor than Newton's own error, which is about the square of the last step's share.
    const double wanted = 0.03 * options_.residualTolerance / solution_.residual;
    const double hottest = *std::max_element(temperature().begin(), temperature().end());
    const double share = solution_.largestUpdate / hottest;
    return std::clamp(std::max(wanted, share * share), finest, loosest);
  }

  /// Takes the tangent of now. Where the solver only divides roughly, inside another iteration, it stays prepared with
  /// an earlier one as long as that serves.
  Done goOnTo(int step)
  {
    constexpr int many = 24;
    constexpr double far = 100; // K
    const bool serves = system_.stronglyCoupled() && !kept_.matrix.values.empty() && lastIterations_ > 0 &&
                        lastIterations_ < many && (step == 1 || solution_.largestUpdate < far);
    lagging_.reset();
    if (!serves)
      return prepare(nextTangent());
    lagging_ = system_.tangent(temperature());
    return {};
  }

  /// There is room for one matrix, unless it may turn out to be the one before.
  SparseMatrix nextTangent()
  {
    if (options_.shared == nullptr)
      kept_.matrix = {};
    return system_.tangent(temperature());
  }

  Done newton()
  {
    std::vector<double> update;
    for (int step = 1; step <= options_.mostSteps; ++step) {
      ++solution_.newtonSteps;
      progress_("solve", std::min(0.9, 0.5 + 0.05 * step), "step " + std::to_string(solution_.newtonSteps));
      // A linear problem keeps its matrix; further steps only polish the solution.
      if (!system_.linear() || step == 1)
        if (auto prepared = goOnTo(step); !prepared)
          return prepared;
      constexpr int freeSteps = 8;
      const bool mustFall = step > freeSteps && solution_.residual > 1e2 * options_.residualTolerance;
      if (auto solved = solve(linearTolerance(mustFall), update); !solved)
        return solved;
      if (auto moved = damped(update, step == 1, mustFall); !moved)
        return moved;
      if (arrived())
        return {};
    }
    return failure(Failure::Kind::Solver, "steady", "It did not converge.", "");
  }

  /// Goes along an update as far as the balance allows.
  Done damped(const std::vector<double>& update, bool first, bool mustFall)
  {
    double share = positiveShare(temperature(), update);
    if (share < 1 && system_.linear())
      return failure(Failure::Kind::Solver, "steady", "It goes below 0 K.", "");
    constexpr double smallestFall = 1.0 / 64;
    constexpr double smallestShare = 1.0 / 1024;
    for (;; share /= 2) {
      std::vector<double> tried = temperature();
      for (std::size_t i = 0; i < tried.size(); ++i)
        tried[i] += share * update[i];
      std::vector<double> balance = system_.balance(tried);
      const double norm = freeNorm(system_, balance);
      // From a cold start radiation overshoots once before it converges; only a real runaway is damped. Later steps
      // must mend something where they can, or heat that ends beyond a temperature is jumped over to and fro.
      const double allowedRise = mustFall && share > smallestFall ? 0.9999 : 1e3;
      if (std::isfinite(norm) && (norm < allowedRise * norm_ || first || norm_ == 0)) {
        take(std::move(tried), std::move(balance), norm, share);
        return {};
      }
      if (share < smallestShare)
        return failure(Failure::Kind::Solver, "steady", "The temperatures run away.", "");
    }
  }

  /// Implicit steps in a time of its own: the diagonal, over a length that grows as the balance falls, keeps every
  /// place near where it is. Source: pseudo-transient continuation with switched evolution relaxation (Kelley, Keyes
  /// 1998).
  Done slowly()
  {
    lagging_.reset();
    double length = 0.1; // of the time in which a place follows its neighbours
    constexpr double shortest = 1e-6;
    constexpr double longEnough = 1e9;
    std::vector<double> update;
    for (int step = 0; step < options_.mostSlowSteps; ++step) {
      ++solution_.slowSteps;
      ++solution_.newtonSteps;
      progress_("solve", std::min(0.9, 0.5 + 0.001 * step), "slow step " + std::to_string(step + 1));
      SparseMatrix matrix = nextTangent();
      for (Index row = 0; row < matrix.rows(); ++row) {
        double& own = matrix.values[static_cast<std::size_t>(matrix.position(row, row))];
        own += std::max(own, 1e-12) / length;
      }
      constexpr double accuracy = 1e-3;
      if (auto prepared = prepare(std::move(matrix)); !prepared)
        return prepared;
      if (auto solved = solve(accuracy, update); !solved)
        return solved;
      const double share = positiveShare(temperature(), update);
      std::vector<double> tried = temperature();
      for (std::size_t i = 0; i < tried.size(); ++i)
        tried[i] += share * update[i];
      std::vector<double> balance = system_.balance(tried);
      const double norm = freeNorm(system_, balance);
      constexpr double worse = 1.2;
      if (!std::isfinite(norm) || norm > worse * norm_) {
        length /= 4;
        if (length < shortest)
          return failure(Failure::Kind::Solver, "steady", "It did not converge.", "");
        continue;
      }
      const double fall = norm_ / std::max(norm, 1e-300);
      constexpr double noNewton = 0; // how these steps shrink says nothing
      take(std::move(tried), std::move(balance), norm, noNewton);
      if (arrived() && length > 1)
        return {};
      constexpr double quickest = 4;
      length = std::min(length * std::clamp(1.2 * fall, 0.5, quickest), longEnough);
    }
    return failure(Failure::Kind::Solver, "steady", "It did not converge.", "");
  }

  const Mesh& mesh_;
  const Conditions& conditions_;
  const SteadyOptions& options_;
  const Progress& progress_;
  std::unique_ptr<ThermalSystem> ownSystem_;
  const ThermalSystem& system_;
  SteadyShared own_;
  SteadyShared& kept_;
  SteadySolution solution_;
  std::optional<SparseMatrix> lagging_; ///< the tangent, where the solver is prepared with an earlier one
  int lastIterations_ = 0;
  std::vector<double> balance_;
  double norm_ = 0;
  double updateBefore_ = 0; ///< K, of the step before the last one; 0: not known
};

} // namespace

Expected<SteadySolution> solveSteady(const Mesh& mesh, const Conditions& conditions, const SteadyOptions& options,
                                     const Progress& progress)
{
  return SteadyIteration(mesh, conditions, options, progress).run();
}

} // namespace kiln
