// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/CasesFile.h"

#include "io/Clipboard.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "model/References.h"
#include "model/Settings.h"

#include <algorithm>
#include <map>
#include <set>

namespace kiln
{
namespace
{

constexpr const char* wantedKey = "cases and sets"; // those that were asked for; the rest says what they are of

std::string headOf(const std::string& path) { return path.substr(0, path.find('.')); }

bool travels(const Project& project, const std::string& id)
{
  return findById(project.cases, id) != nullptr || findById(project.sets, id) != nullptr;
}

/// Brings an object of the file to the one of the project that is meant: of its kind and name, else of its kind and id.
class Matching
{
public:
  Matching(const Project& project, Project& file) : project_(project), file_(file)
  {
    // First away from all ids that are in use, so that no two get in each other's way.
    forEachObjectList(std::as_const(file), [&](const auto& list) {
      for (const auto& object : list)
        if (!travels(file, object.id))
          own_.push_back({object.id, "~" + std::to_string(own_.size()), object.name, kindOf(&object)});
    });
    for (const Own& own : own_)
      rename(own.id, own.passing, own.kind.kind);
    for (const Own& own : own_)
      if (const std::string id = meant(own); !id.empty())
        rename(own.passing, id, own.kind.kind);
      else
        unmatched_[own.passing] = std::string(own.kind.word) + " “" + own.name + "”";
  }

  /// What a name in the file stands for where the project has nothing like it; empty: it has.
  [[nodiscard]] std::string lacking(const std::string& text) const
  {
    const auto found = unmatched_.find(headOf(text));
    return found != unmatched_.end() ? found->second : std::string();
  }

private:
  struct Own {
    std::string id, passing, name;
    ObjectKind kind;
  };
  void rename(const std::string& from, const std::string& to, Refers kind)
  {
    replaceObject(file_, from, to, kind);
    forEachObjectList(file_, [&](auto& list) {
      if (kindOf(list.data()).kind & kind)
        if (auto* object = findById(list, from))
          object->id = to;
    });
  }
  [[nodiscard]] std::string meant(const Own& own) const
  {
    std::string byName;
    std::string byId;
    forEachObjectList(project_, [&](const auto& list) {
      for (const auto& object : list)
        if (kindOf(&object).kind & own.kind.kind) {
          if (object.name == own.name && byName.empty())
            byName = object.id;
          if (object.id == own.id)
            byId = object.id;
        }
    });
    return byName.empty() ? byId : byName;
  }

  const Project& project_;
  Project& file_;
  std::vector<Own> own_;
  std::map<std::string, std::string> unmatched_; ///< by passing id: in words
};

/// Leaves out values of what the project does not have.
void keepMatched(const Project& project, const Matching& matching, const std::string& owner,
                 std::vector<Change>& changes, std::vector<std::string>& unmatched)
{
  Project seen = withChoices(project, changes);
  const std::vector<Field> all = settings(seen);
  std::erase_if(changes, [&](const Change& change) {
    std::string lacks = matching.lacking(change.field);
    if (const auto* word = std::get_if<std::string>(&change.value); word != nullptr && lacks.empty())
      lacks = matching.lacking(*word);
    if (const auto* words = std::get_if<std::vector<std::string>>(&change.value))
      for (const std::string& word : *words)
        lacks = lacks.empty() ? matching.lacking(word) : lacks;
    const std::string key = change.field.substr(std::min(change.field.size(), headOf(change.field).size() + 1));
    if (!lacks.empty())
      unmatched.push_back(owner + ": its value of “" + key + "” is skipped, there is no " + lacks + " here.");
    else if (fieldAt(all, change.field) == nullptr)
      unmatched.push_back(owner + ": its value of “" + change.field + "” is skipped, there is no such field here.");
    else
      return false;
    return true;
  });
}

} // namespace

std::string exportCases(const Project& project, const std::vector<std::string>& ids)
{
  std::set<std::string> wanted(ids.begin(), ids.end());
  for (const std::string& id : ids)
    if (const Case* one = findById(project.cases, id))
      for (std::string& set : setsOf(*one))
        wanted.insert(std::move(set));
  std::set<std::string> named = wanted;
  Project kept = onlyObjects(project, wanted);
  forEachReference(kept, [&](const ReferenceUse& use) {
    if (use.text != nullptr && !travels(project, headOf(*use.text)))
      named.insert(headOf(*use.text));
  });
  Project file = onlyObjects(project, named);
  file.network.clear();
  file.mesh = {};
  file.section.reset();
  file.unknown.clear();
  std::string list = "[";
  for (const std::string& id : wanted)
    list += (list.size() > 1 ? ",\"" : "\"") + id + "\"";
  file.unknown[wantedKey] = list + "]";
  return writeProject(file);
}

Expected<TakenCases> importCases(Project& project, const std::string& text, const std::string& shownName)
{
  Expected<Project> read = readProject(text, shownName);
  if (!read)
    return tl::unexpected(read.error());
  if (!read->unknown.contains(wantedKey))
    return failure(Failure::Kind::Unreadable, "file " + shownName, "It holds no cases that were written for this.",
                   "Write them from the other project first.");
  Project& file = *read;
  const Matching matching(project, file);
  TakenCases taken;
  std::map<std::string, std::string> newId;
  for (PropertySet set : file.sets) {
    keepMatched(project, matching, "set " + set.name, set.changes, taken.unmatched);
    const std::string old = set.id;
    const std::string name = freeName(project, set.name);
    taken.sets.push_back(newId[old] = addObject(project, project.sets, std::move(set), name));
  }
  for (Case one : file.cases) {
    keepMatched(project, matching, "case " + one.name, one.changes, taken.unmatched);
    const std::string old = one.id;
    const std::string name = freeName(project, one.name);
    taken.cases.push_back(newId[old] = addObject(project, project.cases, std::move(one), name));
  }
  Project fresh = onlyObjects(project, [&] {
    std::set<std::string> ids(taken.cases.begin(), taken.cases.end());
    ids.insert(taken.sets.begin(), taken.sets.end());
    return ids;
  }());
  std::vector<std::pair<std::string, std::string>> lost; // holder, text
  forEachReference(fresh, [&](const ReferenceUse& use) {
    if (use.text == nullptr)
      return;
    if (const auto found = newId.find(*use.text); found != newId.end())
      *use.text = found->second;
    else if (const std::string lacks = matching.lacking(*use.text); !lacks.empty())
      lost.emplace_back(*use.text, use.holder + " named the " + lacks + ", which is not here.");
  });
  for (const auto& [id, sentence] : lost) {
    taken.unmatched.push_back(sentence);
    forgetObject(fresh, id, Refers{~0U});
  }
  for (const std::string& id : taken.cases)
    *findById(project.cases, id) = *findById(fresh.cases, id);
  applyParameters(project);
  return taken;
}

} // namespace kiln
