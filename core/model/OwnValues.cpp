// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/OwnValues.h"

#include "model/ObjectKinds.h"
#include "model/Parameters.h"
#include "model/Settings.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Applies changes to a project whose fields it keeps at hand.
class Changing
{
public:
  explicit Changing(Project& project) : project_(project), all_(settings(project)) {}

  /// \param owner  what the changes are of, for messages
  Expected<void> apply(const std::vector<Change>& changes, const std::string& owner)
  {
    for (const Change& change : changes) {
      const Field* field = fieldAt(all_, change.field);
      if (field == nullptr)
        return failure(Failure::Kind::NotReady, owner,
                       "It changes the field " + change.field + ", which does not exist.",
                       "Remove the change or name an existing field.");
      if (!field->take(change.value))
        return failure(Failure::Kind::NotReady, owner,
                       "Its own value of " + field->objectName + ", " + field->label + " is of another kind.",
                       "Remove the change, or set it anew.");
      if (field->kind == Field::Kind::Choice)
        all_ = settings(project_); // another alternative has other fields
    }
    return {};
  }

private:
  Project& project_;
  std::vector<Field> all_;
};

/// What a case takes of one of its property sets, or has of its own.
struct Taken {
  std::string owner; ///< in words
  std::vector<Change> changes;
};

/// In the order in which it counts.
std::vector<Taken> takenBy(const Project& project, const Case& oneCase)
{
  std::vector<Taken> all;
  const auto take = [&](const std::string& id, std::optional<Refers> only) {
    const PropertySet* set = findById(project.sets, id);
    if (set == nullptr)
      return;
    Taken& taken = all.emplace_back(Taken{objectWords(*set), set->changes});
    if (only)
      std::erase_if(taken.changes, [&](const Change& change) { return !isOf(project, change, *only); });
  };
  for (const std::string& id : oneCase.sets)
    take(id, std::nullopt);
  for (const SetChoice& choice : setChoices)
    take(oneCase.*choice.set, choice.kind);
  if (!oneCase.changes.empty())
    all.push_back({objectWords(oneCase), oneCase.changes});
  return all;
}

/// The material whose values this one has in the end; the one that comes back to itself in \p ring.
const Material* stoodFor(const Project& project, const Material& material, std::string& ring)
{
  const Material* last = &material;
  std::vector<std::string> passed;
  while (!last->standsFor.empty() && last->standsFor != last->id) {
    passed.push_back(last->id);
    const Material* next = findById(project.materials, last->standsFor);
    if (next == nullptr)
      break;
    ring += (ring.empty() ? "" : " → ") + last->name;
    if (std::find(passed.begin(), passed.end(), next->id) != passed.end()) {
      ring += " → " + next->name;
      return nullptr;
    }
    last = next;
  }
  return last;
}

Expected<void> giveStandIns(Project& project)
{
  std::vector<std::pair<std::size_t, Material>> given;
  for (std::size_t i = 0; i < project.materials.size(); ++i) {
    const Material& own = project.materials[i];
    if (own.standsFor.empty() || own.standsFor == own.id)
      continue;
    std::string ring;
    const Material* other = stoodFor(project, own, ring);
    if (other == nullptr)
      return failure(Failure::Kind::NotReady, objectWords(own),
                     "It stands for a material that comes back: " + ring + ".", "Let one of them stand for itself.");
    Material values = *other;
    values.id = own.id;
    values.name = own.name;
    values.standsFor.clear();
    given.emplace_back(i, std::move(values));
  }
  for (auto& [i, values] : given)
    project.materials[i] = std::move(values);
  return {};
}

} // namespace

bool isOf(const Project& project, const Change& change, Refers kind)
{
  return kindOfObject(project, change.field.substr(0, change.field.find('.'))) & kind;
}

std::vector<std::string> setsOf(const Case& oneCase)
{
  std::vector<std::string> ids = oneCase.sets;
  for (const SetChoice& choice : setChoices)
    if (const std::string& id = oneCase.*choice.set; !id.empty())
      ids.push_back(id);
  return ids;
}

std::vector<Change> changesOf(const Project& project, const Case& oneCase)
{
  std::vector<Change> all;
  for (const Taken& taken : takenBy(project, oneCase))
    all.insert(all.end(), taken.changes.begin(), taken.changes.end());
  return all;
}

Expected<Project> projectForCase(const Project& project, const Case& oneCase)
{
  Project changed = project;
  const std::vector<Case> cases = std::exchange(changed.cases, {}); // theirs are no own values: not walked over
  if (const std::vector<Taken> all = takenBy(project, oneCase); !all.empty()) {
    Changing changing(changed);
    for (const Taken& taken : all)
      if (auto applied = changing.apply(taken.changes, taken.owner); !applied)
        return tl::unexpected(applied.error());
  }
  if (auto given = giveStandIns(changed); !given)
    return tl::unexpected(given.error());
  changed.cases = cases;
  applyParameters(changed);
  return changed;
}

Project withChoices(const Project& project, const std::vector<Change>& changes)
{
  Project changed = project;
  const auto isWord = [](const Change& change) { return std::holds_alternative<std::string>(change.value); };
  if (std::none_of(changes.begin(), changes.end(), isWord)) // a choice is a word
    return changed;
  std::vector<Field> all = settings(changed);
  for (const Change& change : changes)
    if (const Field* field = isWord(change) ? fieldAt(all, change.field) : nullptr;
        field != nullptr && field->kind == Field::Kind::Choice && field->take(change.value))
      all = settings(changed);
  return changed;
}

} // namespace kiln
