// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <optional>

namespace kiln
{

/// Emissivity of a face: the last finish that covers it, else the typical one of its part's material.
/// \return nothing when neither is known
[[nodiscard]] std::optional<Property> emissivityOf(const Project& project, const FaceTable& geometry, FaceId face);

/// Solar absorptance of a face: that of the last finish that covers it, else its emissivity.
[[nodiscard]] std::optional<double> absorptanceOf(const Project& project, const FaceTable& geometry, FaceId face);

} // namespace kiln
