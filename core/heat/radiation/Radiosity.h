// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/radiation/ViewFactors.h"

#include <Eigen/Cholesky>
#include <memory>

namespace kiln
{

/// Radiosity and irradiation of every patch, W/m².
struct PatchLight {
  Eigen::VectorXd leaving, arriving;
};

/// Grey, diffuse surfaces that reflect into each other: the leaving J and the arriving H of
///   J = E + ρ H,   A H = G J + o,   ρ = 1 − ε,
/// with the exchange areas G = A F and o from the opening. With D = √(ρ/A) and J = E + D u this is the symmetric
/// (I − D G D) u = D (G E + o), whose eigenvalues lie between ε and 2: conjugate gradients need few products. Patches
/// that reflect much and are not too many share a dense factor instead.
class Radiosity
{
public:
  /// \param factors     referred to
  /// \param emissivity  by patch, 0…1
  /// \param changing    the emissivity will be set again: no factor is worth its making
  Radiosity(const ViewFactors& factors, const Eigen::VectorXd& emissivity, bool changing);

  void setEmissivity(const Eigen::VectorXd& emissivity);

  /// \param emitted    E by patch, W/m²
  /// \param opening    what comes through the opening, W/m²
  /// \param tolerance  of what leaves, relative to what is emitted; above 1e-6 a quick fixed linear answer is given
  /// \param guess      u: a first guess on entry (may be empty), the solution on return
  [[nodiscard]] PatchLight solve(const Eigen::VectorXd& emitted, double opening, double tolerance,
                                 Eigen::VectorXd& guess) const;

  /// Time spent in solving so far, s.
  [[nodiscard]] double seconds() const { return seconds_; }
  /// Was the last answer found to its tolerance?
  [[nodiscard]] bool converged() const { return converged_; }

private:
  [[nodiscard]] Eigen::VectorXd times(const Eigen::VectorXd& u) const;
  [[nodiscard]] Eigen::VectorXd threeReflections(const Eigen::VectorXd& right) const;
  [[nodiscard]] Eigen::VectorXd conjugateGradients(const Eigen::VectorXd& right, double enough,
                                                   Eigen::VectorXd guess) const;
  [[nodiscard]] Eigen::VectorXd seen(const Eigen::VectorXd& leaving) const;

  const ViewFactors& factors_;
  Eigen::VectorXd scale_;     ///< D
  Eigen::VectorXd even_;      ///< u of even light, D A
  Eigen::VectorXd evenImage_; ///< (I − D G D) of it
  double evenSquare_ = 0;
  std::unique_ptr<Eigen::LLT<Eigen::MatrixXd>> dense_;
  mutable double seconds_ = 0;
  mutable bool converged_ = true;
};

} // namespace kiln
