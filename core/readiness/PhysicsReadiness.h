// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Fields.h"
#include "readiness/Readiness.h"

namespace kiln
{

/// What cannot be, whatever the numbers' own ranges say: thermostats that read what is switched off, coefficients that
/// a schedule or a place makes negative, rules that set what cannot be or change what stays the same in a run, starts
/// in a circle, parts that yield to each other, loads that no part could bear.
[[nodiscard]] std::vector<Finding> checkPhysics(const Project& project, const std::vector<Field>& fields);

/// The same with the fused faces: places outside the model, two voltages on one face, coefficients negative at a face.
[[nodiscard]] std::vector<Finding> checkPhysicsOn(const Project& project, const FaceTable& geometry);

/// The hottest a model of solids can be before its numbers are no answer any more, K.
inline constexpr double hottestSolid = 5000;

} // namespace kiln
