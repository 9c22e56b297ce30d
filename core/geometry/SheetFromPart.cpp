// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SheetFromPart.h"

#include "base/At.h"
#include "geometry/TouchingPairs.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// Moves what names a part, or faces of it, to a surface.
class Mover
{
public:
  Mover(Project& project, std::string part, std::string surface, std::vector<std::string> faces)
      : project_(project), part_(std::move(part)), surface_(std::move(surface)), faces_(std::move(faces))
  {
  }

  void run()
  {
    for (Surface& one : project_.surfaces)
      if (one.id != surface_)
        moveRule(one);
    for (HeatSource& source : project_.sources)
      moveSource(source);
    for (Watch& watch : project_.watches)
      if (const auto* figure = std::get_if<PartFigure>(&watch.figure); figure != nullptr && isOnly(figure->parts))
        watch.figure = SurfaceFigure{figure->kind, surface_};
  }

private:
  [[nodiscard]] bool isOnly(const std::vector<std::string>& parts) const
  {
    return parts.size() == 1 && parts.front() == part_;
  }

  /// A rule that meant faces of the part means those beneath it.
  void moveRule(Surface& surface) const
  {
    const auto ofPart = [&](const std::string& name) { return name.starts_with(part_ + "."); };
    const std::size_t named = std::erase_if(surface.faces, ofPart) + std::erase_if(surface.added, ofPart) +
                              static_cast<std::size_t>(std::erase(surface.exposedOf, part_));
    std::erase_if(surface.without, ofPart);
    if (named == 0)
      return;
    for (const std::string& face : faces_)
      if (std::find(surface.faces.begin(), surface.faces.end(), face) == surface.faces.end())
        surface.faces.push_back(face);
  }

  void moveSource(HeatSource& source) const
  {
    if (const auto* power = std::get_if<PartPower>(&source.heat); power != nullptr && isOnly(power->parts)) {
      SurfacePower moved;
      moved.power = power->power;
      moved.surface = surface_;
      source.heat = std::move(moved);
    }
  }

  Project& project_;
  std::string part_, surface_;
  std::vector<std::string> faces_;
};

/// What a contact resists per area, m²·K/W; nothing for a perfect one, a gap or none.
std::optional<Number> resistanceOf(const Contact* contact, double area)
{
  if (contact == nullptr)
    return std::nullopt;
  if (const auto* conductance = std::get_if<AreaConductance>(&contact->exchange);
      conductance != nullptr && conductance->conductance.si > 0)
    return Number{1 / conductance->conductance.si, {}, false};
  if (const auto* resistance = std::get_if<AreaResistance>(&contact->exchange))
    return resistance->resistance;
  if (const auto* total = std::get_if<TotalResistance>(&contact->exchange))
    return Number{total->resistance.si * area, {}, false};
  return std::nullopt;
}

} // namespace

Expected<Project> sheetFromPart(const Project& project, const FaceTable& geometry, const std::string& partId)
{
  const Part* part = findById(project.parts, partId);
  const int index = geometry.partIndex(partId);
  if (part == nullptr || index == noPart)
    return failure(Failure::Kind::NotReady, "part " + partId, "It is not in the model.",
                   "Wait until the shapes are built.");
  const auto refused = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::NotReady, "part " + part->name, problem, remedy);
  };
  if (part->material.empty())
    return refused("It has no material.", "Choose one first.");
  std::vector<TouchingPair> touching;
  for (TouchingPair& pair : touchingPairs(geometry))
    if (pair.partA == index || pair.partB == index)
      touching.push_back(std::move(pair));
  if (touching.size() != 1)
    return refused(touching.empty() ? "It touches no other part." : "It touches more than one part.",
                   "A sheet lies on the surface of one part; leave this one solid.");
  const TouchingPair& pair = touching.front();
  const GeometryPart& own = geometry.parts[at(index)];
  const double thickness = own.volume / pair.area;
  constexpr double thin = 0.1; // of its extent
  if (thickness > thin * (own.high - own.low).norm())
    return refused("It is " + formatQuantity(thickness, Quantity::Length, {}, 3) + " thick: not a thin layer.",
                   "Leave it solid.");
  const std::string beneath = geometry.parts[at(pair.partA == index ? pair.partB : pair.partA)].id;
  Surface surface;
  for (const FaceId face : pair.faces)
    for (const std::string& name : geometry.faces[at(face)].names)
      if (name.starts_with(beneath + "."))
        surface.faces.push_back(name);
  if (surface.faces.empty())
    return refused("The faces beneath it have no names.", "Leave it solid.");
  Project changed = project;
  const std::vector<std::string> faces = surface.faces;
  const std::string surfaceId = addObject(changed, changed.surfaces, surface, freeName(changed, "Under " + part->name));
  Sheet sheet{surfaceId, part->material, {thickness, formatQuantity(thickness, Quantity::Length, {}, 6), false}};
  sheet.through = resistanceOf(findContact(project, partId, beneath), pair.area);
  Boundary boundary;
  boundary.condition = std::move(sheet);
  const std::string name = part->name;
  Mover(changed, partId, surfaceId, faces).run();
  removeObject(changed, partId);
  addObject(changed, changed.boundaries, boundary, freeName(changed, name + ", sheet"));
  return changed;
}

} // namespace kiln
