// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Project.h"

namespace kiln {
namespace {

const std::string noSurface;

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

bool isHeat(const Watch& watch)
{
  return std::holds_alternative<SurfaceHeat>(watch.figure) || std::holds_alternative<ContactHeat>(watch.figure);
}

const std::string& surfaceOf(const Boundary& boundary)
{
  return surfaceIn(boundary.condition);
}

const std::string& surfaceOf(const HeatSource& source)
{
  return surfaceIn(source.heat);
}

const Contact* findContact(const Project& project, const std::string& partA, const std::string& partB)
{
  for (const Contact& contact : project.contacts)
    if ((contact.partA == partA && contact.partB == partB) || (contact.partA == partB && contact.partB == partA))
      return &contact;
  return nullptr;
}

} // namespace kiln
