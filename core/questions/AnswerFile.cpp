// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/AtomicFile.h"
#include "questions/PointStore.h"
#include "questions/QuestionAnswer.h"

#include <nlohmann/json.hpp>

namespace kiln
{
namespace
{

using Json = nlohmann::json;

constexpr int version = 1;

Json jsonOf(const OwnValue& value)
{
  if (const auto* number = std::get_if<Property>(&value)) {
    if (number->table.empty())
      return number->si;
    Json table = Json::array();
    for (const TablePoint& point : number->table)
      table.push_back({point.at.si, point.value.si});
    return {{"table", std::move(table)}};
  }
  if (const auto* on = std::get_if<bool>(&value))
    return *on;
  if (const auto* word = std::get_if<std::string>(&value))
    return *word;
  if (const auto* words = std::get_if<std::vector<std::string>>(&value))
    return *words;
  return {};
}

OwnValue valueOf(const Json& json)
{
  if (json.is_number())
    return plainValue(json.get<double>());
  if (json.is_boolean())
    return json.get<bool>();
  if (json.is_string())
    return json.get<std::string>();
  if (json.is_array())
    return json.get<std::vector<std::string>>();
  if (!json.is_object())
    return {};
  Property property;
  for (const Json& pair : json.at("table"))
    property.table.push_back({{pair.at(0).get<double>(), {}, false}, {pair.at(1).get<double>(), {}, false}});
  if (!property.table.empty())
    property.si = property.table.front().value.si;
  return property;
}

Json jsonOf(const AskedPoint& point)
{
  Json values = Json::array();
  for (const OwnValue& value : point)
    values.push_back(jsonOf(value));
  return values;
}

AskedPoint pointOf(const Json& values)
{
  AskedPoint point;
  for (const Json& value : values)
    point.push_back(valueOf(value));
  return point;
}

template <class T>
Json jsonOf(const std::optional<T>& value)
{
  return value ? Json(*value) : Json();
}

template <class T>
std::optional<T> optionalAt(const Json& json, const char* key)
{
  const Json& found = json.at(key);
  return found.is_null() ? std::nullopt : std::optional(found.get<T>());
}

Json jsonOf(const AskedAxis& axis)
{
  return {{"field", axis.field},
          {"label", axis.label},
          {"quantity", static_cast<int>(axis.quantity)},
          {"values", jsonOf(AskedPoint(axis.values))},
          {"words", axis.words},
          {"range", axis.isRange},
          {"low", axis.low},
          {"high", axis.high},
          {"logarithmic", axis.logarithmic},
          {"whole", axis.whole},
          {"open", axis.isOpen},
          {"set", axis.set},
          {"by", axis.by}};
}

AskedAxis axisOf(const Json& json)
{
  AskedAxis axis;
  axis.field = json.at("field");
  axis.label = json.at("label");
  axis.quantity = static_cast<Quantity>(json.at("quantity").get<int>());
  axis.values = pointOf(json.at("values"));
  axis.words = json.at("words").get<std::vector<std::string>>();
  axis.isRange = json.at("range");
  axis.low = json.at("low");
  axis.high = json.at("high");
  axis.logarithmic = json.at("logarithmic");
  axis.whole = json.at("whole");
  axis.isOpen = json.at("open");
  axis.set = json.at("set");
  axis.by = json.at("by");
  return axis;
}

Json jsonOf(const QuestionAnswer& answer)
{
  Json points = Json::array();
  for (std::size_t i = 0; i < answer.points.size(); ++i)
    points.push_back({{"values", jsonOf(answer.points[i])},
                      {"words", answer.words[i]},
                      {"answer", Json::parse(answerText(answer.answers[i]))}});
  Json axes = Json::array();
  for (const AskedAxis& axis : answer.axes)
    axes.push_back(jsonOf(axis));
  Json slopes = Json::array();
  for (const Sensitivity& one : answer.slopes)
    slopes.push_back({{"watch", one.watch}, {"axis", one.axis}, {"slope", one.slope}, {"perStep", one.perStep}});
  Json spreads = Json::array();
  for (const Spread& one : answer.spreads)
    spreads.push_back({{"watch", one.watch},
                       {"count", one.count},
                       {"mean", one.mean},
                       {"deviation", one.deviation},
                       {"low", one.low},
                       {"middle", one.middle},
                       {"high", one.high},
                       {"chance", jsonOf(one.chance)}});
  return {{"version", version},          {"hash", answer.hash},
          {"axes", std::move(axes)},     {"points", std::move(points)},
          {"summary", answer.summary},   {"value", jsonOf(answer.value)},
          {"watch", answer.watch},       {"best", jsonOf(answer.best)},
          {"slopes", std::move(slopes)}, {"spreads", std::move(spreads)},
          {"complete", answer.complete}};
}

QuestionAnswer answerOf(const Json& json)
{
  QuestionAnswer answer;
  answer.hash = json.at("hash");
  for (const Json& axis : json.at("axes"))
    answer.axes.push_back(axisOf(axis));
  for (const Json& point : json.at("points")) {
    answer.points.push_back(pointOf(point.at("values")));
    answer.words.push_back(point.at("words"));
    answer.answers.push_back(answerFrom(point.at("answer").dump()).value_or(PointAnswer{{}, {}, "It is damaged."}));
  }
  answer.summary = json.at("summary");
  answer.value = optionalAt<double>(json, "value");
  answer.watch = json.at("watch");
  answer.best = optionalAt<std::size_t>(json, "best");
  for (const Json& one : json.at("slopes"))
    answer.slopes.push_back({one.at("watch"), one.at("axis"), one.at("slope"), one.at("perStep")});
  for (const Json& one : json.at("spreads"))
    answer.spreads.push_back({one.at("watch"), one.at("count"), one.at("mean"), one.at("deviation"), one.at("low"),
                              one.at("middle"), one.at("high"), optionalAt<double>(one, "chance")});
  answer.complete = json.at("complete");
  return answer;
}

} // namespace

std::filesystem::path answerFile(const std::filesystem::path& folder, const std::string& questionId)
{
  return folder / (questionId + ".answer.json");
}

Expected<void> saveAnswer(const QuestionAnswer& answer, const std::filesystem::path& file)
{
  return writeAtomically(file, jsonOf(answer).dump(1, ' ', false, Json::error_handler_t::replace));
}

Expected<QuestionAnswer> loadAnswer(const std::filesystem::path& file)
{
  const auto unreadable = [&](const std::string& why) {
    return failure(Failure::Kind::Unreadable, "file " + file.filename().string(), why, "Ask the question again.");
  };
  const auto text = readWhole(file);
  if (!text)
    return unreadable("There is no answer yet.");
  const Json json = Json::parse(*text, nullptr, false);
  try {
    if (json.at("version").get<int>() != version)
      return unreadable("Another version of the program has written it.");
    return answerOf(json);
  } catch (const Json::exception&) {
    return unreadable("It is damaged.");
  }
}

std::string pointText(const AskedPoint& point) { return jsonOf(point).dump(); }

std::optional<AskedPoint> pointFrom(const std::string& text)
{
  const Json json = Json::parse(text, nullptr, false);
  try {
    return json.is_array() ? std::optional(pointOf(json)) : std::nullopt;
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

} // namespace kiln
