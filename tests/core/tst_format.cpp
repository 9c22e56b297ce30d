// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// docs/file-format.md names every key and every kind that the model's schema has; numbers may be written as words.
#include "TestProjects.h"
#include "io/ProjectFile.h"
#include "model/Describe.h"

#include <QTest>
#include <fstream>
#include <regex>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Walks the schema through all kinds, whatever a project holds, and collects its keys and kinds.
class KeyCollector
{
public:
  std::set<std::string> words;

  void text(std::string_view key, std::string&) { add(key); }
  void optionalText(std::string_view key, std::string&) { add(key); }
  void appearance(std::string_view key, std::string&) { add(key); }
  void flag(std::string_view key, bool&) { add(key); }
  void number(const NumberSpec& spec, Number&) { add(spec.key); }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>&) { add(spec.key); }
  void property(const NumberSpec& spec, Property&) { add(spec.key); }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>&) { add(spec.key); }
  void number3(const NumberSpec& spec, Number3&) { add(spec.key); }
  void outline(std::string_view key, std::vector<OutlinePoint>&) { add(key); }
  void points(std::string_view key, std::vector<PlacedPoint>&) { add(key); }
  void schedule(std::string_view key, std::vector<TablePoint>&) { add(key); }
  void longText(std::string_view key, SharedText&) { add(key); }
  void texts(std::string_view key, std::vector<std::string>&) { add(key); }
  void reference(const ReferenceSpec& spec, std::string&) { add(spec.key); }
  void references(const ReferenceSpec& spec, std::vector<std::string>&) { add(spec.key); }
  void changes(std::string_view key, std::vector<Change>&) { add(key); }
  void unknown(UnknownKeys&) {}
  template <class... Ts, std::size_t N>
  void choice(std::string_view key, std::variant<Ts...>&, const std::array<std::string_view, N>& names)
  {
    add(key);
    for (const std::string_view name : names)
      add(name);
    (descend<Ts>(), ...);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(std::string_view key, Enum&, const std::array<std::string_view, N>& names)
  {
    add(key);
    for (const std::string_view name : names)
      add(name);
  }
  template <class... Ts, std::size_t N>
  void nestedChoice(std::string_view key, std::variant<Ts...>& value, const std::array<std::string_view, N>& names)
  {
    choice(key, value, names);
  }
  template <class T>
  void list(std::string_view key, std::vector<T>&)
  {
    add(key);
    descend<T>();
  }
  template <class T>
  void nested(std::string_view key, std::optional<T>&)
  {
    add(key);
    descend<T>();
  }
  template <class T>
  void nested(std::string_view key, T&)
  {
    add(key);
    descend<T>();
  }

private:
  void add(std::string_view word) { words.emplace(word); }
  template <class T>
  void descend()
  {
    if (++depth_ < 12) { // forms within steps within parts: deep enough for all, and no circle
      T fresh{};
      describe(*this, fresh);
    }
    --depth_;
  }
  int depth_ = 0;
};

std::set<std::string> documented()
{
  std::ifstream in(KILN_SOURCE_DIR "/docs/file-format.md");
  const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  std::set<std::string> words;
  const std::regex quoted("`([^`]*)`");
  const std::regex word("[A-Za-z][A-Za-z0-9]*");
  for (std::sregex_iterator q(text.begin(), text.end(), quoted); q != std::sregex_iterator(); ++q) {
    const std::string inside = (*q)[1];
    for (std::sregex_iterator w(inside.begin(), inside.end(), word); w != std::sregex_iterator(); ++w)
      words.insert(w->str());
  }
  return words;
}

std::string withCase(const std::string& number)
{
  return R"({"format": "usual-kiln project", "version": 1, "name": "words",
 "parameters": [{"id": "p", "name": "warm", "quantity": "temperature", "value": {"text": "40 °C"}}],
 "nodes": [{"id": "n", "name": "n", "temperature": )" +
         number + R"(}],
 "cases": [{"id": "c", "name": "c", "kind": "steady", "changes": {"n.temperature": {"text": "60 °C"}}}]})";
}

} // namespace

class TestFormat : public QObject
{
  Q_OBJECT
private slots:
  void everyKeyIsDocumented()
  {
    KeyCollector keys;
    Project project;
    describe(keys, project);
    QVERIFY(keys.words.size() > 200);
    const std::set<std::string> known = documented();
    QStringList missing;
    for (const std::string& word : keys.words)
      if (!known.contains(word))
        missing << QString::fromStdString(word);
    QVERIFY2(missing.empty(), qPrintable(missing.join(", ")));
  }
  void aNumberMayBeWordsAlone()
  {
    const auto project = readProject(withCase(R"({"text": "20 °C"})"), "words.kiln");
    QVERIFY2(project.has_value(), project ? "" : project.error().sentence().c_str());
    QVERIFY(std::abs(project->nodes.front().temperature->si - 293.15) < 1e-9);
    QCOMPARE(project->nodes.front().temperature->text, std::string("20 °C"));
    QVERIFY(std::abs(project->cases.front().changes.front().value.si - 333.15) < 1e-9);
    const auto again = readProject(writeProject(*project), "words.kiln");
    QVERIFY(again && *again == *project);
  }
  void wordsOfAnotherKindAreRefused()
  {
    const auto project = readProject(withCase(R"({"text": "20 W"})"), "words.kiln");
    QVERIFY(!project);
    QVERIFY2(project.error().sentence().find("20 W") != std::string::npos, project.error().sentence().c_str());
  }
};

QTEST_GUILESS_MAIN(TestFormat)
#include "tst_format.moc"
