// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ProjectFile.h"

#include "model/Formula.h"

#include "io/AtomicFile.h"
#include "io/BoundedJson.h"
#include "io/JsonText.h"
#include "model/Fields.h"
#include "model/Walk.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

constexpr std::string_view formatName = "usual-kiln project";

Json toJson(const Number& number)
{
  if (number.text.empty())
    return number.si;
  return Json{{"si", number.si}, {number.formula ? "formula" : "text", number.text}};
}

Json pairsJson(const std::vector<TablePoint>& table)
{
  Json points = Json::array();
  for (const TablePoint& point : table)
    points.push_back(Json::array({toJson(point.at), toJson(point.value)}));
  return points;
}

Json toJson(const Property& property)
{
  if (property.table.empty())
    return toJson(static_cast<const Number&>(property));
  return Json{{"table", pairsJson(property.table)}};
}

/// Archive that writes objects as JSON.
class JsonWriter
{
public:
  Json json = Json::object();

  void text(std::string_view key, std::string& value) { set(key, value); }
  void appearance(std::string_view key, std::string& value) { optionalText(key, value); }
  void optionalText(std::string_view key, std::string& value)
  {
    if (!value.empty())
      set(key, value);
  }
  void flag(std::string_view key, bool& value)
  {
    if (value)
      set(key, true);
  }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (spec.need != ReferenceSpec::Need::May || !value.empty())
      set(spec, value);
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value) { texts(spec.key, value); }
  void texts(std::string_view key, std::vector<std::string>& value)
  {
    if (!value.empty())
      set(key, value);
  }
  void changes(std::string_view key, std::vector<Change>& value)
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
    if (value != Number3{})
      set(spec.key, Json::array({toJson(value.x), toJson(value.y), toJson(value.z)}));
  }
  void outline(std::string_view key, std::vector<OutlinePoint>& points)
  {
    Json list = Json::array();
    for (const OutlinePoint& point : points) {
      list.push_back(Json::array({toJson(point.a), toJson(point.b)}));
      if (point.bulge != Number{})
        list.back().push_back(toJson(point.bulge));
    }
    set(key, list);
  }
  void points(std::string_view key, std::vector<PlacedPoint>& points)
  {
    if (points.empty())
      return;
    Json list = Json::array();
    for (const PlacedPoint& point : points)
      list.push_back(Json::array({point.place[0], point.place[1], point.place[2], point.value}));
    set(key, list);
  }
  void schedule(std::string_view key, std::vector<TablePoint>& points) { set(key, pairsJson(points)); }
  void longText(std::string_view key, SharedText& value)
  {
    if (!value.empty())
      set(key, value.text());
  }
  template <class... Ts, std::size_t N>
  void choice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    set(key, names[value.index()]);
    std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view key, Enum& value, const std::array<std::string_view, N>& names)
  {
    set(key, names[static_cast<std::size_t>(value)]);
  }
  /// Left out while it is the first kind.
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    if (value.index() == 0)
      return;
    JsonWriter inner;
    inner.choice("kind", value, names);
    set(key, std::move(inner.json));
  }
  template <class T>
  void list(std::string_view key, std::vector<T>& items)
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
  void nested(std::string_view key, std::optional<T>& item)
  {
    if (item)
      nested(key, *item);
  }
  template <class T>
  void nested(std::string_view key, T& item)
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

/// Archive that reads objects from JSON. Keeps the first failure and does nothing after it.
class JsonReader
{
public:
  JsonReader(const Json& json, const LineMap& lines, std::string file)
      : lines_(lines), file_(std::move(file)), at_(&json)
  {
  }

  std::optional<Failure> failed;

  void text(std::string_view key, std::string& value) { readText(key, value, true); }
  void appearance(std::string_view key, std::string& value) { optionalText(key, value); }
  void optionalText(std::string_view key, std::string& value) { readText(key, value, false); }
  void flag(std::string_view key, bool& value)
  {
    if (const Json* found = find(key, false)) {
      if (found->is_boolean())
        value = found->get<bool>();
      else
        wrong(key, "must be true or false");
    }
  }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    readText(spec, value, spec.need != ReferenceSpec::Need::May);
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value) { texts(spec.key, value); }
  void texts(std::string_view key, std::vector<std::string>& value)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    const auto isText = [](const Json& item) { return item.is_string(); };
    if (!found->is_array() || !std::all_of(found->begin(), found->end(), isText))
      return wrong(key, "must be a list of names");
    value = found->get<std::vector<std::string>>();
  }
  void changes(std::string_view key, std::vector<Change>& value)
  {
    const Json* found = find(key, false);
    if (found == nullptr)
      return;
    if (!found->is_object())
      return wrong(key, "must be an object of field names and values");
    for (const auto& [field, json] : found->items()) {
      Change change{field, {}};
      const bool wordsAlone =
          json.is_object() && !json.contains("si") && json.contains("text") && json["text"].is_string();
      if (wordsAlone) // of which kind the field is, is known once all is read
        change.value = {std::numeric_limits<double>::quiet_NaN(), json["text"].get<std::string>(), false};
      else
        readNumber(std::string(key) + "/" + field, json, change.value, std::nullopt);
      value.push_back(std::move(change));
    }
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
  void outline(std::string_view key, std::vector<OutlinePoint>& points)
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
  void points(std::string_view key, std::vector<PlacedPoint>& points)
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
  void longText(std::string_view key, SharedText& value)
  {
    std::string text;
    readText(key, text, false);
    value = SharedText(std::move(text));
  }
  void schedule(std::string_view key, std::vector<TablePoint>& points)
  {
    if (const Json* found = find(key, true))
      readPairs(std::string(key), *found, points, "time, value", Quantity::Time, std::nullopt);
  }
  template <class... Ts, std::size_t N>
  void choice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    static_assert(sizeof...(Ts) == N);
    if (const auto index = readChoice(key, names)) {
      emplaceAt(value, *index);
      std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
    }
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view key, Enum& value, const std::array<std::string_view, N>& names)
  {
    if (const auto index = readChoice(key, names))
      value = static_cast<Enum>(*index);
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
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
  void list(std::string_view key, std::vector<T>& items)
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
  void nested(std::string_view key, std::optional<T>& item)
  {
    if (const Json* found = find(key, false))
      enter(std::string(key), *found, item.emplace());
  }
  template <class T>
  void nested(std::string_view key, T& item)
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
  void readProperty(const std::string& key, const Json& json, Property& value, Quantity quantity)
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
  std::optional<std::size_t> readChoice(std::string_view key, const std::array<std::string_view, N>& names)
  {
    const Json* found = find(key, true);
    if (found == nullptr)
      return std::nullopt;
    const std::string word = found->is_string() ? found->get<std::string>() : found->dump();
    for (std::size_t i = 0; i < N; ++i)
      if (names[i] == word)
        return i;
    const std::string nearest = nearestWord(word, {names.begin(), names.end()});
    std::string all;
    for (const std::string_view name : names)
      all += (all.empty() ? "" : ", ") + std::string(name);
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

template <class T>
std::optional<Failure> doubledId(const std::vector<T>& items, std::string_view list, std::set<std::string>& seen,
                                 const JsonReader& reader)
{
  for (std::size_t i = 0; i < items.size(); ++i)
    if (!seen.insert(items[i].id).second || items[i].id.empty())
      return Failure{Failure::Kind::Unreadable,
                     reader.whereIs("/" + std::string(list) + "/" + std::to_string(i)) + " (" + std::string(list) +
                         ": " + items[i].name + ")",
                     items[i].id.empty() ? "Its id is empty." : "The id “" + items[i].id + "” is used twice.",
                     "Give every object an id of its own."};
  return std::nullopt;
}

std::optional<Failure> doubledId(const Project& p, const JsonReader& reader)
{
  std::set<std::string> seen;
  const auto check = [&](const auto& items, std::string_view list) { return doubledId(items, list, seen, reader); };
  for (auto found :
       {check(p.parameters, "parameters"), check(p.groups, "groups"), check(p.materials, "materials"),
        check(p.finishes, "finishes"), check(p.parts, "parts"), check(p.surfaces, "surfaces"),
        check(p.sources, "sources"), check(p.boundaries, "boundaries"), check(p.contacts, "contacts"),
        check(p.enclosures, "enclosures"), check(p.nodes, "nodes"), check(p.links, "links"), check(p.cases, "cases"),
        check(p.watches, "watches"), check(p.files, "files"), check(p.lines, "lines")})
    if (found)
      return found;
  return std::nullopt;
}

std::optional<Failure> checkHeader(const Json& json, const std::string& file)
{
  const auto unreadable = [&](std::string problem, std::string remedy) {
    return Failure{Failure::Kind::Unreadable, file, std::move(problem), std::move(remedy)};
  };
  if (!json.is_object() || json.value("format", Json()) != Json(formatName))
    return unreadable("It is not a project of Usual Kiln (no format “" + std::string(formatName) + "”).",
                      "Open a *.kiln file.");
  if (!json.contains("version") || !json["version"].is_number_integer())
    return unreadable("It has no version number.", "Add \"version\": 1.");
  const int version = json["version"].get<int>();
  if (version > projectFileVersion)
    return unreadable("It was written by a newer program (file version " + std::to_string(version) +
                          "; this one reads up to " + std::to_string(projectFileVersion) + ").",
                      "Open it with a newer Usual Kiln.");
  return std::nullopt;
}

} // namespace

namespace
{

/// Own values of cases and rules that were written in words alone.
std::optional<Failure> readChangedWords(Project& project, const std::string& file)
{
  std::vector<std::vector<Change>*> lists;
  for (Case& one : project.cases) {
    lists.push_back(&one.changes);
    if (one.run)
      for (RunRule& rule : one.run->rules)
        lists.push_back(&rule.set);
  }
  std::vector<Field> all;
  for (std::vector<Change>* list : lists)
    for (Change& change : *list) {
      if (!std::isnan(change.value.si) || change.value.text.empty())
        continue;
      if (all.empty())
        all = fields(project);
      const auto field = std::find_if(all.begin(), all.end(), [&](const Field& f) { return f.path == change.field; });
      if (field == all.end())
        return Failure{Failure::Kind::Unreadable, file, "The changed field “" + change.field + "” does not exist.",
                       "Correct its name."};
      const auto parsed = parseQuantity(change.value.text, field->quantity);
      if (!parsed)
        return Failure{Failure::Kind::Unreadable, file, change.field + ": " + parsed.error().problem,
                       parsed.error().remedy};
      change.value.si = parsed->si;
    }
  return std::nullopt;
}

} // namespace

Expected<Project> readProject(std::string_view text, const std::string& shownName)
{
  const std::string file = "file " + shownName;
  const Expected<Json> json = parseJson(text, file);
  if (!json)
    return tl::unexpected(json.error());
  if (auto bad = checkHeader(*json, file))
    return tl::unexpected(*bad);
  const LineMap lines = linesOf(text);
  JsonReader reader(*json, lines, file);
  reader.markKnown("format");
  reader.markKnown("version");
  Project project;
  describe(reader, project);
  if (reader.failed)
    return tl::unexpected(*reader.failed);
  if (auto doubled = doubledId(project, reader))
    return tl::unexpected(*doubled);
  if (auto unread = readChangedWords(project, file))
    return tl::unexpected(*unread);
  return project;
}

Expected<Project> loadProject(const std::filesystem::path& file)
{
  const Expected<std::string> text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  Expected<Project> project = readProject(*text, file.filename().string());
  if (project)
    (void)applyParameters(*project); // formulas count, not the values stored beside them; readiness tells what fails
  return project;
}

std::string writeProject(const Project& project)
{
  Project copy = project;
  JsonWriter writer;
  writer.json["format"] = formatName;
  writer.json["version"] = projectFileVersion;
  describe(writer, copy);
  return prettyJson(writer.json);
}

Expected<void> saveProject(const Project& project, const std::filesystem::path& file)
{
  const bool links =
      std::any_of(project.files.begin(), project.files.end(), [](const auto& one) { return one.linked; });
  if (!links)
    return writeAtomically(file, writeProject(project), Links::Follow); // the user's own file, wherever it is kept
  Project without = project;                                            // shapes of linked files stay in those files
  for (GeometryFile& one : without.files)
    for (TakenBody& body : one.bodies)
      if (one.linked)
        body.shape = {};
  return writeAtomically(file, writeProject(without), Links::Follow);
}

} // namespace kiln
