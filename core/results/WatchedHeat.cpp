// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/WatchedHeat.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/elements/Enthalpy.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

class HeatReader
{
public:
  HeatReader(const Project& project, const HeatState& heat) : project_(project), heat_(heat) {}

  std::optional<double> operator()(const SurfaceHeat& watched) const
  {
    const std::vector<int> faces = facesOf(project_, heat_.geometry, watched.surface).faces;
    const Surface* surface = findById(project_.surfaces, watched.surface);
    if (faces.empty() || surface == nullptr)
      return std::nullopt;
    double watts = 0;
    for (const int f : faces) {
      const bool fromSecond = sideMeant(*surface, heat_.geometry, heat_.geometry.faces[at(f)]) == 1;
      watts += heat_.faceHeat[at(f)] + (fromSecond ? heat_.contactHeat[at(f)] : -heat_.contactHeat[at(f)]);
    }
    return watts;
  }
  std::optional<double> operator()(const ContactHeat& watched) const
  {
    for (const ContactFigure& contact : contactFigures(heat_)) {
      if (contact.partA == watched.partA && contact.partB == watched.partB)
        return contact.watts;
      if (contact.partA == watched.partB && contact.partB == watched.partA)
        return -contact.watts;
    }
    return std::nullopt;
  }
  std::optional<double> operator()(const LinkHeat& watched) const
  {
    const auto found = std::find_if(heat_.links.begin(), heat_.links.end(),
                                    [&](const LedgerFlow& link) { return link.id == watched.link; });
    return found == heat_.links.end() ? std::nullopt : std::optional(found->watts);
  }
  std::optional<double> operator()(const Transmittance& watched) const
  {
    const auto watts = (*this)(SurfaceHeat{watched.surface});
    double area = 0;
    for (const int f : facesOf(project_, heat_.geometry, watched.surface).faces)
      area += heat_.geometry.faces[at(f)].area;
    if (watched.area)
      area = watched.area->si;
    const double difference = std::abs(watched.warm.si - watched.cold.si);
    return watts && area * difference > 0 ? std::optional(std::abs(*watts) / (area * difference)) : std::nullopt;
  }
  template <class Other>
  std::optional<double> operator()(const Other&) const
  {
    return std::nullopt;
  }

private:
  const Project& project_;
  const HeatState& heat_;
};

} // namespace

std::vector<ContactFigure> contactFigures(const HeatState& heat)
{
  std::vector<ContactFigure> figures;
  const FaceTable& geometry = heat.geometry;
  for (const TouchingPair& pair : touchingPairs(geometry)) {
    ContactFigure figure{geometry.parts[at(pair.partA)].id, geometry.parts[at(pair.partB)].id, pair.area, 0};
    for (const int f : pair.faces)
      figure.watts += geometry.faces[at(f)].parts[0] == pair.partA ? heat.contactHeat[at(f)] : -heat.contactHeat[at(f)];
    figures.push_back(figure);
  }
  figures.insert(figures.end(), heat.gaps.begin(), heat.gaps.end());
  return figures;
}

std::optional<double> watchedHeat(const Project& project, const HeatState& heat, const Watch& watch)
{
  return std::visit(HeatReader(project, heat), watch.figure);
}

std::optional<double> moltenShareOf(const Project& project, const Mesh& mesh, const Unknowns& unknowns,
                                    std::span<const double> temperature, const MoltenShare& watched)
{
  double molten = 0;
  double volume = 0;
  for (const std::string& id : expandGroups(project, watched.parts)) {
    const Part* part = findById(project.parts, id);
    const Material* material = part != nullptr ? findById(project.materials, part->material) : nullptr;
    const int index = mesh.geometry.partIndex(id);
    if (material == nullptr || index == noPart || !material->latentHeat)
      continue;
    for (std::size_t t = 0; t < mesh.tets.size(); ++t)
      if (mesh.tetPart[t] == index)
        for (const Index unknown : unknowns.ofTet[t]) {
          molten += tetVolume(mesh, t) / 4 * moltenShare(*material, temperature[at(unknown)]);
          volume += tetVolume(mesh, t) / 4;
        }
  }
  return volume > 0 ? std::optional(molten / volume) : std::nullopt;
}

} // namespace kiln
