// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"
#include "mesh/KeptSkins.h"
#include "mesh/Mesh.h"
#include "mesh/PartMeshes.h"
#include "mesh/SurfaceMesh.h"

namespace kiln
{

/// Fills the skins with tetrahedra, part by part, keeping every skin triangle. Closed spaces without a part stay empty
/// and are listed as voids. May crash on self-intersecting skins: call it in the solver process only.
/// \param known  parts whose skin is in there are not filled again; may be nullptr
/// \param kept   parts that have elements of their own; may be nullptr
/// Fails naming the faces that cross, the part that was not filled or the one whose own elements do not fit.
[[nodiscard]] Expected<Mesh> meshVolume(const FaceTable& geometry, const SurfaceMesh& skin, const MeshSizes& sizes,
                                        const PartMeshes* known = nullptr, const KeptSkins* kept = nullptr);

/// Geometry to mesh in one call: sizes, skin, volume, connection, renumbering.
/// \param before  an earlier mesh: parts whose skin is the same keep their tetrahedra, which are what they would be
///                anyway, since every part is filled by itself
[[nodiscard]] Expected<Mesh> buildMesh(const Project& project, const Geometry& geometry, const Progress& progress,
                                       const Mesh* before = nullptr);

} // namespace kiln
