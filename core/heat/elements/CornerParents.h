// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"

#include <array>
#include <vector>

namespace kiln
{

/// By unknown the two that it lies between: itself twice for the corner of an element and for a lumped one, the ends of
/// its edge for what second order adds. Halfway between them is where a field of first order has it.
using CornerParents = std::vector<std::array<UnknownId, 2>>;

/// Empty at first order.
[[nodiscard]] CornerParents cornerParents(const Mesh& mesh, const Unknowns& unknowns);

} // namespace kiln
