// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Alternatives.h"

#include "units/Quantity.h"

#include <sstream>

namespace kiln
{

Number startingNumber(const NumberSpec& spec)
{
  const auto parsed = parseQuantity(std::string(spec.usually), spec.quantity);
  return parsed ? Number{parsed->si, std::string(spec.usually), false} : Number{};
}

void StartingValues::number3(const NumberSpec& spec, Number3& value)
{
  std::istringstream words{std::string(spec.usually)};
  double x = 0;
  double y = 0;
  double z = 0;
  if (words >> x >> y >> z)
    value = {{x, {}}, {y, {}}, {z, {}}};
}

namespace
{

template <class Map, class T>
void passThrough(Map& map, const std::string& key, T& value, bool giving)
{
  if (!giving)
    map[key] = value;
  else if (const auto kept = map.find(key); kept != map.end())
    value = kept->second;
}

} // namespace

void TakenOver::passAs(const std::string& key, Number& value)
{
  if (!giving_)
    numbers_[key] = Property{value, {}};
  else if (const auto kept = numbers_.find(key); kept != numbers_.end())
    value = kept->second;
}
void TakenOver::passAs(const std::string& key, Property& value) { passThrough(numbers_, key, value, giving_); }
void TakenOver::passAs(const std::string& key, std::string& value) { passThrough(names_, key, value, giving_); }
void TakenOver::passAs(const std::string& key, std::vector<std::string>& value)
{
  passThrough(lists_, key, value, giving_);
}

} // namespace kiln
