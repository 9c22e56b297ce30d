// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <Eigen/SparseCore>

namespace kiln
{

/// Upper half of a symmetric matrix without its diagonal, stored by rows, 8 bytes an entry.
using UpperHalf = Eigen::SparseMatrix<float, Eigen::RowMajor>;

/// S x of the whole symmetric matrix; a large one is shared out among processors, in shares that do not depend on how
/// many there are: the sum is the same to the last bit.
[[nodiscard]] Eigen::VectorXd symmetricProduct(const UpperHalf& upper, const Eigen::VectorXd& diagonal,
                                               const Eigen::VectorXd& x);

} // namespace kiln
