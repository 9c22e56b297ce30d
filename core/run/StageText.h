// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Walk.h"

#include <set>
#include <string>

namespace kiln
{

/// Archive that turns everything that counts up to a stage into one text without gaps of meaning: each value follows
/// its key, texts and lists follow their lengths. Much quicker than writing the file; for hashing only.
///
/// Fields and objects count as the schema says; what is only there to be used (a material, a surface) counts where
/// something that counts names it. \ref writeStage finds that out.
class StageText : public StagedWalk<StageText>
{
public:
  /// \param used  ids of objects that something names
  StageText(const Project& project, Stage upTo, std::set<std::string> used)
      : project_(project), upTo_(upTo), used_(std::move(used)), found_(used_)
  {
  }

  std::string bytes;

  /// What is used, with what has been met so far.
  [[nodiscard]] const std::set<std::string>& found() const { return found_; }
  [[nodiscard]] const std::set<std::string>& used() const { return used_; }

  void text(const KeySpec& key, std::string& value)
  {
    if (counts(key.stage))
      put(key.key), put(value);
  }
  void optionalText(const KeySpec& key, std::string& value) { text(key, value); }
  void longText(const KeySpec& key, SharedText& value)
  {
    if (counts(key.stage))
      put(key.key), put(value.text());
  }
  void texts(const KeySpec& key, std::vector<std::string>& values)
  {
    if (counts(key.stage))
      putAll(key.key, values);
  }
  void flag(const KeySpec& key, bool& value)
  {
    if (counts(key.stage))
      put(key.key), raw(value);
  }
  void reference(const ReferenceSpec& spec, std::string& value);
  void references(const ReferenceSpec& spec, std::vector<std::string>& values);
  void changes(const KeySpec& key, std::vector<Change>& values);
  void number(const NumberSpec& spec, Number& value)
  {
    if (counts(spec.stage))
      put(spec.key), put(value, spec.varies);
  }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value);
  void property(const NumberSpec& spec, Property& value)
  {
    if (counts(spec.stage))
      put(spec.key), put(value, spec.varies);
  }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    if (counts(spec.stage) && value)
      put(spec.key), put(*value, spec.varies);
  }
  void number3(const NumberSpec& spec, Number3& value);
  void outline(const KeySpec& key, std::vector<OutlinePoint>& points);
  void points(const KeySpec& key, std::vector<PlacedPoint>& points);
  void schedule(const KeySpec& key, std::vector<TablePoint>& points);

  template <class... Ts, std::size_t N>
  void choice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    if (counts(key.stage))
      put(key.key), put(names[value.index()].name);
    within(key, [&] { Walk::choice(key, value, names); });
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& key, Enum& value, const KindSpecs<N>& names)
  {
    if (counts(key.stage))
      put(key.key), put(names[static_cast<std::size_t>(value)].name);
  }
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    within(key, [&] {
      for (T& item : items)
        enter(key, item);
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
    within(key, [&] { enter(key, item); });
  }

private:
  [[nodiscard]] bool counts(Stage own) const;
  /// What counts of an entry, after its key and length; nothing where nothing counts.
  template <class T>
  void enter(const KeySpec& key, T& item)
  {
    const bool outer = inUse_;
    if constexpr (std::is_base_of_v<Object, T>) {
      enterObject(item.id);
      inParameter_ = std::is_same_v<Parameter, T>;
    }
    std::string before = std::exchange(bytes, {});
    describe(*this, item);
    std::swap(before, bytes);
    if (!before.empty())
      put(key.key), put(before);
    inUse_ = outer;
  }
  void enterObject(const std::string& id);
  template <class T>
  requires std::is_trivially_copyable_v<T>
  void raw(const T& value) { bytes.append(reinterpret_cast<const char*>(&value), sizeof value); }
  void put(std::string_view text)
  {
    raw(text.size());
    bytes += text;
  }
  void putAll(std::string_view key, const std::vector<std::string>& values);
  void put(const Number& number, bool inPlace = false);
  void put(const Property& property, bool inPlace);
  void put(const std::vector<TablePoint>& points);
  void putOwn(const OwnValue& value);

  const Project& project_;
  Stage upTo_;
  std::set<std::string> used_, found_;
  std::string object_; ///< id
  bool inUse_ = true;  ///< the object that is being described
  bool inParameter_ = false;
};

/// Everything of a project that counts up to a stage.
[[nodiscard]] std::string writeStage(const Project& project, Stage upTo);

} // namespace kiln
