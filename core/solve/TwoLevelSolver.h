// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/CornerCoarsening.h"
#include "solve/LinearSolver.h"

#include <vector>

namespace kiln
{

/// Conjugate gradients for second order: on all unknowns one sweep of Gauss–Seidel down and one up, within blocks that
/// processors share and with the l1 diagonal (Baker, Falgout, Kolev, Yang 2011) between them; what is smooth by the
/// corners' own system, an eighth in size, whose solver divides it roughly. The blocks do not depend on how many
/// processors there are: nor does the answer.
class TwoLevelSolver : public LinearSolver
{
public:
  /// \param corners  divides by the matrix of the corners
  TwoLevelSolver(const CornerParents& parents, std::unique_ptr<LinearSolver> corners);

  [[nodiscard]] std::string_view name() const override { return "multigrid of the corners (conjugate gradients)"; }
  [[nodiscard]] bool isDirect() const override { return false; }
  [[nodiscard]] Expected<void> prepare(const SparseMatrix& matrix) override;
  [[nodiscard]] Expected<LinearReport> solve(std::span<const double> b, std::span<double> x, double tolerance) override;
  void approximate(std::span<const double> b, std::span<double> x) override;

private:
  void sweepDown(std::span<const double> b, std::span<double> x) const;
  void leftAfterSweep(std::span<const double> x, std::span<double> left) const;
  void sweepUp(std::span<const double> b, std::span<double> x);

  CornerCoarsening coarsening_;
  std::unique_ptr<LinearSolver> corners_;
  const SparseMatrix* matrix_ = nullptr;
  LargeVector<float> values_;    ///< of the matrix, for the sweeps: half as much to be fetched
  std::vector<Index> own_;       ///< position of the diagonal, by row
  std::vector<double> diagonal_; ///< with what lies in other blocks
  std::vector<double> left_, before_, coarseRight_, coarse_;
};

} // namespace kiln
