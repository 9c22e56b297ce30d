// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Fields.h"

#include "model/Formula.h"
#include "model/ObjectKinds.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

/// Walks a project and reports its numbers, its keys and its unknown keys.
class FieldWalk
{
public:
  std::vector<Field> found;
  std::vector<UnknownKey> unknownFound;

  void text(std::string_view key, std::string&) { keys_.emplace_back(key); }
  void optionalText(std::string_view key, std::string&) { keys_.emplace_back(key); }
  void appearance(std::string_view key, std::string&) { keys_.emplace_back(key); }
  void flag(std::string_view key, bool&) { keys_.emplace_back(key); }
  void texts(std::string_view key, std::vector<std::string>&) { keys_.emplace_back(key); }
  void reference(const ReferenceSpec& spec, std::string&) { keys_.emplace_back(spec.key); }
  void references(const ReferenceSpec& spec, std::vector<std::string>&) { keys_.emplace_back(spec.key); }
  void longText(std::string_view key, SharedText&) { keys_.emplace_back(key); }
  void changes(std::string_view key, std::vector<Change>&) { keys_.emplace_back(key); }

  void number(const NumberSpec& spec, Number& number) { add(spec).number = &number; }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& number) { add(spec).optional = &number; }
  void property(const NumberSpec& spec, Property& property) { add(spec).property = &property; }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& property)
  {
    add(spec).optionalProperty = &property;
  }
  void number3(const NumberSpec& spec, Number3& numbers)
  {
    keys_.emplace_back(spec.key);
    const std::string key(spec.key);
    const std::string label(spec.label);
    addAt(key + ".x", label + " x", spec, &numbers.x);
    addAt(key + ".y", label + " y", spec, &numbers.y);
    addAt(key + ".z", label + " z", spec, &numbers.z);
  }
  void outline(std::string_view key, std::vector<OutlinePoint>& points)
  {
    keys_.emplace_back(key);
    const NumberSpec spec{key, key, Quantity::Length, Range::Any};
    int index = 1;
    for (OutlinePoint& point : points) {
      const std::string at = std::string(key) + "." + std::to_string(index);
      addAt(at + ".a", "Outline point " + std::to_string(index) + ", first", spec, &point.a);
      addAt(at + ".b", "Outline point " + std::to_string(index) + ", second", spec, &point.b);
      addAt(at + ".bulge", "Outline point " + std::to_string(index) + ", bulge", spec, &point.bulge);
      ++index;
    }
  }
  void points(std::string_view key, std::vector<PlacedPoint>&) { keys_.emplace_back(key); }
  void schedule(std::string_view key, std::vector<TablePoint>&) { keys_.emplace_back(key); }
  template <class... Ts, std::size_t N>
  void choice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>&)
  {
    keys_.emplace_back(key);
    std::visit([this](auto& alternative) { describe(*this, alternative); }, value);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view key, Enum&, const std::array<std::string_view, N>&) { keys_.emplace_back(key); }
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    keys_.emplace_back(key);
    const std::string before = prefix_;
    prefix_ += std::string(key) + ".";
    std::vector<std::string> outer = std::exchange(keys_, {});
    choice("kind", value, names);
    keys_ = std::move(outer);
    prefix_ = before;
  }
  template <class T>
  void list(std::string_view key, std::vector<T>& items)
  {
    keys_.emplace_back(key);
    for (T& item : items)
      enter(item);
  }
  template <class T>
  void nested(std::string_view key, std::optional<T>& item)
  {
    keys_.emplace_back(key);
    if (item)
      nested(key, *item);
  }
  template <class T>
  void nested(std::string_view key, T& item)
  {
    keys_.emplace_back(key);
    const std::string before = prefix_;
    prefix_ += std::string(key) + ".";
    std::vector<std::string> outer = std::exchange(keys_, {});
    describe(*this, item);
    keys_ = std::move(outer);
    prefix_ = before;
  }
  void unknown(UnknownKeys& keys)
  {
    for (const auto& [key, json] : keys)
      unknownFound.push_back({objectId_, objectName_, key, nearestWord(key, keys_)});
  }

private:
  template <class T>
  void enter(T& item)
  {
    const std::string before = prefix_;
    std::vector<std::string> outer = std::exchange(keys_, {});
    const std::string outerId = objectId_;
    const std::string outerName = objectName_;
    prefix_ += item.id + ".";
    if constexpr (std::is_base_of_v<Object, T>) {
      objectId_ = item.id;
      objectName_ = objectWords(item);
    } else {
      objectName_ += ", step " + item.id;
    }
    describe(*this, item);
    prefix_ = before;
    objectId_ = outerId;
    objectName_ = outerName;
    keys_ = std::move(outer);
  }
  Field& add(const NumberSpec& spec)
  {
    keys_.emplace_back(spec.key);
    return found.emplace_back(Field{prefix_ + std::string(spec.key), objectId_, objectName_, std::string(spec.label),
                                    spec.quantity, spec.range, spec.varies});
  }
  void addAt(const std::string& key, const std::string& label, const NumberSpec& spec, Number* number)
  {
    found.push_back({prefix_ + key, objectId_, objectName_, label, spec.quantity, spec.range, spec.varies, number});
  }

  std::string prefix_;
  std::string objectId_;
  std::string objectName_ = "project";
  std::vector<std::string> keys_;
};

std::size_t editDistance(const std::string& a, const std::string& b)
{
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), 0U);
  for (std::size_t i = 1; i <= a.size(); ++i) {
    std::size_t diagonal = std::exchange(row[0], i);
    for (std::size_t j = 1; j <= b.size(); ++j) {
      const std::size_t change = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
      diagonal = row[j];
      row[j] = std::min({row[j] + 1, row[j - 1] + 1, change});
    }
  }
  return row.back();
}

} // namespace

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

std::vector<Field> fields(Project& project)
{
  FieldWalk walk;
  describe(walk, project);
  return std::move(walk.found);
}

std::vector<Field> fieldsOf(Project& project, const std::string& objectId)
{
  std::vector<Field> all = fields(project);
  std::erase_if(all, [&](const Field& field) { return field.objectId != objectId; });
  return all;
}

std::vector<UnknownKey> unknownKeys(Project& project)
{
  FieldWalk walk;
  describe(walk, project);
  return std::move(walk.unknownFound);
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

std::string nearestWord(const std::string& word, const std::vector<std::string>& candidates)
{
  constexpr std::size_t mostSlips = 3;
  std::string best;
  std::size_t bestDistance = std::min(mostSlips, word.size() / 2) + 1;
  for (const std::string& candidate : candidates) {
    const std::size_t distance = editDistance(word, candidate);
    if (distance < bestDistance) {
      bestDistance = distance;
      best = candidate;
    }
  }
  return best;
}

Expected<void> setField(Project& project, const std::string& path, const std::string& typed)
{
  const std::vector<Field> all = fields(project);
  const auto at = std::find_if(all.begin(), all.end(), [&](const Field& field) { return field.path == path; });
  if (at == all.end()) {
    std::vector<std::string> paths;
    for (const Field& field : all)
      paths.push_back(field.path);
    const std::string nearest = nearestWord(path, paths);
    return failure(Failure::Kind::NotReady, "field " + path, "There is no field of this name.",
                   nearest.empty() ? "Write object.key, for example coils.power." : "Did you mean " + nearest + "?");
  }
  auto entry = readEntry(project, typed, at->quantity, TemperatureUnit::Celsius, at->varies);
  if (!entry) {
    Failure refused = entry.error();
    refused.object = "field " + path;
    return tl::unexpected(refused);
  }
  if (const auto wrong = outsideRange(entry->number.si, at->range, at->quantity))
    return failure(Failure::Kind::NotReady, at->objectName, at->label + " " + *wrong + ".", "Enter another value.");
  at->assign(entry->number);
  const std::vector<FormulaProblem> problems = applyParameters(project);
  return problems.empty() ? Expected<void>{} : tl::unexpected(problems.front().failure);
}

Expected<Project> projectForCase(const Project& project, const Case& oneCase)
{
  Project changed = project;
  const std::vector<Field> all = fields(changed);
  for (const Change& change : oneCase.changes) {
    const auto at =
        std::find_if(all.begin(), all.end(), [&](const Field& field) { return field.path == change.field; });
    if (at == all.end())
      return failure(Failure::Kind::NotReady, "case " + oneCase.name,
                     "It changes the field " + change.field + ", which does not exist.",
                     "Remove the change or name an existing field.");
    at->assign(change.value);
  }
  applyParameters(changed);
  return changed;
}

} // namespace kiln
