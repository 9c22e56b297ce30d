// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/NearestWord.h"
#include "io/BoundedJson.h"
#include "io/JsonId.h"
#include "io/JsonText.h"
#include "model/Walk.h"

#include <cmath>
#include <limits>
#include <optional>
#include <set>
#include <string>

namespace kiln
{

/// Archive that reads objects from JSON. Keeps the first failure and does nothing after it.
class JsonReader
{
public:
  JsonReader(const Json& json, const LineMap& lines, std::string file)
      : lines_(lines), file_(std::move(file)), at_(&json)
  {
  }

  std::optional<Failure> failed;

  void text(const KeySpec& key, std::string& value) { readText(key, value, true); }
  void formula(const KeySpec& key, std::string& value) { text(key, value); }
  void appearance(const KeySpec& key, std::string& value) { optionalText(key, value); }
  void optionalText(const KeySpec& key, std::string& value) { readText(key, value, false); }
  void flag(const KeySpec& key, bool& value)
  {
    if (const Json* found = find(key, false)) {
      if (found->is_boolean())
        value = found->get<bool>();
      else
        wrong(key, "must be true or false");
    }
  }
  void reference(const ReferenceSpec& spec, std::string& value) { readText(spec, value, spec.need != Need::May); }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value) { texts(spec.key, value); }
  void texts(const KeySpec& key, std::vector<std::string>& value)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    const auto isText = [](const Json& item) { return item.is_string(); };
    if (!found->is_array() || !std::all_of(found->begin(), found->end(), isText))
      return wrong(key, "must be a list of names");
    value = found->get<std::vector<std::string>>();
  }
  void changes(const KeySpec& key, std::vector<Change>& value)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    if (!found->is_object())
      return wrong(key, "must be an object of field names and values");
    for (const auto& [field, json] : found->items())
      value.push_back({field, readOwn(std::string(key) + "/" + field, json)});
  }
  void number(const NumberSpec& spec, Number& value)
  {
    if (const Json* found = find(spec.key, true))
      readNumber(std::string(spec.key), *found, value, spec.quantity);
  }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
  {
    if (const Json* found = find(spec.key, false))
      readNumber(std::string(spec.key), *found, value.emplace(), spec.quantity);
  }
  void property(const NumberSpec& spec, Property& value)
  {
    if (const Json* found = find(spec.key, true))
      readProperty(std::string(spec.key), *found, value, spec.quantity);
  }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    if (const Json* found = find(spec.key, false))
      readProperty(std::string(spec.key), *found, value.emplace(), spec.quantity);
  }
  void number3(const NumberSpec& spec, Number3& value)
  {
    const Json* found = find(spec.key, false);
    if (found == nullptr)
      return;
    if (!found->is_array() || found->size() != 3)
      return wrong(spec.key, "must be a list of three numbers");
    const std::string key(spec.key);
    readNumber(key + "/0", (*found)[0], value.x, spec.quantity);
    readNumber(key + "/1", (*found)[1], value.y, spec.quantity);
    readNumber(key + "/2", (*found)[2], value.z, spec.quantity);
  }
  void outline(const KeySpec& key, std::vector<OutlinePoint>& points)
  {
    const Json* found = find(key, true);
    if (found == nullptr)
      return;
    if (!found->is_array())
      return wrong(key, "must be a list of points");
    for (const Json& item : *found) {
      const std::string at = std::string(key) + "/" + std::to_string(points.size());
      if (!item.is_array() || item.size() < 2 || item.size() > 3)
        return wrong(at, "must be a pair of numbers, or three for a point with an arc after it");
      OutlinePoint& point = points.emplace_back();
      readNumber(at + "/0", item[0], point.a, Quantity::Length);
      readNumber(at + "/1", item[1], point.b, Quantity::Length);
      if (item.size() == 3)
        readNumber(at + "/2", item[2], point.bulge, Quantity::Plain);
    }
  }
  void points(const KeySpec& key, std::vector<PlacedPoint>& points)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    const auto isRow = [](const Json& row) {
      return row.is_array() && row.size() == 4 &&
             std::all_of(row.begin(), row.end(), [](const Json& number) { return number.is_number(); });
    };
    if (!found->is_array() || !std::all_of(found->begin(), found->end(), isRow))
      return wrong(key, "must be a list of four numbers each: x, y, z and the value, in SI");
    for (const Json& row : *found)
      points.push_back({{row[0].get<double>(), row[1].get<double>(), row[2].get<double>()}, row[3].get<double>()});
  }
  void longText(const KeySpec& key, SharedText& value)
  {
    std::string text;
    readText(key, text, false);
    value = SharedText(std::move(text));
  }
  void schedule(const KeySpec& key, std::vector<TablePoint>& points)
  {
    if (const Json* found = find(key, true))
      readPairs(std::string(key), *found, points, "time, value", Quantity::Time, std::nullopt);
  }
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    static_assert(sizeof...(Ts) == N);
    if (const auto index = readChoice(key, names)) {
      emplaceAt(value, *index);
      std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
    }
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& key, Enum& value, const KindSpecs<N>& names)
  {
    if (const auto index = readChoice(key, names))
      value = static_cast<Enum>(*index);
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    if (!found->is_object())
      return wrong(key, "must be an object");
    const Json* outerAt = std::exchange(at_, found);
    const std::string outerPath = path_;
    path_ += "/" + std::string(key);
    std::set<std::string> outerKnown = std::exchange(known_, {});
    choice("kind", value, names);
    known_ = std::move(outerKnown);
    path_ = outerPath;
    at_ = outerAt;
  }
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    if (!found->is_array())
      return wrong(key, "must be a list");
    for (const Json& item : *found) {
      const std::string at = std::string(key) + "/" + std::to_string(items.size());
      enter(at, item, items.emplace_back());
    }
  }
  template <class T>
  void nested(const KeySpec& key, std::optional<T>& item)
  {
    if (const Json* found = find(key, false))
      enter(std::string(key), *found, item.emplace());
  }
  template <class T>
  void nested(const KeySpec& key, T& item)
  {
    if (const Json* found = find(key, false))
      enter(std::string(key), *found, item);
  }
  void unknown(UnknownKeys& keys)
  {
    if (failed)
      return;
    for (const auto& [key, value] : at_->items())
      if (!known_.contains(key))
        keys.emplace(key, value.dump());
  }

  /// A plain value of a result: a number, a text, a list of them.
  template <class T>
  void value(std::string_view key, T& value)
  {
    const Json* found = find(key, true);
    if (found == nullptr)
      return;
    try {
      value = found->template get<T>();
    } catch (const nlohmann::json::exception&) {
      wrong(key, "is of another kind");
    }
  }
  template <class T>
  void value(std::string_view key, std::optional<T>& value)
  {
    if (const Json* found = find(key, false); found != nullptr && !found->is_null())
      this->value(key, value.emplace());
  }

  void markKnown(const std::string& key) { known_.insert(key); }
  [[nodiscard]] std::string whereIs(const std::string& path) const
  {
    const auto line = lines_.find(path);
    return line == lines_.end() ? file_ : file_ + ", line " + std::to_string(line->second);
  }

private:
  template <class T>
  void enter(const std::string& key, const Json& json, T& item)
  {
    if (failed)
      return;
    if (!json.is_object())
      return wrong(key, "must be an object");
    const Json* outerAt = std::exchange(at_, &json);
    const std::string outerPath = path_;
    path_ += "/" + key;
    std::set<std::string> outerKnown = std::exchange(known_, {});
    describe(*this, item);
    known_ = std::move(outerKnown);
    path_ = outerPath;
    at_ = outerAt;
  }
  /// "part Shell" when the object has a name, else its path.
  [[nodiscard]] std::string objectHere() const
  {
    std::string list = path_.substr(0, path_.rfind('/'));
    list = list.empty() ? "project" : list.substr(list.rfind('/') + 1);
    for (const char* key : {"name", "id"})
      if (at_->contains(key) && (*at_)[key].is_string())
        return list + ": " + (*at_)[key].get<std::string>();
    return path_.empty() ? "project" : path_.substr(1);
  }
  void fail(const std::string& path, std::string problem, std::string remedy)
  {
    if (!failed)
      failed = Failure{Failure::Kind::Unreadable, whereIs(path) + " (" + objectHere() + ")", std::move(problem),
                       std::move(remedy)};
  }
  void wrong(std::string_view key, const std::string& problem)
  {
    fail(path_ + "/" + std::string(key), "The value of “" + std::string(key) + "” " + problem + ".",
         "Correct it; docs/file-format.md lists every key.");
  }
  const Json* find(std::string_view key, bool required)
  {
    if (failed)
      return nullptr;
    known_.emplace(key);
    const auto found = at_->find(std::string(key));
    if (found != at_->end())
      return &*found;
    if (required)
      missing(std::string(key));
    return nullptr;
  }
  void missing(const std::string& key)
  {
    std::vector<std::string> strangers;
    for (const auto& [name, value] : at_->items())
      if (!known_.contains(name))
        strangers.push_back(name);
    const std::string slip = nearestWord(key, strangers);
    if (slip.empty())
      fail(path_, "The key “" + key + "” is missing.", "Add it; docs/file-format.md shows how.");
    else
      fail(path_ + "/" + slip, "The key “" + key + "” is missing, and “" + slip + "” is not a key.",
           "Write “" + key + "” instead of “" + slip + "”.");
  }
  void readText(std::string_view key, std::string& value, bool required)
  {
    if (const Json* found = find(key, required)) {
      if (found->is_string())
        value = found->get<std::string>();
      else
        wrong(key, "must be a text");
    }
  }
  /// \param quantity  by which a text alone is understood; nothing: the number is needed
  void readNumber(const std::string& key, const Json& json, Number& value, std::optional<Quantity> quantity)
  {
    if (failed)
      return;
    if (json.is_number()) {
      value = {json.get<double>(), {}};
      return;
    }
    const bool formula = json.is_object() && json.contains("formula");
    const char* words = formula ? "formula" : "text";
    const bool worded = json.is_object() && json.contains(words) && json[words].is_string();
    const bool complete =
        json.is_object() && json.contains("si") && json["si"].is_number() && (worded || !json.contains(words));
    if (worded && !complete && !json.contains("si"))
      return readWords(key, json[words].get<std::string>(), formula, value, quantity);
    if (!complete)
      return wrong(key,
                   "must be a number in SI, or an object with “si” (a number) and “text” or “formula”, or with one "
                   "of these alone");
    value = {json["si"].get<double>(), json.value(words, std::string()), formula};
  }
  OwnValue readOwn(const std::string& key, const Json& json)
  {
    if (json.is_null())
      return std::monostate{};
    if (json.is_boolean())
      return json.get<bool>();
    if (json.is_string())
      return json.get<std::string>();
    const auto isText = [](const Json& item) { return item.is_string(); };
    if (json.is_array() && std::all_of(json.begin(), json.end(), isText))
      return json.get<std::vector<std::string>>();
    Property number;
    const bool wordsAlone =
        json.is_object() && !json.contains("si") && json.contains("text") && json["text"].is_string();
    if (wordsAlone) // of which kind the field is, is known once all is read
      static_cast<Number&>(number) = {std::numeric_limits<double>::quiet_NaN(), json["text"].get<std::string>(), false};
    else
      readProperty(key, json, number, std::nullopt);
    return number;
  }
  /// What was written by hand: "20 °C" without the kelvin beside it; a formula is evaluated once all is read.
  void readWords(const std::string& key, const std::string& text, bool formula, Number& value,
                 std::optional<Quantity> quantity)
  {
    value = {0, text, formula};
    if (formula)
      return;
    if (!quantity)
      return wrong(key, "needs the number in SI (“si”) beside its text here");
    const auto parsed = parseQuantity(text, *quantity);
    if (!parsed)
      return wrong(key, "says “" + text + "”, which is not understood: " + parsed.error().problem);
    value.si = parsed->si;
  }
  void readProperty(const std::string& key, const Json& json, Property& value, std::optional<Quantity> quantity)
  {
    if (!json.is_object() || !json.contains("table"))
      return readNumber(key, json, value, quantity);
    readPairs(key + "/table", json["table"], value.table, "temperature, value", Quantity::Temperature, quantity);
    if (!failed)
      value.si = value.table.front().value.si;
  }
  void readPairs(const std::string& key, const Json& table, std::vector<TablePoint>& points, const std::string& pair,
                 std::optional<Quantity> atQuantity, std::optional<Quantity> valueQuantity)
  {
    const auto isPair = [](const Json& point) { return point.is_array() && point.size() == 2; };
    if (!table.is_array() || table.empty() || !std::all_of(table.begin(), table.end(), isPair))
      return wrong(key, "must be a list of pairs: " + pair);
    for (const Json& point : table) {
      const std::string at = key + "/" + std::to_string(points.size());
      TablePoint& added = points.emplace_back();
      readNumber(at + "/0", point[0], added.at, atQuantity);
      readNumber(at + "/1", point[1], added.value, valueQuantity);
    }
  }
  template <std::size_t N>
  std::optional<std::size_t> readChoice(std::string_view key, const KindSpecs<N>& names)
  {
    const Json* found = find(key, true);
    if (found == nullptr)
      return std::nullopt;
    const std::string word = found->is_string() ? found->get<std::string>() : found->dump();
    for (std::size_t i = 0; i < N; ++i)
      if (names[i].isCalled(word))
        return i;
    std::vector<std::string> known;
    std::string all;
    for (const KindSpec& kind : names) {
      known.emplace_back(kind.name);
      all += (all.empty() ? "" : ", ") + known.back();
    }
    const std::string nearest = nearestWord(word, known);
    fail(path_ + "/" + std::string(key), "“" + word + "” is not a " + std::string(key) + " known here.",
         nearest.empty() ? "Use one of: " + all + "." : "Did you mean “" + nearest + "”?");
    return std::nullopt;
  }

  const LineMap& lines_;
  std::string file_;
  const Json* at_;
  std::string path_;
  std::set<std::string> known_;
};

/// A reader of what the program itself has written: where it lies in a file is no matter.
class RecordReader : public JsonReader
{
public:
  explicit RecordReader(const Json& json) : JsonReader(json, noLines(), "record") {}

  [[nodiscard]] bool failed() const { return JsonReader::failed.has_value(); }

private:
  static const LineMap& noLines()
  {
    static const LineMap none;
    return none;
  }
};

} // namespace kiln
