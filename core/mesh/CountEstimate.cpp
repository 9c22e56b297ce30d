// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/CountEstimate.h"

#include "base/At.h"
#include "geometry/TakenElements.h"
#include "mesh/MeshSizes.h"
#include "mesh/SizeField.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

/// A round face is divided by its radius, which its width and the turn of its normal tell.
double onCurved(const Face& face, double size, const MeshSizes& sizes)
{
  if (face.planar || face.normalSpread <= 0)
    return size;
  constexpr double smallestShare = 0.1;
  const double radius = face.width / (2 * face.normalSpread);
  return std::clamp(sizes.chordAngle * radius, std::max(smallestShare * size, std::min(size, sizes.smallest)), size);
}

/// Of a section: its elements are triangles, its faces edges.
CountEstimate countOfSection(const Project& project, const FaceTable& geometry)
{
  const SectionFrame& frame = geometry.section;
  std::vector<double> border(geometry.parts.size(), 0.0);
  for (const Face& face : geometry.faces)
    for (const PartId part : face.parts)
      if (part != noPart && !face.aside)
        border[at(part)] += face.width;
  std::vector<double> area;
  for (const GeometryPart& part : geometry.parts) {
    const double reach = std::abs((part.low.x() + part.high.x()) / 2 - frame.axis);
    area.push_back(part.volume / (frame.turned ? 2 * std::numbers::pi * reach : frame.depth));
  }
  std::vector<double> wall;
  for (const Face& face : geometry.faces) {
    double thinnest = 1e300;
    for (const PartId part : face.parts)
      if (part != noPart && !face.aside)
        thinnest = std::min(thinnest, 2 * area[at(part)] / border[at(part)]);
    wall.push_back(thinnest);
  }
  const MeshSizes sizes = chooseSizes(project, geometry, wall);
  std::vector<double> divisions(geometry.parts.size(), 0.0);
  for (std::size_t f = 0; f < geometry.faces.size(); ++f)
    for (const PartId part : geometry.faces[f].parts)
      if (part != noPart && !geometry.faces[f].aside)
        divisions[at(part)] += geometry.faces[f].width / onCurved(geometry.faces[f], sizes.face[f], sizes);
  CountEstimate estimate;
  for (std::size_t p = 0; p < area.size(); ++p) {
    const double onBorder = border[p] / divisions[p];
    const double inside = std::min(sizes.part[p], onBorder + SizeField::growth * area[p] / border[p]);
    estimate.elements += area[p] / (std::numbers::sqrt3 / 4 * inside * inside);
  }
  estimate.nodes = (project.mesh.secondOrder ? 2 : 0.5) * estimate.elements;
  return estimate;
}

/// By face: how thick the wall behind it is as volume and skin of its part say, m.
std::vector<double> wallsOf(const FaceTable& geometry)
{
  std::vector<double> skin(geometry.parts.size(), 0.0);
  for (const Face& face : geometry.faces)
    for (const PartId part : face.parts)
      if (part != noPart)
        skin[at(part)] += face.area;
  std::vector<double> wall;
  for (const Face& face : geometry.faces) {
    double thinnest = 1e300;
    for (const PartId part : face.parts)
      if (part != noPart)
        thinnest = std::min(thinnest, 2 * geometry.parts[at(part)].volume / skin[at(part)]);
    wall.push_back(std::min(thinnest, face.width));
  }
  return wall;
}

} // namespace

std::vector<double> estimatedSizes(const Project& project, const FaceTable& geometry)
{
  std::vector<double> wall;
  if (geometry.section.is())
    for (const Face& face : geometry.faces)
      wall.push_back(std::max(face.width, 1e-9));
  else
    wall = wallsOf(geometry);
  return chooseSizes(project, geometry, wall).face;
}

CountEstimate estimateCount(const Project& project, const FaceTable& geometry)
{
  if (geometry.parts.empty())
    return {};
  if (geometry.section.is())
    return countOfSection(project, geometry);
  const MeshSizes sizes = chooseSizes(project, geometry, wallsOf(geometry));
  CountEstimate estimate;
  const double ofTriangle = std::numbers::sqrt3 / 4; // an even one, of its side squared
  constexpr double edgesOfTet = 1.25;                // each is shared by about five
  const double ofTet = 1 / (6 * std::numbers::sqrt2);
  std::vector<double> area(geometry.parts.size(), 0.0);
  std::vector<double> triangles(geometry.parts.size(), 0.0);
  double all = 0;
  for (std::size_t f = 0; f < geometry.faces.size(); ++f) {
    const Face& face = geometry.faces[f];
    const double size = onCurved(face, sizes.face[f], sizes);
    const double count = face.area / (ofTriangle * size * size);
    all += count;
    for (const PartId part : face.parts)
      if (part != noPart) {
        area[at(part)] += face.area;
        triangles[at(part)] += count;
      }
  }
  estimate.nodes = all / 2;
  for (std::size_t p = 0; p < geometry.parts.size(); ++p) {
    const Part* part = findById(project.parts, geometry.parts[p].id);
    if (part != nullptr && keepsElements(project, *part)) {
      const ElementCount own = keptCount(project, *part);
      estimate.elements += own.tets;
      estimate.nodes += std::max(0.0, own.nodes - triangles[p] / 2);
      continue;
    }
    // Inside, sizes grow from those of the skin; where the wall is thin, the skin decides.
    const double onSkin = std::sqrt(area[p] / (ofTriangle * triangles[p]));
    const double inside =
        std::min(sizes.part[p], onSkin * (1 + SizeField::growth * geometry.parts[p].volume / area[p] / onSkin));
    const double tets = std::max(1.5 * triangles[p], geometry.parts[p].volume / (ofTet * std::pow(inside, 3)));
    estimate.elements += tets;
    estimate.nodes += tets / 5.5 / 4;
  }
  if (project.mesh.secondOrder)
    estimate.nodes += edgesOfTet * estimate.elements;
  return estimate;
}

} // namespace kiln
