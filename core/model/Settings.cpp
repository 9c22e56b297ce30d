// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Settings.h"

#include "base/NearestWord.h"
#include "model/ObjectKinds.h"
#include "model/Parameters.h"

#include <algorithm>

namespace kiln
{
namespace
{

tl::unexpected<Failure> refusal(const Field& field, std::string problem, std::string remedy)
{
  return failure(Failure::Kind::NotReady, field.objectName + ", " + field.label, std::move(problem), std::move(remedy));
}

std::string trimmed(const std::string& text)
{
  constexpr const char* blanks = " \t\n";
  const std::size_t begin = text.find_first_not_of(blanks);
  return begin == std::string::npos ? "" : text.substr(begin, text.find_last_not_of(blanks) - begin + 1);
}

std::vector<std::string> splitAt(const std::string& text, char separator)
{
  std::vector<std::string> pieces;
  std::size_t begin = 0;
  for (std::size_t end = 0; end != std::string::npos; begin = end + 1) {
    end = text.find(separator, begin);
    if (std::string piece = trimmed(text.substr(begin, end - begin)); !piece.empty())
      pieces.push_back(std::move(piece));
    if (end == std::string::npos)
      break;
  }
  return pieces;
}

std::string listed(const std::vector<std::string>& words)
{
  std::string text;
  for (const std::string& word : words)
    text += (text.empty() ? "" : ", ") + word;
  return text;
}

/// "20 °C: 0.2; 500 °C: 0.3 W/(m·K)"
Expected<OwnValue> readTable(const Field& field, const std::string& typed)
{
  const std::string example = "Write temperature: value pairs, as in “20 °C: 0.2; 500 °C: 0.3”.";
  if (!field.mayBeTable())
    return refusal(field, "It cannot be a table.", "Enter one value.");
  Property table;
  for (const std::string& pair : splitAt(typed, ';')) {
    const std::vector<std::string> sides = splitAt(pair, ':');
    if (sides.size() != 2)
      return refusal(field, "“" + pair + "” is no point of a table.", example);
    const auto at = parseQuantity(sides[0], Quantity::Temperature);
    const auto value = parseQuantity(sides[1], field.quantity);
    if (!at || !value)
      return refusal(field, "“" + pair + "”: " + (at ? value : at).error().problem, example);
    if (!table.table.empty() && at->si <= table.table.back().at.si)
      return refusal(field, "The temperatures of the table do not increase at “" + pair + "”.",
                     "Write the points in order.");
    if (const auto wrong = outsideRange(value->si, field.range, field.quantity))
      return refusal(field, "“" + pair + "” " + *wrong + ".", "Enter another value.");
    table.table.push_back({{at->si, sides[0], false}, {value->si, sides[1], false}});
  }
  static_cast<Number&>(table) = {table.table.front().value.si, {}, false};
  return table;
}

Expected<OwnValue> readNumber(const Project& project, const Field& field, const std::string& typed)
{
  if (typed.empty() && field.mayBeMissing())
    return std::monostate{};
  if (typed.find(':') != std::string::npos)
    return readTable(field, typed);
  auto entry = readEntry(project, typed, field.quantity, TemperatureUnit::Celsius, field.varies);
  if (!entry) {
    Failure refused = entry.error();
    refused.object = "field " + field.path;
    return tl::unexpected(refused);
  }
  if (const auto wrong = outsideRange(entry->number.si, field.range, field.quantity))
    return failure(Failure::Kind::NotReady, field.objectName, field.label + " " + *wrong + ".", "Enter another value.");
  return Property{entry->number, {}};
}

Expected<OwnValue> readSwitch(const Field& field, const std::string& typed)
{
  for (const char* word : {"yes", "on", "true", "1"})
    if (typed == word)
      return true;
  for (const char* word : {"no", "off", "false", "0"})
    if (typed == word)
      return false;
  return refusal(field, "“" + typed + "” is neither yes nor no.", "Write yes or no.");
}

Expected<OwnValue> readChoice(const Field& field, const std::string& typed)
{
  std::vector<std::string> names;
  for (const KindSpec& kind : field.choice.kinds) {
    if (kind.isCalled(typed) || kind.label == typed)
      return std::string(kind.name);
    names.emplace_back(kind.name);
  }
  const std::string nearest = nearestWord(typed, names);
  return refusal(field, "“" + typed + "” is not one of its choices.",
                 nearest.empty() ? "Use one of: " + listed(names) + "." : "Did you mean “" + nearest + "”?");
}

Expected<std::string> readName(const Project& project, const Field& field, const std::string& typed)
{
  const ReferenceSpec& spec = *field.reference;
  if (spec.to & (Refers::Face | Refers::Field) || (!spec.others.empty() && typed == spec.others))
    return typed;
  std::vector<std::string> called;
  std::vector<std::string> names;
  forEachObjectList(project, [&](const auto& list) {
    for (const auto& object : list) {
      if (!(kindOf(&object).kind & spec.to))
        continue;
      names.push_back(object.name);
      if (object.id == typed)
        called.assign(1, object.id);
      else if (object.name == typed && (called.empty() || called.front() != typed))
        called.push_back(object.id);
    }
  });
  if (called.size() == 1)
    return called.front();
  if (called.size() > 1)
    return refusal(field, std::to_string(called.size()) + " objects are called “" + typed + "”.",
                   "Name one by its id: " + listed(called) + ".");
  const std::string nearest = nearestWord(typed, names);
  return refusal(field, "There is no " + kindWords(spec.to) + " “" + typed + "”.",
                 nearest.empty() ? "Use one of: " + listed(names) + "." : "Did you mean “" + nearest + "”?");
}

Expected<OwnValue> readReference(const Project& project, const Field& field, const std::string& typed)
{
  if (typed.empty() || typed == "none") {
    if (field.reference->need == Need::May)
      return std::string();
    return refusal(field, "It must name a " + kindWords(field.reference->to) + ".", "Name one.");
  }
  const auto name = readName(project, field, typed);
  return name ? Expected<OwnValue>(*name) : tl::unexpected(name.error());
}

Expected<OwnValue> readReferences(const Project& project, const Field& field, const std::string& typed)
{
  std::vector<std::string> ids;
  if (typed != "none")
    for (const std::string& word : splitAt(typed, ',')) {
      const auto name = readName(project, field, word);
      if (!name)
        return tl::unexpected(name.error());
      ids.push_back(*name);
    }
  return ids;
}

} // namespace

Expected<OwnValue> readSetting(const Project& project, const Field& field, const std::string& typed)
{
  const std::string words = trimmed(typed);
  switch (field.kind) {
  case Field::Kind::Number:
    return readNumber(project, field, words);
  case Field::Kind::Switch:
    return readSwitch(field, words);
  case Field::Kind::Choice:
    return readChoice(field, words);
  case Field::Kind::Reference:
    return readReference(project, field, words);
  case Field::Kind::References:
    return readReferences(project, field, words);
  default:
    return words;
  }
}

std::string settingText(const Project& project, const Field& field, const OwnValue& value, TemperatureUnit unit)
{
  const auto nameOf = [&](const std::string& id) {
    std::string name = id;
    forEachObjectList(project, [&](const auto& list) {
      if (const auto* object = findById(list, id); object != nullptr && kindOf(object).kind & field.reference->to)
        name = object->name;
    });
    return name;
  };
  if (const auto* number = std::get_if<Property>(&value)) {
    if (!number->table.empty())
      return "a table of " + std::to_string(number->table.size()) + " points";
    return number->formula ? number->text : formatQuantity(number->si, field.quantity, unit);
  }
  if (const auto* on = std::get_if<bool>(&value))
    return *on ? "yes" : "no";
  if (const auto* word = std::get_if<std::string>(&value)) {
    for (const KindSpec& kind : field.choice.kinds)
      if (kind.isCalled(*word))
        return std::string(kind.label);
    if (!field.reference)
      return *word;
    const std::string_view nothing = field.reference->nothing;
    return word->empty() ? std::string(nothing.empty() ? "none" : nothing) : nameOf(*word);
  }
  if (const auto* words = std::get_if<std::vector<std::string>>(&value)) {
    std::vector<std::string> names;
    for (const std::string& id : *words)
      names.push_back(nameOf(id));
    return names.empty() ? "none" : listed(names);
  }
  return field.usually.empty() ? "none" : std::string(field.usually);
}

Expected<void> setField(Project& project, const std::string& path, const std::string& typed)
{
  const std::vector<Field> all = settings(project);
  const Field* field = fieldAt(all, path);
  if (field == nullptr) {
    std::vector<std::string> paths;
    for (const Field& one : all)
      paths.push_back(one.path);
    const std::string nearest = nearestWord(path, paths);
    return failure(Failure::Kind::NotReady, "field " + path, "There is no field of this name.",
                   nearest.empty() ? "Write object.key, for example coils.power." : "Did you mean " + nearest + "?");
  }
  const auto value = readSetting(project, *field, typed);
  if (!value)
    return tl::unexpected(value.error());
  field->take(*value);
  const std::vector<FormulaProblem> problems = applyParameters(project);
  return problems.empty() ? Expected<void>{} : tl::unexpected(problems.front().failure);
}

} // namespace kiln
