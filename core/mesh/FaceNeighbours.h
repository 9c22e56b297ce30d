// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <set>

namespace kiln
{

/// Faces and all that continue them smoothly: neighbours of the same part whose surfaces meet at less than an angle,
/// and theirs in turn.
/// \param most  rad; faces that bend less count as one
[[nodiscard]] std::set<FaceId> grownSmoothly(const Mesh& mesh, std::set<FaceId> faces, double most);

} // namespace kiln
