// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <Eigen/Geometry>

namespace kiln
{

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d; ///< a place or direction in the model frame, m

} // namespace kiln
