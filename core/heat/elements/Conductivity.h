// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "model/Project.h"

#include <array>

namespace kiln
{

/// Conductivity tensor of a part: R diag(k1, k2, k3) Rᵀ in its material axes, each k a number or a table.
class Conductivity
{
public:
  Conductivity(const Material& material, const Part& part);
  /// The same number in all directions, W/(m·K).
  explicit Conductivity(double k);

  [[nodiscard]] bool constant() const { return constant_; }
  /// W/(m·K) at a temperature in K; symmetric positive definite.
  [[nodiscard]] Eigen::Matrix3d at(double temperature) const;
  /// Its derivative, W/(m·K²).
  [[nodiscard]] Eigen::Matrix3d slopeAt(double temperature) const;
  /// Rotation from the part's material axes to space: the columns are the axes.
  [[nodiscard]] const Eigen::Matrix3d& axes() const { return axes_; }

private:
  [[nodiscard]] Eigen::Matrix3d turned(const Vec3& along) const;

  std::array<Property, 3> along_;
  Eigen::Matrix3d axes_ = Eigen::Matrix3d::Identity();
  bool constant_ = true;
  bool isotropic_ = true;
  Eigen::Matrix3d value_; // when constant
};

} // namespace kiln
