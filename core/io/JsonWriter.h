// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/JsonId.h"
#include "io/JsonText.h"
#include "model/Walk.h"

namespace kiln
{

[[nodiscard]] inline Json toJson(const Number& number)
{
  if (number.text.empty())
    return number.si;
  return Json{{"si", number.si}, {number.formula ? "formula" : "text", number.text}};
}

[[nodiscard]] inline Json pairsJson(const std::vector<TablePoint>& table)
{
  Json points = Json::array();
  for (const TablePoint& point : table)
    points.push_back(Json::array({toJson(point.at), toJson(point.value)}));
  return points;
}

[[nodiscard]] inline Json toJson(const Property& property)
{
  if (property.table.empty())
    return toJson(static_cast<const Number&>(property));
  return Json{{"table", pairsJson(property.table)}};
}

[[nodiscard]] inline Json toJson(const OwnValue& value)
{
  return std::visit(
      [](const auto& held) {
        using Held = std::decay_t<decltype(held)>;
        if constexpr (std::is_same_v<Held, std::monostate>)
          return Json(nullptr);
        else if constexpr (std::is_same_v<Held, Property>)
          return toJson(held);
        else
          return Json(held);
      },
      value);
}

/// Archive that writes objects as JSON.
class JsonWriter
{
public:
  Json json = Json::object();

  /// A plain value of a result.
  template <class T>
  void value(std::string_view key, T& value)
  {
    set(key, value);
  }
  template <class T>
  void value(std::string_view key, std::optional<T>& value)
  {
    if (value)
      set(key, *value);
  }
  void text(const KeySpec& key, std::string& value) { set(key, value); }
  void formula(const KeySpec& key, std::string& value) { text(key, value); }
  void appearance(const KeySpec& key, std::string& value) { optionalText(key, value); }
  void optionalText(const KeySpec& key, std::string& value)
  {
    if (!value.empty())
      set(key, value);
  }
  void flag(const KeySpec& key, bool& value)
  {
    if (value)
      set(key, true);
  }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (spec.need != Need::May || !value.empty())
      set(spec, value);
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value) { texts(spec.key, value); }
  void texts(const KeySpec& key, std::vector<std::string>& value)
  {
    if (!value.empty())
      set(key, value);
  }
  void changes(const KeySpec& key, std::vector<Change>& value)
  {
    if (value.empty())
      return;
    Json object = Json::object();
    for (const Change& change : value)
      object[change.field] = toJson(change.value);
    set(key, object);
  }
  void number(const NumberSpec& spec, Number& value) { set(spec.key, toJson(value)); }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
  {
    if (value)
      set(spec.key, toJson(*value));
  }
  void property(const NumberSpec& spec, Property& value) { set(spec.key, toJson(value)); }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    if (value)
      set(spec.key, toJson(*value));
  }
  void number3(const NumberSpec& spec, Number3& value)
  {
    if (value != Number3{} || !spec.usually.empty()) // what is usual there may not be zero
      set(spec.key, Json::array({toJson(value.x), toJson(value.y), toJson(value.z)}));
  }
  void outline(const KeySpec& key, std::vector<OutlinePoint>& points)
  {
    Json list = Json::array();
    for (const OutlinePoint& point : points) {
      list.push_back(Json::array({toJson(point.a), toJson(point.b)}));
      if (point.bulge != Number{})
        list.back().push_back(toJson(point.bulge));
    }
    set(key, list);
  }
  void points(const KeySpec& key, std::vector<PlacedPoint>& points)
  {
    if (points.empty())
      return;
    Json list = Json::array();
    for (const PlacedPoint& point : points)
      list.push_back(Json::array({point.place[0], point.place[1], point.place[2], point.value}));
    set(key, list);
  }
  void schedule(const KeySpec& key, std::vector<TablePoint>& points) { set(key, pairsJson(points)); }
  void longText(const KeySpec& key, SharedText& value)
  {
    if (!value.empty())
      set(key, value.text());
  }
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    set(key, names[value.index()].name);
    std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& key, Enum& value, const KindSpecs<N>& names)
  {
    set(key, names[static_cast<std::size_t>(value)].name);
  }
  /// Left out while it is the first kind.
  template <class... Ts, std::size_t N>
  void nestedChoice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    if (value.index() == 0)
      return;
    JsonWriter inner;
    inner.choice("kind", value, names);
    set(key, std::move(inner.json));
  }
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    if (items.empty())
      return;
    Json array = Json::array();
    for (T& item : items) {
      JsonWriter inner;
      describe(inner, item);
      array.push_back(std::move(inner.json));
    }
    set(key, std::move(array));
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
    JsonWriter inner;
    describe(inner, item);
    if (!inner.json.empty())
      set(key, std::move(inner.json));
  }
  void unknown(UnknownKeys& keys)
  {
    for (const auto& [key, value] : keys)
      json[key] = Json::parse(value);
  }

private:
  template <class T>
  void set(std::string_view key, T&& value)
  {
    json[std::string(key)] = std::forward<T>(value);
  }
};

} // namespace kiln
