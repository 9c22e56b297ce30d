// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Element.h"

#include <array>

namespace kiln
{

/// Lower triangle of a matrix of ten nodes, row by row.
using TenLower = std::array<double, 55>;

/// Conductances of a tetrahedron of second order, W/K: tetConductance<2>, written out for the hot loop.
/// \param x  places of its nodes, m, corners first, then the edges 01 12 02 03 13 23
/// \param k  conductivity at each of the four points of the rule, W/(m·K), the first nearest corner 0
[[nodiscard]] TenLower bentConductance(const std::array<Vec3, 10>& x, const std::array<Eigen::Matrix3d, 4>& k);

/// The same of a straight one with one conductivity, in closed form.
/// \param linear  conductances between its corners as an element of first order, lower triangle, W/K
[[nodiscard]] TenLower straightConductance(const std::array<double, 10>& linear);

/// The matrix times a vector.
[[nodiscard]] Eigen::Matrix<double, 10, 1> times(const TenLower& lower, const Eigen::Matrix<double, 10, 1>& vector);

} // namespace kiln
