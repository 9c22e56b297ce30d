// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Runs that are interrupted, steered and continued.
#include "TransientProjects.h"
#include "io/AtomicFile.h"
#include "io/LogFile.h"
#include "io/ProjectFile.h"
#include "run/InputHash.h"
#include "run/TransientCase.h"

#include <QTest>
#include <cmath>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

void endAt(Project& p, double time) { p.cases.front().run->ends = {{"end", EndAtTime{number(time)}, {}}}; }

Ran goOn(const Project& p, const std::filesystem::path& folder)
{
  auto result = runCase(p, p.cases.front(), folder, noProgress, true);
  if (!result)
    throw std::runtime_error(wordsOf(result.error()));
  auto record = loadRun(runFile(folder, p.cases.front().id));
  if (!record)
    throw std::runtime_error(record.error().sentence());
  return {std::move(*result), std::move(*record)};
}

/// A heater under a thermostat, and a rule that mutes the cooling air once; something has switched by 100 s.
Project controlled()
{
  Project p = lump(300, 400);
  p.sources = {source("heater", PartPower{{"lump"}, Property{60, ""}})};
  p.sources.front().thermostat = Thermostat{"t", number(330), number(4), false, {}};
  RunRule rule;
  rule.id = "warm";
  rule.watch = "t";
  rule.value = number(320);
  rule.mute = {"draught"};
  p.boundaries.push_back(boundary("draught", Convection{"skin", Property{5, ""}, Property{280, ""}}));
  p.cases.front().run->rules = {rule};
  return p;
}

} // namespace

class TestGoOn : public QObject
{
  Q_OBJECT

private slots:
  void inTwoPiecesAsInOne()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = lump(400, 300);
    p.cases.front().run->tolerance = number(0.01);
    const Ran whole = run(p);
    endAt(p, 120);
    const Ran first = runIn(p, path);
    QCOMPARE(first.record.times.back(), 120.0);
    endAt(p, 300);
    const Ran second = goOn(p, path);
    QCOMPARE(second.record.times.back(), 300.0);
    QCOMPARE(second.record.times.front(), 0.0); // one run from its start
    QVERIFY(second.record.steps > first.record.steps);
    const std::vector<double> values = second.record.find(RunTrace::Kind::Watch, "t")->values;
    for (std::size_t i = 0; i < values.size(); ++i)
      QVERIFY(std::abs(values[i] - (300 + 100 * std::exp(-second.record.times[i] / 100))) < 0.05);
    for (const double t : {10.0, 119.0, 121.0, 300.0})
      QVERIFY(std::abs(valueAt(second.record, "t", t) - valueAt(whole.record, "t", t)) < 0.3); // by lines between steps
    // Energy is summed over both pieces.
    const double in = second.record.at(RunTrace::Kind::BoundaryEnergy, "air", 300).value();
    const double exact = -9000 * 400 * 8e-6 * 100 * (1 - std::exp(-3));
    QVERIFY2(std::abs(in / exact - 1) < 1e-3, qPrintable(QString("%1, not %2 J").arg(in).arg(exact)));
    QVERIFY(second.record.imbalance < 1e-5);
    const RunTrace* stored = second.record.find(RunTrace::Kind::Stored, "lump");
    QVERIFY(stored != nullptr && std::abs(stored->values.back() / exact - 1) < 1e-3);
  }

  void switchesAndRulesAreRemembered()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = controlled();
    p.cases.front().run->tolerance = number(0.02);
    const Ran whole = run(p);
    // Stop where the heater is off within the band: only its memory says so.
    const RunTrace* trace = whole.record.find(RunTrace::Kind::Switch, "heater");
    QVERIFY(trace != nullptr);
    double stop = 0;
    for (std::size_t i = 0; i < trace->values.size(); ++i)
      if (trace->values[i] == 0 && whole.record.times[i] > 100 && stop == 0)
        stop = whole.record.times[i] + 3;
    QVERIFY(stop > 100);
    const double value = valueAt(whole.record, "t", stop);
    QVERIFY(value > 328 && value < 332);
    endAt(p, stop);
    runIn(p, path);
    endAt(p, 400);
    const Ran second = goOn(p, path);
    QCOMPARE(second.record.find(RunTrace::Kind::Fired, "warm")->values.back(), 1.0);
    int fired = 0;
    for (const RunMark& mark : second.record.marks)
      fired += mark.kind == RunMark::Kind::RuleFired ? 1 : 0;
    QCOMPARE(fired, 1); // not once more
    for (const double t : {stop + 2, stop + 20, 350.0, 400.0})
      QVERIFY(std::abs(valueAt(second.record, "t", t) - valueAt(whole.record, "t", t)) < 0.3);
    QVERIFY(std::abs(second.record.at(RunTrace::Kind::Boundary, "draught", 399).value()) < 1e-12);
  }

  /// A watch made between the two pieces has values over both.
  void aWatchAddedMeanwhileIsFilled()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = lump(400, 100);
    runIn(p, path);
    p.watches.push_back(watch("late", PartFigure{PartFigure::Kind::Mean, {"lump"}}));
    p.watches.push_back(watch("late heat", SurfaceHeat{"skin"}));
    endAt(p, 200);
    const Ran ran = goOn(p, path);
    for (const double t : {0.0, 20.0, 70.0, 100.0, 150.0, 200.0})
      QVERIFY2(
          std::abs(valueAt(ran.record, "late", t) - valueAt(ran.record, "t", t)) < 0.3,
          qPrintable(
              QString("%1: %2, not %3").arg(t).arg(valueAt(ran.record, "late", t)).arg(valueAt(ran.record, "t", t))));
    const RunTrace* slope = ran.record.find(RunTrace::Kind::WatchSlope, "late");
    QVERIFY(slope != nullptr && slope->values.front() < 0);
    // Heat that nobody watched then is not made up.
    QVERIFY(!ran.record.at(RunTrace::Kind::Watch, "late heat", 50));
    QVERIFY(valueAt(ran.record, "late heat", 150) < 0);
    const auto answers = answersOf(ran.record, p.watches.back());
    QVERIFY(answers && answers->trough.time > 100 - 1e-9);
  }

  void anotherCourseCannotGoOn()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = lump(400, 50);
    const auto nothing = runCase(p, p.cases.front(), path, noProgress, true);
    QVERIFY(!nothing && nothing.error().failure->sentence().find("no run to go on") != std::string::npos);
    runIn(p, path);
    Project other = p;
    std::get<Convection>(other.boundaries.front().condition).ambient = Property{310, ""};
    QVERIFY(courseHash(other, other.cases.front()) != courseHash(p, p.cases.front()));
    const auto refused = runCase(other, other.cases.front(), path, noProgress, true);
    QVERIFY(!refused && refused.error().failure->sentence().find("was changed") != std::string::npos);
    // The refusal left the run as it was.
    QVERIFY(loadRun(runFile(path, "steady")) && loadRun(runFile(path, "steady"))->finished);
    other = p;
    endAt(other, 90);
    other.cases.front().run->tolerance = number(0.5);
    other.watches.front().name = "another name";
    QCOMPARE(courseHash(other, other.cases.front()), courseHash(p, p.cases.front()));
  }

  void endedByHandAndKept()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = lump(400, 300);
    const ControlFiles files = controlFiles(path, "steady");
    const Progress pressEnd = [&](std::string_view, double, std::string_view message) {
      if (message.find("at ") == 0 && message.find("at 0") != 0)
        std::ofstream(files.stop) << "";
    };
    const auto result = runCase(p, p.cases.front(), path, pressEnd);
    QVERIFY(result);
    QVERIFY(result->time > 0 && result->time < 300);
    const auto record = loadRun(runFile(path, "steady"));
    QVERIFY(record && record->finished);
    QCOMPARE(record->reason, std::string("ended by hand"));
    QVERIFY(!std::filesystem::exists(files.stop)); // does not end the next one
    QCOMPARE(goOn(p, path).record.times.back(), 300.0);
  }

  void limitsChangeWhileItRuns()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project p = lump(400, 300);
    const ControlFiles files = controlFiles(path, "steady");
    bool sent = false;
    const Progress shorten = [&](std::string_view, double, std::string_view message) {
      if (sent || message.find("at ") != 0 || message.find("at 0") == 0)
        return;
      sent = true;
      Project other = p;
      endAt(other, 80);
      QVERIFY(saveProject(other, files.limits));
    };
    const auto result = runCase(p, p.cases.front(), path, shorten);
    QVERIFY(result && sent);
    QCOMPARE(result->time, 80.0);
    QVERIFY(!std::filesystem::exists(files.limits));
  }

  void aThermostatReportsWhatItDid()
  {
    // 60 W against 0.24·h·… : the share of the time is the loss at the set point over the power.
    Project p = controlled();
    p.cases.front().run->rules.clear();
    p.boundaries.pop_back();
    endAt(p, 2000);
    p.cases.front().run->tolerance = number(0.02);
    const Ran ran = run(p);
    const auto report = thermostatReport(ran.record, "heater");
    QVERIFY(report);
    const double conductance = 9000 * 400 * 8e-6 / 100; // W/K
    const auto whole = energyBetween(ran.record, 500, 2000);
    const double mean = whole.in / 1500;
    QVERIFY2(std::abs(mean - 30 * conductance) < 0.05 * 30 * conductance, qPrintable(QString::number(mean)));
    QVERIFY(std::abs(whole.in - whole.out - whole.stored) < 1e-4 * whole.in);
    QVERIFY(report->switchings > 20);
    QVERIFY(std::abs(report->energy - 60 * report->on * 2000) < 0.01 * report->energy);
    QVERIFY(!thermostatReport(ran.record, "nothing"));
  }

  void logsAreReadWithTheirUnits()
  {
    const auto columns = readLog("time [min]; oven [°C]; heater [kW]\n0; 20; 1.5\n2; 30;\n4; 40; 0\n", "log.csv");
    QVERIFY2(columns, columns ? "" : columns.error().sentence().c_str());
    QCOMPARE(columns->size(), std::size_t(2));
    QCOMPARE((*columns)[0].name, std::string("oven"));
    QCOMPARE((*columns)[0].points[1].at.si, 120.0);
    QCOMPARE((*columns)[0].points[2].value.si, 313.15);
    QCOMPARE((*columns)[1].points.size(), std::size_t(2)); // an empty cell is no value
    QCOMPARE((*columns)[1].points[0].value.si, 1500.0);
    const auto refused = [](const char* text, const char* line, const char* word) {
      const auto read = readLog(text, "log.csv");
      return !read && read.error().object.find(line) != std::string::npos &&
             read.error().sentence().find(word) != std::string::npos;
    };
    QVERIFY(refused("time, oven\n0, 20\n", "line 1", "units"));
    QVERIFY(refused("oven [°C], time [s]\n20, 0\n", "line 1", "unit of time"));
    QVERIFY(refused("time [s], oven [flurb]\n0, 20\n", "line 1", "flurb"));
    QVERIFY(refused("time [s], oven [°C]\n0, 20\n0, 21\n", "line 3", "do not increase"));
    QVERIFY(refused("time [s], oven [°C]\n0, 20\n1, nan\n", "line 3", "not a number"));
    QVERIFY(refused("time [s], oven [°C]\n", "line 1", "no values"));
  }

  void misfitIsFoundAtAnyOffset()
  {
    std::vector<TablePoint> measured;
    for (int t = 0; t <= 100; t += 10)
      measured.push_back({number(t), number(300 + 0.5 * t + (t == 60 ? 4 : 0))});
    const std::vector<double> times{0, 40, 200};
    const std::vector<double> values{301, 321, 401};
    const auto misfit = misfitOf(times, values, measured, 0);
    QVERIFY(misfit);
    QCOMPARE(misfit->largest, -3.0);
    QCOMPARE(misfit->at, 60.0);
    QVERIFY(std::abs(misfit->rms - std::sqrt((10 * 1 + 9) / 11.0)) < 1e-12);
    // Two seconds later the ramp itself is 1 K off: nothing is left but the one bad value.
    const auto shifted = misfitOf(times, values, measured, -2);
    QVERIFY(shifted && std::abs(std::abs(shifted->largest) - 4) < 1e-9);
    QVERIFY(!misfitOf(times, values, measured, 1000));
  }

  void afterwardsTheSteadyState()
  {
    Project p = lump(400, 50);
    p.cases.front().run->thenSteady = true;
    const Ran ran = run(p);
    QCOMPARE(ran.record.steadyAfter.size(), std::size_t(1));
    QCOMPARE(ran.record.steadyAfter.front().first, std::string("t"));
    QVERIFY(std::abs(ran.record.steadyAfter.front().second - 300) < 1e-6);
  }
};

QTEST_GUILESS_MAIN(TestGoOn)
#include "tst_goon.moc"
