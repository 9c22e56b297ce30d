// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "model/Project.h"

#include <optional>

namespace kiln
{

/// A correlation for a boundary's surface: its size taken from the box around the faces, its ambient from what the
/// boundary had. Without a mesh, or with an empty surface, the size is 100 mm.
/// \param situation  none to take the natural flow that fits how the faces lie to gravity: plates by the mean of their
///                   normals, cylinders and spheres by the box around faces that look all around
[[nodiscard]] CorrelatedConvection correlationFor(const Project& project, const Mesh* mesh, const Boundary& boundary,
                                                  std::optional<FlowSituation> situation);

} // namespace kiln
