// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "model/Project.h"

#include <set>

namespace kiln
{

/// What of a mesh lights up in the scene, by number.
struct Lit {
  std::set<FaceId> faces;
  std::set<PartId> parts;
};

/// What belongs to an object: a part, a surface, what a boundary or source stands on, both sides of a contact or gap.
/// \param shown  the project as the shown case sees it
[[nodiscard]] Lit litBy(const Project& shown, const Mesh& mesh, const std::string& objectId);

/// Faces by their lasting names.
[[nodiscard]] Lit litFaces(const Project& shown, const Mesh& mesh, const std::vector<std::string>& names);

} // namespace kiln
