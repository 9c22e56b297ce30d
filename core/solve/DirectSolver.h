// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/LinearSolver.h"

namespace kiln
{

/// Supernodal Cholesky factorisation (CHOLMOD with METIS ordering and OpenBLAS).
class DirectSolver : public LinearSolver
{
public:
  DirectSolver();
  ~DirectSolver() override;
  DirectSolver(const DirectSolver&) = delete;
  DirectSolver& operator=(const DirectSolver&) = delete;

  [[nodiscard]] std::string_view name() const override { return "direct (Cholesky)"; }
  [[nodiscard]] bool isDirect() const override { return true; }
  [[nodiscard]] Expected<void> prepare(const SparseMatrix& matrix) override;
  [[nodiscard]] Expected<LinearReport> solve(std::span<const double> b, std::span<double> x, double tolerance) override;
  void approximate(std::span<const double> b, std::span<double> x) override;

private:
  struct State;
  std::unique_ptr<State> state_;
};

} // namespace kiln
