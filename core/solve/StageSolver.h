// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/LinearSolver.h"
#include "solve/TimedModel.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// Solves the implicit stages of time steps. The matrix of one is kept for the next as long as its length and what is
/// held fixed stay the same.
class StageSolver
{
public:
  StageSolver(const TimedModel& model, LinearBackend backend)
      : model_(model),
        solver_(makeLinearSolver(backend, model.system().unknowns(),
                                 cornerParents(model.system().ground().mesh(), model.system().ground().unknowns())))
  {
  }

  struct Accuracy {
    double convergence = 0; ///< share of what flows that the balance may miss
    double tolerance = 0;   ///< K, of the step
  };
  struct Work {
    int newtonSteps = 0, linearIterations = 0, preparations = 0;
    double linearSeconds = 0;
  };

  /// Finds temperatures T with (H(T) − base)/length = balance(T) by Newton's method; \p storing is either side.
  /// \param temperature  by unknown, K; where to start, then the solution
  /// \param base         heat stored before, by unknown, J
  /// \param length       γ times the step, s
  /// Fails when Newton's method does not converge.
  [[nodiscard]] Expected<void> solve(std::vector<double>& temperature, const std::vector<double>& base, double length,
                                     const Accuracy& wanted, std::vector<double>& storing);

  /// Makes sure that the matrix is that of stages of this length.
  [[nodiscard]] Expected<void> prepare(const std::vector<double>& temperature, double length)
  {
    return prepareAnew(temperature, length, false);
  }
  /// The matrix is of no use any more.
  void forget() { preparedLength_ = 0; }

  /// What heat (W) at the unknowns comes to in temperatures, by the matrix of the last stage, to a few per cent, K.
  [[nodiscard]] std::vector<double> roughly(const std::vector<double>& right) const;

  [[nodiscard]] const Work& work() const { return work_; }
  [[nodiscard]] std::string linearSolver() const { return std::string(solver_->name()); }

private:
  [[nodiscard]] Expected<void> prepareAnew(const std::vector<double>& temperature, double length, bool again);
  /// The same where something melts: the joules are what is looked for, and the temperatures follow from them, so that
  /// a melting place takes up heat without a step in temperature.
  [[nodiscard]] Expected<void> solveMelting(std::vector<double>& temperature, const std::vector<double>& base,
                                            double length, const Accuracy& wanted, std::vector<double>& storing);
  /// What is missing of the balance at every unknown, W.
  struct Misfit {
    std::vector<double> right;
    double norm = 0, scale = 0; ///< sums of magnitudes: missing, flowing
  };
  [[nodiscard]] Misfit misfitOf(const std::vector<double>& temperature, const std::vector<double>& stored,
                                const std::vector<double>& base, double length) const;
  [[nodiscard]] Expected<void> update(const std::vector<double>& temperature, const std::vector<double>& right,
                                      double accuracy, std::vector<double>& update);

  /// Minus the derivative of a stage's balance, its symmetric part, W/K.
  [[nodiscard]] SparseMatrix tangentAt(const std::vector<double>& temperature, double length) const;

  const TimedModel& model_;
  std::unique_ptr<LinearSolver> solver_;
  SparseMatrix matrix_;             ///< that the solver is prepared with
  std::optional<SparseMatrix> now_; ///< the tangent, where the solver only divides roughly, inside another iteration
  double preparedLength_ = 0;
  std::vector<char> preparedFixed_;
  Work work_;
};

} // namespace kiln
