// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Kills, full disks and damaged files: nothing that was stored is lost, nothing false is called current. A minute of it
// here; for longer KILN_FAULTS=20 build/release/tests/tst_faults (docs/reliability.md).
#include "FaultBench.h"
#include "io/AtomicFile.h"
#include "io/ResultFile.h"
#include "io/RunFile.h"

#include <QTest>
#include <nlohmann/json.hpp>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two layers, a lamp, air.
Project layers(double watts)
{
  Project p = projectWith(0.012);
  p.materials = {heavy("brick", 0.5, 800, 1000)};
  p.parts = {part("wall", "brick", block(0.05, 0.05, 0.02)),
             part("cap", "brick", block(0.05, 0.05, 0.02), Vec3(0, 0, 0.02))};
  p.surfaces = {surface("under", {"wall.bottom"}), surface("over", {"cap.top"})};
  p.sources = {source("lamp", SurfacePower{"over", number(watts)})};
  p.boundaries = {boundary("air", Convection{"under", number(20), number(300)})};
  p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"cap"}})};
  return p;
}

Project layersInTime(double watts, double until)
{
  Project p = layers(watts);
  inTime(p, 300, until).storeWithin = number(0.05);
  return p;
}

/// In steps of a second.
Project endless()
{
  Project p = layersInTime(2, 1e7);
  p.cases.front().run->largestStep = number(1);
  return p;
}

double peakIn(const std::filesystem::path& figures)
{
  return nlohmann::json::parse(*readWhole(figures))["watches"][0]["value"].get<double>();
}

/// What a folder holds of the case: everything must fit together.
struct Held {
  std::string identity;
  double peak = 0;
  QString wrong; ///< what does not fit
};

Held heldIn(const std::filesystem::path& folder, const Project& p)
{
  Held held;
  const Case& one = p.cases.front();
  const auto stored = storedCase(folder, one.id);
  if (!stored) {
    held.wrong = QString::fromStdString(stored.error().sentence());
    return held;
  }
  if (!*stored) {
    held.wrong = "nothing is stored";
    return held;
  }
  held.identity = (*stored)->solutionHash;
  held.peak = peakIn((*stored)->figures);
  const auto result = loadStored(folder, one);
  if (!result || result->solutionHash != held.identity)
    held.wrong = "fields of another result";
  if (one.kind == Case::Kind::Transient) {
    const auto record = loadRun((*stored)->run);
    if (!record || !record->finished || record->solutionHash != held.identity)
      held.wrong = "a run of another result";
  }
  return held;
}

struct Tally {
  int tried = 0, faults = 0, older = 0, newer = 0;
  void print(const char* what) const
  {
    std::printf("| %s | %d tried | %d struck | %d older whole | %d newer whole |\n", what, tried, faults, older, newer);
  }
};

} // namespace

class TestFaults : public QObject
{
  Q_OBJECT

private slots:
  void killsWhileSolving_data()
  {
    QTest::addColumn<bool>("inTime");
    QTest::addColumn<QString>("mode");
    for (const bool inTime : {false, true})
      for (const char* mode : {"kill", "full", "time"})
        QTest::addRow("%s, %s", inTime ? "in time" : "steady", mode) << inTime << QString(mode);
  }
  /// Given an older result, when the solve of other inputs is killed at any change of a file or at any time, or its
  /// disk fills, then the folder holds the older result whole or the newer one whole, and says which is current.
  void killsWhileSolving()
  {
    QFETCH(bool, inTime);
    QFETCH(QString, mode);
    Random random(seed());
    const auto project = [&](double watts) { return inTime ? layersInTime(watts, 200) : layers(watts); };
    FaultBench bench;
    bench.write(project(2));
    QCOMPARE(bench.run({"solve"}, "base").code, 0);
    const Held older = heldIn(bench.path("base"), project(2));
    QVERIFY2(older.wrong.isEmpty(), qPrintable(older.wrong));
    const Project next = project(4);
    bench.write(next);
    bench.copy("base", "r");
    QElapsedTimer clock;
    clock.start();
    const long changes = bench.changesOf({"solve"}, "r");
    const auto lasts = static_cast<long>(clock.elapsed());
    QVERIFY(changes > 5);
    const Held newer = heldIn(bench.path("r"), next);
    QVERIFY(newer.wrong.isEmpty() && newer.identity != older.identity && std::abs(newer.peak - older.peak) > 1);
    Tally tally;
    for (int i = 0; i < trials(12); ++i) {
      bench.copy("base", "r");
      const Fault fault = anyFault(mode, changes, lasts, random);
      const FaultOutcome outcome = bench.run({"solve"}, "r", fault);
      const Held held = heldIn(bench.path("r"), next);
      const QString trial =
          QString("%1 at %2: %3\n%4").arg(mode).arg(fault.at + fault.after).arg(held.wrong, outcome.said);
      QVERIFY2(held.wrong.isEmpty() && !outcome.hung, qPrintable(trial));
      const bool isNew = held.identity == newer.identity;
      QVERIFY2(isNew || held.identity == older.identity, qPrintable(trial));
      QVERIFY2(std::abs(held.peak - (isNew ? newer.peak : older.peak)) < 1e-6, qPrintable(trial));
      QCOMPARE(isUpToDate(next, next.cases.front(), bench.path("r")), isNew);
      if (mode == "full" && !isNew)
        QVERIFY2(outcome.code == 4 && (outcome.said.contains("Make room") || outcome.said.contains("Make space")),
                 qPrintable(trial));
      ++tally.tried;
      tally.faults += outcome.killed || outcome.code != 0 ? 1 : 0;
      (isNew ? tally.newer : tally.older) += 1;
      if (i % 4 == 0) { // and it can be solved afterwards, with nothing left over
        QCOMPARE(bench.run({"solve"}, "r").code, 0);
        QVERIFY(isUpToDate(next, next.cases.front(), bench.path("r")));
        for (const auto& entry : std::filesystem::directory_iterator(bench.path("r")))
          QVERIFY2(entry.path().string().find(partEnding) == std::string::npos &&
                       !entry.path().string().ends_with(".new"),
                   entry.path().c_str());
      }
    }
    tally.print(qPrintable(QString("%1, %2").arg(inTime ? "run" : "steady", mode)));
  }

  void goingOn_data()
  {
    QTest::addColumn<QString>("mode");
    for (const char* mode : {"kill", "full", "time"})
      QTest::addRow("%s", mode) << QString(mode);
  }
  /// Given a run that ended, when going on with it is killed or its disk fills, then every instant that was stored is
  /// still there, and it can go on.
  void goingOn()
  {
    QFETCH(QString, mode);
    Random random(seed() + 1);
    FaultBench bench;
    bench.write(layersInTime(2, 200));
    QCOMPARE(bench.run({"solve"}, "base").code, 0);
    const auto before = loadRun(runFile(bench.path("base"), "steady"));
    QVERIFY(before && before->instants.size() > 3);
    const Project longer = layersInTime(2, 500);
    bench.write(longer);
    bench.copy("base", "r");
    QElapsedTimer clock;
    clock.start();
    const long changes = bench.changesOf({"solve", "--continue"}, "r");
    const auto lasts = static_cast<long>(clock.elapsed());
    const double peak = peakIn(figuresFile(bench.path("r"), "steady"));
    Tally tally;
    for (int i = 0; i < trials(8); ++i) {
      bench.copy("base", "r");
      const Fault fault = anyFault(mode, changes, lasts, random);
      const FaultOutcome outcome = bench.run({"solve", "--continue"}, "r", fault);
      std::optional<RunRecord> farthest;
      const auto stored = storedCase(bench.path("r"), "steady");
      QVERIFY2(stored && *stored, qPrintable(outcome.said));
      for (const auto& file : {(*stored)->run, growingRunFile(bench.path("r"), "steady")})
        if (auto record = loadRun(file); record && (!farthest || record->instants.size() > farthest->instants.size()))
          farthest = std::move(*record);
      QVERIFY2(farthest && farthest->instants.size() >= before->instants.size(), qPrintable(outcome.said));
      for (std::size_t k = 0; k < before->instants.size(); ++k)
        QCOMPARE(farthest->instants[k], before->instants[k]);
      ++tally.tried;
      tally.faults += outcome.killed || outcome.code != 0 ? 1 : 0;
      const bool isNew = isUpToDate(longer, longer.cases.front(), bench.path("r"));
      (isNew ? tally.newer : tally.older) += 1;
      const FaultOutcome after = bench.run({"solve", "--continue"}, "r");
      QVERIFY2(
          after.code == 0,
          qPrintable(
              QString("%1 at %2: %3 %4 %5").arg(mode).arg(fault.at).arg(after.code).arg(after.hung).arg(after.said)));
      QVERIFY(std::abs(peakIn(figuresFile(bench.path("r"), "steady")) - peak) < 0.3);
      const auto whole = loadRun(runFile(bench.path("r"), "steady"));
      QVERIFY(whole && whole->times.back() == 500 && whole->finished && !whole->reason.empty());
    }
    tally.print(qPrintable("going on, " + mode));
  }

  /// Given an end rule that was met just before the kill, when it goes on, then it ends there and then.
  void anEndRuleThatWasMetIsRemembered()
  {
    Random random(seed() + 2);
    FaultBench bench;
    Project p = layersInTime(6, 4000);
    p.cases.front().run->ends = {{"warm", EndAtValue{"peak", number(320), false}, {}}};
    bench.write(p);
    const long changes = bench.changesOf({"solve"}, "base");
    const auto whole = loadRun(runFile(bench.path("base"), "steady"));
    QVERIFY(whole && whole->finished && whole->reason.find("rose to") != std::string::npos);
    int late = 0;
    for (int i = 0; i < trials(6); ++i) {
      std::filesystem::remove_all(bench.path("r"));
      std::filesystem::create_directories(bench.path("r"));
      static_cast<void>(bench.run({"solve"}, "r", {"kill", changes - 1 - below(random, changes / 3), 0}));
      const FaultOutcome after = bench.run({"solve", "--continue"}, "r");
      if (after.code != 0) { // killed before anything was stored
        QVERIFY2(after.said.contains("no run to go on with"),
                 qPrintable(QString("%1 %2 %3").arg(after.code).arg(after.hung).arg(after.said)));
        continue;
      }
      ++late;
      const auto record = loadRun(runFile(bench.path("r"), "steady"));
      QVERIFY(record && record->finished);
      QCOMPARE(record->reason, whole->reason);
      QVERIFY2(std::abs(record->times.back() - whole->times.back()) < 0.2,
               qPrintable(QString("%1, not %2 s").arg(record->times.back()).arg(whole->times.back())));
    }
    QVERIFY(late > 0);
    // One that had ended stays where it ended, with its end.
    const FaultOutcome again = bench.run({"solve", "--continue"}, "base");
    QVERIFY2(again.code == 0, qPrintable(again.said));
    const auto record = loadRun(runFile(bench.path("base"), "steady"));
    QVERIFY(record && record->finished && record->reason == whole->reason);
    QCOMPARE(record->times.back(), whole->times.back());
  }

  /// Given a damaged file of a result, when it is read, then it is refused by name within seconds, or read as it was.
  void damagedResults()
  {
    Random random(seed() + 3);
    FaultBench bench;
    const Project p = layersInTime(2, 200);
    bench.write(p);
    QCOMPARE(bench.run({"solve"}, "base").code, 0);
    std::vector<std::string> names;
    for (const auto& entry : std::filesystem::directory_iterator(bench.path("base")))
      if (entry.path().extension() == ".h5" || entry.path().extension() == ".json")
        names.push_back(entry.path().filename().string());
    QVERIFY(names.size() >= 5);
    int refused = 0;
    for (int i = 0; i < trials(40); ++i) {
      bench.copy("base", "r");
      const std::string& name = names[static_cast<std::size_t>(below(random, static_cast<long>(names.size())))];
      std::string bytes = *readWhole(bench.path("r/" + name));
      const auto head = static_cast<long>(std::min<std::size_t>(bytes.size(), 4096));
      const auto at = static_cast<std::size_t>(
          below(random, i % 2 == 0 ? head : static_cast<long>(bytes.size()))); // heads more often
      if (i % 5 == 0)
        bytes.resize(at);
      else
        bytes[at] = static_cast<char>(bytes[at] ^ (1 << below(random, 8)));
      QVERIFY(writeAtomically(bench.path("r/" + name), bytes));
      QElapsedTimer clock;
      clock.start();
      const FaultOutcome outcome =
          bench.run({"export", "--case", "steady", "--format", i % 3 == 0 ? "pvd" : "csv"}, "r");
      constexpr int longest = 10'000; // ms
      const QString trial = QString::fromStdString(name) + QString(" at %1: ").arg(at) + outcome.said;
      QVERIFY2(!outcome.killed && clock.elapsed() < longest, qPrintable(trial));
      const bool counts = name != ".mesh.h5" && name.find("result.json") == std::string::npos;
      if (counts)
        QVERIFY2(outcome.code == 2 && outcome.said.contains("Solve the case again"), qPrintable(trial));
      else
        QVERIFY2(outcome.code == 0 || outcome.code == 2, qPrintable(trial));
      refused += outcome.code == 2 ? 1 : 0;
      if (i % 8 == 0) {
        QCOMPARE(bench.run({"solve"}, "r").code, 0);
        QVERIFY(isUpToDate(p, p.cases.front(), bench.path("r")));
      }
    }
    std::printf("| damaged results | %d tried | %d refused by name |\n", trials(40), refused);
  }

  /// Given a damaged run that was interrupted, when it shall go on, then that is refused in words or done.
  void damagedGrowingRuns()
  {
    Random random(seed() + 4);
    FaultBench bench;
    bench.write(endless());
    static_cast<void>(bench.run({"solve"}, "base", {{}, 0, 1500}));
    QVERIFY(std::filesystem::exists(growingRunFile(bench.path("base"), "steady")));
    Project shorter = endless();
    shorter.cases.front().run->ends = {{"end", EndAtTime{number(2)}, {}}};
    bench.write(shorter);
    for (int i = 0; i < trials(10); ++i) {
      bench.copy("base", "r");
      const std::filesystem::path file = growingRunFile(bench.path("r"), "steady");
      std::string bytes = *readWhole(file);
      const auto at = static_cast<std::size_t>(below(random, 4096));
      bytes[at] = static_cast<char>(bytes[at] ^ (1 << below(random, 8)));
      QVERIFY(writeAtomically(file, bytes));
      QElapsedTimer clock;
      clock.start();
      const FaultOutcome outcome = bench.run({"solve", "--continue"}, "r");
      const QString trial = QString("at %1, bit: %2").arg(at).arg(outcome.said);
      QVERIFY2(!outcome.killed && clock.elapsed() < 20'000, qPrintable(trial));
      QVERIFY2(outcome.code == 0 || outcome.code == 1 || outcome.code == 2, qPrintable(trial));
    }
  }

  /// Given a folder that may only be read, when a case is solved, gone on with, held against others or refined there,
  /// then each is refused with the file and the remedy, and the result that was there stays current; exporting
  /// elsewhere works.
  void foldersThatMayOnlyBeRead()
  {
    FaultBench bench;
    const Project p = layersInTime(2, 200);
    bench.write(p);
    QCOMPARE(bench.run({"solve"}, "base").code, 0);
    const Held older = heldIn(bench.path("base"), p);
    for (const QStringList& command : {QStringList{"mesh"},
                                       {"solve"},
                                       {"solve", "--continue"},
                                       {"sure"},
                                       {"export", "--case", "steady", "--format", "vtu"}}) {
      const FaultOutcome outcome = bench.run(command, "base", {"denied", 1, 0});
      if (command.front() == "mesh" && outcome.code == 0)
        continue; // it was there
      QVERIFY2(outcome.code == 4 && !outcome.killed, qPrintable(command.join(' ') + ": " + outcome.said));
      QVERIFY2(outcome.said.contains("base") && outcome.said.contains("may write to"),
               qPrintable(command.join(' ') + ": " + outcome.said));
      const Held held = heldIn(bench.path("base"), p);
      QVERIFY2(held.wrong.isEmpty() && held.identity == older.identity, qPrintable(held.wrong));
      QVERIFY(isUpToDate(p, p.cases.front(), bench.path("base")));
    }
    const QString elsewhere = QString::fromStdString(bench.path("elsewhere.csv").string());
    const FaultOutcome outcome =
        bench.run({"export", "--case", "steady", "--format", "csv", "--to", elsewhere}, "base", {"denied", 1, 0});
    QVERIFY2(outcome.code == 0 && QFile::exists(elsewhere), qPrintable(outcome.said));
  }

  /// Given a folder that vanishes while a run goes, then the run ends soon and says so.
  void aFolderThatVanishesIsNoticed()
  {
    FaultBench bench;
    bench.write(endless());
    QProcess run;
    run.setProcessChannelMode(QProcess::MergedChannels);
    run.start(UKILN, {"solve", QString::fromStdString(bench.path("p.kiln").string()), "--out",
                      QString::fromStdString(bench.path("r").string()), "--progress", "json"});
    QByteArray said;
    while (said.count("\"at ") < 3 && run.waitForReadyRead(30'000))
      said += run.readAll();
    std::filesystem::remove_all(bench.path("r"));
    constexpr int soon = 20'000; // ms
    const bool ended = run.waitForFinished(soon);
    said += run.readAll();
    if (!ended)
      run.kill();
    run.waitForFinished();
    QVERIFY2(ended, said.right(2000));
    QCOMPARE(run.exitCode(), 4);
    QVERIFY2(said.contains("folder is gone"), said.right(2000));
  }

  /// Given shapes that are written over older ones, when that is killed at any change of a file, then the older ones
  /// are whole; the next time leaves nothing over.
  void shapesAreWrittenWhole()
  {
    Random random(seed() + 5);
    for (const char* name : {"r/shapes.step", "r/shapes.stl"}) {
      FaultBench bench;
      bench.write(layers(2));
      std::filesystem::create_directories(bench.path("r"));
      const QStringList command{"shapes", "--to", QString::fromStdString(bench.path(name).string())};
      QCOMPARE(bench.runPlain(command, "r").code, 0);
      const auto pieces = [&] { return std::filesystem::file_size(bench.path(name)); };
      const auto whole = pieces();
      for (int i = 0; i < trials(4); ++i) {
        static_cast<void>(bench.runPlain(command, "r", {"kill", 1 + below(random, 6), 0}));
        QCOMPARE(pieces(), whole);
      }
      const FaultOutcome full = bench.runPlain(command, "r", {"full", 1, 0});
      QVERIFY2(full.code == 0 || (full.code == 4 && full.said.contains("shapes.")), qPrintable(full.said));
      QCOMPARE(pieces(), whole);
      QCOMPARE(bench.runPlain(command, "r").code, 0);
      for (const auto& entry : std::filesystem::directory_iterator(bench.path("r")))
        QCOMPARE(entry.path(), bench.path(name));
    }
  }

  /// Given names with codes that steer a terminal, then nothing that is printed steers it.
  void namesDoNotSteerTheTerminal()
  {
    FaultBench bench;
    Project p = layers(2);
    const std::string red = "\x1b[31mred\x07";
    p.name = p.cases.front().name = p.parts.front().name = p.watches.front().name = "a " + red;
    bench.write(p);
    for (const QStringList& command :
         {QStringList{"solve"}, {"sure"}, {"export", "--case", "nothing", "--format", "csv"}})
      for (const char* as : {"bar", "json"}) {
        const FaultOutcome outcome = bench.run(QStringList(command) << "--progress" << as, "r");
        QVERIFY2(outcome.said.contains("red"), qPrintable(outcome.said));
        for (const QChar c : outcome.said)
          QVERIFY2(c == '\n' || c == '\r' || c == '\t' || c.unicode() >= ' ', qPrintable(outcome.said));
      }
  }

  /// Given two at once, then the second one is told who the first is, and the first comes to its end.
  void twoSolvesOfOneCase()
  {
    FaultBench bench;
    bench.write(endless());
    QProcess first;
    first.start(UKILN, {"solve", QString::fromStdString(bench.path("p.kiln").string()), "--out",
                        QString::fromStdString(bench.path("r").string()), "--progress", "json"});
    QByteArray said;
    while (said.count("\"at ") < 3 && first.waitForReadyRead(30'000))
      said += first.readAllStandardOutput();
    const FaultOutcome second = bench.run({"solve"}, "r");
    QCOMPARE(second.code, 1);
    QVERIFY2(second.said.contains(QString("process %1").arg(first.processId())), qPrintable(second.said));
    QVERIFY(first.state() == QProcess::Running);
    first.kill();
    first.waitForFinished();
    bench.write(layersInTime(2, 50));
    QCOMPARE(bench.run({"solve"}, "r").code, 0); // a lock of one that is gone holds nobody up
  }

  /// Given a queue whose disk fills up, then it comes to its end, names each case that was not stored, and once there
  /// is room the same command stores them all.
  void aQueueWhoseDiskFillsUp()
  {
    FaultBench bench;
    Project p = layers(2);
    for (int i = 1; i <= 4; ++i) {
      Case one = p.cases.front();
      one.id = "lamp-" + std::to_string(i);
      one.name = "Lamp " + std::to_string(i);
      one.changes = {{"lamp.power", Property{number(2.0 + i), {}}}};
      p.cases.push_back(std::move(one));
    }
    bench.write(p);
    const std::string before = *readWhole(bench.path("p.kiln"));
    const QStringList queue{"solve", "--all", "--jobs", "2"};
    const FaultOutcome full = bench.run(queue, "r", {"full", 3, 0});
    QVERIFY2(!full.hung && !full.killed && full.code != 0, qPrintable(full.said));
    QVERIFY2(full.said.contains("5 of 5 cases failed"), qPrintable(full.said));
    for (const Case& one : p.cases) {
      QVERIFY2(full.said.contains("  " + QString::fromStdString(one.name) + ": "), qPrintable(full.said));
      QVERIFY(!isUpToDate(p, one, bench.path("r")));
    }
    QVERIFY2(full.said.contains("Make room on this disk"), qPrintable(full.said));
    QCOMPARE(*readWhole(bench.path("p.kiln")), before);
    const FaultOutcome again = bench.run(queue, "r");
    QVERIFY2(again.code == 0, qPrintable(again.said));
    for (const Case& one : p.cases)
      QVERIFY(isUpToDate(p, one, bench.path("r")));
  }

  /// Given links planted in the folder of results, then what they point to is left alone.
  void linksAreNotFollowed()
  {
    FaultBench bench;
    bench.write(layersInTime(2, 50));
    std::filesystem::create_directories(bench.path("r"));
    QVERIFY(writeAtomically(bench.path("mine"), "mine"));
    for (const auto& file : {resultFile(bench.path("r"), "steady"), figuresFile(bench.path("r"), "steady"),
                             runFile(bench.path("r"), "steady"), growingRunFile(bench.path("r"), "steady"),
                             manifestFile(bench.path("r"), "steady"), meshFile(bench.path("r"))})
      std::filesystem::create_symlink(bench.path("mine"), file);
    const FaultOutcome outcome = bench.run({"solve"}, "r");
    QVERIFY2(outcome.code == 0, qPrintable(outcome.said));
    QCOMPARE(*readWhole(bench.path("mine")), std::string("mine"));
  }
};

QTEST_GUILESS_MAIN(TestFaults)
#include "tst_faults.moc"
