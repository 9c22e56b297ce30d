// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What of a run is stored, what it says of its parts, and where a run may start from.
#include "TransientProjects.h"
#include "io/ProjectFile.h"
#include "model/ScheduleShapes.h"
#include "model/TimeSeries.h"
#include "results/EdgeProfile.h"
#include "results/UnstoredParts.h"
#include "run/InputHash.h"
#include "run/LaterWatches.h"

#include <QTest>
#include <cmath>
#include <filesystem>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two lumps that nothing joins, with time constants of 100 and 25 s.
Project twoLumps(double until)
{
  Project p = lump(400, until);
  p.parts.push_back(part("quick", "copper", block(0.02, 0.02, 0.02), Vec3(0.1, 0, 0)));
  p.surfaces.push_back(exposedOf("skin 2", {"quick"}));
  const double h = 9000 * 400 * 0.02 / 6 / 25;
  p.boundaries.push_back(boundary("blower", Convection{"skin 2", Property{h, ""}, Property{300, ""}}));
  p.watches.push_back(watch("q", PartFigure{PartFigure::Kind::Mean, {"quick"}}));
  p.cases.front().run->tolerance = number(0.01);
  return p;
}

double cooled(double time, double constant) { return 300 + 100 * std::exp(-time / constant); }

StoredSpan stored(const std::string& id, double from)
{
  StoredSpan span;
  span.id = id;
  span.from = number(from);
  return span;
}

std::vector<double> fieldAt(const std::filesystem::path& folder, std::size_t instant)
{
  return InstantReader::open(runFile(folder, "steady"))->field(instant).value();
}

} // namespace

class TestStoring : public QObject
{
  Q_OBJECT

private slots:
  /// An interval is met to the instant, between steps by their own cubic.
  void anIntervalIsRegular()
  {
    Project p = twoLumps(120);
    p.cases.front().run->storeEvery = number(7);
    const QTemporaryDir folder;
    const Ran ran = runIn(p, folder.path().toStdString());
    std::vector<double> regular;
    for (const double t : ran.record.instants)
      if (!std::binary_search(ran.record.times.begin(), ran.record.times.end(), t) || t == 0)
        regular.push_back(t);
    QVERIFY(regular.size() >= 17);
    for (std::size_t i = 0; i < regular.size(); ++i)
      QVERIFY2(std::abs(std::remainder(regular[i], 7)) < 1e-6, qPrintable(QString::number(regular[i])));
    for (std::size_t i = 0; i < ran.record.instants.size(); ++i) {
      const std::vector<double> field = fieldAt(folder.path().toStdString(), i);
      QVERIFY2(std::abs(field.front() - cooled(ran.record.instants[i], 100)) < 0.05,
               qPrintable(QString("%1 at %2").arg(field.front()).arg(ran.record.instants[i])));
    }
    // What is stored changes no step.
    p.cases.front().run->storeEvery.reset();
    QVERIFY(run(p).record.times == ran.record.times);
  }

  void chosenInstantsAndStretchesAreStored()
  {
    Project p = twoLumps(120);
    StoredSpan stretch = stored("fine", 40);
    stretch.to = number(42);
    stretch.every = number(0.5);
    p.cases.front().run->storeAlso = {stored("one", 33.25), stretch};
    const Ran ran = run(p);
    for (const double wanted : {33.25, 40.0, 40.5, 41.0, 41.5, 42.0})
      QVERIFY2(std::any_of(ran.record.instants.begin(), ran.record.instants.end(),
                           [&](double t) { return std::abs(t - wanted) < 1e-6; }),
               qPrintable(QString::number(wanted)));
    QVERIFY(std::is_sorted(ran.record.instants.begin(), ran.record.instants.end()));
    p.cases.front().run->storeAlso[1].every.reset();
    QVERIFY(mentions(*checkProject(p), Finding::Severity::Error, {"case Steady", "not complete"}));
  }

  void onlySomePartsAreStored()
  {
    Project p = twoLumps(60);
    TransientRun& settings = *p.cases.front().run;
    settings.storeParts = {"quick"};
    settings.storeEvery = number(2);
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const Ran ran = runIn(p, path);
    const auto isWhole = [](const std::vector<double>& field) {
      return std::none_of(field.begin(), field.end(), [](double t) { return std::isnan(t); });
    };
    QVERIFY(isWhole(fieldAt(path, 0)));
    QVERIFY(isWhole(fieldAt(path, ran.record.instants.size() - 1)));
    std::vector<double> some = fieldAt(path, 5);
    QVERIFY(!isWhole(some));
    const double time = ran.record.instants[5];
    const auto names = fillUnstored(ran.record, ran.result.mesh, ran.result.unknowns, time, some);
    QCOMPARE(names, std::vector<std::string>{"lump"});
    QVERIFY(isWhole(some));
    const auto [low, high] = std::minmax_element(some.begin(), some.end());
    QVERIFY2(std::abs(*high - cooled(time, 100)) < 0.3 && std::abs(*low - cooled(time, 25)) < 0.3,
             qPrintable(QString("%1 %2 at %3").arg(*low).arg(*high).arg(time)));
    // It goes on all the same.
    settings.ends = {{"end", EndAtTime{number(100)}, {}}};
    const auto on = runCase(p, p.cases.front(), path, noProgress, true);
    QVERIFY2(on.has_value(), on ? "" : wordsOf(on.error()).c_str());
    const auto record = loadRun(runFile(path, "steady"));
    QVERIFY(std::abs(valueAt(*record, "t", 100) - cooled(100, 100)) < 0.1);
    settings.storeParts = {"nobody"};
    QVERIFY(mentions(*checkProject(p), Finding::Severity::Error, {"case Steady", "nobody", "does not exist"}));
  }

  /// Parts settle one by one: within a band b of the end after τ ln(ΔT / (b + rest)).
  void partsSettleOneByOne()
  {
    Project p = twoLumps(900);
    const Ran ran = run(p);
    const double band = 2;
    const std::vector<PartInTime> parts = partsInTime(ran.record, band);
    QCOMPARE(parts.size(), 2UL);
    for (const auto& [part, constant] : {std::pair(parts[0], 100.0), {parts[1], 25.0}}) {
      const double exact = constant * std::log(100 / (band + 100 * std::exp(-900 / constant)));
      QVERIFY2(part.hottest.settled && std::abs(*part.hottest.settled - exact) < 0.01 * exact,
               qPrintable(QString("%1, not %2").arg(part.hottest.settled.value_or(-1)).arg(exact)));
      const double fastest = -100 / constant;
      // A corner, with its small elements, starts faster than the whole, by its share of the skin.
      QVERIFY2(part.fastestCooling.value < 0.97 * fastest && part.fastestCooling.value > 80 * fastest,
               qPrintable(QString::number(part.fastestCooling.value)));
      QVERIFY(part.fastestCooling.place >= 0 && part.fastestCooling.time < 1);
    }
    QCOMPARE(*allSettled(parts), *parts[0].hottest.settled);
  }

  /// The spread in a slab that is cooled at one end is largest somewhere on the way, and is seen.
  void theSpreadOfAPartIsTracked()
  {
    Project p = slab(0.04, 0.002);
    p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}})};
    p.watches.push_back(watch("spread", PartFigure{PartFigure::Kind::Spread, {"slab"}}));
    inTime(p, 500, 4000);
    const Ran ran = run(p);
    const RunTrace* watched = ran.record.find(RunTrace::Kind::Watch, "spread");
    const PartInTime slabInTime = partsInTime(ran.record, std::nullopt).front();
    QCOMPARE(slabInTime.spread.value, *std::max_element(watched->values.begin(), watched->values.end()));
    QVERIFY(slabInTime.spread.time > 10 && slabInTime.spread.time < 2000);
  }

  /// What crosses a contact is recorded at every step: G A times the difference of two lumps.
  void contactsAreKnownAtEveryStep()
  {
    Project p = lump(400, 200);
    p.parts.push_back(part("other", "copper", block(0.02, 0.02, 0.02), Vec3(0.02, 0, 0)));
    p.contacts = {contact("lump", "other", AreaConductance{number(500)})};
    p.watches.push_back(watch("o", PartFigure{PartFigure::Kind::Mean, {"other"}}));
    const Ran ran = run(p);
    const RunTrace* crossing = ran.record.find(RunTrace::Kind::Contact, pairId("lump", "other"));
    QVERIFY(crossing != nullptr);
    const auto [least, largest] = std::minmax_element(crossing->values.begin(), crossing->values.end());
    const double most = std::max(-*least, *largest);
    QVERIFY(most > 1);
    for (std::size_t i = 0; i < ran.record.times.size(); ++i) {
      const double difference = ran.record.find(RunTrace::Kind::Watch, "t")->values[i] -
                                ran.record.find(RunTrace::Kind::Watch, "o")->values[i];
      const double watts = 500 * 4e-4 * difference;
      QVERIFY2(std::abs(crossing->values[i] - watts) <= 0.02 * most,
               qPrintable(QString("%1, not %2 W").arg(crossing->values[i]).arg(watts)));
    }
  }

  /// The error of a cooling lump falls with the tolerance.
  void theErrorFollowsTheTolerance()
  {
    std::vector<double> errors;
    for (const double tolerance : {1.0, 0.1, 0.01}) {
      Project p = lump(400, 200);
      p.cases.front().run->tolerance = number(tolerance);
      const Ran ran = run(p);
      double worst = 0;
      const RunTrace* trace = ran.record.find(RunTrace::Kind::Watch, "t");
      for (std::size_t i = 0; i < ran.record.times.size(); ++i)
        worst = std::max(worst, std::abs(trace->values[i] - cooled(ran.record.times[i], 100)));
      errors.push_back(worst);
      QVERIFY2(worst < 3 * tolerance, qPrintable(QString("%1 at %2").arg(worst).arg(tolerance)));
    }
    QVERIFY2(errors[1] < errors[0] / 3 && errors[2] < errors[1] / 3,
             qPrintable(QString("%1 %2 %3").arg(errors[0]).arg(errors[1]).arg(errors[2])));
  }

  /// A run that was killed still tells when its thermostat switched and its rules fired.
  void aKilledRunHasItsMarks()
  {
    Project p = lump(300, 300);
    HeatSource heater = source("heater", PartPower{{"lump"}, Property{144, ""}});
    heater.thermostat = Thermostat{"t", number(330), number(4), false, {}};
    p.sources = {heater};
    RunRule rule;
    rule.id = "warm";
    rule.watch = "t";
    rule.value = number(320);
    rule.unmute = {"air"};
    p.cases.front().run->rules = {rule};
    const Ran ran = run(p);
    const std::vector<RunMark> found = marksOfTraces(ran.record);
    std::vector<RunMark> known = ran.record.marks;
    std::erase_if(known, [](const RunMark& mark) {
      return mark.kind == RunMark::Kind::Breakpoint || mark.kind == RunMark::Kind::Ended;
    });
    QVERIFY(known.size() > 4);
    QCOMPARE(found.size(), known.size());
    for (std::size_t i = 0; i < found.size(); ++i) {
      QVERIFY(found[i].kind == known[i].kind);
      QCOMPARE(found[i].id, known[i].id);
      QVERIFY(std::abs(found[i].time - known[i].time) < 1e-9);
    }
  }

  /// Watches made after a run have the same course as if they had been there: temperatures by lines between stored
  /// instants, contacts and surfaces as recorded of what is on them.
  void laterWatchesHaveTheirCourse()
  {
    Project p = lump(400, 200);
    p.parts.push_back(part("other", "copper", block(0.02, 0.02, 0.02), Vec3(0.02, 0, 0)));
    p.contacts = {contact("lump", "other", AreaConductance{number(500)})};
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project full = p;
    full.watches.push_back(watch("o", PartFigure{PartFigure::Kind::Hottest, {"other"}}));
    full.watches.push_back(watch("through", ContactHeat{"other", "lump"}));
    full.watches.push_back(watch("skin heat", SurfaceHeat{"skin"}));
    const Ran known = run(full);
    Ran ran = runIn(p, path);
    QVERIFY(lacksWatches(full, ran.record) && !lacksWatches(p, ran.record));
    const auto fields = InstantReader::open(runFile(path, "steady"));
    addLaterWatches(full, ran.result.mesh, ran.result.unknowns, *fields, ran.record);
    for (const auto& [id, near] : {std::pair("o", 0.2), {"through", 1e-6}, {"skin heat", 1e-6}})
      for (const double time : {0.0, 20.0, 111.0, 200.0})
        QVERIFY2(std::abs(valueAt(ran.record, id, time) - valueAt(known.record, id, time)) < near,
                 qPrintable(QString("%1 at %2: %3, not %4")
                                .arg(id)
                                .arg(time)
                                .arg(valueAt(ran.record, id, time))
                                .arg(valueAt(known.record, id, time))));
    // A boundary that reaches beyond the surface cannot be shared out: then the course stays unknown.
    Project wider = full;
    wider.surfaces.push_back(surface("top", {"lump.top"}));
    wider.watches.push_back(watch("top heat", SurfaceHeat{"top"}));
    addLaterWatches(wider, ran.result.mesh, ran.result.unknowns, *fields, ran.record);
    QVERIFY(ran.record.find(RunTrace::Kind::Watch, "top heat") == nullptr);
  }

  void aRunStartsFromAnotherProject()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    Project first = lump(400, 100);
    first.cases.front().run->tolerance = number(0.01);
    QVERIFY(saveProject(first, path / "first.kiln").has_value());
    std::filesystem::create_directories(path / "first.results");
    std::filesystem::create_directories(path / "second.results");
    const Ran before = runIn(first, path / "first.results");
    Project second = lump(300, 50);
    second.parts[0].meshSize = number(0.005);
    second.cases.front().run->start = StartFromCase{"steady", "first.kiln", number(60)};
    const Ran ran = runIn(second, path / "second.results");
    const double begun = valueAt(ran.record, "t", 0);
    QVERIFY2(std::abs(begun - cooled(60, 100)) < 0.3, qPrintable(QString::number(begun - cooled(60, 100))));
    QVERIFY2(ran.record.startNote.find("heat in them") != std::string::npos, ran.record.startNote.c_str());
    second.cases.front().run->start = StartFromCase{"steady", "gone.kiln", {}};
    const auto refused = runCase(second, second.cases.front(), path / "second.results", noProgress);
    QVERIFY(!refused && wordsOf(refused.error()).find("gone.kiln") != std::string::npos);
    QVERIFY(before.record.finished);
  }

  /// What a case starts from counts: where that changes, it is out of date.
  void aCaseIsAsOldAsWhatItStartsFrom()
  {
    Project p = lump(400, 100);
    Case second = p.cases.front();
    second.id = "second";
    second.run->start = StartFromCase{"steady", {}, {}};
    Case third = second;
    third.id = "third";
    third.run->start = StartFromCase{"second", {}, {}};
    p.cases.push_back(second);
    p.cases.push_back(third);
    QCOMPARE(startsFrom(p, p.cases[2]), (std::vector<std::string>{"second", "steady"}));
    const std::string before = solutionHash(p, p.cases[2]);
    p.cases[0].run->ends = {{"end", EndAtTime{number(120)}, {}}};
    QVERIFY(solutionHash(p, p.cases[2]) != before);
    const std::string banded = solutionHash(p, p.cases[2]);
    p.cases[2].run->settleBand = number(3); // only read from the result
    QCOMPARE(solutionHash(p, p.cases[2]), banded);
    p.cases[0].run->start = StartFromCase{"third", {}, {}}; // in a circle: found, not followed for ever
    QCOMPARE(startsFrom(p, p.cases[2]).size(), 2UL);
  }

  void rampsAndHoldsBecomePoints()
  {
    const std::vector<RampHold> firing{{873.15, 580 / (120.0 / 3600), 0}, {1273.15, 2 * 3600, 900}};
    Schedule schedule;
    schedule.points = pointsOf(293.15, firing);
    QVERIFY(std::abs(*valueAt(schedule, 290 / (120.0 / 3600)) - 583.15) < 1e-9); // half-way up the first ramp
    QVERIFY(std::abs(*valueAt(schedule, 580 * 30 + 7200 + 450) - 1273.15) < 1e-9);
    QVERIFY(std::abs(schedule.points.back().at.si - (580 * 30 + 7200 + 900)) < 1e-9);
    const std::vector<RampHold> again = stretchesOf(schedule.points);
    QCOMPARE(again.size(), 2UL);
    for (std::size_t i = 0; i < 2; ++i)
      QVERIFY(std::abs(again[i].within - firing[i].within) < 1e-6 && std::abs(again[i].hold - firing[i].hold) < 1e-6 &&
              again[i].target == firing[i].target);
    // At once is a millisecond; times still increase.
    schedule.points = pointsOf(0, std::vector<RampHold>{{5, 0, 10}, {0, 0, 0}});
    for (std::size_t i = 1; i < schedule.points.size(); ++i)
      QVERIFY(schedule.points[i].at.si > schedule.points[i - 1].at.si);
  }

  void aDutyCycleHasItsMean()
  {
    const Schedule schedule = dutyCycle(100, 20, 60, 0.25);
    QVERIFY(std::abs(integralOf(schedule, 0, 600) / 600 - (0.25 * 100 + 0.75 * 20)) < 1e-9);
    QCOMPARE(*valueAt(schedule, 125), 100.0);
    QCOMPARE(*valueAt(schedule, 140), 20.0);
  }

  /// Along an edge of a slab between two temperatures: the straight line between them; the flux is k ΔT / L.
  void valuesAlongAnEdge()
  {
    Project p = slab(0.04, 0.002);
    p.boundaries = {boundary("hot", FixedSurface{"left", number(400)}),
                    boundary("cold", FixedSurface{"right", number(300)})};
    const CaseResult result = solve(p);
    const std::vector<std::string> faces{"slab.front", "slab.top"};
    const auto path = edgePath(result.mesh, faces, Vec3(-1, 0, 0));
    const auto pieces = edgeProfile(result.mesh, result.unknowns, result.temperature, result.flux, faces, path);
    QVERIFY(pieces.size() > 10);
    QVERIFY(std::abs(pieces.back().to - 0.04) < 1e-12);
    for (const LinePiece& piece : pieces) {
      QVERIFY(std::abs(piece.temperatureFrom - (400 - 100 * piece.from / 0.04)) < 1e-6);
      QVERIFY(std::abs(piece.flux - 2 * 100 / 0.04) < 1e-3);
    }
    // From the other end the same the other way round.
    QCOMPARE(edgePath(result.mesh, faces, Vec3(1, 0, 0)).front(), path.back());
    // The edge is found from a click near it.
    FaceId top;
    for (std::size_t f = 0; f < result.mesh.geometry.faces.size(); ++f)
      if (result.mesh.geometry.faces[f].names.front() == "slab.top")
        top = FaceId(f);
    QVERIFY(top >= 0);
    const std::vector<std::string> near = edgeNear(result.mesh, top, Vec3(0.0, -0.0009, 0.002));
    QCOMPARE(near, (std::vector<std::string>{"slab.top", "slab.front"}));
    QVERIFY(edgePath(result.mesh, {"slab.left", "slab.right"}, Vec3::Zero()).empty());
  }

  void aRoundEdgeCloses()
  {
    Project p = projectWith(0.004);
    p.materials = {material("stuff", 2)};
    p.parts = {part("rod", "stuff", Cylinder{number(0.02), number(0.05)})};
    p.surfaces = {surface("top", {"rod.top"})};
    p.boundaries = {boundary("hot", FixedSurface{"top", number(400)})};
    const CaseResult result = solve(p);
    const auto path = edgePath(result.mesh, {"rod.top", "rod.side"}, Vec3(1, 0, 0));
    QVERIFY(path.size() > 8);
    QCOMPARE(path.front(), path.back());
    const auto pieces =
        edgeProfile(result.mesh, result.unknowns, result.temperature, result.flux, {"rod.top", "rod.side"}, path);
    const double around = 2 * std::numbers::pi * 0.02;
    QVERIFY2(pieces.back().to < around && pieces.back().to > 0.97 * around,
             qPrintable(QString::number(pieces.back().to / around)));
  }
};

QTEST_APPLESS_MAIN(TestStoring)
#include "tst_storing.moc"
