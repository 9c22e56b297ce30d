// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/EnclosurePatches.h"

#include "geometry/SurfaceFaces.h"

#include <set>

namespace kiln
{

Patches enclosurePatches(const Project& project, const Mesh& mesh, const Enclosure& enclosure)
{
  std::set<FaceId> faces;
  for (const std::string& surface : enclosure.surfaces)
    for (const FaceId face : facesOf(project, mesh.geometry, surface).faces)
      if (mesh.geometry.faces[static_cast<std::size_t>(face)].exposed())
        faces.insert(face);
  const std::vector<FaceId> list(faces.begin(), faces.end());
  constexpr double usualPatches = 1000;
  return makePatches(mesh, list,
                     enclosure.patchSize ? enclosure.patchSize->si : patchSizeFor(mesh, list, usualPatches));
}

} // namespace kiln
