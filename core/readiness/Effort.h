// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <optional>

namespace kiln
{

/// How large a model may be before that is asked for.
struct EffortLimits {
  double elements = 0;    ///< tetrahedra or triangles of first order; those of second order count three times
  double copies = 2000;   ///< bodies made by repeats
  double patches = 40000; ///< of an enclosure; its memory grows with the square
  bool allowed = false;   ///< whatever is asked for
};

/// What fits into half of this machine's memory.
[[nodiscard]] EffortLimits usualLimits();

/// About what a solve takes at its height, B.
/// \param elements  tetrahedra or triangles
[[nodiscard]] double memoryToSolve(double elements, bool secondOrder);

/// "1.2 GB": in steps that an estimate is good for.
[[nodiscard]] std::string memoryWords(double bytes);

/// Foretells the bodies that repeats make; before any of them is built.
/// Fails with kind TooLarge, with the number.
[[nodiscard]] Expected<void> checkCopies(const Project& project, const EffortLimits& limits);

/// Foretells elements and patches from areas, volumes and sizes; before any of them is made.
/// Fails with kind TooLarge, with the number.
[[nodiscard]] Expected<void> checkEffort(const Project& project, const FaceTable& geometry, const EffortLimits& limits);

} // namespace kiln
