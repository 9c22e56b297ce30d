// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/ObjectKinds.h"

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
  return std::visit([](const auto& figure) { return figure.quantity(); }, watch.figure);
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
    bool found = false;
    forEachObjectList(project, [&](const auto& list) { found = found || findById(list, id) != nullptr; });
    return found;
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
  const Contact* off = nullptr;
  for (const Contact& contact : project.contacts)
    if (contact.surface.empty() && joins(contact, partA, partB)) {
      if (!contact.muted)
        return &contact;
      off = off != nullptr ? off : &contact;
    }
  return off;
}

} // namespace kiln
