// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The parts of the integrator, each alone: how long steps are, and when a run ends.
#include "solve/EndJudge.h"
#include "solve/StepControl.h"

#include <QTest>
#include <cmath>

using namespace kiln;

namespace
{

constexpr double tolerance = 0.1; // K

StepControl controlTo(double last, std::vector<double> breaks = {})
{
  StepControl control;
  control.setLimits(tolerance, last, std::move(breaks));
  return control;
}

/// Goes to the end with the same error at every step. \return where the steps ended
std::vector<double> ends(StepControl& control, double error, double largest = 0)
{
  std::vector<double> times;
  double time = 0;
  while (time < control.last() - StepControl::smallest(time)) {
    StepControl::Length length = control.next(time, largest);
    while (const auto shorter = control.shorterThan(length.seconds, error))
      length = {*shorter, false};
    control.accept(length, error);
    time += length.seconds;
    times.push_back(time);
    if (times.size() > 10000)
      break;
  }
  return times;
}

EndRule rule(const std::string& id, decltype(EndRule::when) when) { return {id, std::move(when), {}}; }
Number number(double si) { return {si, {}}; }

/// A state whose distance from where it goes is in its only temperature.
TimedState stateAt(double time, double distance) { return {time, {distance}, {}, {}, {0}}; }

} // namespace

class SteppingTest : public QObject
{
  Q_OBJECT

private slots:
  void theFirstStepFollowsTheFastestPlace()
  {
    StepControl control = controlTo(1e6);
    control.restart(0, 2.0); // K/s: half the tolerance in 25 ms
    QCOMPARE(control.next(0, 0).seconds, 0.5 * tolerance / 2.0);
    QCOMPARE(control.next(0, 0.01).seconds, 0.01); // no longer than is allowed
    StepControl still = controlTo(1e6);
    still.restart(0, 0);
    QCOMPARE(still.next(0, 0).seconds, 1.0);
  }

  void stepsEndAtEveryBreak()
  {
    StepControl control = controlTo(100, {3, 3.5, 40, 99.9999});
    control.restart(0, 0);
    const std::vector<double> times = ends(control, 0.02);
    for (const double instant : {3.0, 3.5, 40.0, 99.9999, 100.0})
      QVERIFY2(std::any_of(times.begin(), times.end(), [&](double t) { return std::abs(t - instant) < 1e-9; }),
               qPrintable(QString::number(instant)));
    QVERIFY(std::is_sorted(times.begin(), times.end()));
    QVERIFY(std::abs(times.back() - 100) < 1e-9);
  }

  void nearABreakTwoEqualStepsAreTaken()
  {
    StepControl control = controlTo(100, {1.5});
    control.restart(0, 0); // a step of 1 s would leave half of it
    const StepControl::Length first = control.next(0, 0);
    QCOMPARE(first.seconds, 0.75);
    QVERIFY(!first.atBreak);
    control.accept(first, tolerance / 2); // not worth another length
    const StepControl::Length second = control.next(0.75, 0);
    QCOMPARE(second.seconds, 0.75);
    QVERIFY(second.atBreak);
  }

  void theLengthFollowsTheErrorByItsThirdRoot()
  {
    StepControl control = controlTo(1e9);
    control.restart(0, 0);
    QVERIFY(!control.shorterThan(1, tolerance));
    QCOMPARE(*control.shorterThan(1, 8 * tolerance), 0.8 / 2);
    QCOMPARE(*control.shorterThan(1, 1.01 * tolerance), 0.8 / std::cbrt(1.01)); // clearly shorter: else for nothing
    QCOMPARE(*control.shorterThan(1, 1e9 * tolerance), 0.2);                    // but not to nothing at once
    control.accept({1, false}, tolerance / 64);
    QCOMPARE(control.next(0, 0).seconds, 0.8 * 4);
    control.accept({1, false}, tolerance / 2); // 1.01: not worth a new matrix
    QCOMPARE(control.next(0, 0).seconds, 1.0);
    control.restart(0, 0);
    control.accept({1, false}, 0);
    QCOMPARE(control.next(0, 0).seconds, 4.0); // no more at a time
  }

  /// Errors that are small and large in turn: no step is grown on a small one and repeated after the large one.
  void aSmallErrorAfterALargeOneIsNotTrusted()
  {
    StepControl control = controlTo(1e9);
    control.restart(0, 0);
    control.accept({1, false}, 0.5 * tolerance);
    control.accept({1, false}, 0.01 * tolerance);
    QCOMPARE(control.next(0, 0).seconds, 1.0);
    control.accept({1, false}, 0.01 * tolerance); // twice is a course
    QVERIFY(control.next(0, 0).seconds > 3);
    control.accept({0.1, false}, 0.01 * tolerance); // what the last one was is brought to this length
    QVERIFY(control.next(0, 0).seconds > 0.3);
    control.accept({1, false}, 0.9 * tolerance);
    control.restart(5, 0); // another pace: what was before does not count
    control.accept({1, false}, 0.01 * tolerance);
    QVERIFY(control.next(5, 0).seconds > 3);
  }

  void aStepCutByABreakDoesNotShortenTheNext()
  {
    StepControl control = controlTo(1e9, {10});
    control.restart(0, 0);
    control.accept({8, false}, tolerance / 2);
    const StepControl::Length cut = control.next(8, 0); // 2 s to the break
    QCOMPARE(cut.seconds, 2.0);
    QVERIFY(cut.atBreak);
    control.accept(cut, tolerance / 2);
    QCOMPARE(control.next(10, 0).seconds, 8.0);
    QVERIFY(control.quiet(10));
  }

  void itIsQuietOnceNoBreakIsLeft()
  {
    StepControl control = controlTo(100, {5, 7});
    QVERIFY(!control.quiet(5));
    QVERIFY(control.quiet(7));
    QCOMPARE(control.lastBreak(), 7.0);
    QVERIFY(controlTo(100).quiet(0));
  }

  void aRunEndsAtItsTimeOrAtTheLongestAllowed()
  {
    RunLimits run;
    run.ends = {rule("end", EndAtTime{number(50)})};
    const auto never = [](const TimedState&, double) { return 2.0; };
    const auto none = [](const EndRule&) { return std::string(); };
    const EndJudge judge(run, 0, never, none);
    const StepControl control = controlTo(80);
    QVERIFY(judge.judge(49.9, 1, control).reason.empty());
    QVERIFY(judge.judge(50, 1, control).reason == "the time set was reached");
    QVERIFY(!judge.judge(50, 1, control).byCap);
    run.ends = {rule("value", EndAtValue{"w", number(1), false})};
    QVERIFY(judge.judge(79, 1, control).reason.empty());
    QVERIFY(judge.judge(80, 1, control).byCap);
  }

  void allRulesOrAnyOfThem()
  {
    RunLimits run;
    run.ends = {rule("end", EndAtTime{number(50)}), rule("value", EndAtValue{"w", number(1), false})};
    bool reached = false;
    const EndJudge judge(
        run, 0, [](const TimedState&, double) { return 2.0; },
        [&](const EndRule&) { return std::string(reached ? "it is warm" : ""); });
    const StepControl control = controlTo(1e3);
    QVERIFY(judge.judge(50, 1, control).reason == "the time set was reached");
    run.endWhenAll = true;
    QVERIFY(judge.judge(50, 1, control).reason.empty());
    reached = true;
    QVERIFY(judge.judge(10, 1, control).reason.empty());
    QVERIFY(judge.judge(50, 1, control).reason == "the time set was reached; it is warm");
  }

  /// Given what remains dying down by e^(−t/τ), when steps are taken, then the run ends where 1 is left, found within a
  /// step, with few looks.
  void settlingIsFoundWithinTheStep_data()
  {
    QTest::addColumn<double>("step");
    QTest::newRow("short steps") << 3.0;
    QTest::newRow("long steps") << 50.0;
  }
  void settlingIsFoundWithinTheStep()
  {
    QFETCH(double, step);
    constexpr double tau = 40, start = 200; // s, and times what may remain
    const double instant = tau * std::log(start);
    RunLimits run; // no rule: until settled
    int looks = 0;
    EndJudge judge(
        run, 0,
        [&](const TimedState& state, double) {
          ++looks;
          return state.temperature[0];
        },
        [](const EndRule&) { return std::string(); });
    const StepControl control = controlTo(1e6);
    TimedState now = stateAt(0, start);
    int steps = 0;
    while (judge.judge(now.time, 0, control).reason.empty() && steps < 1000) {
      double length = step;
      TimedState next;
      for (;;) {
        next = stateAt(now.time + length, start * std::exp(-(now.time + length) / tau));
        const auto settles = judge.settlesWithin(now, next, length, control);
        if (!settles)
          break;
        length = *settles;
      }
      judge.accepted();
      now = next;
      ++steps;
    }
    QVERIFY(now.temperature[0] <= 1);
    QVERIFY2(std::abs(now.time - instant) < 1, qPrintable(QString("%1, right is %2").arg(now.time).arg(instant)));
    QVERIFY2(looks < 30, qPrintable(QString::number(looks)));
  }

  void nothingIsSettledBeforeTheLastBreak()
  {
    RunLimits run;
    EndJudge judge(
        run, 0, [](const TimedState&, double) { return 0.5; }, [](const EndRule&) { return std::string(); });
    const StepControl control = controlTo(1e6, {500});
    QVERIFY(!judge.settlesWithin(stateAt(90, 1), stateAt(100, 1), 10, control));
    QVERIFY(judge.judge(100, 0, control).reason.empty());
    QVERIFY(!judge.settlesWithin(stateAt(490, 1), stateAt(500, 1), 10, control));
    QVERIFY(judge.judge(500, 0, control).reason.starts_with("settled"));
  }

  void aRateMayBeAskedForToo()
  {
    RunLimits run;
    run.ends = {rule("settled", EndSettled{number(0.5), number(0.01)})};
    EndJudge judge(
        run, 0, [](const TimedState&, double within) { return within == 0.5 ? 0.9 : 9.0; },
        [](const EndRule&) { return std::string(); });
    const StepControl control = controlTo(1e6);
    judge.recall(stateAt(10, 1), control);
    QVERIFY(judge.judge(10, 0.02, control).reason.empty());
    QVERIFY(judge.judge(10, 0.005, control).reason.find("0.5") != std::string::npos);
  }
};

QTEST_APPLESS_MAIN(SteppingTest)
#include "tst_stepping.moc"
