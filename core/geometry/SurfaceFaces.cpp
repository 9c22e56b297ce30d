// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SurfaceFaces.h"

#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

bool matches(const Face& face, const std::string& name, const std::string& wanted)
{
  if (wanted.ends_with(".*") && face.aside)
    return false;
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

bool inside(const Face& face, const Within& within)
{
  const auto holds = [](double value, const std::optional<Number>& low, const std::optional<Number>& high) {
    constexpr double slack = 1e-9; // m
    return (!low || value >= low->si - slack) && (!high || value <= high->si + slack);
  };
  const Vec3& c = face.centroid;
  return holds(c.x(), within.lowX, within.highX) && holds(c.y(), within.lowY, within.highY) &&
         holds(c.z(), within.lowZ, within.highZ);
}

bool near(const Face& face, const Near& near)
{
  const Vec3 place(near.place.x.si, near.place.y.si, near.place.z.si);
  return (face.centroid - place).norm() <= near.distance.si;
}

/// Indices of the faces of a name; none when nothing has it.
std::set<FaceId> facesNamed(const FaceTable& geometry, const std::string& wanted)
{
  std::set<FaceId> found;
  for (std::size_t f = 0; f < geometry.faces.size(); ++f)
    for (const std::string& name : geometry.faces[f].names)
      if (matches(geometry.faces[f], name, wanted))
        found.insert(FaceId(f));
  return found;
}

std::set<FaceId> pick(const Project& project, const FaceTable& geometry, const Surface& surface,
                      std::set<std::string> enclosing, std::vector<std::string>* notFound)
{
  std::set<FaceId> faces;
  const auto missing = [&](const std::string& what) {
    if (notFound != nullptr)
      notFound->push_back(what);
  };
  for (const std::string& id : expandGroups(project, surface.exposedOf)) {
    const PartId part = geometry.partIndex(id);
    const std::size_t before = faces.size();
    for (std::size_t f = 0; f < geometry.faces.size(); ++f)
      if (part != noPart && geometry.faces[f].exposed() && !geometry.faces[f].aside &&
          geometry.faces[f].parts[0] == part)
        faces.insert(FaceId(f));
    if (faces.size() == before)
      missing(id);
  }
  const auto named = [&](const std::string& wanted) {
    std::set<FaceId> found = facesNamed(geometry, wanted);
    if (found.empty())
      missing(wanted);
    return found;
  };
  for (const std::string& wanted : surface.faces)
    faces.merge(named(wanted));
  std::erase_if(faces, [&](FaceId f) {
    const Face& face = geometry.faces[static_cast<std::size_t>(f)];
    return (surface.facing && !facing(face, *surface.facing)) || (surface.within && !inside(face, *surface.within)) ||
           (surface.near && !near(face, *surface.near));
  });
  enclosing.insert(surface.id);
  for (const std::string& id : surface.except) {
    const Surface* other = findById(project.surfaces, id);
    if (other == nullptr)
      missing(id);
    else if (!enclosing.contains(id))
      for (const FaceId f : pick(project, geometry, *other, enclosing, nullptr))
        faces.erase(f);
  }
  for (const std::string& added : surface.added)
    faces.merge(named(added));
  for (const std::string& without : surface.without)
    for (const FaceId f : named(without))
      faces.erase(f);
  return faces;
}

} // namespace

SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const Surface& surface)
{
  SurfaceFaces result;
  const std::set<FaceId> faces = pick(project, geometry, surface, {}, &result.notFound);
  result.faces.assign(faces.begin(), faces.end());
  for (const FaceId f : result.faces)
    result.area += geometry.faces[static_cast<std::size_t>(f)].area;
  return result;
}

SurfaceFaces facesOf(const Project& project, const FaceTable& geometry, const std::string& surfaceId)
{
  const Surface* surface = findById(project.surfaces, surfaceId);
  return surface != nullptr ? facesOf(project, geometry, *surface) : SurfaceFaces{};
}

std::size_t sideMeant(const Surface& surface, const FaceTable& geometry, const Face& face)
{
  if (face.exposed())
    return 0;
  for (std::size_t side = 0; side < 2; ++side)
    for (const std::string& name : surface.faces)
      if (name.starts_with(geometry.parts[static_cast<std::size_t>(face.parts[side])].id + "."))
        return side;
  return 0;
}

} // namespace kiln
