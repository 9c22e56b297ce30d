// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <Eigen/SparseCore>
#include <functional>

namespace kiln
{
class FunctionMatrix;
}

namespace Eigen::internal
{
template <>
struct traits<kiln::FunctionMatrix> : traits<SparseMatrix<double>> {
};
} // namespace Eigen::internal

namespace kiln
{

/// A square matrix of which only its product with a vector is known, for Eigen's iterative solvers.
class FunctionMatrix : public Eigen::EigenBase<FunctionMatrix>
{
public:
  using Scalar = double;
  using RealScalar = double;
  using StorageIndex = int;
  enum { ColsAtCompileTime = Eigen::Dynamic, MaxColsAtCompileTime = Eigen::Dynamic, IsRowMajor = false };

  FunctionMatrix(Eigen::Index size, std::function<Eigen::VectorXd(const Eigen::VectorXd&)> product)
      : size_(size), product_(std::move(product))
  {
  }

  [[nodiscard]] Eigen::Index rows() const { return size_; }
  [[nodiscard]] Eigen::Index cols() const { return size_; }
  [[nodiscard]] Eigen::VectorXd applied(const Eigen::VectorXd& v) const { return product_(v); }
  template <class Vector>
  Eigen::Product<FunctionMatrix, Vector, Eigen::AliasFreeProduct> operator*(const Eigen::MatrixBase<Vector>& v) const
  {
    return {*this, v.derived()};
  }

private:
  Eigen::Index size_;
  std::function<Eigen::VectorXd(const Eigen::VectorXd&)> product_;
};

} // namespace kiln

namespace Eigen::internal
{
template <class Vector>
struct generic_product_impl<kiln::FunctionMatrix, Vector, SparseShape, DenseShape, GemvProduct>
    : generic_product_impl_base<kiln::FunctionMatrix, Vector, generic_product_impl<kiln::FunctionMatrix, Vector>> {
  template <class Result>
  static void scaleAndAddTo(Result& result, const kiln::FunctionMatrix& matrix, const Vector& v, double alpha)
  {
    result.noalias() += alpha * matrix.applied(v);
  }
};
} // namespace Eigen::internal
