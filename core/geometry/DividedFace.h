// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceSteps.h"

namespace kiln
{

/// The body with a line drawn on one of its faces, which divides it: on a flat one as it is, on a cylinder or
/// cone wrapped around it without stretching, so that lengths and areas stay. The piece inside is also called
/// prefix.inside, the rest prefix.outside; of an open line what lies to its left is inside. Throws Standard_Failure
/// when the kernel gives up.
[[nodiscard]] Outcome after(const NamedBody& body, const SplitFace& split, const std::string& prefix);

} // namespace kiln
