// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Project.h"

namespace kiln
{
namespace
{

const std::string noSurface; // or no node

template <class Variant>
const std::string& surfaceIn(const Variant& variant)
{
  return std::visit(
      [](const auto& kind) -> const std::string& {
        if constexpr (requires { kind.surface; })
          return kind.surface;
        else
          return noSurface;
      },
      variant);
}

} // namespace

PropertyValue valueAt(const Property& property, double temperature)
{
  const std::vector<TablePoint>& table = property.table;
  if (table.empty())
    return {property.si, 0};
  if (temperature <= table.front().at.si)
    return {table.front().value.si, 0};
  if (temperature >= table.back().at.si)
    return {table.back().value.si, 0};
  const auto above = std::upper_bound(table.begin(), table.end(), temperature,
                                      [](double t, const TablePoint& point) { return t < point.at.si; });
  const auto below = above - 1;
  const double slope = (above->value.si - below->value.si) / (above->at.si - below->at.si);
  return {below->value.si + slope * (temperature - below->at.si), slope};
}

Quantity quantityOf(const Watch& watch)
{
  struct Of {
    Quantity operator()(const PartFigure& f) const { return ofKind(f.kind); }
    Quantity operator()(const SurfaceFigure& f) const { return ofKind(f.kind); }
    Quantity operator()(const PointFigure&) const { return Quantity::Temperature; }
    Quantity operator()(const NodeFigure&) const { return Quantity::Temperature; }
    Quantity operator()(const SurfaceHeat&) const { return Quantity::Power; }
    Quantity operator()(const ContactHeat&) const { return Quantity::Power; }
    Quantity operator()(const LinkHeat&) const { return Quantity::Power; }
    Quantity operator()(const MoltenShare&) const { return Quantity::Plain; }
    Quantity operator()(const BetweenWatches&) const { return Quantity::Resistance; }
    Quantity operator()(const LargestFlux&) const { return Quantity::HeatFlux; }
    Quantity operator()(const Transmittance&) const { return Quantity::AreaConductance; }
    static Quantity ofKind(PartFigure::Kind kind)
    {
      return kind == PartFigure::Kind::Spread ? Quantity::TemperatureStep : Quantity::Temperature;
    }
  };
  return std::visit(Of{}, watch.figure);
}

Quantity heatQuantity(const Project& project)
{
  const auto* plane = project.section ? std::get_if<PlaneSection>(&project.section->cut) : nullptr;
  return plane != nullptr && !plane->depth ? Quantity::PowerPerLength : Quantity::Power;
}

Quantity quantityOf(const Project& project, const Watch& watch)
{
  const Quantity own = quantityOf(watch);
  if (own == Quantity::Resistance && heatQuantity(project) == Quantity::PowerPerLength)
    return Quantity::LengthResistance;
  return own == Quantity::Power ? heatQuantity(project) : own;
}

const std::string& nodeOf(const Boundary& boundary)
{
  return std::visit(
      [](const auto& kind) -> const std::string& {
        if constexpr (requires { kind.node; })
          return kind.node;
        else
          return noSurface;
      },
      boundary.condition);
}

const std::string& surfaceOf(const Boundary& boundary) { return surfaceIn(boundary.condition); }

const std::string& surfaceOf(const HeatSource& source) { return surfaceIn(source.heat); }

std::string freeId(const Project& project, const std::string& base)
{
  const auto taken = [&](const std::string& id) {
    const auto in = [&](const auto& list) { return findById(list, id) != nullptr; };
    return in(project.parameters) || in(project.files) || in(project.groups) || in(project.materials) ||
           in(project.finishes) || in(project.parts) || in(project.surfaces) || in(project.sources) ||
           in(project.boundaries) || in(project.contacts) || in(project.enclosures) || in(project.nodes) ||
           in(project.links) || in(project.cases) || in(project.watches) || in(project.lines);
  };
  for (int i = 1;; ++i)
    if (const std::string id = base + "-" + std::to_string(i); !taken(id))
      return id;
}

std::string pairId(const std::string& partA, const std::string& partB)
{
  std::string id = partA;
  id += '|';
  id += partB;
  return id;
}

bool joins(const Contact& contact, const std::string& partA, const std::string& partB)
{
  return (contact.partA == partA && contact.partB == partB) || (contact.partA == partB && contact.partB == partA);
}

const Contact* findContact(const Project& project, const std::string& partA, const std::string& partB)
{
  for (const Contact& contact : project.contacts)
    if (contact.surface.empty() && joins(contact, partA, partB))
      return &contact;
  return nullptr;
}

} // namespace kiln
