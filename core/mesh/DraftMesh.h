// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/Geometry.h"
#include "mesh/Mesh.h"

namespace kiln
{

/// Triangles of the model's faces, for looking at and picking only: no tetrahedra, nodes not shared between faces.
/// Fails naming the kernel's reason.
[[nodiscard]] Expected<Mesh> draftMesh(const Geometry& geometry);

} // namespace kiln
