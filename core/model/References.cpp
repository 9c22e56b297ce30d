// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/References.h"

#include "model/Fields.h"
#include "model/OwnValues.h"

#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

constexpr ReferenceSpec ofChanges{"changes", "Of its own", "", Refers::Field, Need::Whole};

/// What the words of an own value name, where its field is a reference; nothing otherwise.
using ReferenceFields = std::map<std::string, ReferenceSpec>;

/// The reference fields that own values are for.
ReferenceFields referenceFields(Project& project)
{
  ReferenceFields found;
  forEachOwnValues(std::as_const(project), [&](const std::vector<Change>& changes) {
    const auto isNames = [](const Change& change) {
      return std::holds_alternative<std::string>(change.value) ||
             std::holds_alternative<std::vector<std::string>>(change.value);
    };
    if (std::none_of(changes.begin(), changes.end(), isNames))
      return;
    Project seen = withChoices(project, changes);
    for (const Field& field : settings(seen))
      if (field.reference)
        found.emplace(field.path, *field.reference);
  });
  return found;
}

const ReferenceSpec* specOf(const ReferenceFields& fields, const Change& change)
{
  const auto at = fields.find(change.field);
  return at != fields.end() ? &at->second : nullptr;
}

class ReferenceWalk : public StagedWalk<ReferenceWalk>
{
public:
  ReferenceWalk(Project& project, const std::function<void(const ReferenceUse&)>& visit)
      : own_(referenceFields(project)), visit_(visit)
  {
  }

  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (value.empty() ? spec.need != Need::May : value != spec.others)
      tell(&value, spec);
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    for (std::string& value : values)
      tell(&value, spec);
    if (values.empty() && spec.need != Need::May)
      tell(nullptr, spec);
  }
  void changes(const KeySpec&, std::vector<Change>& changes)
  {
    for (Change& change : changes) {
      tell(&change.field, ofChanges);
      if (const ReferenceSpec* spec = specOf(own_, change)) {
        if (auto* word = std::get_if<std::string>(&change.value))
          reference(*spec, *word);
        if (auto* words = std::get_if<std::vector<std::string>>(&change.value))
          references(*spec, *words);
      }
    }
  }
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    within(key, [&] {
      for (T& item : items)
        enter(item);
    });
  }
  template <class T>
  void nested(const KeySpec& key, std::optional<T>& item)
  {
    if (item)
      nested(key, *item);
  }
  template <class T>
  void nested(const KeySpec& key, T& item)
  {
    within(key, [&] { enter(item); });
  }

private:
  template <class T>
  void enter(T& item)
  {
    constexpr bool isObject = std::is_base_of_v<Object, T>;
    const bool outer = std::exchange(ofObject_, isObject);
    if constexpr (isObject) {
      holderId_ = item.id;
      holder_ = objectWords(item);
    }
    describe(*this, item);
    ofObject_ = outer;
    if constexpr (isObject) {
      holderId_.clear();
      holder_ = "project";
    }
  }
  void tell(std::string* text, const ReferenceSpec& spec)
  {
    visit_({text, spec, stageOf(spec.stage), holderId_, holder_, ofObject_});
  }

  ReferenceFields own_;
  const std::function<void(const ReferenceUse&)>& visit_;
  std::string holderId_, holder_ = "project";
  bool ofObject_ = false;
};

/// Archive that takes out what names an object.
class Forgetting : public Walk<Forgetting>
{
public:
  Forgetting(Project& project, const std::string& id, Refers kind)
      : own_(referenceFields(project)), id_(id), kind_(kind)
  {
  }

  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (!names(value, spec, id_, kind_))
      return;
    value.clear();
    gone_ = gone_ || spec.need == Need::Whole;
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    std::erase_if(values, [&](const std::string& value) { return names(value, spec, id_, kind_); });
  }
  void changes(const KeySpec&, std::vector<Change>& changes)
  {
    std::erase_if(changes, [&](Change& change) {
      if (names(change.field, ofChanges, id_, kind_))
        return true;
      const ReferenceSpec* spec = specOf(own_, change);
      auto* words = std::get_if<std::vector<std::string>>(&change.value);
      if (spec != nullptr && words != nullptr)
        references(*spec, *words);
      const auto* word = std::get_if<std::string>(&change.value);
      return spec != nullptr && word != nullptr && names(*word, *spec, id_, kind_);
    });
  }
  template <class T>
  void list(const KeySpec&, std::vector<T>& items)
  {
    std::erase_if(items, [&](T& item) { return goes(item); });
  }
  template <class T>
  void nested(const KeySpec&, std::optional<T>& item)
  {
    if (item && goes(*item))
      item.reset();
  }
  template <class T>
  void nested(const KeySpec&, T& item)
  {
    static_cast<void>(goes(item));
  }

private:
  /// Does the entry go with what it named?
  template <class T>
  bool goes(T& item)
  {
    const bool outer = std::exchange(gone_, false);
    describe(*this, item);
    return std::exchange(gone_, outer);
  }

  ReferenceFields own_;
  const std::string& id_;
  Refers kind_;
  bool gone_ = false;
};

} // namespace

void forEachReference(Project& project, const std::function<void(const ReferenceUse&)>& visit)
{
  ReferenceWalk walk(project, visit);
  describe(walk, project);
}

void forEachReference(const Project& project, const std::function<void(const ReferenceUse&)>& visit)
{
  forEachReference(const_cast<Project&>(project), visit);
}

bool names(const std::string& text, const ReferenceSpec& spec, const std::string& objectId, Refers kind)
{
  if (spec.to & Refers::Field || (spec.to & Refers::Face && kind & Refers::Part))
    return text.starts_with(objectId + ".");
  return spec.to & kind && text == objectId;
}

void forgetObject(Project& project, const std::string& id, Refers kind)
{
  Forgetting walk(project, id, kind);
  describe(walk, project);
}

void replaceObject(Project& project, const std::string& from, const std::string& to, Refers kind)
{
  forEachReference(project, [&](const ReferenceUse& use) {
    if (use.text != nullptr && names(*use.text, use.spec, from, kind))
      *use.text = to + use.text->substr(from.size());
  });
}

} // namespace kiln
