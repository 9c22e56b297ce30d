// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Walk.h"

#include <map>

namespace kiln
{

/// What a new object has in this field; zero where the schema does not say.
[[nodiscard]] Number startingNumber(const NumberSpec& spec);

/// Archive that gives an object the numbers a new one starts with.
class StartingValues : public Walk<StartingValues>
{
public:
  void number(const NumberSpec& spec, Number& value) { value = startingNumber(spec); }
  void property(const NumberSpec& spec, Property& value) { value = Property{startingNumber(spec), {}}; }
  void number3(const NumberSpec& spec, Number3& value);
};

/// Archive that takes over from one object what another has under the same key, if it is of the same kind.
class TakenOver : public Walk<TakenOver>
{
public:
  /// From now on it gives what it has met so far.
  void give() { giving_ = true; }

  void number(const NumberSpec& spec, Number& value) { pass(spec, value); }
  void property(const NumberSpec& spec, Property& value) { pass(spec, value); }
  void number3(const NumberSpec& spec, Number3& value)
  {
    const std::string key(spec.key);
    passAs(key + ".x", value.x), passAs(key + ".y", value.y), passAs(key + ".z", value.z);
  }
  void reference(const ReferenceSpec& spec, std::string& value) { passAs(std::string(spec.key), value); }
  void references(const ReferenceSpec& spec, std::vector<std::string>& value) { passAs(std::string(spec.key), value); }

private:
  template <class T>
  void pass(const NumberSpec& spec, T& value)
  {
    passAs(std::string(spec.key) + "#" + std::to_string(static_cast<int>(spec.quantity)), value);
  }
  void passAs(const std::string& key, Number& value);
  void passAs(const std::string& key, Property& value);
  void passAs(const std::string& key, std::string& value);
  void passAs(const std::string& key, std::vector<std::string>& value);

  bool giving_ = false;
  std::map<std::string, Property> numbers_;
  std::map<std::string, std::string> names_;
  std::map<std::string, std::vector<std::string>> lists_;
};

/// Lets a choice be its alternative of this index: what both have in common stays, the rest starts anew.
template <class... Ts>
void chooseAlternative(std::variant<Ts...>& value, std::size_t index)
{
  if (value.index() == index)
    return;
  const auto in = [](auto& archive, std::variant<Ts...>& held) {
    std::visit([&](auto& alternative) { describe(archive, alternative); }, held);
  };
  TakenOver kept;
  in(kept, value);
  emplaceAt(value, index);
  StartingValues starting;
  in(starting, value);
  kept.give();
  in(kept, value);
}

} // namespace kiln
