// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/ObjectKinds.h"
#include "model/References.h"
#include "model/Settings.h"

#include <random>

/// Projects made by chance out of the model's schema: all kinds of everything, sensible or not.
namespace kiln::test
{

/// Archive that fills whatever is described with random values; references are set afterwards.
class RandomFilling : public Walk<RandomFilling>
{
public:
  explicit RandomFilling(std::mt19937& random) : random_(random) {}

  void text(const KeySpec& key, std::string& value)
  {
    value = key.key == "id" ? "o" + std::to_string(++count_) : "text " + std::to_string(random_() % 100);
  }
  void optionalText(const KeySpec&, std::string& value) { value = coin() ? "a \"text\"\nover two lines °" : ""; }
  void formula(const KeySpec&, std::string& value) { value = coin() ? "a - b" : "2 * a"; }
  void appearance(const KeySpec&, std::string& value) { value = coin() ? "#aabbcc" : ""; }
  void longText(const KeySpec&, SharedText& value) { value = SharedText(coin() ? "long text" : ""); }
  void texts(const KeySpec&, std::vector<std::string>& values) { values = {"some", "texts"}; }
  void flag(const KeySpec&, bool& value) { value = coin(); }
  void number(const NumberSpec& spec, Number& value) { value = num(spec); }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
  {
    value = coin() ? std::optional(num(spec)) : std::nullopt;
  }
  void property(const NumberSpec& spec, Property& value)
  {
    value = Property{num(spec), {}};
    if (random_() % 4 != 0)
      return;
    value.table.push_back({plain(300), num(spec)});
    value.table.push_back({plain(400), num(spec)});
    static_cast<Number&>(value) = plain(value.table.front().value.si);
  }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    value.reset();
    if (coin())
      property(spec, value.emplace());
  }
  void number3(const NumberSpec& spec, Number3& value) { value = {num(spec), num(spec), num(spec)}; }
  void outline(const KeySpec&, std::vector<OutlinePoint>& points)
  {
    points.clear();
    for (unsigned i = 3 + random_() % 2; i > 0; --i)
      points.push_back({num(), num(), coin() ? num() : Number{}});
  }
  void points(const KeySpec&, std::vector<PlacedPoint>& points)
  {
    points.clear();
    if (coin())
      points = {{{0, 0, 0}, 1.5}, {{0.1, 0, 0}, 2.5}};
  }
  void schedule(const KeySpec&, std::vector<TablePoint>& points)
  {
    points.clear();
    points.push_back({plain(0), num()});
    points.push_back({plain(60), num()});
  }
  void unknown(UnknownKeys& keys)
  {
    if (random_() % 8 == 0)
      keys["odd key"] = R"({"a":[1,2,{"b":null}]})";
  }
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& key, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    emplaceAt(value, random_() % N);
    Walk::choice(key, value, names);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec&, Enum& value, const KindSpecs<N>&) { value = static_cast<Enum>(random_() % N); }
  template <class T>
  void list(const KeySpec& key, std::vector<T>& items)
  {
    items.clear();
    items.resize(random_() % 4);
    Walk::list(key, items);
  }
  template <class T>
  void nested(const KeySpec&, std::optional<T>& item)
  {
    item.reset();
    if (coin())
      describe(*this, item.emplace());
  }
  template <class T>
  void nested(const KeySpec&, T& item)
  {
    describe(*this, item);
  }

private:
  static Number plain(double si) { return {si, {}, false}; }
  bool coin() { return random_() % 2 == 0; }
  double value()
  {
    switch (random_() % 10) {
    case 0:
      return 0;
    case 1:
      return -0.01;
    case 2:
      return 1e30;
    default:
      return static_cast<double>(1 + random_() % 10'000) / 1e5;
    }
  }
  Number num()
  {
    Number made = plain(value());
    if (coin())
      made.text = "some text";
    return made;
  }
  Number num(const NumberSpec& spec) { return spec.range == Range::Count && random_() % 4 != 0 ? plain(2) : num(); }

  std::mt19937& random_;
  int count_ = 0;
};

/// Puts something that a reference may name, or now and then something that is not there, into every reference.
class RandomReferences : public Walk<RandomReferences>
{
public:
  RandomReferences(const Project& project, std::mt19937& random, bool sound)
      : project_(project), random_(random), sound_(sound)
  {
  }

  void reference(const ReferenceSpec& spec, std::string& value) { value = some(spec); }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    values.clear();
    for (unsigned i = random_() % 3; i > 0; --i)
      if (std::string name = some(spec); !name.empty())
        values.push_back(std::move(name));
  }
  /// Own values of any kind of field, each of the kind that its field holds.
  void changes(const KeySpec&, std::vector<Change>& changes)
  {
    changes.clear();
    if (random_() % 2 == 0)
      return;
    Project walked = project_;
    const std::vector<Field> all = settings(walked);
    for (unsigned i = random_() % 4; i > 0 && !all.empty(); --i) {
      const Field& field = all[random_() % all.size()];
      const auto same = [&](const auto& other) {
        if constexpr (requires { other.path; })
          return other.path == field.path;
        else
          return other.field == field.path;
      };
      const bool alone = std::count_if(all.begin(), all.end(), same) == 1;     // ids by chance may be empty, or equal
      const bool ofCase = findById(project_.cases, field.objectId) != nullptr; // these are its own already
      if (!field.objectId.empty() && !ofCase && alone && std::none_of(changes.begin(), changes.end(), same))
        changes.push_back({field.path, some(field)});
    }
  }

private:
  OwnValue some(const Field& field)
  {
    switch (field.kind) {
    case Field::Kind::Number:
      if (field.mayBeMissing() && random_() % 4 == 0)
        return std::monostate{};
      if (field.mayBeTable() && random_() % 3 == 0)
        return Property{{2, {}}, {{{300, {}}, {2, {}}}, {{400, {}}, {3, {}}}}};
      return Property{{1 + static_cast<double>(random_() % 9), {}}, {}};
    case Field::Kind::Switch:
      return random_() % 2 == 0;
    case Field::Kind::Choice:
      return std::string(field.choice.kinds[random_() % field.choice.kinds.size()].name);
    case Field::Kind::Reference:
      return some(*field.reference);
    case Field::Kind::References:
      return std::vector<std::string>{some(*field.reference)};
    default:
      return std::string("own text");
    }
  }
  std::string some(const ReferenceSpec& spec)
  {
    if (spec.to & Refers::Face) {
      const auto parts = idsOf(project_, Refers::Part);
      return parts.empty() ? "nothing.top" : parts[random_() % parts.size()] + ".top";
    }
    const auto ids = idsOf(project_, spec.to);
    if (!sound_ && random_() % 6 == 0)
      return "missing";
    return ids.empty() ? "" : ids[random_() % ids.size()];
  }

  const Project& project_;
  std::mt19937& random_;
  bool sound_;
};

/// Where two texts begin to differ, with what is around.
inline std::string difference(const std::string& a, const std::string& b)
{
  const auto at = static_cast<std::size_t>(std::mismatch(a.begin(), a.end(), b.begin(), b.end()).first - a.begin());
  const std::size_t from = at < 200 ? 0 : at - 200;
  return a == b ? std::string() : "…" + a.substr(from, 300) + "\n--- instead of\n…" + b.substr(from, 300);
}

/// \param sound  no reference names something that is not there
inline Project randomProject(unsigned seed, bool sound = false)
{
  std::mt19937 random(seed);
  Project project;
  RandomFilling filling(random);
  describe(filling, project);
  const Project named = project;
  RandomReferences references(named, random, sound);
  describe(references, project);
  return project;
}

} // namespace kiln::test
