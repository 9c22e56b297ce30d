// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/KeyTables.h"

#include "model/ObjectKinds.h"

#include <set>

namespace kiln
{
namespace
{

constexpr std::string_view indent = "&emsp;";

std::string quoted(std::string_view word) { return "`" + std::string(word) + "`"; }

/// "Power. Of all of them together."
std::string sentence(std::string_view label, std::string_view help)
{
  std::string text(label);
  if (!text.empty() && !help.empty())
    text += ". ";
  text += help;
  return text;
}

/// Archive that writes a row for every key of what it walks over, through all alternatives, whatever a project holds.
class KeyRows
{
public:
  std::string rows;

  void text(const KeySpec& spec, std::string&) { row(spec, "text"); }
  void optionalText(const KeySpec& spec, std::string&) { row(spec, "text, may be left out"); }
  void formula(const KeySpec& spec, std::string&) { row(spec, "formula"); }
  void appearance(const KeySpec& spec, std::string&) { row(spec, "`#rrggbb`, of pictures; may be left out"); }
  void longText(const KeySpec& spec, SharedText&) { row(spec, "text, may be left out"); }
  void texts(const KeySpec& spec, std::vector<std::string>&) { row(spec, "list of texts"); }
  void flag(const KeySpec& spec, bool&) { row(spec, "`true` or `false` (when left out)"); }
  void number(const NumberSpec& spec, Number&) { row(spec, unit(spec)); }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>&) { row(spec, unit(spec) + leftOut(spec)); }
  void property(const NumberSpec& spec, Property&) { row(spec, unit(spec) + ", number or table"); }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>&)
  {
    row(spec, unit(spec) + ", number or table" + leftOut(spec));
  }
  void number3(const NumberSpec& spec, Number3&) { row(spec, "`[x, y, z]`, " + unit(spec)); }
  void outline(const KeySpec& spec, std::vector<OutlinePoint>&) { row(spec, "list of points, m"); }
  void points(const KeySpec& spec, std::vector<PlacedPoint>&) { row(spec, "list of `[x, y, z, value]`"); }
  void schedule(const KeySpec& spec, std::vector<TablePoint>&) { row(spec, "list of `[s, value]`"); }
  void reference(const ReferenceSpec& spec, std::string&)
  {
    const bool faces = spec.to & Refers::Face;
    row(of(spec), (faces ? std::string("lasting name of a face") : "id of a " + kindWords(spec.to)) +
                      (spec.need == Need::May ? ", may be left out" : ""));
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>&)
  {
    const bool faces = spec.to & Refers::Face;
    row(of(spec), faces ? std::string("lasting names of faces") : "ids, each of a " + kindWords(spec.to));
  }
  void changes(const KeySpec& spec, std::vector<Change>&)
  {
    row(spec, "object: path of a field → number, table, `true`, word, list of words, or `null` (nothing)");
  }
  void unknown(UnknownKeys&) {}
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& spec, std::variant<Ts...>&, const KindSpecs<N>& kinds)
  {
    row(spec, "one of these:");
    std::size_t i = 0;
    (kind<Ts>(kinds[i++]), ...);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& spec, Enum&, const KindSpecs<N>& kinds)
  {
    std::string all;
    for (const KindSpec& one : kinds)
      all += (all.empty() ? "" : ", ") + quoted(one.name);
    row(spec, all);
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(const KeySpec& spec, std::variant<Ts...>& value, const KindSpecs<N>& kinds)
  {
    row(spec, "object, `" + std::string(kinds[0].name) + "` when left out");
    within([&] { choice("kind", value, kinds); });
  }
  template <class T>
  void list(const KeySpec& spec, std::vector<T>&)
  {
    row(spec, "list");
    within([&] { fresh<T>(); });
  }
  template <class T>
  void nested(const KeySpec& spec, std::optional<T>&)
  {
    row(spec, "object, may be left out");
    within([&] { fresh<T>(); });
  }
  template <class T>
  void nested(const KeySpec& spec, T&)
  {
    row(spec, "object");
    within([&] { fresh<T>(); });
  }

  /// What a new object of this type holds; forms and repeats, which many have, in full only the first time.
  template <class T>
  void fresh()
  {
    T object{};
    describe(*this, object);
  }

private:
  static KeySpec of(const ReferenceSpec& spec) { return {spec.key, spec.label, spec.help}; }
  static std::string unit(const NumberSpec& spec)
  {
    std::string text(spec.quantity == Quantity::Plain ? std::string_view("number") : siUnit(spec.quantity));
    return spec.varies ? text + " (a formula may use x, y, z)" : text;
  }
  static std::string leftOut(const NumberSpec& spec)
  {
    return spec.usually.empty() ? ", may be left out" : "; left out: " + std::string(spec.usually);
  }
  void row(const KeySpec& spec, const std::string& holds)
  {
    add(quoted(spec.key), holds, sentence(spec.label, spec.help));
  }
  void row(const NumberSpec& spec, const std::string& holds)
  {
    add(quoted(spec.key), holds, sentence(spec.label, spec.help));
  }
  void add(const std::string& key, const std::string& holds, const std::string& meaning)
  {
    rows += "| ";
    for (int i = 0; i < depth_; ++i)
      rows += indent;
    rows += key + " | " + holds + " | " + meaning + " |\n";
  }
  template <class T>
  void kind(const KindSpec& spec)
  {
    within([&] {
      add("**" + quoted(spec.name) + "**", "", sentence(spec.label, spec.help));
      if (!met_.insert(typeName<T>()).second)
        return; // it stands above
      within([&] { fresh<T>(); });
    });
  }
  template <class T>
  static std::string typeName()
  {
    return typeid(T).name();
  }
  template <class Go>
  void within(Go&& go)
  {
    ++depth_;
    go();
    --depth_;
  }

  int depth_ = 0;
  std::set<std::string> met_;
};

/// Archive that makes a section of what a project itself holds.
class Sections : public KeyRows
{
public:
  std::string text_;

  template <class T>
  void list(const KeySpec& spec, std::vector<T>&)
  {
    section<T>(spec, "a list");
  }
  template <class T>
  void nested(const KeySpec& spec, std::optional<T>&)
  {
    section<T>(spec, "an object, may be left out");
  }
  template <class T>
  void nested(const KeySpec& spec, T&)
  {
    section<T>(spec, "an object");
  }

private:
  template <class T>
  void section(const KeySpec& spec, const std::string& what)
  {
    inner_.rows.clear();
    inner_.template fresh<T>();
    text_ += "\n### " + quoted(spec.key) + ": " + std::string(spec.label) + ", " + what + "\n\n";
    if (!spec.help.empty())
      text_ += std::string(spec.help) + "\n\n";
    text_ += "| key | holds | meaning |\n|---|---|---|\n" + inner_.rows;
  }

  KeyRows inner_;
};

} // namespace

std::string keyTables()
{
  Sections sections;
  Project project;
  describe(sections, project);
  return "| key | holds | meaning |\n|---|---|---|\n" + sections.rows + sections.text_;
}

} // namespace kiln
