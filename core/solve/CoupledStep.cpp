// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/CoupledStep.h"

#include <Eigen/SparseCore>
#include <algorithm>
#include <unsupported/Eigen/IterativeSolvers>

namespace kiln
{

/// v ↦ M⁻¹ (S + R) v: the tangent S + R, roughly divided by its symmetric part S. Known to Eigen as a matrix that is
/// only applied.
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

  DividedTangent(const ThermalSystem& system, const SparseMatrix& symmetric, LinearSolver& solver,
                 std::span<const double> temperature, double tolerance)
      : system_(system), symmetric_(symmetric), solver_(solver), temperature_(temperature), tolerance_(tolerance)
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
    Eigen::VectorXd result(static_cast<Eigen::Index>(right.size()));
    solver_.approximate(right, {result.data(), right.size()});
    ++divisions;
    return result;
  }

  [[nodiscard]] Eigen::VectorXd applied(const Eigen::VectorXd& v) const
  {
    const std::span<const double> direction(v.data(), static_cast<std::size_t>(v.size()));
    std::vector<double> product(direction.size());
    multiply(symmetric_, direction, product);
    const std::vector<double> rest = system_.restOfTangent(temperature_, direction, tolerance_);
    for (std::size_t i = 0; i < product.size(); ++i)
      product[i] += rest[i];
    return divided(product);
  }

  mutable int divisions = 0;

private:
  const ThermalSystem& system_;
  const SparseMatrix& symmetric_;
  LinearSolver& solver_;
  std::span<const double> temperature_;
  double tolerance_; ///< of the radiation within
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

Expected<int> coupledStep(const ThermalSystem& system, const SparseMatrix& symmetric, LinearSolver& solver,
                          std::span<const double> temperature, const std::vector<double>& right,
                          std::vector<double>& update, double tolerance)
{
  constexpr double finer = 1e-2; // what is asked of the step leaves room for this much in each product
  const DividedTangent tangent(system, symmetric, solver, temperature, finer * tolerance);
  Eigen::GMRES<DividedTangent, Eigen::IdentityPreconditioner> gmres;
  constexpr int mostIterations = 150;
  gmres.set_restart(mostIterations);
  gmres.setMaxIterations(mostIterations);
  gmres.setTolerance(tolerance);
  gmres.compute(tangent);
  const Eigen::VectorXd solved = gmres.solve(tangent.divided(right));
  if (!solved.allFinite())
    return failure(Failure::Kind::Solver, "project", "The radiation between the surfaces could not be solved.",
                   "Check emissivities and that every part has a way for its heat.");
  std::copy(solved.data(), solved.data() + solved.size(), update.begin());
  return tangent.divisions;
}

} // namespace kiln
