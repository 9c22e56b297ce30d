// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/NearestWord.h"
#include "model/Alternatives.h"
#include "model/Fields.h"
#include "model/ObjectKinds.h"

namespace kiln
{

/// Archive that reports the fields of a project and its unknown keys.
class FieldWalk
{
public:
  /// \param all   fields of every kind; else the numbers alone
  /// \param only  id of the one object whose fields are wanted, or empty
  explicit FieldWalk(bool all, std::string_view only = {}) : all_(all), only_(only) {}

  std::vector<Field> found;
  std::vector<UnknownKey> unknownFound;

  void text(const KeySpec& spec, std::string& value)
  {
    if (Field* field = addWord(spec, Field::Kind::Text))
      field->text = &value;
  }
  void optionalText(const KeySpec& spec, std::string& value) { text(spec, value); }
  void formula(const KeySpec& spec, std::string& value) { text(spec, value); }
  void appearance(const KeySpec& spec, std::string&) { keys_.emplace_back(spec.key); }
  void flag(const KeySpec& spec, bool& value)
  {
    if (Field* field = addWord(spec, Field::Kind::Switch))
      field->flag = &value;
  }
  void texts(const KeySpec& spec, std::vector<std::string>&) { keys_.emplace_back(spec.key); }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (Field* field = addWord({spec.key, spec.label, spec.help, spec.stage}, Field::Kind::Reference))
      field->text = &value, field->reference = spec;
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value)
  {
    if (Field* field = addWord({spec.key, spec.label, spec.help, spec.stage}, Field::Kind::References))
      field->list = &value, field->reference = spec;
  }
  void longText(const KeySpec& spec, SharedText&) { keys_.emplace_back(spec.key); }
  void changes(const KeySpec& spec, std::vector<Change>&) { keys_.emplace_back(spec.key); }
  void points(const KeySpec& spec, std::vector<PlacedPoint>&) { keys_.emplace_back(spec.key); }
  void schedule(const KeySpec& spec, std::vector<TablePoint>&) { keys_.emplace_back(spec.key); }

  void number(const NumberSpec& spec, Number& number) { addNumber(spec).number = &number; }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& number) { addNumber(spec).optional = &number; }
  void property(const NumberSpec& spec, Property& property) { addNumber(spec).property = &property; }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& property)
  {
    addNumber(spec).optionalProperty = &property;
  }
  void number3(const NumberSpec& spec, Number3& numbers);
  void outline(const KeySpec& spec, std::vector<OutlinePoint>& points);

  template <class... Ts, std::size_t N>
  void choice(const KeySpec& spec, std::variant<Ts...>& value, const KindSpecs<N>& kinds)
  {
    addChoice(
        spec, kinds, [&value] { return value.index(); },
        [&value](std::size_t index) { chooseAlternative(value, index); });
    within(spec, [&] { std::visit([this](auto& alternative) { describe(*this, alternative); }, value); });
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& spec, Enum& value, const KindSpecs<N>& kinds)
  {
    addChoice(
        spec, kinds, [&value] { return static_cast<std::size_t>(value); },
        [&value](std::size_t index) { value = static_cast<Enum>(index); });
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(const KeySpec& spec, std::variant<Ts...>& value, const KindSpecs<N>& kinds)
  {
    below(spec, [&] { choice({"kind", spec.label, spec.help}, value, kinds); });
  }
  template <class T>
  void list(const KeySpec& spec, std::vector<T>& items)
  {
    keys_.emplace_back(spec.key);
    within(spec, [&] {
      for (T& item : items)
        enter(item);
    });
  }
  template <class T>
  void nested(const KeySpec& spec, std::optional<T>& item)
  {
    if (item)
      nested(spec, *item);
    else
      keys_.emplace_back(spec.key);
  }
  template <class T>
  void nested(const KeySpec& spec, T& item)
  {
    below(spec, [&] { describe(*this, item); });
  }
  void unknown(UnknownKeys& keys)
  {
    if (keys.empty())
      return;
    const std::vector<std::string> known(keys_.begin() + static_cast<std::ptrdiff_t>(firstKey_), keys_.end());
    for (const auto& [key, json] : keys)
      unknownFound.push_back({objectId_, objectName_, key, nearestWord(key, known)});
  }

private:
  template <class T>
  void enter(T& item)
  {
    if constexpr (std::is_base_of_v<Object, T>)
      if (!only_.empty() && item.id != only_)
        return; // no object lies in another
    const std::string outerId = objectId_;
    const std::string outerName = objectName_;
    if constexpr (std::is_base_of_v<Object, T>) {
      objectId_ = item.id;
      objectName_ = objectWords(item);
    } else {
      objectName_ += ", step " + item.id;
    }
    under(item.id, [&] { describe(*this, item); });
    objectId_ = outerId;
    objectName_ = outerName;
  }
  /// Goes into what a key holds.
  template <class Go>
  void below(const KeySpec& spec, Go&& go)
  {
    keys_.emplace_back(spec.key);
    within(spec, [&] { under(spec.key, go); });
  }
  template <class Go>
  void under(std::string_view name, Go&& go)
  {
    const std::size_t before = prefix_.size();
    (prefix_ += name) += ".";
    const std::size_t outer = std::exchange(firstKey_, keys_.size());
    go();
    keys_.resize(firstKey_);
    firstKey_ = outer;
    prefix_.resize(before);
  }
  template <class Go>
  void within(const KeySpec& spec, Go&& go)
  {
    const Stage outer = std::exchange(around_, stageOf(spec.stage));
    go();
    around_ = outer;
  }
  [[nodiscard]] Stage stageOf(Stage own) const { return own == Stage::Inherit ? around_ : own; }
  Field& addNumber(const NumberSpec& spec);
  void place(Field& field, std::string_view key) const;
  void addPart(const std::string& key, const std::string& label, const NumberSpec& spec, Number& number);
  /// Notes the key. \return the field, nullptr where it is not wanted
  Field* addWord(const KeySpec& spec, Field::Kind kind);
  void addChoice(const KeySpec& spec, std::span<const KindSpec> kinds, std::function<std::size_t()> chosen,
                 std::function<void(std::size_t)> choose);

  bool all_;
  std::string_view only_;
  std::string prefix_, objectId_, objectName_ = "project";
  std::vector<std::string_view> keys_; ///< of what is entered, one after the other
  std::size_t firstKey_ = 0;           ///< of the innermost of them
  Stage around_ = Stage::Nothing;
};

} // namespace kiln
