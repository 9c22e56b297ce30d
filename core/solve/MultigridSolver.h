// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/LinearSolver.h"

namespace kiln
{

/// What is said of conjugate gradients that did not reach their tolerance.
[[nodiscard]] tl::unexpected<Failure> stoppedEarly(const LinearReport& report);

/// Settings of the algebraic multigrid preconditioner.
enum class MultigridSettings {
  Fast, ///< two Gauss–Seidel sweeps forward down and backward up
  Safe, ///< symmetric l1-Gauss–Seidel
};

/// Conjugate gradients with algebraic multigrid (hypre). One call at a time in a process: hypre keeps global state.
class MultigridSolver : public LinearSolver
{
public:
  explicit MultigridSolver(MultigridSettings settings);
  ~MultigridSolver() override;
  MultigridSolver(const MultigridSolver&) = delete;
  MultigridSolver& operator=(const MultigridSolver&) = delete;

  [[nodiscard]] std::string_view name() const override { return "multigrid (conjugate gradients)"; }
  [[nodiscard]] bool isDirect() const override { return false; }
  [[nodiscard]] Expected<void> prepare(const SparseMatrix& matrix) override;
  [[nodiscard]] Expected<LinearReport> solve(std::span<const double> b, std::span<double> x, double tolerance) override;
  void approximate(std::span<const double> b, std::span<double> x) override;

private:
  struct State;
  std::unique_ptr<State> state_;
};

} // namespace kiln
