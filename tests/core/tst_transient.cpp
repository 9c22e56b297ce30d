// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Temperatures in time against closed forms; what a run stores, says and survives.
#include "TransientProjects.h"
#include "heat/watches/WatchReader.h"
#include "io/RunFile.h"
#include "model/TimeSeries.h"
#include "results/InstantFilter.h"
#include "results/RunRecord.h"

#include <QTest>
#include <cmath>
#include <fstream>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

} // namespace

class TestTransient : public QObject
{
  Q_OBJECT

private slots:
  /// Exponential cooling, and the error falls with the tolerance.
  void lumpedBodyCoolsExponentially()
  {
    std::vector<double> errors;
    for (const double tolerance : {0.8, 0.1, 0.0125}) {
      Project p = lump(400, 300);
      p.cases.front().run->tolerance = number(tolerance);
      const Ran ran = run(p);
      double worst = 0;
      for (std::size_t i = 0; i < ran.record.times.size(); ++i)
        worst = std::max(worst, std::abs(ran.record.find(RunTrace::Kind::Watch, "t")->values[i] - 300 -
                                         100 * std::exp(-ran.record.times[i] / 100)));
      errors.push_back(worst);
      QVERIFY(ran.record.worstImbalance < 1e-6);
      QVERIFY(ran.record.imbalance < 1e-6);
    }
    qInfo("errors %.4f %.4f %.5f K", errors[0], errors[1], errors[2]);
    QVERIFY(errors[0] < 4 && errors[1] < 0.6 && errors[2] < 0.1);
    // Eight times tighter: steps half as long, a quarter of the error of a second-order method.
    QVERIFY(errors[0] / errors[1] > 3 && errors[1] / errors[2] > 3);
  }

  /// A quenched slab, centre and surface at six instants against its series.
  void quenchedSlabFollowsItsSeries()
  {
    Project p = slab(0.04, 0.001);
    p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}}),
                    boundary("b", Convection{"right", Property{200, ""}, Property{300, ""}})};
    p.watches.push_back(watch("skin", SurfaceFigure{PartFigure::Kind::Mean, "left"}));
    inTime(p, 500, 800).tolerance = number(0.02);
    const Ran ran = run(p);
    const double biot = 200 * 0.02 / 2;
    const auto series = [&](double x, double time) { // x/L from the middle
      double sum = 0;
      for (int n = 0; n < 12; ++n) { // roots of ζ tan ζ = Bi
        double low = n * pi + 1e-9;
        double high = n * pi + pi / 2 - 1e-9;
        for (int i = 0; i < 80; ++i) {
          const double mid = (low + high) / 2;
          (mid * std::tan(mid) < biot ? low : high) = mid;
        }
        const double z = low;
        sum += 4 * std::sin(z) / (2 * z + std::sin(2 * z)) * std::exp(-z * z * 1e-6 * time / 4e-4) * std::cos(z * x);
      }
      return 300 + 200 * sum;
    };
    double worst = 0;
    for (const double time : {60.0, 120.0, 200.0, 300.0, 500.0, 800.0}) {
      worst = std::max(worst, std::abs(valueAt(ran.record, "middle", time) - series(0, time)));
      worst = std::max(worst, std::abs(valueAt(ran.record, "skin", time) - series(1, time)));
    }
    qInfo("worst %.3f K of 200", worst);
    QVERIFY(worst < 0.4);
    QVERIFY(ran.record.imbalance < 1e-6);
  }

  /// A step of the surface temperature on a deep body, no undershoot at the first instants.
  void suddenHeatingNeverUndershoots()
  {
    Project p = slab(0.06, 0.001);
    p.boundaries = {boundary("hot", FixedSurface{"left", number(400)})};
    p.watches = {watch("deep", PointFigure{{{-0.02, {}}, {0, {}}, {0.001, {}}}}),
                 watch("coldest", PartFigure{PartFigure::Kind::Coldest, {"slab"}})};
    inTime(p, 300, 100).tolerance = number(0.05);
    const Ran ran = run(p);
    const double exact = 300 + 100 * std::erfc(0.01 / (2 * std::sqrt(1e-6 * 100)));
    QVERIFY2(std::abs(valueAt(ran.record, "deep", 100) - exact) < 0.3,
             qPrintable(QString::number(valueAt(ran.record, "deep", 100) - exact)));
    for (const double coldest : ran.record.find(RunTrace::Kind::Watch, "coldest")->values)
      QVERIFY2(coldest > 300 - 0.05, qPrintable(QString::number(coldest - 300)));
    QVERIFY(ran.record.bounds.below.kelvin < 0.05);
  }

  void stepOfFluxOnADeepBody()
  {
    Project p = slab(0.06, 0.001);
    p.sources = {source("flame", SurfaceFlux{"left", Property{2000, ""}})};
    p.watches = {watch("skin", SurfaceFigure{PartFigure::Kind::Mean, "left"})};
    p.boundaries = {boundary("far", FixedSurface{"right", number(300)})};
    inTime(p, 300, 100).tolerance = number(0.02);
    const Ran ran = run(p);
    const double exact = 300 + 2 * 2000 / 2.0 * std::sqrt(1e-6 * 100 / pi);
    QVERIFY2(std::abs(valueAt(ran.record, "skin", 100) - exact) < 0.15,
             qPrintable(QString::number(valueAt(ran.record, "skin", 100) - exact)));
  }

  /// Amplitude and lag at depth under a periodic surface temperature (given as a table of a sine).
  void periodicSurfaceTemperature()
  {
    Project p = slab(0.06, 0.0012);
    std::vector<std::pair<double, double>> wave;
    constexpr int points = 48;
    constexpr double period = 200;
    for (int i = 0; i <= points; ++i)
      wave.emplace_back(period * i / points, 300 + 10 * std::sin(2 * pi * i / points));
    p.parameters = {
        scheduled("wave", Quantity::Temperature, wave, Schedule::Between::Lines, Schedule::Beyond::Repeats)};
    Property follows{300, "wave"};
    follows.formula = true;
    p.boundaries = {boundary("edge", FixedSurface{"left", follows})};
    const double depth = 0.008;
    p.watches = {watch("deep", PointFigure{{{-0.03 + depth, {}}, {0, {}}, {0.001, {}}}})};
    TransientRun& settings = inTime(p, 300, 6 * period);
    settings.tolerance = number(0.02);
    const Ran ran = run(p);
    const double k = std::sqrt(pi / (1e-6 * period));
    double high = 0;
    double when = 0;
    for (double t = 5 * period; t < 6 * period; t += 0.5)
      if (const double value = valueAt(ran.record, "deep", t); value > high) {
        high = value;
        when = t;
      }
    QVERIFY2(std::abs(high - 300 - 10 * std::exp(-k * depth)) < 0.12, qPrintable(QString::number(high)));
    const double lag = k * depth / (2 * pi) * period;
    QVERIFY2(std::abs(when - 5 * period - period / 4 - lag) < 3, qPrintable(QString::number(when - 5 * period)));
  }

  /// Freezing from a cold wall, material just at its freezing point (Neumann's one-phase solution):
  /// λ e^(λ²) erf λ = St/√π; front at 2 λ √(a t), heat drawn k ΔT 2√(t/(π a))/erf λ.
  void freezingFrontMovesWithTheRootOfTime()
  {
    Project p = slab(0.03, 0.001);
    p.materials[0].latentHeat = number(1e5);
    p.materials[0].meltsFrom = number(349.5);
    p.materials[0].meltsTo = number(350);
    p.boundaries = {boundary("cold", FixedSurface{"left", number(300)})};
    p.watches = {watch("molten", MoltenShare{{"slab"}})};
    inTime(p, 350, 150).tolerance = number(0.05);
    const Ran ran = run(p);
    const double stefan = 1000 * 50 / 1e5;
    double low = 0;
    double high = 2;
    for (int i = 0; i < 80; ++i) {
      const double mid = (low + high) / 2;
      (mid * std::exp(mid * mid) * std::erf(mid) < stefan / std::sqrt(pi) ? low : high) = mid;
    }
    const double front = 2 * low * std::sqrt(1e-6 * 150);
    const double frozen = (1 - valueOf(p, ran.result, "molten")) * 0.03;
    QVERIFY2(std::abs(frozen - front) < 0.03 * front, qPrintable(QString::number(frozen / front)));
    const double drawn = 2 * 50 * 2 * std::sqrt(150 / (pi * 1e-6)) / std::erf(low) * 4e-6;
    const double told = -ran.record.find(RunTrace::Kind::BoundaryEnergy, "cold")->values.back();
    QVERIFY2(std::abs(told - drawn) < 0.03 * drawn, qPrintable(QString::number(told / drawn)));
    QVERIFY(ran.record.imbalance < 1e-6);
  }

  /// A lump between two switching points: the cycle of the thermostat is known exactly.
  void thermostatSwitchesWhenItShould()
  {
    Project p = lump(300, 600);
    HeatSource heater = source("heater", PartPower{{"lump"}, Property{144, ""}});
    const double conductance = 9000 * 400 * 8e-6 / 100;
    const double top = 300 + 144 / conductance;
    heater.thermostat = Thermostat{"t", number(400), number(10), false, {}};
    p.sources = {heater};
    p.cases.front().run->tolerance = number(0.002);
    const Ran ran = run(p);
    std::vector<double> off;
    std::vector<double> on;
    for (const RunMark& mark : ran.record.marks) {
      if (mark.kind == RunMark::Kind::SwitchedOff)
        off.push_back(mark.time);
      if (mark.kind == RunMark::Kind::SwitchedOn)
        on.push_back(mark.time);
    }
    QVERIFY(off.size() > 5);
    const double firstOff = 100 * std::log((top - 300) / (top - 405));
    QVERIFY2(std::abs(off[0] - firstOff) < 0.1, qPrintable(QString::number(off[0] - firstOff)));
    const double cooling = 100 * std::log(105.0 / 95.0);
    const double heating = 100 * std::log((top - 395) / (top - 405));
    for (std::size_t i = 0; i + 1 < off.size(); ++i) {
      QVERIFY2(std::abs(on[i] - off[i] - cooling) < 0.1, qPrintable(QString::number(on[i] - off[i] - cooling)));
      QVERIFY2(std::abs(off[i + 1] - on[i] - heating) < 0.1, qPrintable(QString::number(off[i + 1] - on[i] - heating)));
    }
  }

  void gradedThermostatHoldsItsPoint()
  {
    Project p = lump(300, 2000);
    HeatSource heater = source("heater", PartPower{{"lump"}, Property{144, ""}});
    heater.thermostat = Thermostat{"t", number(400), number(10), true, {}};
    p.sources = {heater};
    const Ran ran = run(p);
    // 144 (405 − T)/10 = 0.288 (T − 300)
    const double held = (144 * 40.5 + 0.288 * 300) / (14.4 + 0.288);
    QVERIFY2(std::abs(valueAt(ran.record, "t", 2000) - held) < 0.1,
             qPrintable(QString::number(valueAt(ran.record, "t", 2000))));
  }

  /// Power by a schedule with a jump: the energy is the schedule's integral, and breakpoints are steps.
  void schedulesAreFollowedToTheJoule()
  {
    Project p = lump(300, 400);
    p.boundaries.clear();
    p.parameters = {scheduled("power", Quantity::Power, {{0, 10}, {100, 50}, {150, 0}}, Schedule::Between::Steps)};
    Property follows{10, "2*power"};
    follows.formula = true;
    p.sources = {source("heater", PartPower{{"lump"}, follows})};
    const Ran ran = run(p);
    const double joules = 2 * (10 * 100 + 50 * 50);
    const double told = ran.record.find(RunTrace::Kind::SourceEnergy, "heater")->values.back();
    QVERIFY2(std::abs(told - joules) < 1e-6 * joules, qPrintable(QString::number(told - joules)));
    const double rise = joules / (9000 * 400 * 8e-6);
    QVERIFY(std::abs(valueAt(ran.record, "t", 400) - 300 - rise) < 1e-4);
    for (const double instant : {100.0, 150.0})
      QVERIFY(std::any_of(ran.record.times.begin(), ran.record.times.end(),
                          [&](double t) { return std::abs(t - instant) < 1e-6; }));
    QVERIFY(std::abs(integralOf(*p.parameters[0].schedule, 0, 400) * 2 - joules) < 1e-9);
  }

  void windowsSwitchBoundaries()
  {
    Project p = lump(400, 300);
    p.boundaries[0].from = number(100);
    const Ran ran = run(p);
    QVERIFY(std::abs(valueAt(ran.record, "t", 99) - 400) < 1e-6);
    QVERIFY2(std::abs(valueAt(ran.record, "t", 200) - 300 - 100 * std::exp(-1)) < 0.5,
             qPrintable(QString::number(valueAt(ran.record, "t", 200))));
  }

  void rulesFireAndEndsAreFound()
  {
    Project p = lump(400, 1e6);
    TransientRun& settings = *p.cases.front().run;
    settings.tolerance = number(0.01);
    settings.ends = {{"cool", EndAtValue{"t", number(320), true}, {}}};
    const Ran cooled = run(p);
    QVERIFY2(std::abs(cooled.record.times.back() - 100 * std::log(5.0)) < 0.2,
             qPrintable(QString::number(cooled.record.times.back())));
    QVERIFY(!cooled.record.byCap && cooled.record.reason.find("fell to") != std::string::npos);

    RunRule rule; // a fan: half way down the air gets hot
    rule.id = "fan";
    rule.watch = "t";
    rule.value = number(350);
    rule.falling = true;
    rule.set = {{"air.ambient", number(360)}};
    settings.rules = {rule};
    settings.ends = {{"settled", EndSettled{{}, number(1e-4)}, {}}};
    const Ran warmed = run(p);
    QVERIFY(std::abs(warmed.record.find(RunTrace::Kind::Watch, "t")->values.back() - 360) < 0.1);
    const auto fired = std::find_if(warmed.record.marks.begin(), warmed.record.marks.end(),
                                    [](const RunMark& mark) { return mark.kind == RunMark::Kind::RuleFired; });
    QVERIFY(fired != warmed.record.marks.end() && std::abs(fired->time - 100 * std::log(2.0)) < 0.1);

    settings.rules.clear();
    settings.ends = {{"never", EndAtValue{"t", number(100), true}, {}}};
    settings.longest = number(500);
    const Ran capped = run(p);
    QVERIFY(capped.record.byCap && std::abs(capped.record.times.back() - 500) < 1e-6);
    QVERIFY(capped.record.reason.find("longest") != std::string::npos);
  }

  void answersOfARun()
  {
    Project p = lump(400, 1000);
    p.watches[0].lower = number(350);
    p.cases.front().run->tolerance = number(0.01);
    const Ran ran = run(p);
    const auto answers = answersOf(ran.record, p.watches[0]);
    QVERIFY(answers.has_value());
    QVERIFY(std::abs(answers->peak.value - 400) < 1e-6 && answers->peakPassed);
    QVERIFY(std::abs(*answers->reached63 - 100) < 0.3);
    QVERIFY(std::abs(*answers->reached95 - 300) < 1);
    QVERIFY(std::abs(*answers->crossedLower - 100 * std::log(2.0)) < 0.2);
    QVERIFY(std::abs(*answers->settled - 100 * std::log(100.0)) < 3); // within 1 % of the change
    QVERIFY(!answers->stillFalling && !answers->stillRising);
    QVERIFY(answers->fastestCooling.value < -0.95 && answers->fastestCooling.value > -1.01);
  }

  /// A value that still rises at the end says so; a peak between two steps is found.
  void peaksBetweenSteps()
  {
    const std::vector<double> times{0, 1, 2, 3};
    const std::vector<double> values{0, 3, 3, 0};
    const std::vector<double> slopes{4, 2, -2, -4};
    const RunAnswers answers = answersOf(times, values, slopes, {}, 3.2, std::nullopt, 0.1);
    QVERIFY(std::abs(answers.peak.time - 1.5) < 1e-9 && std::abs(answers.peak.value - 3.5) < 1e-9);
    QVERIFY(answers.crossedUpper && *answers.crossedUpper > 1 && *answers.crossedUpper < 1.5);
    QVERIFY(answers.peakPassed && answers.stillFalling);
    QVERIFY(answersOf({0, 1, 2}, {0, 1, 2}, {}, {}, std::nullopt, std::nullopt, 0.1).stillRising);
  }

  /// Watches of heat are recorded at every step, and those made of others with them.
  void heatIsWatchedAtEveryStep()
  {
    Project p = slab(0.04, 0.002);
    p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}})};
    p.watches.push_back(watch("skin", SurfaceFigure{PartFigure::Kind::Mean, "left"}));
    p.watches.push_back(watch("flow", SurfaceHeat{"left"}));
    p.watches.push_back(watch("inside", BetweenWatches{"middle", "skin", "flow"}));
    inTime(p, 500, 600);
    const Ran ran = run(p);
    const RunTrace* flow = ran.record.find(RunTrace::Kind::Watch, "flow");
    const RunTrace* inside = ran.record.find(RunTrace::Kind::Watch, "inside");
    QVERIFY(flow != nullptr && inside != nullptr && flow->values.size() == ran.record.times.size());
    double area = 0;
    for (const Face& face : ran.result.mesh.geometry.faces)
      if (face.planar && face.normal.x() < -0.9)
        area += face.area;
    for (std::size_t i = 0; i < flow->values.size(); ++i) {
      const double skin = ran.record.find(RunTrace::Kind::Watch, "skin")->values[i];
      const double middle = ran.record.find(RunTrace::Kind::Watch, "middle")->values[i];
      const double watts = 200 * area * (300 - skin);
      QVERIFY2(std::abs(flow->values[i] - watts) <= 1e-9 * std::abs(watts), qPrintable(QString::number(watts)));
      QVERIFY(std::abs(inside->values[i] - (middle - skin) / watts) <=
              1e-9 * std::abs((middle - skin) / watts) + 1e-12);
    }
    const auto answers = answersOf(ran.record, p.watches[2]);
    QVERIFY(answers && answers->peak.time == 0 &&
            answers->stillFalling); // most flows at first, out into the room: a peak
  }

  /// Lines between the stored instants give every step back within what was asked.
  void storedInstantsReproduceTheRun()
  {
    Project p = slab(0.04, 0.002);
    p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}})};
    TransientRun& settings = inTime(p, 500, 3000);
    settings.storeWithin = number(0.5);
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const Ran ran = runIn(p, path);
    const auto reader = InstantReader::open(runFile(path, "steady"));
    QVERIFY(reader.has_value());
    QVERIFY(ran.record.instants.size() < ran.record.times.size());
    const WatchReader middle({p, ran.result.mesh, ran.result.unknowns, {}}, p.watches[0]);
    QVERIFY(middle.readable());
    double worst = 0;
    for (std::size_t i = 0; i < ran.record.times.size(); ++i) {
      const auto field = reader->fieldAt(ran.record.instants, ran.record.times[i]);
      QVERIFY(field.has_value());
      worst = std::max(
          worst, std::abs(middle.read({*field})->value - ran.record.find(RunTrace::Kind::Watch, "middle")->values[i]));
    }
    QVERIFY2(worst <= 0.5 + 1e-3, qPrintable(QString::number(worst)));
    QVERIFY(ran.record.instants.back() == ran.record.times.back());
    // The steps themselves do not depend on what is stored.
    settings.storeWithin = number(5);
    const Ran coarse = run(p);
    QVERIFY(coarse.record.instants.size() < ran.record.instants.size());
    QVERIFY(coarse.record.times == ran.record.times);
  }

  void startsFromAnotherCase()
  {
    Project p = lump(400, 100);
    Case second = p.cases.front();
    second.id = "second";
    second.name = "Second";
    StartFromCase from;
    from.of = "steady";
    second.run->start = from;
    second.run->startTime = number(100);
    second.run->ends = {{"end", EndAtTime{number(200)}, {}}};
    p.cases.push_back(second);
    p.cases.front().run->tolerance = p.cases.back().run->tolerance = number(0.01);
    const QTemporaryDir folder;
    runIn(p, folder.path().toStdString());
    const Ran on = runIn(p, folder.path().toStdString(), 1);
    Project whole = lump(400, 200);
    whole.cases.front().run->tolerance = number(0.01);
    const double once = valueAt(run(whole).record, "t", 200);
    QVERIFY2(std::abs(valueAt(on.record, "t", 200) - once) < 0.05,
             qPrintable(QString::number(valueAt(on.record, "t", 200) - once)));
    QVERIFY(std::abs(on.record.times.front() - 100) < 1e-9);
    // On another mesh: carried over, and said so.
    p.parts[0].meshSize = number(0.004);
    const Ran finer = runIn(p, folder.path().toStdString(), 1);
    QVERIFY(finer.record.startNote.find("another mesh") != std::string::npos);
    QVERIFY(std::abs(valueAt(finer.record, "t", 200) - once) < 0.05);
    p.cases.back().run->start = StartFromCase{"gone", {}, {}};
    QVERIFY(!runCase(p, p.cases.back(), folder.path().toStdString(), noProgress));
  }

  void steadyStartStaysPut()
  {
    Project p = lump(400, 100);
    p.sources = {source("heater", PartPower{{"lump"}, Property{30, ""}})};
    p.cases.front().run->start = StartSteady{};
    const Ran ran = run(p);
    const double held = 300 + 30 / 0.288;
    QVERIFY(std::abs(valueAt(ran.record, "t", 0) - held) < 0.05);
    QVERIFY(std::abs(valueAt(ran.record, "t", 100) - valueAt(ran.record, "t", 0)) < 1e-3);
  }

  /// Thin metal on thick insulation: rates over many decades, few steps.
  void stiffPairIsIntegratedInFewSteps()
  {
    Project p = projectWith(0.004);
    p.materials = {heavy("metal", 400, 9000, 400), heavy("wool", 0.04, 50, 800)};
    p.parts = {part("skin", "metal", block(0.02, 0.02, 0.001)),
               part("wool", "wool", block(0.02, 0.02, 0.03), {0, 0, 0.001})};
    p.contacts = {contact("skin", "wool", PerfectContact{})};
    p.surfaces = {surface("under", {"skin.bottom"}), surface("top", {"wool.top"})};
    p.boundaries = {boundary("air", Convection{"top", Property{10, ""}, Property{300, ""}})};
    p.sources = {source("heat", SurfaceFlux{"under", Property{500, ""}})};
    p.watches = {watch("t", PartFigure{PartFigure::Kind::Hottest, {"skin"}})};
    inTime(p, 300, 1e5);
    const Ran ran = run(p);
    const double steady = 300 + 500 * (0.03 / 0.04 + 0.1);
    QVERIFY2(std::abs(valueAt(ran.record, "t", 1e5) - steady) < 0.5,
             qPrintable(QString::number(valueAt(ran.record, "t", 1e5) - steady)));
    QVERIFY2(ran.record.steps < 150, qPrintable(QString::number(ran.record.steps)));
    QVERIFY(ran.record.imbalance < 1e-6);
  }

  void nodesInTime()
  {
    Project p = projectWith(0.01);
    Node chip;
    chip.id = chip.name = "chip";
    chip.storage = CapacityStore{number(20)};
    chip.power = Property{5, ""};
    Node lid;
    lid.id = lid.name = "lid";
    Node air;
    air.id = air.name = "air";
    air.temperature = number(300);
    p.nodes = {chip, lid, air};
    Link a;
    a.id = a.name = "a";
    a.exchange = Conductor{"chip", "lid", number(0.4)};
    Link b = a;
    b.id = b.name = "b";
    b.exchange = Conductor{"lid", "air", number(0.4)};
    p.links = {a, b};
    p.watches = {watch("t", NodeFigure{"chip"}), watch("lid", NodeFigure{"lid"}), watch("through", LinkHeat{"a"})};
    inTime(p, 300, 300).tolerance = number(0.01);
    const Ran ran = run(p);
    const double tau = 20 / 0.2;
    const double value = 300 + 25 * (1 - std::exp(-300 / tau));
    QVERIFY2(std::abs(valueAt(ran.record, "t", 300) - value) < 0.05,
             qPrintable(QString::number(valueAt(ran.record, "t", 300) - value)));
    QVERIFY(std::abs(valueAt(ran.record, "lid", 300) - (300 + (value - 300) / 2)) < 0.05);
    const double through = 0.4 * (valueAt(ran.record, "t", 300) - valueAt(ran.record, "lid", 300));
    QVERIFY(std::abs(valueAt(ran.record, "through", 300) - through) < 1e-9);
  }

  /// A file that would grow too large is foretold, with an interval that fits.
  void tooManyInstantsAreForetold()
  {
    Project p = slab(0.04, 0.0005);
    p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}})};
    TransientRun& settings = inTime(p, 500, 36000);
    settings.storeEvery = number(600);
    using enum Finding::Severity;
    QVERIFY(!mentions(*checkProject(p), Hint, {"GB"}));
    settings.storeEvery = number(0.01);
    QVERIFY(mentions(*checkProject(p), Hint, {"case Steady", "every 0.01 s", "GB", "Store an instant every"}));
  }

  void badTimesAreRefused()
  {
    Project p = lump(400, 100);
    using enum Finding::Severity;
    p.parameters = {scheduled("power", Quantity::Power, {{0, 10}, {100, 50}, {100, 0}})};
    QVERIFY(mentions(checkModel(p), Error, {"power", "do not increase", "row 3"}));
    p.parameters = {scheduled("power", Quantity::Power, {{0, 10}, {100, std::nan("")}})};
    QVERIFY(mentions(checkModel(p), Error, {"power", "finite"}));
    p.parameters.clear();
    p.materials[0].density.reset();
    QVERIFY(mentions(checkModel(p), Error, {"lump", "no density"}));
    p = lump(400, 100);
    p.cases.front().run->ends = {{"end", EndAtValue{"nothing", number(300), true}, {}}};
    QVERIFY(mentions(checkModel(p), Error, {"names the watch", "nothing"}));
    p.cases.front().run->ends = {{"end", EndAtTime{number(50)}, {}}};
    p.cases.front().run->startTime = number(80);
    QVERIFY(mentions(checkModel(p), Error, {"ends before it starts"}));
    // A schedule that refuses to be read beyond its points stops the run with a sentence.
    p = lump(400, 300);
    p.parameters = {scheduled("ambient", Quantity::Temperature, {{0, 300}, {100, 310}}, Schedule::Between::Lines,
                              Schedule::Beyond::Refused)};
    Property follows{300, "ambient"};
    follows.formula = true;
    std::get<Convection>(p.boundaries[0].condition).ambient = follows;
    QVERIFY(mentions(checkModel(p), Error, {"the schedule of ambient ends at", "nothing may follow"}));
    p.cases.front().run->ends = {{"end", EndAtValue{"t", number(301), false}, {}}}; // when that is, only the run finds
    const QTemporaryDir folder;
    const auto ran = runCase(p, p.cases.front(), folder.path().toStdString(), noProgress);
    QVERIFY(!ran && ran.error().failure && ran.error().failure->object.find("ambient") != std::string::npos);
    // What was run until then can be read.
    const auto record = loadRun(growingRunFile(folder.path().toStdString(), "steady"));
    QVERIFY(record && !record->finished && record->times.size() > 3 && record->times.back() > 90);
  }

  void damagedRunsAreRefused()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    runIn(lump(400, 50), path);
    const std::filesystem::path file = runFile(path, "steady");
    std::string bytes;
    {
      std::ifstream in(file, std::ios::binary);
      bytes.assign(std::istreambuf_iterator<char>(in), {});
    }
    std::ofstream(file, std::ios::binary | std::ios::trunc) << bytes.substr(0, bytes.size() / 2);
    QVERIFY(!loadRun(file));
    std::ofstream(file, std::ios::binary | std::ios::trunc) << "no such thing";
    QVERIFY(!loadRun(file));
    QVERIFY(!loadRun(path / "absent.run.h5"));
  }

  void fewInstantsAreKept()
  {
    InstantFilter filter;
    std::vector<double> kept;
    for (int i = 0; i <= 100; ++i) {
      const double t = i;
      const std::vector<double> values{t < 50 ? t : 100 - t, 1.0};
      if (const auto instant = filter.offer(t, values, 0.01))
        kept.push_back(instant->time);
    }
    QVERIFY((kept == std::vector<double>{0, 50}));
  }
};

QTEST_GUILESS_MAIN(TestTransient)
#include "tst_transient.moc"
