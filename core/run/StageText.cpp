// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/StageText.h"

#include "model/Edit.h"
#include "model/Formula.h"
#include "model/TimeSeries.h"

namespace kiln
{

bool StageText::counts(Stage own) const
{
  const Stage stage = stageOf(own);
  return inUse_ && (stage == Stage::AsUsed || stage <= upTo_);
}

/// An object that is there to be used counts where it is.
void StageText::enterObject(const std::string& id)
{
  object_ = id;
  inUse_ = stageOf(Stage::Inherit) != Stage::AsUsed || used_.contains(id);
}

void StageText::reference(const ReferenceSpec& spec, std::string& value)
{
  if (!counts(spec.stage))
    return;
  put(spec.key), put(value);
  if (!(spec.to & (Refers::Face | Refers::Field)))
    found_.insert(value);
}

void StageText::references(const ReferenceSpec& spec, std::vector<std::string>& values)
{
  if (!counts(spec.stage))
    return;
  const std::vector<std::string> named = spec.to & Refers::Group ? expandGroups(project_, values) : values;
  putAll(spec.key, named);
  if (!(spec.to & (Refers::Face | Refers::Field)))
    found_.insert(named.begin(), named.end());
}

void StageText::changes(const KeySpec& key, std::vector<Change>& values)
{
  if (!counts(key.stage))
    return;
  put(key.key), raw(values.size());
  for (const Change& change : values)
    put(change.field), putOwn(change.value);
  for (const Change& change : values) { // what they may name counts, too
    if (const auto* word = std::get_if<std::string>(&change.value))
      found_.insert(*word);
    if (const auto* words = std::get_if<std::vector<std::string>>(&change.value))
      found_.insert(words->begin(), words->end());
  }
}

void StageText::putOwn(const OwnValue& value)
{
  raw(value.index());
  if (const auto* number = std::get_if<Property>(&value))
    put(*number, true);
  else if (const auto* on = std::get_if<bool>(&value))
    raw(*on);
  else if (const auto* word = std::get_if<std::string>(&value))
    put(*word);
  else if (const auto* words = std::get_if<std::vector<std::string>>(&value))
    putAll("list", *words);
}

void StageText::optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
{
  if (!value)
    return;
  if (spec.usesItself && stageOf(spec.stage) <= upTo_)
    found_.insert(object_);
  if (counts(spec.stage))
    put(spec.key), put(*value, spec.varies);
}

void StageText::number3(const NumberSpec& spec, Number3& value)
{
  if (!counts(spec.stage))
    return;
  put(spec.key);
  for (const Number* number : {&value.x, &value.y, &value.z})
    put(*number);
}

void StageText::outline(const KeySpec& key, std::vector<OutlinePoint>& points)
{
  if (!counts(key.stage))
    return;
  put(key.key), raw(points.size());
  for (const OutlinePoint& point : points)
    put(point.a), put(point.b), put(point.bulge);
}

void StageText::points(const KeySpec& key, std::vector<PlacedPoint>& points)
{
  if (!counts(key.stage))
    return;
  put(key.key), raw(points.size());
  for (const PlacedPoint& point : points)
    raw(point.place), raw(point.value);
}

void StageText::schedule(const KeySpec& key, std::vector<TablePoint>& points)
{
  if (counts(key.stage))
    put(key.key), put(points);
}

void StageText::putAll(std::string_view key, const std::vector<std::string>& values)
{
  put(key), raw(values.size());
  for (const std::string& value : values)
    put(value);
}

/// What was typed does not count, but where it says how the value varies. Then its parameters count, too.
void StageText::put(const Number& number, bool inPlace)
{
  raw(number.si == 0 ? 0.0 : number.si); // −0 is 0
  const bool inTime = upTo_ >= Stage::Course && variesInTime(project_, number);
  const bool used = inParameter_ && number.formula; // where a formula that counts uses it
  if (!inTime && !used && !(inPlace && variesInPlace(project_, number)))
    return;
  put(number.text);
  for (const std::string& name : namesIn(number.text))
    for (const Parameter& parameter : project_.parameters)
      if (parameter.name == name)
        found_.insert(parameter.id);
}

void StageText::put(const Property& property, bool inPlace)
{
  put(static_cast<const Number&>(property), inPlace);
  put(property.table);
}

void StageText::put(const std::vector<TablePoint>& points)
{
  raw(points.size());
  for (const TablePoint& point : points)
    put(point.at), put(point.value);
}

std::string writeStage(const Project& project, Stage upTo)
{
  std::set<std::string> used;
  for (;;) {
    StageText text(project, upTo, std::move(used));
    walkOver(text, project);
    if (text.found() == text.used())
      return std::move(text.bytes);
    used = text.found();
  }
}

} // namespace kiln
