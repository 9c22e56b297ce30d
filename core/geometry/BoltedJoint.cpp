// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/BoltedJoint.h"

#include "geometry/FaceSketch.h"
#include "model/Edit.h"
#include "model/RoundNumber.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

tl::unexpected<Failure> refused(const std::string& problem, const std::string& remedy)
{
  return failure(Failure::Kind::NotReady, "bolted joint", problem, remedy);
}

/// The name by which a part knows a face; empty when it is none of its own.
std::string nameOn(const Face& face, const std::string& part)
{
  std::string found;
  for (const std::string& name : face.names)
    if (name.starts_with(part + ".") && (found.empty() || name.size() < found.size()))
      found = name;
  return found;
}

/// Middle of all pieces of a face of a part, as it was before it met others.
Vec3 middleOf(const FaceTable& table, const std::string& name)
{
  Vec3 sum = Vec3::Zero();
  double area = 0;
  for (const Face& face : table.faces)
    if (std::find(face.names.begin(), face.names.end(), name) != face.names.end()) {
      sum += face.area * face.centroid;
      area += face.area;
    }
  return sum / std::max(area, 1e-300);
}

/// Of the whole pair: the one that is there, or a new one.
Contact& wholeContact(Project& project, const std::string& partA, const std::string& partB)
{
  for (Contact& own : project.contacts)
    if (joins(own, partA, partB) && own.surface.empty())
      return own;
  Contact added;
  added.id = pairId(partA, partB);
  added.name = findById(project.parts, partA)->name + " | " + findById(project.parts, partB)->name;
  added.partA = partA;
  added.partB = partB;
  project.contacts.push_back(std::move(added));
  return project.contacts.back();
}

} // namespace

double pressedConductance(const PressedSurfaces& surfaces, double pressure)
{
  constexpr double factor = 1.25, exponent = 0.95;
  const double k =
      2 * surfaces.conductivityA * surfaces.conductivityB / (surfaces.conductivityA + surfaces.conductivityB);
  return factor * k * surfaces.slope / surfaces.roughness * std::pow(pressure / surfaces.hardness, exponent);
}

double pressureOf(const BoltedJoint& joint)
{
  return joint.force / (std::numbers::pi * (joint.reach * joint.reach - joint.hole * joint.hole));
}

const Face* sharedFlatFace(const FaceTable& table, const std::string& partA, const std::string& partB)
{
  const PartId a = table.partIndex(partA);
  const PartId b = table.partIndex(partB);
  const Face* widest = nullptr;
  for (const Face& face : table.faces)
    if (a != noPart && b != noPart && face.contact() && face.touches(a) && face.touches(b) && face.planar &&
        (widest == nullptr || face.area > widest->area))
      widest = &face;
  return widest;
}

Expected<Project> withBoltedJoint(const Project& project, const FaceTable& table, const BoltedJoint& joint)
{
  const Part* part = findById(project.parts, joint.partA);
  const Face* face = sharedFlatFace(table, joint.partA, joint.partB);
  if (part == nullptr || findById(project.parts, joint.partB) == nullptr || face == nullptr)
    return refused("The two parts share no flat face.", "Choose two parts that touch flat on each other.");
  if (joint.reach <= joint.hole || joint.force <= 0)
    return refused("Its washer presses on no area.", "Give it a force, and a reach that is larger than its hole.");
  const PartId side = table.partIndex(joint.partA);
  const std::string name = nameOn(*face, joint.partA);
  auto plane = drawingPlane(*face, side, *part);
  if (name.empty() || !plane)
    return refused("The touching face has no name of part " + part->name + ".", "Build the shapes anew.");
  plane->origin = middleOf(table, name);
  const Vec2 centre = plane->flatOf(joint.centre);
  Project changed = project;
  Part* own = findById(changed.parts, joint.partA);
  ShapeStep step = divisionOf({Sketch::Kind::Circle, {centre, centre + Vec2(joint.reach, 0)}}, name);
  step.id = freeStepId(*own, "washer");
  const std::string inside = joint.partA + "." + step.id + ".inside";
  own->steps.push_back(std::move(step));

  Surface washer;
  washer.name = freeName(changed, "Under the bolt of " + part->name);
  washer.id = idFromName(changed, washer.name);
  washer.faces = {inside};
  changed.surfaces.push_back(washer);
  wholeContact(changed, joint.partA, joint.partB).exchange = AreaConductance{coefficientNumber(joint.elsewhere)};
  Contact pressed;
  pressed.name = freeName(changed, "Bolt of " + part->name);
  pressed.id = idFromName(changed, pressed.name);
  pressed.partA = joint.partA;
  pressed.partB = joint.partB;
  pressed.surface = washer.id;
  pressed.exchange = AreaConductance{coefficientNumber(pressedConductance(joint.surfaces, pressureOf(joint)))};
  changed.contacts.push_back(std::move(pressed));
  return changed;
}

} // namespace kiln
