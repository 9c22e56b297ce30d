// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/ShapeSteps.h"

namespace kiln
{

/// The body after a step, or why it cannot be done.
using Outcome = tl::expected<NamedBody, StepProblem>;

[[nodiscard]] tl::unexpected<StepProblem> noFace(const std::string& name);

/// Steps that move faces. All throw Standard_Failure when the kernel gives up.
[[nodiscard]] Outcome after(const NamedBody& body, const PushFace& push);
[[nodiscard]] Outcome after(const NamedBody& body, const TiltFace& tilt);
[[nodiscard]] Outcome after(const NamedBody& body, const ThickenFace& thicken);

} // namespace kiln
