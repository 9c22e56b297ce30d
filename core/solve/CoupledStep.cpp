// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/CoupledStep.h"

#include "base/FunctionMatrix.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <unsupported/Eigen/IterativeSolvers>

namespace kiln
{
namespace
{

using Vector = Eigen::VectorXd;

Vector copyOf(const std::vector<double>& values)
{
  return Eigen::Map<const Vector>(values.data(), static_cast<Eigen::Index>(values.size()));
}

/// The tangent S + R, and what divides by its symmetric part S.
class Coupled
{
public:
  /// \param tolerance  of what is solved with its products
  Coupled(const ThermalSystem& system, const SparseMatrix& symmetric, LinearSolver& solver,
          std::span<const double> temperature, double tolerance)
      : system_(system), symmetric_(symmetric), solver_(solver), temperature_(temperature),
        rough_(std::min(1e-3, 0.1 * tolerance))
  {
  }

  [[nodiscard]] Vector times(const Vector& v) const
  {
    const std::span<const double> direction = spanOf(v);
    Vector product(v.size());
    multiply(symmetric_, direction, {product.data(), direction.size()});
    const std::vector<double> rest = system_.restOfTangent(temperature_, direction, roughness());
    product += Eigen::Map<const Vector>(rest.data(), product.size());
    return product;
  }
  /// Roughly divided by S.
  [[nodiscard]] Vector divided(const Vector& watts)
  {
    Vector result(watts.size());
    solver_.approximate(spanOf(watts), {result.data(), static_cast<std::size_t>(result.size())});
    ++divisions_;
    return held(std::move(result));
  }
  /// What is held stays: the solver may be prepared with a matrix of before it was.
  [[nodiscard]] Vector held(Vector kelvin) const
  {
    for (Eigen::Index i = 0; i < kelvin.size(); ++i)
      if (system_.isFixed()[static_cast<std::size_t>(i)] != 0)
        kelvin[i] = 0;
    return kelvin;
  }
  /// How places warm when all of an enclosure shines on itself a little more.
  [[nodiscard]] SlowModes modes()
  {
    const std::vector<double> even(static_cast<std::size_t>(symmetric_.rows()), 1.0);
    SlowModes modes;
    constexpr int rounds = 2;
    for (const std::vector<double>& rest : system_.enclosedRests(temperature_, even, rough_)) {
      const Vector load = -copyOf(rest);
      Vector mode = divided(load);
      for (int round = 0; round < rounds; ++round) {
        Vector product(mode.size());
        multiply(symmetric_, spanOf(mode), {product.data(), static_cast<std::size_t>(product.size())});
        mode += divided(load - product);
      }
      constexpr double nothing = 1e-6; // all around it is held
      if (mode.lpNorm<Eigen::Infinity>() > nothing)
        modes.emplace_back(mode.begin(), mode.end());
    }
    return modes;
  }
  [[nodiscard]] int divisions() const { return divisions_; }

private:
  /// Of the next product: what is left to find becomes less from one to the next, and so may they be rougher.
  /// Source: Simoncini, Szyld, Theory of inexact Krylov subspace methods (2003).
  [[nodiscard]] double roughness() const
  {
    constexpr double roughest = 5e-4;
    constexpr double rougher = 2;
    return std::max(rough_, std::min(roughest, rough_ * std::pow(rougher, products_++)));
  }
  static std::span<const double> spanOf(const Vector& v) { return {v.data(), static_cast<std::size_t>(v.size())}; }

  const ThermalSystem& system_;
  const SparseMatrix& symmetric_;
  LinearSolver& solver_;
  std::span<const double> temperature_;
  double rough_; ///< a product need not be more precise: Newton mends the rest
  int divisions_ = 0;
  mutable int products_ = 0;
};

} // namespace

Expected<int> coupledStep(const ThermalSystem& system, const SparseMatrix& symmetric, LinearSolver& solver,
                          std::span<const double> temperature, const std::vector<double>& right,
                          std::vector<double>& update, double tolerance, SlowModes* slow)
{
  Coupled tangent(system, symmetric, solver, temperature, tolerance);
  if (slow != nullptr && slow->empty())
    *slow = tangent.modes();
  const auto count = static_cast<Eigen::Index>(slow != nullptr ? slow->size() : 0);
  Eigen::MatrixXd modes(static_cast<Eigen::Index>(right.size()), count);
  Eigen::MatrixXd answers(modes.rows(), count); // of the tangent to each mode, W
  for (Eigen::Index i = 0; i < count; ++i) {
    modes.col(i) = tangent.held(copyOf((*slow)[static_cast<std::size_t>(i)]));
    answers.col(i) = tangent.times(modes.col(i));
  }
  const Eigen::FullPivLU<Eigen::MatrixXd> among(modes.transpose() * answers); // small, and alike modes do no harm
  const auto shares = [&](const Vector& watts) -> Vector {
    return count == 0 ? Vector() : Vector(among.solve(modes.transpose() * watts));
  };
  const auto without = [&](Vector watts) -> Vector { // what the modes do not answer
    if (count > 0)
      watts -= answers * shares(watts);
    return watts;
  };
  const FunctionMatrix apart(static_cast<Eigen::Index>(right.size()), [&](const Vector& v) -> Vector {
    if (v.isZero(0)) // where the iteration starts
      return v;
    return tangent.divided(without(tangent.times(v)));
  });
  Eigen::GMRES<FunctionMatrix, Eigen::IdentityPreconditioner> gmres;
  constexpr int mostIterations = 150;
  constexpr int kept = 30; // directions, for which memory is cleared at once: what is prepared well needs a dozen
  gmres.set_restart(kept);
  gmres.setMaxIterations(mostIterations);
  gmres.setTolerance(tolerance);
  gmres.compute(apart);
  const Vector load = copyOf(right);
  Vector solved = gmres.solve(tangent.divided(without(load)));
  if (count > 0)
    solved += modes * shares(load - tangent.times(solved));
  if (!solved.allFinite())
    return failure(Failure::Kind::Solver, "project", "The radiation between the surfaces could not be solved.",
                   "Check emissivities and that every part has a way for its heat.");
  std::copy(solved.data(), solved.data() + solved.size(), update.begin());
  return tangent.divisions();
}

} // namespace kiln
