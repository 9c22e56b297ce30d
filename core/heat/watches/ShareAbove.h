// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <array>

namespace kiln
{

/// Share of the volume of a tetrahedron in which a field that is linear in it lies above a level, 0 to 1.
/// \param corners  values of the field at the corners
[[nodiscard]] double shareAbove(std::array<double, 4> corners, double level);

} // namespace kiln
