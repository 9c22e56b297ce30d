// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ProjectDifferences.h"

#include "io/JsonText.h"
#include "io/ProjectFile.h"

namespace kiln
{
namespace
{

/// A value as it is read: the words that were typed, where there are any.
std::string wordsOf(const Json& value)
{
  if (value.is_object() && value.contains("text") && value["text"].is_string() && !value["text"].empty())
    return value["text"].get<std::string>();
  if (value.is_string())
    return value.get<std::string>();
  constexpr std::size_t most = 60;
  const std::string text = value.dump();
  return text.size() <= most ? text : text.substr(0, most) + "…";
}

std::string nameOf(const Json& object)
{
  for (const char* key : {"name", "id"})
    if (object.is_object() && object.contains(key) && object[key].is_string() &&
        !object[key].get<std::string>().empty())
      return object[key].get<std::string>();
  return {};
}

bool hasIds(const Json& list)
{
  return list.is_array() && !list.empty() && list[0].is_object() && list[0].contains("id");
}

bool isNumber(const Json& value) { return value.is_object() && value.contains("si"); }

class Comparison
{
public:
  std::vector<std::string> lines;

  void compare(const Json& here, const Json& there, const std::string& where)
  {
    if (here == there)
      return;
    if (here.is_object() && there.is_object() && !isNumber(here) && !isNumber(there))
      compareObjects(here, there, where);
    else if (hasIds(here) || hasIds(there))
      compareLists(here, there, where);
    else
      lines.push_back(where + ": " + wordsOf(here) + " → " + wordsOf(there));
  }

private:
  static std::string within(const std::string& where, const std::string& key)
  {
    return where.empty() ? key : where + ", " + key;
  }

  void compareObjects(const Json& here, const Json& there, const std::string& where)
  {
    for (const auto& [key, value] : here.items())
      if (there.contains(key))
        compare(value, there[key], within(where, key));
      else
        lines.push_back(within(where, key) + ": only here, " + wordsOf(value));
    for (const auto& [key, value] : there.items())
      if (!here.contains(key))
        lines.push_back(within(where, key) + ": only there, " + wordsOf(value));
  }

  void compareLists(const Json& here, const Json& there, const std::string& where)
  {
    const auto find = [](const Json& list, const Json& id) -> const Json* {
      for (const Json& one : list)
        if (one.is_object() && one.contains("id") && one["id"] == id)
          return &one;
      return nullptr;
    };
    for (const Json& own : here)
      if (const Json* other = find(there, own.value("id", Json())))
        compare(own, *other, within(where, nameOf(own)));
      else
        lines.push_back(within(where, nameOf(own)) + ": only here");
    for (const Json& own : there)
      if (find(here, own.value("id", Json())) == nullptr)
        lines.push_back(within(where, nameOf(own)) + ": only there");
    if (lines.empty())
      lines.push_back(where + ": in another order");
  }
};

} // namespace

std::vector<std::string> differences(const Project& here, const Project& there)
{
  Comparison comparison;
  comparison.compare(Json::parse(writeProject(here)), Json::parse(writeProject(there)), {});
  return std::move(comparison.lines);
}

} // namespace kiln
