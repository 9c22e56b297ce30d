// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// docs/file-format.md holds the tables of all keys that the schema makes; numbers may be written as words.
#include "TestProjects.h"
#include "io/KeyTables.h"
#include "io/ProjectFile.h"
#include "model/Project.h"

#include <QTest>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr std::string_view begins = "<!-- keys: written by `ukiln keys` -->\n", ends = "<!-- end of keys -->\n";

std::string readAll(const std::string& file)
{
  std::ifstream in(file);
  return {std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
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
  /// docs/file-format.md holds the tables of the schema, as they are now. UKILN_WRITE_DOCS=1 puts them there.
  void everyKeyIsDocumented()
  {
    const std::string file = KILN_SOURCE_DIR "/docs/file-format.md";
    std::string text = readAll(file);
    const std::size_t from = text.find(begins);
    const std::size_t to = text.find(ends);
    QVERIFY(from != std::string::npos && to != std::string::npos && from < to);
    const std::string tables = keyTables();
    if (qEnvironmentVariableIsSet("UKILN_WRITE_DOCS")) {
      text.replace(from + begins.size(), to - from - begins.size(), tables);
      std::ofstream(file) << text;
    }
    QVERIFY2(readAll(file).find(std::string(begins) + tables + std::string(ends)) != std::string::npos,
             "docs/file-format.md is behind the schema: run this test with UKILN_WRITE_DOCS=1");
    for (const std::string_view key : {"`coefficient` |", "**`flowPassage`**", "`serviceTemperature`", "`storeAlso`"})
      QVERIFY2(tables.find(key) != std::string::npos, std::string(key).c_str());
  }
  void aNumberMayBeWordsAlone()
  {
    const auto project = readProject(withCase(R"({"text": "20 °C"})"), "words.kiln");
    QVERIFY2(project.has_value(), project ? "" : project.error().sentence().c_str());
    QVERIFY(std::abs(project->nodes.front().temperature->si - 293.15) < 1e-9);
    QCOMPARE(project->nodes.front().temperature->text, std::string("20 °C"));
    QVERIFY(std::abs(project->cases.front().changes.front().number()->si - 333.15) < 1e-9);
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
