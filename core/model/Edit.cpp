// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Edit.h"

#include "model/Describe.h"

#include <algorithm>
#include <set>

namespace kiln
{
namespace
{

/// Archive that visits references only.
class ReferenceWalk
{
public:
  explicit ReferenceWalk(const std::function<void(std::string&, Reference)>& visit) : visit_(visit) {}

  void text(std::string_view key, std::string& value) { single(key, value); }
  void optionalText(std::string_view key, std::string& value) { single(key, value); }
  void appearance(std::string_view, std::string&) {}
  void flag(std::string_view, bool&) {}
  void number(const NumberSpec&, Number&) {}
  void optionalNumber(const NumberSpec&, std::optional<Number>&) {}
  void property(const NumberSpec&, Property&) {}
  void optionalProperty(const NumberSpec&, std::optional<Property>&) {}
  void number3(const NumberSpec&, Number3&) {}
  void outline(std::string_view, std::vector<OutlinePoint>&) {}
  void points(std::string_view, std::vector<PlacedPoint>&) {}
  void schedule(std::string_view, std::vector<TablePoint>&) {}
  void longText(std::string_view, SharedText&) {}
  void unknown(UnknownKeys&) {}
  void references(std::string_view key, std::vector<std::string>& values)
  {
    if (key == "faceNames") // of a file's body: not names of a part's faces
      return;
    const bool faces = key == "faces" || key == "added" || key == "without";
    for (std::string& value : values)
      visit_(value, faces ? Reference::FaceName : Reference::Id);
  }
  void changes(std::string_view, std::vector<Change>& changes)
  {
    for (Change& change : changes)
      visit_(change.field, Reference::FieldPath);
  }
  template <class... Ts, std::size_t N>
  void choice(std::string_view, std::variant<Ts...>& value, const std::array<std::string_view, N>&)
  {
    std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    choice(key, value, names);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view, Enum&, const std::array<std::string_view, N>&) {}
  template <class T>
  void list(std::string_view, std::vector<T>& items)
  {
    for (T& item : items)
      describe(*this, item);
  }
  template <class T>
  void nested(std::string_view key, std::optional<T>& item)
  {
    if (item)
      nested(key, *item);
  }
  template <class T>
  void nested(std::string_view, T& item)
  {
    describe(*this, item);
  }

private:
  void single(std::string_view key, std::string& value)
  {
    static const std::set<std::string_view> ids{
        "material", "group",   "surface",    "part", "partA", "partB", "node", "endA", "endB", "upstream",
        "watch",    "follows", "downstream", "link", "hot",   "cold",  "heat", "case", "file", "of"};
    if (value.empty() || (key == "follows" && value == "mean"))
      return;
    if (ids.contains(key))
      visit_(value, Reference::Id);
    else if (key == "face" || key == "upTo")
      visit_(value, Reference::FaceName);
  }

  const std::function<void(std::string&, Reference)>& visit_;
};

/// Calls with every list of objects until one returns true.
template <class P, class Visit>
bool anyList(P& p, Visit&& visit)
{
  return visit(p.parameters) || visit(p.files) || visit(p.materials) || visit(p.finishes) || visit(p.groups) ||
         visit(p.parts) || visit(p.surfaces) || visit(p.sources) || visit(p.boundaries) || visit(p.contacts) ||
         visit(p.enclosures) || visit(p.nodes) || visit(p.links) || visit(p.cases) || visit(p.watches) ||
         visit(p.lines);
}

bool belongsTo(const std::string& reference, Reference kind, const std::string& id)
{
  return kind == Reference::Id ? reference == id : reference.starts_with(id + ".");
}

/// Does the link end at this object?
bool joins(const Link& link, const std::string& id)
{
  return std::visit(
      [&](const auto& kind) {
        if constexpr (requires { kind.upstream; })
          return kind.upstream == id || kind.downstream == id;
        else
          return kind.endA == id || kind.endB == id;
      },
      link.exchange);
}

/// Takes out of a list what a removed object leaves behind.
void forget(Project& project, const std::string& id)
{
  std::erase_if(project.network, [&](const NetworkPlace& place) { return place.id == id; });
  const auto drop = [&](std::vector<std::string>& list, Reference kind) {
    std::erase_if(list, [&](const std::string& reference) { return belongsTo(reference, kind, id); });
  };
  for (Finish& finish : project.finishes)
    drop(finish.surfaces, Reference::Id);
  for (Enclosure& enclosure : project.enclosures)
    drop(enclosure.surfaces, Reference::Id);
  for (Surface& surface : project.surfaces) {
    drop(surface.exposedOf, Reference::Id);
    drop(surface.except, Reference::Id);
    drop(surface.faces, Reference::FaceName);
    drop(surface.added, Reference::FaceName);
    drop(surface.without, Reference::FaceName);
  }
  for (Part& part : project.parts) {
    if (part.material == id)
      part.material.clear();
    if (part.group == id)
      part.group.clear();
    drop(part.yieldsTo, Reference::Id);
  }
  const auto dropParts = [&](auto& kind) {
    if constexpr (requires { kind.parts; })
      drop(kind.parts, Reference::Id);
    if constexpr (requires { kind.surface; })
      if (kind.surface == id)
        kind.surface.clear();
    if constexpr (requires { kind.part; })
      if (kind.part == id)
        kind.part.clear();
    if constexpr (requires { kind.node; })
      if (kind.node == id)
        kind.node.clear();
    if constexpr (requires { kind.material; })
      if (kind.material == id)
        kind.material.clear();
    if constexpr (requires { kind.surfaces; })
      drop(kind.surfaces, Reference::Id);
  };
  for (HeatSource& source : project.sources)
    std::visit(dropParts, source.heat);
  for (Boundary& boundary : project.boundaries)
    std::visit(dropParts, boundary.condition);
  for (Watch& watch : project.watches)
    std::visit(dropParts, watch.figure);
  for (HeatSource& source : project.sources) {
    if (source.follows == id)
      source.follows.clear();
    if (source.thermostat && source.thermostat->watch == id)
      source.thermostat.reset();
  }
  std::erase_if(project.contacts, [&](const Contact& c) { return c.partA == id || c.partB == id; });
  std::erase_if(project.links, [&](const Link& link) { return joins(link, id); });
  const auto dropChanges = [&](std::vector<Change>& changes) {
    std::erase_if(changes, [&](const Change& c) { return belongsTo(c.field, Reference::FieldPath, id); });
  };
  for (Case& one : project.cases) {
    dropChanges(one.changes);
    if (!one.run)
      continue;
    drop(one.run->storeParts, Reference::Id);
    std::erase_if(one.run->rules, [&](const RunRule& rule) { return rule.watch == id; });
    std::erase_if(one.run->ends, [&](const EndRule& rule) {
      const auto* value = std::get_if<EndAtValue>(&rule.when);
      return value != nullptr && value->watch == id;
    });
    for (RunRule& rule : one.run->rules) {
      dropChanges(rule.set);
      drop(rule.mute, Reference::Id);
      drop(rule.unmute, Reference::Id);
    }
    if (auto* uniform = std::get_if<StartUniform>(&one.run->start))
      std::erase_if(uniform->parts, [&](const PartStart& start) { return start.id == id; });
  }
}

} // namespace

void forEachReference(Project& project, const std::function<void(std::string&, Reference)>& visit)
{
  ReferenceWalk walk(visit);
  describe(walk, project);
}

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

bool removeObject(Project& project, const std::string& id)
{
  const bool removed =
      anyList(project, [&](auto& list) { return std::erase_if(list, [&](const auto& o) { return o.id == id; }) > 0; });
  if (removed)
    forget(project, id);
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
    if constexpr (requires { copy.steps; }) {
      Project alone;
      alone.parts = {copy};
      forEachReference(alone, [&](std::string& reference, Reference kind) {
        if (kind == Reference::FaceName && reference.starts_with(id + "."))
          reference = copy.id + reference.substr(id.size());
      });
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

void replaceMaterial(Project& project, const std::string& from, const std::string& to)
{
  forEachReference(project, [&](std::string& reference, Reference kind) { // parts, sheets, wires, whatever there is
    if (kind == Reference::Id && reference == from)
      reference = to;
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
