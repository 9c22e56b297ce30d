// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <span>
#include <vector>

namespace kiln
{

/// Pieces of surfaces, made of triangles of one face that lie and look close together.
struct Patches {
  std::vector<std::vector<std::size_t>> triangles; ///< by patch
  std::vector<FaceId> face;                        ///< by patch
  std::vector<std::int32_t> ofTriangle;            ///< by triangle of the mesh; -1: in none

  [[nodiscard]] std::size_t count() const { return triangles.size(); }
};

/// Groups the triangles of some faces into patches no larger than \p size (m) and, on curved faces, no more bent than
/// \p bend (rad), by halving groups across their longest side. A patch is at least one triangle.
[[nodiscard]] Patches makePatches(const Mesh& mesh, std::span<const FaceId> faces, double size, double bend = 0.5);

/// Size that gives about this many patches on these faces, m.
[[nodiscard]] double patchSizeFor(const Mesh& mesh, std::span<const FaceId> faces, double wantedPatches);

} // namespace kiln
