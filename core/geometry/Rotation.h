// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "model/Number.h"

#include <Eigen/Core>

namespace kiln
{

/// Rotation about x, then y, then z (fixed axes).
[[nodiscard]] Eigen::Matrix3d rotationOf(const Number3& angles);

/// Angles of a rotation, rounded: the inverse of \ref rotationOf.
[[nodiscard]] Number3 anglesOf(const Eigen::Matrix3d& rotation);

} // namespace kiln
