// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/MeshSizes.h"

#include "geometry/SurfaceFaces.h"

#include <algorithm>
#include <limits>
#include <numbers>
#include <sstream>

namespace kiln
{
namespace
{

/// Divides all sizes.
void refine(MeshSizes& sizes, double fineness)
{
  for (double& size : sizes.part)
    size /= fineness;
  for (double& size : sizes.face)
    size /= fineness;
  for (SizeSource& source : sizes.finer)
    source.size /= fineness;
  sizes.smallest /= fineness;
  sizes.chordAngle /= fineness;
}

/// Of a round face, from its width and the turn of its normal; 0 for a flat one.
double radiusOf(const Face& face)
{
  if (face.planar || face.normalSpread <= 0)
    return 0;
  const double turn = face.normal.isZero() ? std::numbers::pi : face.normalSpread; // a closed one turns all around
  return face.width / (2 * turn);
}

} // namespace

std::vector<SizeSource> finerSources(const MeshSettings& settings)
{
  std::vector<SizeSource> sources;
  std::istringstream text(settings.finerAt.text());
  for (SizeSource one; text >> one.place.x() >> one.place.y() >> one.place.z() >> one.size;)
    if (one.size > 0)
      sources.push_back(one);
  return sources;
}

MeshSizes chooseSizes(const Project& project, const FaceTable& table, std::span<const double> thickness)
{
  constexpr double globalShare = 1.0 / 22;  // of the model's diagonal
  constexpr double partShare = 1.0 / 7;     // of a part's diagonal
  constexpr double finestShare = 0.4;       // thin walls are not meshed finer than this share of the global size …
  constexpr double longestOnThinWall = 7.0; // … unless the triangles would be longer than this many thicknesses
  constexpr double acrossThickWall = 0.5;   // of the thickness
  constexpr double solidRod = 3;            // walls thinner than this many radii are the round thing itself …
  constexpr double roundestShare = 5;       // … which keeps its section: curvature may divide a size by ten only
  Vec3 low = table.parts.front().low;
  Vec3 high = table.parts.front().high;
  for (const GeometryPart& part : table.parts) {
    low = low.cwiseMin(part.low);
    high = high.cwiseMax(part.high);
  }
  constexpr double larger = 1.6; // elements of second order do as well at this size
  const double grown = project.mesh.secondOrder ? larger : 1;
  const double global = project.mesh.size ? project.mesh.size->si : (high - low).norm() * globalShare * grown;
  MeshSizes sizes;
  sizes.smallest = project.mesh.smallest ? project.mesh.smallest->si : 0;
  std::vector<bool> set;
  for (const GeometryPart& part : table.parts) {
    const Part* own = findById(project.parts, part.id);
    const bool given = own != nullptr && own->meshSize.has_value();
    sizes.part.push_back(
        given ? own->meshSize->si
              : std::max(sizes.smallest, std::min(global, (part.high - part.low).norm() * partShare * grown)));
    set.push_back(given);
  }
  for (std::size_t f = 0; f < table.faces.size(); ++f) {
    const double wall = thickness[f];
    const double radius = radiusOf(table.faces[f]);
    const double byWall =
        std::max(acrossThickWall * grown * wall, std::min(longestOnThinWall * wall, finestShare * global));
    double size = std::numeric_limits<double>::infinity();
    for (const PartId part : table.faces[f].parts)
      if (part != noPart) {
        const auto p = static_cast<std::size_t>(part);
        size = std::min(size, set[p] ? sizes.part[p] : std::min(sizes.part[p], byWall));
      }
    if (wall < solidRod * radius)
      size = std::min(size, roundestShare * radius);
    if (project.mesh.acrossWalls)
      size = std::min(size, wall / project.mesh.acrossWalls->si);
    sizes.face.push_back(std::max(size, sizes.smallest));
    sizes.exposed.push_back(table.faces[f].exposed());
  }
  for (const Surface& surface : project.surfaces)
    if (surface.meshSize)
      for (const int f : facesOf(project, table, surface).faces)
        sizes.face[static_cast<std::size_t>(f)] = surface.meshSize->si;
  sizes.finer = finerSources(project.mesh);
  if (project.mesh.fineness)
    refine(sizes, project.mesh.fineness->si);
  return sizes;
}

} // namespace kiln
