// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Fields.h"

#include "model/FieldWalk.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

void FieldWalk::number3(const NumberSpec& spec, Number3& numbers)
{
  keys_.emplace_back(spec.key);
  const std::string key(spec.key);
  const std::string label(spec.label);
  addPart(key + ".x", label + " x", spec, numbers.x);
  addPart(key + ".y", label + " y", spec, numbers.y);
  addPart(key + ".z", label + " z", spec, numbers.z);
}

void FieldWalk::outline(const KeySpec& spec, std::vector<OutlinePoint>& points)
{
  keys_.emplace_back(spec.key);
  const NumberSpec length{spec.key, spec.label, spec.help, Quantity::Length, spec.stage};
  int index = 1;
  for (OutlinePoint& point : points) {
    const std::string at = std::string(spec.key) + "." + std::to_string(index);
    addPart(at + ".a", "Outline point " + std::to_string(index) + ", first", length, point.a);
    addPart(at + ".b", "Outline point " + std::to_string(index) + ", second", length, point.b);
    addPart(at + ".bulge", "Outline point " + std::to_string(index) + ", bulge", length, point.bulge);
    ++index;
  }
}

Field& FieldWalk::addNumber(const NumberSpec& spec)
{
  keys_.emplace_back(spec.key);
  Field& field = found.emplace_back();
  place(field, spec.key);
  field.label = spec.label;
  field.key = spec.key;
  field.help = spec.help;
  field.usually = spec.usually;
  field.stage = stageOf(spec.stage);
  field.quantity = spec.quantity;
  field.range = spec.range;
  field.varies = spec.varies;
  return field;
}

void FieldWalk::addPart(const std::string& key, const std::string& label, const NumberSpec& spec, Number& number)
{
  Field& field = addNumber(spec);
  keys_.pop_back();
  field.path = prefix_ + key;
  field.label = label;
  field.number = &number;
}

void FieldWalk::place(Field& field, std::string_view key) const
{
  field.path.reserve(prefix_.size() + key.size());
  (field.path = prefix_) += key;
  field.objectId = objectId_;
  field.objectName = objectName_;
}

Field* FieldWalk::addWord(const KeySpec& spec, Field::Kind kind)
{
  keys_.emplace_back(spec.key);
  if (!all_ || spec.label.empty())
    return nullptr;
  Field& field = found.emplace_back();
  place(field, spec.key);
  field.label = spec.label;
  field.kind = kind;
  field.key = spec.key;
  field.help = spec.help;
  field.stage = stageOf(spec.stage);
  return &field;
}

void FieldWalk::addChoice(const KeySpec& spec, std::span<const KindSpec> kinds, std::function<std::size_t()> chosen,
                          std::function<void(std::size_t)> choose)
{
  if (Field* field = addWord(spec, Field::Kind::Choice))
    field->choice = {kinds, std::move(chosen), std::move(choose)};
}

const Number* Field::value() const
{
  if (number != nullptr)
    return number;
  if (property != nullptr)
    return property;
  if (optional != nullptr)
    return optional->has_value() ? &optional->value() : nullptr;
  return optionalProperty->has_value() ? &optionalProperty->value() : nullptr;
}

Number* Field::value() { return const_cast<Number*>(std::as_const(*this).value()); }

const std::vector<TablePoint>* Field::table() const
{
  const Property* own = property != nullptr                                            ? property
                        : optionalProperty != nullptr && optionalProperty->has_value() ? &optionalProperty->value()
                                                                                       : nullptr;
  return own != nullptr && !own->table.empty() ? &own->table : nullptr;
}

void Field::assign(Number value) const
{
  if (number != nullptr)
    *number = std::move(value);
  else if (optional != nullptr)
    *optional = std::move(value);
  else if (property != nullptr)
    *property = Property{std::move(value), {}};
  else
    *optionalProperty = Property{std::move(value), {}};
}

void Field::assignTable(std::vector<TablePoint> points) const
{
  Property made;
  if (!points.empty())
    made.si = points.front().value.si;
  made.table = std::move(points);
  if (property != nullptr)
    *property = std::move(made);
  else if (optionalProperty != nullptr)
    *optionalProperty = std::move(made);
}

void Field::clear() const
{
  if (optional != nullptr)
    optional->reset();
  if (optionalProperty != nullptr)
    optionalProperty->reset();
}

OwnValue Field::held() const
{
  switch (kind) {
  case Kind::Number:
    if (value() == nullptr)
      return std::monostate{};
    return Property{*value(), table() != nullptr ? *table() : std::vector<TablePoint>{}};
  case Kind::Switch:
    return *flag;
  case Kind::Choice:
    return std::string(choice.kinds[choice.chosen()].name);
  case Kind::References:
    return *list;
  default:
    return *text;
  }
}

bool Field::take(const OwnValue& value) const
{
  if (kind == Kind::Number && std::holds_alternative<std::monostate>(value) && mayBeMissing()) {
    clear();
    return true;
  }
  if (const auto* number = std::get_if<Property>(&value); number != nullptr && kind == Kind::Number) {
    if (!number->table.empty() && !mayBeTable())
      return false;
    if (number->table.empty())
      assign(*number);
    else
      assignTable(number->table);
    return true;
  }
  if (const auto* on = std::get_if<bool>(&value); on != nullptr && kind == Kind::Switch) {
    *flag = *on;
    return true;
  }
  if (const auto* names = std::get_if<std::vector<std::string>>(&value); names != nullptr && kind == Kind::References) {
    *list = *names;
    return true;
  }
  const auto* word = std::get_if<std::string>(&value);
  if (word == nullptr)
    return false;
  if (kind == Kind::Text || kind == Kind::Reference) {
    *text = *word;
    return true;
  }
  if (kind != Kind::Choice)
    return false;
  const auto at =
      std::find_if(choice.kinds.begin(), choice.kinds.end(), [&](const KindSpec& one) { return one.isCalled(*word); });
  if (at == choice.kinds.end())
    return false;
  choice.choose(static_cast<std::size_t>(at - choice.kinds.begin()));
  return true;
}

namespace
{

WalkedFields walked(Project& project, bool all)
{
  FieldWalk walk(all);
  constexpr std::size_t usual = 512; // a field is large: growing from one costs as much as the walk
  walk.found.reserve(usual + 32 * project.cases.size());
  describe(walk, project);
  return {std::move(walk.found), std::move(walk.unknownFound)};
}

std::vector<Field> ofObject(Project& project, bool all, const std::string& objectId)
{
  FieldWalk walk(all, objectId);
  describe(walk, project);
  std::erase_if(walk.found, [&](const Field& field) { return field.objectId != objectId; });
  return std::move(walk.found);
}

} // namespace

std::vector<Field> fields(Project& project) { return walked(project, false).fields; }

WalkedFields fieldsAndUnknown(Project& project) { return walked(project, false); }

std::vector<Field> settings(Project& project) { return walked(project, true).fields; }

std::vector<Field> fieldsOf(Project& project, const std::string& objectId)
{
  return ofObject(project, false, objectId);
}

std::vector<Field> settingsOf(Project& project, const std::string& objectId)
{
  return ofObject(project, true, objectId);
}

const Field* fieldAt(const std::vector<Field>& all, const std::string& path)
{
  const auto at = std::find_if(all.begin(), all.end(), [&](const Field& field) { return field.path == path; });
  return at != all.end() ? &*at : nullptr;
}

std::optional<std::string> outsideRange(double si, Range range, Quantity quantity)
{
  const std::string shown = formatQuantity(si, quantity);
  if (!std::isfinite(si))
    return "is not a finite number";
  if (quantity == Quantity::Temperature && si < 0)
    return "is below absolute zero";
  constexpr double farthest = 1e5; // m: the geometry kernel does not come back from much more
  if (quantity == Quantity::Length && std::abs(si) > farthest)
    return "is " + shown + "; no part is farther than 100 km";
  if (range == Range::Positive && si <= 0)
    return "is " + shown + "; it must be greater than zero";
  if (range == Range::NonNegative && si < 0)
    return "is " + shown + "; it must not be negative";
  if (range == Range::Count && (si < 1 || si > 1000 || si != std::round(si)))
    return "is " + shown + "; it must be a whole number from 1 to 1000";
  if (range == Range::Rays && (si < 10 || si > 1e6 || si != std::round(si)))
    return "is " + shown + "; it must be a whole number from 10 to a million";
  if (range == Range::Fraction && (si <= 0 || si > 1))
    return "is " + shown + "; it must be above 0 and at most 1";
  if (range == Range::Share && (si < 0 || si > 1))
    return "is " + shown + "; it must lie between 0 and 1";
  return std::nullopt;
}

} // namespace kiln
