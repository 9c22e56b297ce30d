// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

/// Error numbers that tetrahedralize() throws. Defined beside our replacement of terminatetetgen, so that using one
/// links the replacement.
namespace kiln::tetgen
{

extern const int selfIntersection, noMemory;

inline constexpr int endedByIt = -1; ///< its process: no number of its own

} // namespace kiln::tetgen
