// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/References.h"

#include "model/ObjectKinds.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr ReferenceSpec ofChanges{"changes", Refers::Field, ReferenceSpec::Need::Whole};

class ReferenceWalk : public StagedWalk<ReferenceWalk>
{
public:
  explicit ReferenceWalk(const std::function<void(const ReferenceUse&)>& visit) : visit_(visit) {}

  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (value.empty() ? spec.need != ReferenceSpec::Need::May : value != spec.others)
      tell(&value, spec);
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    for (std::string& value : values)
      tell(&value, spec);
    if (values.empty() && spec.need != ReferenceSpec::Need::May)
      tell(nullptr, spec);
  }
  void changes(const KeySpec&, std::vector<Change>& changes)
  {
    for (Change& change : changes)
      tell(&change.field, ofChanges);
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

  const std::function<void(const ReferenceUse&)>& visit_;
  std::string holderId_, holder_ = "project";
  bool ofObject_ = false;
};

/// Archive that takes out what names an object.
class Forgetting : public Walk<Forgetting>
{
public:
  Forgetting(const std::string& id, Refers kind) : id_(id), kind_(kind) {}

  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (!names(value, spec, id_, kind_))
      return;
    value.clear();
    gone_ = gone_ || spec.need == ReferenceSpec::Need::Whole;
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    std::erase_if(values, [&](const std::string& value) { return names(value, spec, id_, kind_); });
  }
  void changes(const KeySpec&, std::vector<Change>& changes)
  {
    std::erase_if(changes, [&](const Change& change) { return names(change.field, ofChanges, id_, kind_); });
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

  const std::string& id_;
  Refers kind_;
  bool gone_ = false;
};

} // namespace

void forEachReference(Project& project, const std::function<void(const ReferenceUse&)>& visit)
{
  ReferenceWalk walk(visit);
  describe(walk, project);
}

void forEachReference(const Project& project, const std::function<void(const ReferenceUse&)>& visit)
{
  ReferenceWalk walk(visit);
  walkOver(walk, project);
}

Refers kindOfObject(const Project& project, const std::string& id)
{
  Refers found{};
  forEachObjectList(project, [&](const auto& list) {
    if (const auto* object = findById(list, id); object != nullptr)
      found = found | kindOf(object).kind;
  });
  return found;
}

std::vector<std::string> idsOf(const Project& project, Refers kinds)
{
  std::vector<std::string> ids;
  forEachObjectList(project, [&](const auto& list) {
    for (const auto& object : list)
      if (kindOf(&object).kind & kinds)
        ids.push_back(object.id);
  });
  return ids;
}

std::string kindWords(Refers kinds)
{
  std::vector<std::string> words;
  forEachObjectList(Project{}, [&](const auto& list) {
    if (const ObjectKind kind = kindOf(list.data()); kind.kind & kinds)
      words.emplace_back(kind.word);
  });
  if (kinds & Refers::Part) // a group stands for its parts
    std::erase(words, std::string(kindOf(static_cast<const PartGroup*>(nullptr)).word));
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 < words.size() ? ", " : " or ") + words[i];
  return text;
}

bool names(const std::string& text, const ReferenceSpec& spec, const std::string& objectId, Refers kind)
{
  if (spec.to & Refers::Field || (spec.to & Refers::Face && kind & Refers::Part))
    return text.starts_with(objectId + ".");
  return spec.to & kind && text == objectId;
}

void forgetObject(Project& project, const std::string& id, Refers kind)
{
  Forgetting walk(id, kind);
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
