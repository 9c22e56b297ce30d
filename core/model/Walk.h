// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

namespace kiln
{

/// Base of an archive (\ref Schema.h) that is after a few things only: passes over every value and goes into every
/// list, choice and object. An archive hides what it means to do otherwise.
template <class Self>
class Walk
{
public:
  void text(const KeySpec&, std::string&) {}
  void optionalText(const KeySpec&, std::string&) {}
  void longText(const KeySpec&, SharedText&) {}
  void formula(const KeySpec& key, std::string& value) { self().text(key, value); } ///< of a figure
  void appearance(const KeySpec&, std::string&) {}
  void texts(const KeySpec&, std::vector<std::string>&) {}
  void flag(const KeySpec&, bool&) {}
  void reference(const ReferenceSpec&, std::string&) {}
  void references(const ReferenceSpec&, std::vector<std::string>&) {}
  void number(const NumberSpec&, Number&) {}
  void optionalNumber(const NumberSpec&, std::optional<Number>&) {}
  void property(const NumberSpec&, Property&) {}
  void optionalProperty(const NumberSpec&, std::optional<Property>&) {}
  void number3(const NumberSpec&, Number3&) {}
  void outline(const KeySpec&, std::vector<OutlinePoint>&) {}
  void points(const KeySpec&, std::vector<PlacedPoint>&) {}
  void schedule(const KeySpec&, std::vector<TablePoint>&) {}
  void changes(const KeySpec&, std::vector<Change>&) {}
  void unknown(UnknownKeys&) {}
  template <class... Ts, std::size_t N>
  void choice(const KeySpec&, std::variant<Ts...>& value, const KindSpecs<N>&)
  {
    std::visit([this](auto& alternative) { describe(self(), alternative); }, value);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec&, Enum&, const KindSpecs<N>&) {}
  template <class... Ts, std::size_t N>
  void nestedChoice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    self().choice(key, value, names);
  }
  template <class T>
  void list(const KeySpec&, std::vector<T>& items)
  {
    for (T& item : items)
      describe(self(), item);
  }
  template <class T>
  void nested(const KeySpec& key, std::optional<T>& item)
  {
    if (item)
      self().nested(key, *item);
  }
  template <class T>
  void nested(const KeySpec&, T& item)
  {
    describe(self(), item);
  }

protected:
  [[nodiscard]] Self& self() { return static_cast<Self&>(*this); }
};

/// A walk that knows which stage each field counts for.
template <class Self>
class StagedWalk : public Walk<Self>
{
public:
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    within(key, [&] { Walk<Self>::choice(key, value, names); });
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec&, Enum&, const KindSpecs<N>&) {}
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    within(key, [&] { Walk<Self>::list(key, items); });
  }
  template <class T>
  void nested(const KeySpec& key, std::optional<T>& item)
  {
    if (item)
      this->self().nested(key, *item);
  }
  template <class T>
  void nested(const KeySpec& key, T& item)
  {
    within(key, [&] { Walk<Self>::nested(key, item); });
  }

protected:
  [[nodiscard]] Stage stageOf(Stage own) const { return own == Stage::Inherit ? around_ : own; }
  /// Goes into what a key holds, which has its stage where it says none of its own.
  template <class Go>
  void within(const KeySpec& key, Go&& go)
  {
    const Stage outer = std::exchange(around_, stageOf(key.stage));
    go();
    around_ = outer;
  }

private:
  Stage around_ = Stage::Nothing;
};

/// Lets a variant hold its alternative of this index, with the values it starts with.
template <std::size_t I = 0, class... Ts>
void emplaceAt(std::variant<Ts...>& value, std::size_t index)
{
  if constexpr (I < sizeof...(Ts)) {
    if (index == I)
      value.template emplace<I>();
    else
      emplaceAt<I + 1>(value, index);
  }
}

/// Walks over a project by an archive that changes nothing: descriptions are written once, for all archives.
template <class Archive>
void walkOver(Archive& archive, const Project& project)
{
  describe(archive, const_cast<Project&>(project));
}

/// Calls with every list that such an archive, which is made of a visitor, comes by; const where the project is.
template <template <class> class Archive, class Visit>
void forEachBy(Project& project, Visit&& visit)
{
  Archive<std::remove_reference_t<Visit>> archive(visit);
  describe(archive, project);
}
template <template <class> class Archive, class Visit>
void forEachBy(const Project& project, Visit&& visit)
{
  const auto asConst = [&](auto& list) { visit(std::as_const(list)); };
  Archive<decltype(asConst)> archive(asConst);
  walkOver(archive, project);
}

} // namespace kiln
