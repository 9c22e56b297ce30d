// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/Finishes.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"

#include <algorithm>

namespace kiln
{
std::optional<double> absorptanceOf(const Project& project, const FaceTable& geometry, FaceId face)
{
  std::optional<double> absorptance;
  if (const auto emissivity = emissivityOf(project, geometry, face))
    absorptance = emissivity->si;
  for (const Finish& finish : project.finishes)
    for (const std::string& surface : finish.surfaces) {
      const std::vector<FaceId> faces = facesOf(project, geometry, surface).faces;
      if (std::binary_search(faces.begin(), faces.end(), face))
        absorptance = finish.solarAbsorptance ? finish.solarAbsorptance->si : finish.emissivity.si;
    }
  return absorptance;
}

std::optional<Property> emissivityOf(const Project& project, const FaceTable& geometry, FaceId face)
{
  std::optional<Property> emissivity;
  const PartId part = geometry.faces[at(face)].parts[0];
  const Part* own = findById(project.parts, geometry.parts[at(part)].id);
  const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
  if (material != nullptr && material->emissivity)
    emissivity = Property{*material->emissivity};
  for (const Finish& finish : project.finishes)
    for (const std::string& surface : finish.surfaces) {
      const std::vector<FaceId> faces = facesOf(project, geometry, surface).faces;
      if (std::binary_search(faces.begin(), faces.end(), face))
        emissivity = finish.emissivity;
    }
  return emissivity;
}

} // namespace kiln
