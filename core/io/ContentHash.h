// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Describe.h"

#include <string>
#include <string_view>
#include <variant>

namespace kiln
{

/// Archive that turns everything an object says into one text without gaps of meaning: each value follows its key,
/// texts and lists follow their lengths. Much quicker than writing the file; for hashing only.
class ContentText
{
public:
  std::string bytes;

  void text(std::string_view key, std::string& value) { put(key), put(value); }
  void optionalText(std::string_view key, std::string& value) { text(key, value); }
  void appearance(std::string_view, std::string&) {}
  void longText(std::string_view key, SharedText& value) { put(key), put(value.text()); }
  void flag(std::string_view key, bool& value) { put(key), raw(value); }
  void references(std::string_view key, std::vector<std::string>& values)
  {
    put(key), raw(values.size());
    for (const std::string& value : values)
      put(value);
  }
  void changes(std::string_view key, std::vector<Change>& values)
  {
    put(key), raw(values.size());
    for (const Change& change : values)
      put(change.field), put(change.value);
  }
  void number(const NumberSpec& spec, Number& value) { put(spec.key), put(value); }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
  {
    put(spec.key), raw(value.has_value());
    if (value)
      put(*value);
  }
  void property(const NumberSpec& spec, Property& value) { put(spec.key), put(value); }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    put(spec.key), raw(value.has_value());
    if (value)
      put(*value);
  }
  void number3(const NumberSpec& spec, Number3& value)
  {
    put(spec.key);
    for (const Number* number : {&value.x, &value.y, &value.z})
      put(*number);
  }
  void outline(std::string_view key, std::vector<OutlinePoint>& points)
  {
    put(key), raw(points.size());
    for (const OutlinePoint& point : points)
      put(point.a), put(point.b), put(point.bulge);
  }
  void points(std::string_view key, std::vector<PlacedPoint>& points)
  {
    put(key), raw(points.size());
    for (const PlacedPoint& point : points)
      raw(point.place), raw(point.value);
  }
  void schedule(std::string_view key, std::vector<TablePoint>& points) { put(key), put(points); }
  template <class... Ts, std::size_t N>
  void choice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>&)
  {
    put(key), raw(value.index());
    std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view key, Enum& value, const std::array<std::string_view, N>&) { put(key), raw(value); }
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    choice(key, value, names);
  }
  template <class T>
  void list(std::string_view key, std::vector<T>& items)
  {
    put(key), raw(items.size());
    for (T& item : items)
      describe(*this, item);
  }
  template <class T>
  void nested(std::string_view key, std::optional<T>& item)
  {
    put(key), raw(item.has_value());
    if (item)
      describe(*this, *item);
  }
  template <class T>
  void nested(std::string_view key, T& item)
  {
    put(key);
    describe(*this, item);
  }
  void unknown(UnknownKeys& keys)
  {
    raw(keys.size());
    for (const auto& [key, value] : keys)
      put(key), put(value);
  }

private:
  template <class T>
  requires std::is_trivially_copyable_v<T>
  void raw(const T& value) { bytes.append(reinterpret_cast<const char*>(&value), sizeof value); }
  void put(std::string_view text)
  {
    raw(text.size());
    bytes += text;
  }
  void put(const Number& number)
  {
    raw(number.si == 0 ? 0.0 : number.si); // −0 is 0
    put(number.text);
    raw(number.formula);
  }
  void put(const std::vector<TablePoint>& points)
  {
    raw(points.size());
    for (const TablePoint& point : points)
      put(point.at), put(point.value);
  }
  void put(const Property& property)
  {
    put(static_cast<const Number&>(property));
    put(property.table);
  }
};

} // namespace kiln
