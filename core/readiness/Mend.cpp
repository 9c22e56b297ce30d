// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/Mend.h"

#include "model/Edit.h"
#include "model/Fields.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

void confirmPerfect(Project& project, const std::string& a, const std::string& b)
{
  if (findContact(project, a, b) != nullptr)
    return;
  const auto nameOf = [&](const std::string& id) {
    const Part* part = findById(project.parts, id);
    return part != nullptr ? part->name : id;
  };
  Contact contact;
  contact.id = pairId(a, b);
  contact.name = nameOf(a) + " | " + nameOf(b);
  contact.partA = a;
  contact.partB = b;
  project.contacts.push_back(std::move(contact));
}

Number micrometres(double metres)
{
  const double value = std::round(metres * 1e8) / 1e2;
  return {value / 1e6, plainNumber(value) + " µm", false};
}

/// Still air, as it is at room temperature: a value to start from.
void bridgeGap(Project& project, const std::string& a, const std::string& b, double thickness)
{
  confirmPerfect(project, a, b);
  for (Contact& contact : project.contacts)
    if (&contact == findContact(project, a, b))
      contact.exchange = Gap{micrometres(thickness), {0.026, "0.026 W/(m·K)"}, {}, {}};
}

/// One surface for each part around the space, so that the ledger can tell them apart.
void makeEnclosure(Project& project, const std::vector<std::string>& faceNames)
{
  std::map<std::string, std::vector<std::string>> byPart;
  for (const std::string& name : faceNames)
    byPart[name.substr(0, name.find('.'))].push_back(name);
  Enclosure enclosure;
  for (auto& [part, names] : byPart) {
    Surface surface;
    surface.faces = std::move(names);
    const Part* own = findById(project.parts, part);
    enclosure.surfaces.push_back(addObject(project, project.surfaces, std::move(surface),
                                           freeName(project, (own != nullptr ? own->name : part) + ", in the space")));
  }
  addObject(project, project.enclosures, std::move(enclosure), freeName(project, "Enclosure"));
}

void removeFromRule(Project& project, const std::string& surfaceId, const std::string& what)
{
  Surface* surface = findById(project.surfaces, surfaceId);
  if (surface == nullptr)
    return;
  for (auto* list : {&surface->exposedOf, &surface->faces, &surface->except, &surface->added, &surface->without})
    std::erase(*list, what);
}

void sortTable(Project& project, const std::string& path)
{
  for (const Field& field : fields(project))
    if (field.path == path && field.table() != nullptr) {
      std::vector<TablePoint> points = *field.table();
      std::stable_sort(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.at.si < b.at.si; });
      points.erase(
          std::unique(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.at.si == b.at.si; }),
          points.end());
      field.assignTable(std::move(points));
      return;
    }
}

void movePart(Project& project, const std::string& id, const std::array<double, 3>& by)
{
  Part* part = findById(project.parts, id);
  if (part == nullptr)
    return;
  Number3& position = part->shape.placement.position;
  const std::array<Number*, 3> numbers{&position.x, &position.y, &position.z};
  for (std::size_t i = 0; i < numbers.size(); ++i)
    if (by[i] != 0) {
      const double millimetres = std::round((numbers[i]->si + by[i]) * 1e7) / 1e4;
      *numbers[i] = {millimetres / 1e3, plainNumber(millimetres) + " mm", false};
    }
}

void unmute(Project& project, const std::string& id)
{
  const auto clear = [&](auto& list) {
    if (auto* object = findById(list, id))
      object->muted = false;
  };
  clear(project.groups);
  clear(project.parts);
  clear(project.sources);
  clear(project.boundaries);
  clear(project.enclosures);
}

} // namespace

void applyMend(Project& project, const Mend& mend)
{
  const std::vector<std::string>& a = mend.arguments;
  switch (mend.action) {
  case Mend::Action::ConfirmPerfect:
    return confirmPerfect(project, a.at(0), a.at(1));
  case Mend::Action::GiveMaterial:
    if (Part* part = findById(project.parts, a.at(0)))
      part->material = a.at(1);
    return;
  case Mend::Action::RemoveObject:
    removeObject(project, a.at(0));
    return;
  case Mend::Action::RemoveFromRule:
    return removeFromRule(project, a.at(0), a.at(1));
  case Mend::Action::Unmute:
    return unmute(project, a.at(0));
  case Mend::Action::KeepSpace:
    if (Part* part = findById(project.parts, a.at(1)))
      part->yieldsTo.push_back(a.at(0));
    return;
  case Mend::Action::MovePart:
    return movePart(project, a.at(0), {std::stod(a.at(1)), std::stod(a.at(2)), std::stod(a.at(3))});
  case Mend::Action::SortTable:
    return sortTable(project, a.at(0));
  case Mend::Action::BridgeGap:
    return bridgeGap(project, a.at(0), a.at(1), std::stod(a.at(2)));
  case Mend::Action::SurfaceMesh:
    if (Surface* surface = findById(project.surfaces, a.at(0)))
      surface->meshSize = micrometres(std::stod(a.at(1)));
    return;
  case Mend::Action::UsualEnvironment:
    project.environment = Environment{};
    return;
  case Mend::Action::MakeEnclosure:
    return makeEnclosure(project, a);
  case Mend::Action::WidenTolerance:
    project.shapes.tolerance = micrometres(std::stod(a.at(0)));
    return;
  }
}

} // namespace kiln
