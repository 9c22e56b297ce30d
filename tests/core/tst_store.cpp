// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What makes a result current, who may write it, and what is read at all.
#include "TransientProjects.h"
#include "io/AtomicFile.h"
#include "io/CaseStore.h"
#include "io/FileLock.h"
#include "io/NewestFiles.h"
#include "io/ProjectDifferences.h"
#include "io/ProjectFile.h"
#include "model/Formula.h"
#include "run/ResultHead.h"

#include <QTest>
#include <fstream>
#include <sys/stat.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

const std::string id = "hold";

/// Writes a result of two files.
void store(const std::filesystem::path& folder, const std::string& content, const std::string& hash)
{
  CaseCommit commit(folder, id);
  if (!commit.add(resultFile(folder, id), content) || !commit.add(figuresFile(folder, id), content + " figures") ||
      !commit.commit("Hold", hash, ""))
    throw std::runtime_error("not stored");
}

std::string sentenceOf(const Expected<std::optional<StoredCase>>& stored)
{
  return stored ? std::string() : stored.error().sentence();
}

std::string refusal(const std::string& text)
{
  const auto project = readProject(text, "p.kiln");
  return project ? std::string() : project.error().sentence();
}

bool has(const std::string& text, const char* part) { return text.find(part) != std::string::npos; }

} // namespace

class TestStore : public QObject
{
  Q_OBJECT

private slots:
  /// The head of a result knows its watches as long as what they are read by is the same.
  void theHeadOfAResult()
  {
    Project p = projectWith(0.01);
    p.materials = {material("brick", 1)};
    p.parts = {part("wall", "brick", block(0.05, 0.05, 0.02))};
    p.surfaces = {surface("under", {"wall.bottom"}), surface("over", {"wall.top"})};
    p.sources = {source("heater", SurfacePower{"over", number(2)})};
    p.boundaries = {boundary("cold", FixedSurface{"under", number(300)})};
    p.watches = {watch("peak", PartFigure{Extreme::Hottest, {"wall"}}), watch("heat", SurfaceHeat{"under"})};
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    QVERIFY(!loadHead(path, "c"));
    const auto result = runCase(p, p.cases[0], path, noProgress);
    QVERIFY(result.has_value());
    const auto head = loadHead(path, p.cases[0].id);
    QVERIFY(head.has_value());
    QCOMPARE(head->solutionHash, result->solutionHash);
    QCOMPARE(head->meshHash, result->meshHash);
    QCOMPARE(head->bytes, std::filesystem::file_size(resultFile(path, p.cases[0].id)));
    const auto whole = readWatches(p, *result);
    const auto same = [&](const Project& now) {
      const auto figures = head->watchesOf(now);
      return figures.size() == whole.size() && figures[0].value == whole[0].value && figures[1].value == whole[1].value;
    };
    QVERIFY(same(p));
    Project other = p;
    other.watches[0].upper = number(310);
    other.watches[0].name = "another name";
    QVERIFY(same(other));
    QVERIFY(std::abs(*head->watchesOf(other)[0].margin - (310 - *whole[0].value)) < 1e-9);
    other.watches[0].figure = PartFigure{Extreme::Mean, {"wall"}};
    QVERIFY(!same(other) && !head->watchesOf(other)[0].value);
    other = p;
    other.surfaces[0].faces = {"wall.left"};
    QVERIFY(!same(other));
    // Where a file is not what was written, or the figures are of another result, the whole result is asked.
    const std::filesystem::path figures = figuresFile(path, p.cases[0].id);
    const std::string written = *readWhole(figures);
    std::string older = written;
    older.replace(older.find(result->solutionHash), result->solutionHash.size(), result->solutionHash.size(), '0');
    for (const std::string& wrong : {written.substr(0, written.size() / 2), written + " ", older}) {
      QVERIFY(writeAtomically(figures, wrong).has_value());
      QVERIFY(!loadHead(path, p.cases[0].id));
    }
    QVERIFY(writeAtomically(figures, written).has_value());
    QVERIFY(loadHead(path, p.cases[0].id).has_value());
    std::filesystem::resize_file(resultFile(path, p.cases[0].id), 100);
    QVERIFY(!loadHead(path, p.cases[0].id));
  }

  void aResultBecomesCurrentAsAWhole()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    QVERIFY(storedCase(folder, id).value() == std::nullopt);
    store(folder, "first", "one");
    store(folder, "second", "two");
    const auto stored = storedCase(folder, id);
    QVERIFY(stored && *stored);
    QCOMPARE((*stored)->solutionHash, std::string("two"));
    QCOMPARE(*readWhole((*stored)->result), std::string("second"));
    QCOMPARE(*readWhole((*stored)->figures), std::string("second figures"));
    QVERIFY((*stored)->run.empty());
  }

  /// Given files that lie aside, before the manifest the older result counts, after it the newer one, which then takes
  /// its place.
  void theManifestIsTheMoment()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    store(folder, "first", "one");
    const std::string before = *readWhole(manifestFile(folder, id));
    CaseCommit begun(folder, id);
    QVERIFY(begun.add(resultFile(folder, id), "second"));
    QCOMPARE(storedCase(folder, id).value()->solutionHash, std::string("one")); // killed here: nothing has happened
    QVERIFY(begun.add(figuresFile(folder, id), "second figures"));
    QVERIFY(begun.commit("Hold", "two", ""));
    // Killed between the manifest and the files' moves: put everything back to that instant.
    QVERIFY(writeAtomically(resultFile(folder, id).string() + ".new", "second"));
    QVERIFY(writeAtomically(figuresFile(folder, id).string() + ".new", "second figures"));
    QVERIFY(writeAtomically(resultFile(folder, id), "first"));
    QVERIFY(writeAtomically(figuresFile(folder, id), "first figures"));
    const auto stored = storedCase(folder, id);
    QVERIFY2(stored && *stored, sentenceOf(stored).c_str());
    QCOMPARE((*stored)->solutionHash, std::string("two"));
    QCOMPARE(*readWhole(resultFile(folder, id)), std::string("second"));
    QCOMPARE(*readWhole(figuresFile(folder, id)), std::string("second figures"));
    QVERIFY(!std::filesystem::exists(resultFile(folder, id).string() + ".new"));
  }

  void whatWasDamagedIsNamed()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    store(folder, "first", "one");
    QVERIFY(writeAtomically(figuresFile(folder, id), "first figurez")); // one letter, the same length
    QVERIFY(has(sentenceOf(storedCase(folder, id)), "hold.figures.json: It is not what was written"));
    QVERIFY(std::filesystem::remove(figuresFile(folder, id)));
    QVERIFY(has(sentenceOf(storedCase(folder, id)), "hold.figures.json: It is missing"));
    QVERIFY(writeAtomically(manifestFile(folder, id), "{"));
    QVERIFY(has(sentenceOf(storedCase(folder, id)), "hold.result.json: It is damaged"));
    // A manifest cannot lead out of its folder.
    QVERIFY(writeAtomically(manifestFile(folder, id),
                            R"({"layout": 1, "solutionHash": "a", "startIdentity": "",
                                "files": [{"name": "../x", "aside": "x", "hash": "", "bytes": 0}]})"));
    QVERIFY(has(sentenceOf(storedCase(folder, id)), "It is damaged"));
  }

  void leftoversOfTheDeadAreRemoved()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    const std::string ours = "a.h5.part" + std::to_string(::getpid());
    for (const std::string& name : {std::string("a.h5.part999999999"), ours, std::string("a.h5"),
                                    std::string("apart.h5"), std::string("b.partial")})
      std::ofstream(folder / name) << "x";
    removeLeftovers(folder);
    QVERIFY(!std::filesystem::exists(folder / "a.h5.part999999999"));
    for (const std::string& name : {ours, std::string("a.h5"), std::string("apart.h5"), std::string("b.partial")})
      QVERIFY2(std::filesystem::exists(folder / name), name.c_str());
  }

  void oneWriterAtATime()
  {
    const QTemporaryDir own;
    const std::filesystem::path file = own.filePath("x.lock").toStdString();
    QVERIFY(holderOf(file).empty());
    {
      const auto first = FileLock::take(file, "case Hold");
      QVERIFY(first && first->held());
      const auto second = FileLock::take(file, "case Hold");
      QVERIFY(!second);
      const std::string said = second.error().sentence();
      QVERIFY2(has(said, "case Hold: It is being written by") &&
                   has(said, ("process " + std::to_string(::getpid())).c_str()) && has(said, " since 20"),
               said.c_str());
      QVERIFY(!holderOf(file).empty());
    }
    QVERIFY(FileLock::take(file, "case Hold").has_value()); // the file stays, the lock does not
    QVERIFY(writeAtomically(own.filePath("mine").toStdString(), "mine"));
    const std::filesystem::path link = own.filePath("link.lock").toStdString();
    std::filesystem::create_symlink(own.filePath("mine").toStdString(), link);
    QVERIFY(!FileLock::take(link, "case Hold"));
  }

  /// Given more files of a kind than are kept, then the oldest of that kind go and nothing else does.
  void onlyTheNewestFilesAreKept()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    const auto now = std::filesystem::file_time_type::clock::now();
    for (int i = 0; i < 5; ++i) {
      const auto file = folder / ("mesh-" + std::to_string(i));
      QVERIFY(writeAtomically(file, "m"));
      std::filesystem::last_write_time(file, now - std::chrono::minutes(i == 0 ? 0 : 10 - i)); // 1 is the oldest
    }
    QVERIFY(writeAtomically(folder / "mine", "m"));
    std::filesystem::last_write_time(folder / "mine", now - std::chrono::hours(1));
    keepNewest(folder, "mesh-", 3);
    QStringList left = QDir(own.path()).entryList(QDir::Files);
    QCOMPARE(left, (QStringList{"mesh-0", "mesh-3", "mesh-4", "mine"}));
    keepNewest(folder / "nowhere", "mesh-", 3); // nothing is there
  }

  void casesOfOneNameKeepApart()
  {
    const QTemporaryDir own;
    const std::filesystem::path folder = own.path().toStdString();
    Project p = lump(400, 50);
    p.cases.push_back(p.cases.front());
    p.cases.back().id = "other";
    p.cases.back().run->start = StartUniform{number(350), {}, {}};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"same name"}));
    const double first = valueOf(p, runIn(p, folder, 0).result, "t");
    const double second = valueOf(p, runIn(p, folder, 1).result, "t");
    QVERIFY(std::abs(first - second) > 5);
    QVERIFY(isUpToDate(p, p.cases[0], folder) && isUpToDate(p, p.cases[1], folder));
    p.cases[0].name = "renamed"; // results belong to the case, not to its name
    QVERIFY(isUpToDate(p, p.cases[0], folder));
  }

  // --- what is read --------------------------------------------------------------------------------------------------

  void readingIsBounded()
  {
    const std::string whole = writeProject(lump(400, 50));
    QVERIFY(refusal(whole).empty());
    std::string huge = whole;
    const std::size_t at = huge.find("9000");
    QVERIFY2(at != std::string::npos, whole.c_str());
    huge.replace(at, 4, "1e400");
    QVERIFY2(has(refusal(huge), "1e400 is too large") && has(refusal(huge), "line "), refusal(huge).c_str());
    const std::string deep = "{\"format\": " + std::string(100'000, '[') + std::string(100'000, ']') + "}";
    QVERIFY2(has(refusal(deep), "nest deeper"), refusal(deep).c_str());
    QVERIFY(!has(refusal("{\"name\": \"[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[\"}"),
                 "nest"));
    const QTemporaryDir own;
    const std::filesystem::path pipe = own.filePath("pipe.kiln").toStdString();
    QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
    const auto waits = loadProject(pipe);
    QVERIFY(!waits && has(waits.error().sentence(), "no plain file"));
  }

  void formulasAreBounded()
  {
    Project p = lump(400, 50);
    const auto problemOf = [&](const std::string& text) {
      const Formulas formulas(p);
      const auto value = formulas.evaluate(text, Quantity::Plain);
      return value ? std::string() : value.error().sentence();
    };
    QVERIFY(has(problemOf(std::string(500, '(') + "1" + std::string(500, ')')), "brackets"));
    QVERIFY(problemOf(std::string(40, '(') + "1" + std::string(40, ')')).empty());
    QVERIFY(has(problemOf("1" + std::string(5000, '+') + "1"), "characters"));
    for (int i = 0; i < 5000; ++i) {
      Parameter one;
      one.id = one.name = "q" + std::to_string(i);
      one.value = {0, i == 4999 ? "1" : "q" + std::to_string(i + 1), i != 4999};
      p.parameters.push_back(one);
    }
    QVERIFY2(has(problemOf("q0"), "that each use the next"), problemOf("q0").c_str());
    QVERIFY(problemOf("q4900").empty());
  }

  void whatDiffersIsSaid()
  {
    const Project here = lump(400, 50);
    QVERIFY(differences(here, here).empty());
    Project there = here;
    there.materials.front().density = Number{8000, "8000 kg/m³", false};
    there.watches.push_back(watch("more", PartFigure{PartFigure::Kind::Mean, {"lump"}}));
    there.boundaries.clear();
    const std::vector<std::string> all = differences(here, there);
    const auto told = [&](const char* part) {
      return std::any_of(all.begin(), all.end(), [&](const std::string& line) { return has(line, part); });
    };
    QVERIFY(told("materials, copper, density") && told("→ 8000 kg/m³"));
    QVERIFY(told("watches, more: only there"));
    QVERIFY(told("boundaries"));
  }
};

QTEST_GUILESS_MAIN(TestStore)
#include "tst_store.moc"
