// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/CoupledStep.h"

#include <Eigen/SparseCore>
#include <algorithm>
#include <unsupported/Eigen/IterativeSolvers>

namespace kiln
{

/// v ↦ v + S⁻¹ R v, with the symmetric part S divided out of S + R. Known to Eigen as a matrix that is only applied.
class DividedTangent;

} // namespace kiln

namespace Eigen::internal
{
template <>
struct traits<kiln::DividedTangent> : traits<SparseMatrix<double>> {
};
} // namespace Eigen::internal

namespace kiln
{

class DividedTangent : public Eigen::EigenBase<DividedTangent>
{
public:
  using Scalar = double;
  using RealScalar = double;
  using StorageIndex = int;
  enum { ColsAtCompileTime = Eigen::Dynamic, MaxColsAtCompileTime = Eigen::Dynamic, IsRowMajor = false };

  DividedTangent(const ThermalSystem& system, LinearSolver& solver, std::span<const double> temperature)
      : system_(system), solver_(solver), temperature_(temperature)
  {
  }

  [[nodiscard]] Eigen::Index rows() const { return system_.unknowns(); }
  [[nodiscard]] Eigen::Index cols() const { return system_.unknowns(); }
  template <class Vector>
  Eigen::Product<DividedTangent, Vector, Eigen::AliasFreeProduct> operator*(const Eigen::MatrixBase<Vector>& v) const
  {
    return {*this, v.derived()};
  }

  [[nodiscard]] Eigen::VectorXd divided(const std::vector<double>& right) const
  {
    std::vector<double> result(right.size(), 0.0);
    constexpr double tolerance = 1e-8; // tight, so that dividing is the same linear map every time
    const bool nothing = std::all_of(right.begin(), right.end(), [](double value) { return value == 0; });
    if (!nothing && !failed) {
      const auto report = solver_.solve(right, result, tolerance);
      if (report)
        iterations += report->iterations;
      else
        failed = report.error();
    }
    return Eigen::Map<const Eigen::VectorXd>(result.data(), static_cast<Eigen::Index>(result.size()));
  }

  [[nodiscard]] Eigen::VectorXd applied(const Eigen::VectorXd& v) const
  {
    const std::span<const double> direction(v.data(), static_cast<std::size_t>(v.size()));
    return v + divided(system_.restOfTangent(temperature_, direction));
  }

  mutable int iterations = 0;
  mutable std::optional<Failure> failed;

private:
  const ThermalSystem& system_;
  LinearSolver& solver_;
  std::span<const double> temperature_;
};

} // namespace kiln

namespace Eigen::internal
{
template <class Vector>
struct generic_product_impl<kiln::DividedTangent, Vector, SparseShape, DenseShape, GemvProduct>
    : generic_product_impl_base<kiln::DividedTangent, Vector, generic_product_impl<kiln::DividedTangent, Vector>> {
  template <class Result>
  static void scaleAndAddTo(Result& result, const kiln::DividedTangent& tangent, const Vector& v, double alpha)
  {
    result.noalias() += alpha * tangent.applied(v);
  }
};
} // namespace Eigen::internal

namespace kiln
{

Expected<int> coupledStep(const ThermalSystem& system, LinearSolver& solver, std::span<const double> temperature,
                          const std::vector<double>& right, std::vector<double>& update, double tolerance)
{
  const DividedTangent tangent(system, solver, temperature);
  const Eigen::VectorXd start = tangent.divided(right);
  Eigen::GMRES<DividedTangent, Eigen::IdentityPreconditioner> gmres;
  constexpr int mostIterations = 60;
  gmres.set_restart(mostIterations);
  gmres.setMaxIterations(mostIterations);
  gmres.setTolerance(std::max(tolerance, 1e-6)); // Newton's next step mends the rest
  gmres.compute(tangent);
  const Eigen::VectorXd solved = gmres.solveWithGuess(start, start);
  if (tangent.failed)
    return tl::unexpected(*tangent.failed);
  if (!solved.allFinite())
    return failure(Failure::Kind::Solver, "project", "The radiation between the surfaces could not be solved.",
                   "Check emissivities and that every part has a way for its heat.");
  std::copy(solved.data(), solved.data() + solved.size(), update.begin());
  return tangent.iterations;
}

} // namespace kiln
