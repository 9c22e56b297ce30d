// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/Clipboard.h"

#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/ObjectKinds.h"
#include "model/Parameters.h"
#include "model/References.h"

#include <algorithm>
#include <map>
#include <set>

namespace kiln
{
namespace
{

/// Kinds that come along with what names them: they are there to be used. Parts, nodes and the like do not.
constexpr Refers taken = Refers::Material | Refers::Group | Refers::Surface | Refers::File | Refers::Watch;

/// What the objects need besides themselves: materials, groups, surfaces and parameters, and theirs in turn.
std::set<std::string> withNeeds(const Project& project, std::set<std::string> ids)
{
  for (std::size_t before = 0; before != ids.size();) {
    before = ids.size();
    Project kept = onlyObjects(project, ids);
    forEachReference(kept, [&](const ReferenceUse& use) {
      if (use.text != nullptr && use.spec.to & taken && kindOfObject(project, *use.text) & taken)
        ids.insert(*use.text);
    });
    for (const Field& field : fields(kept))
      if (field.value() != nullptr && field.value()->formula)
        for (const std::string& name : namesIn(field.value()->text))
          for (const Parameter& parameter : project.parameters)
            if (parameter.name == name)
              ids.insert(parameter.id);
  }
  return ids;
}

constexpr const char* wantedKey = "copied"; // the objects that were asked for, the rest came along

} // namespace

Project onlyObjects(const Project& project, const std::set<std::string>& ids)
{
  Project kept = project;
  forEachObjectList(
      kept, [&](auto& list) { std::erase_if(list, [&](const auto& object) { return !ids.contains(object.id); }); });
  return kept;
}

std::string copyObjects(const Project& project, const std::vector<std::string>& ids)
{
  Project copy = onlyObjects(project, withNeeds(project, {ids.begin(), ids.end()}));
  copy.network.clear();
  copy.mesh = {};
  copy.environment.reset();
  copy.unknown.clear();
  std::string list = "[";
  for (const std::string& id : ids)
    list += (list.size() > 1 ? ",\"" : "\"") + id + "\"";
  copy.unknown[wantedKey] = list + "]";
  return writeProject(copy);
}

Expected<std::vector<std::string>> pasteObjects(Project& project, const std::string& text)
{
  Expected<Project> copy = readProject(text, "clipboard");
  if (!copy || !copy->unknown.contains(wantedKey))
    return failure(Failure::Kind::NotReady, "clipboard", "It holds no objects of a project.",
                   "Copy rows of the ledger first.");
  const std::string wanted = copy->unknown[wantedKey];
  const auto asked = [&](const std::string& id) { return wanted.find("\"" + id + "\"") != std::string::npos; };
  std::map<std::string, std::string> newId;
  std::vector<std::string> pasted;
  forEachObjectList(*copy, [&](auto& list) {
    for (auto& object : list) {
      const Object* same = findObject(project, object.id);
      if (!asked(object.id) && same != nullptr && same->name == object.name)
        continue; // it is there already
      const std::string old = object.id;
      if constexpr (std::is_same_v<std::decay_t<decltype(object)>, Parameter>) {
        if (std::any_of(project.parameters.begin(), project.parameters.end(),
                        [&](const Parameter& own) { return own.name == object.name; }))
          continue; // formulas mean the project's own
      } else {
        object.name = freeName(project, object.name);
      }
      newId[old] = idFromName(project, object.name);
      if (asked(old))
        pasted.push_back(newId[old]);
      object.id = newId[old];
      // Take the id at once, so that the next one differs.
      forEachObjectList(project, [&](auto& own) {
        if constexpr (std::is_same_v<std::decay_t<decltype(own)>, std::decay_t<decltype(list)>>)
          own.push_back(object);
      });
    }
  });
  // References among the pasted objects follow their new ids.
  Project added = onlyObjects(project, [&] {
    std::set<std::string> ids;
    for (const auto& [old, now] : newId)
      ids.insert(now);
    return ids;
  }());
  forEachReference(added, [&](const ReferenceUse& use) {
    if (use.text == nullptr)
      return;
    const bool inside = use.spec.to & (Refers::Face | Refers::Field);
    const std::string head = inside ? use.text->substr(0, use.text->find('.')) : *use.text;
    if (const auto found = newId.find(head); found != newId.end())
      *use.text = found->second + use.text->substr(head.size());
  });
  forEachObjectList(added, [&](auto& list) {
    forEachObjectList(project, [&](auto& own) {
      if constexpr (std::is_same_v<std::decay_t<decltype(own)>, std::decay_t<decltype(list)>>)
        for (auto& object : list)
          *findById(own, object.id) = object;
    });
  });
  applyParameters(project);
  return pasted;
}

} // namespace kiln
