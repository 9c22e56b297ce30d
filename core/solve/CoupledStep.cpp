// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/CoupledStep.h"

#include "base/FunctionMatrix.h"

#include <algorithm>
#include <unsupported/Eigen/IterativeSolvers>

namespace kiln
{

Expected<int> coupledStep(const ThermalSystem& system, const SparseMatrix& symmetric, LinearSolver& solver,
                          std::span<const double> temperature, const std::vector<double>& right,
                          std::vector<double>& update, double tolerance)
{
  constexpr double rough = 1e-3; // a product need not be more precise: Newton mends the rest
  int divisions = 0;
  const auto divided = [&](const std::vector<double>& watts) {
    Eigen::VectorXd result(static_cast<Eigen::Index>(watts.size()));
    solver.approximate(watts, {result.data(), watts.size()});
    ++divisions;
    return result;
  };
  // v ↦ M⁻¹ (S + R) v: the tangent S + R, roughly divided by its symmetric part S.
  const auto applied = [&](const Eigen::VectorXd& v) {
    const std::span<const double> direction(v.data(), static_cast<std::size_t>(v.size()));
    std::vector<double> product(direction.size());
    multiply(symmetric, direction, product);
    const std::vector<double> rest = system.restOfTangent(temperature, direction, rough);
    std::transform(product.begin(), product.end(), rest.begin(), product.begin(), std::plus<>());
    return divided(product);
  };
  const FunctionMatrix tangent(static_cast<Eigen::Index>(right.size()), applied);
  Eigen::GMRES<FunctionMatrix, Eigen::IdentityPreconditioner> gmres;
  constexpr int mostIterations = 150;
  gmres.set_restart(mostIterations);
  gmres.setMaxIterations(mostIterations);
  gmres.setTolerance(tolerance);
  gmres.compute(tangent);
  const Eigen::VectorXd solved = gmres.solve(divided(right));
  if (!solved.allFinite())
    return failure(Failure::Kind::Solver, "project", "The radiation between the surfaces could not be solved.",
                   "Check emissivities and that every part has a way for its heat.");
  std::copy(solved.data(), solved.data() + solved.size(), update.begin());
  return divisions;
}

} // namespace kiln
