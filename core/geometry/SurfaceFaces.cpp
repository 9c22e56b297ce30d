// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SurfaceFaces.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

bool matches(const std::string& name, const std::string& wanted)
{
  if (wanted.ends_with(".*"))
    return name.starts_with(wanted.substr(0, wanted.size() - 1));
  return name == wanted;
}

bool facing(const Face& face, const Facing& facing)
{
  constexpr double slack = 1e-6; // rad
  const Vec3 direction(facing.direction.x.si, facing.direction.y.si, facing.direction.z.si);
  if (direction.norm() == 0 || face.normal.norm() == 0)
    return false;
  const double angle = std::acos(std::clamp(face.normal.dot(direction.normalized()), -1.0, 1.0));
  return angle + face.normalSpread <= facing.within.si + slack;
}

std::set<int> pick(const Project& project, const FaceTable& geometry, const Surface& surface,
                   std::set<std::string> enclosing, std::vector<std::string>* notFound)
{
  std::set<int> faces;
  const auto missing = [&](const std::string& what) {
    if (notFound != nullptr)
      notFound->push_back(what);
  };
  for (const std::string& id : surface.exposedOf) {
    const int part = geometry.partIndex(id);
    const std::size_t before = faces.size();
    for (std::size_t f = 0; f < geometry.faces.size(); ++f)
      if (part != noPart && geometry.faces[f].exposed() && geometry.faces[f].parts[0] == part)
        faces.insert(static_cast<int>(f));
    if (faces.size() == before)
      missing(id);
  }
  for (const std::string& wanted : surface.faces) {
    bool any = false;
    for (std::size_t f = 0; f < geometry.faces.size(); ++f)
      for (const std::string& name : geometry.faces[f].names)
        if (matches(name, wanted)) {
          faces.insert(static_cast<int>(f));
          any = true;
        }
    if (!any)
      missing(wanted);
  }
  if (surface.facing)
    std::erase_if(faces, [&](int f) { return !facing(geometry.faces[static_cast<std::size_t>(f)], *surface.facing); });
  enclosing.insert(surface.id);
  for (const std::string& id : surface.except) {
    const Surface* other = findById(project.surfaces, id);
    if (other == nullptr)
      missing(id);
    else if (!enclosing.contains(id))
      for (const int f : pick(project, geometry, *other, enclosing, nullptr))
        faces.erase(f);
  }
  return faces;
}

} // namespace

SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const Surface& surface)
{
  SurfaceFaces result;
  const std::set<int> faces = pick(project, geometry, surface, {}, &result.notFound);
  result.faces.assign(faces.begin(), faces.end());
  for (const int f : result.faces)
    result.area += geometry.faces[static_cast<std::size_t>(f)].area;
  return result;
}

SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const std::string& surfaceId)
{
  const Surface* surface = findById(project.surfaces, surfaceId);
  return surface != nullptr ? facesOf(project, geometry, *surface) : SurfaceFaces{};
}

} // namespace kiln
