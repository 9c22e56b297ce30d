// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Edit.h"

#include "model/ObjectKinds.h"
#include "model/References.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Calls with every list of objects until one returns true.
template <class P, class Visit>
bool anyList(P& p, Visit&& visit)
{
  bool found = false;
  forEachObjectList(p, [&](auto& list) { found = found || visit(list); });
  return found;
}

} // namespace

std::string idFromName(const Project& project, const std::string& name)
{
  std::string id;
  for (const char c : name) {
    if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'))
      id += c;
    else if (c >= 'A' && c <= 'Z')
      id += static_cast<char>(c - 'A' + 'a');
    else if (!id.empty() && id.back() != '-')
      id += '-';
  }
  while (!id.empty() && id.back() == '-')
    id.pop_back();
  if (id.empty())
    id = "object";
  return findObject(project, id) == nullptr ? id : freeId(project, id);
}

Object* findObject(Project& project, const std::string& id)
{
  Object* found = nullptr;
  anyList(project, [&](auto& list) { return (found = findById(list, id)) != nullptr; });
  return found;
}

const Object* findObject(const Project& project, const std::string& id)
{
  const Object* found = nullptr;
  anyList(project, [&](const auto& list) { return (found = findById(list, id)) != nullptr; });
  return found;
}

std::string freeName(const Project& project, const std::string& base)
{
  const auto taken = [&](const std::string& name) {
    return anyList(project, [&](const auto& list) {
      return std::any_of(list.begin(), list.end(), [&](const auto& object) { return object.name == name; });
    });
  };
  std::string name = base;
  for (int i = 2; taken(name); ++i)
    name = base + " " + std::to_string(i);
  return name;
}

std::string freeStepId(const Part& part, const std::string& base)
{
  for (int i = 1;; ++i) {
    std::string id = base + "-" + std::to_string(i);
    if (std::none_of(part.steps.begin(), part.steps.end(), [&](const ShapeStep& step) { return step.id == id; }))
      return id;
  }
}

bool removeObject(Project& project, const std::string& id)
{
  Refers kind{};
  const bool removed = anyList(project, [&](auto& list) {
    kind = kindOf(list.data()).kind;
    return std::erase_if(list, [&](const auto& object) { return object.id == id; }) > 0;
  });
  if (removed)
    forgetObject(project, id, kind);
  return removed;
}

std::string duplicateObject(Project& project, const std::string& id)
{
  std::string made;
  anyList(project, [&](auto& list) {
    const auto at = std::find_if(list.begin(), list.end(), [&](const auto& object) { return object.id == id; });
    if (at == list.end())
      return false;
    auto copy = *at;
    copy.name = freeName(project, at->name);
    copy.id = made = idFromName(project, copy.name);
    if constexpr (std::is_same_v<decltype(copy), Part>) {
      Project alone;
      alone.parts = {copy};
      replaceObject(alone, id, copy.id, Refers::Part);
      copy = alone.parts.front();
    }
    list.insert(at + 1, std::move(copy));
    return true;
  });
  return made;
}

bool moveObject(Project& project, const std::string& id, const std::string& before)
{
  return anyList(project, [&](auto& list) {
    const auto has = [](const std::string& wanted) {
      return [wanted](const auto& object) { return object.id == wanted; };
    };
    const auto from = std::find_if(list.begin(), list.end(), has(id));
    if (from == list.end() || id == before)
      return false;
    auto moved = *from;
    list.erase(from);
    list.insert(std::find_if(list.begin(), list.end(), has(before)), std::move(moved));
    return true;
  });
}

std::string* surfaceSlot(Project& project, const std::string& id)
{
  const auto slot = [](auto& variant) {
    return std::visit(
        [](auto& kind) -> std::string* {
          if constexpr (requires { kind.surface; })
            return &kind.surface;
          else
            return nullptr;
        },
        variant);
  };
  if (Boundary* boundary = findById(project.boundaries, id))
    return slot(boundary->condition);
  if (HeatSource* source = findById(project.sources, id))
    return slot(source->heat);
  return nullptr;
}

bool isMuted(const Project& project, const Part& part)
{
  const PartGroup* group = findById(project.groups, part.group);
  return part.muted || (group != nullptr && group->muted);
}

std::vector<std::string> expandGroups(const Project& project, const std::vector<std::string>& ids)
{
  std::vector<std::string> parts;
  const auto add = [&](const std::string& id) {
    if (std::find(parts.begin(), parts.end(), id) == parts.end())
      parts.push_back(id);
  };
  for (const std::string& id : ids) {
    if (findById(project.groups, id) == nullptr)
      add(id);
    else
      for (const Part& part : project.parts)
        if (part.group == id)
          add(part.id);
  }
  return parts;
}

} // namespace kiln
