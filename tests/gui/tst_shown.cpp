// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the document is made of, each alone: which mesh shows the shapes, where the playhead stands, and what is said of
// every step of a run.
#include "../TransientProjects.h"
#include "cases/CaseGroups.h"
#include "document/ShownInstant.h"
#include "document/ShownShapes.h"
#include "solve/StepReporter.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

std::shared_ptr<const Mesh> someMesh() { return std::make_shared<const Mesh>(); }

ShownShapes::Result resultOf(const std::string& meshHash, bool solid = true)
{
  auto result = std::make_shared<CaseResult>();
  result->meshHash = meshHash;
  result->mesh.nodes.resize(solid ? 4 : 0);
  return result;
}

const FiguresOfCase noOthers = [](const std::string&) { return std::nullopt; };

} // namespace

class ShownTest : public QObject
{
  Q_OBJECT

private slots:
  /// Given a prepared mesh, a draft and a result, then what belongs to the present shapes shows them.
  void theMeshOfThePresentShapesIsShown()
  {
    ShownShapes shapes;
    const InputHashes now{"g1", "m1", "s1"};
    QVERIFY(shapes.wantDraft(now));
    QVERIFY(!shapes.shown(nullptr, now));
    const auto draft = someMesh();
    shapes.setDraft(draft, "g1", false);
    QVERIFY(shapes.wantDraft(now)); // a fused one
    QCOMPARE(shapes.shown(nullptr, now), draft);
    QVERIFY(!shapes.areCurrent(nullptr, now)); // part by part: what touches is not known
    const auto fused = someMesh();
    shapes.setDraft(fused, "g1", true);
    QCOMPARE(shapes.shown(nullptr, now), fused);
    QVERIFY(!shapes.wantDraft(now));
    QVERIFY(shapes.areCurrent(nullptr, now));
    const auto prepared = someMesh();
    shapes.setPrepared(prepared, "m1");
    QCOMPARE(shapes.shown(nullptr, now), prepared);
    const auto result = resultOf("m1");
    shapes.note(result, now);
    QCOMPARE(shapes.shown(result, now).get(), &result->mesh);
    QVERIFY(shapes.areCurrent(result, now));
  }

  /// Given shapes that changed since, then a draft of them comes before the older result.
  void aDraftComesBeforeAnOlderResult()
  {
    ShownShapes shapes;
    const auto result = resultOf("m1");
    shapes.note(result, {"g1", "m1", "s1"});
    const InputHashes later{"g2", "m2", "s2"};
    QVERIFY(shapes.wantDraft(later));
    QVERIFY(!shapes.areCurrent(result, later));
    const auto draft = someMesh();
    shapes.setDraft(draft, "g2", true);
    QCOMPARE(shapes.shown(result, later), draft);
    const InputHashes finer{"g1", "m3", "s3"}; // another mesh of the same shapes
    QVERIFY(shapes.areCurrent(result, finer));
  }

  void aProblemIsOfItsShapes()
  {
    ShownShapes shapes;
    shapes.setProblem("g1", {Failure::Kind::Solver, "part lid", "It leaks.", "Close it."});
    QCOMPARE(shapes.problem({"g1", "m1", "s1"})->object, std::string("part lid"));
    QVERIFY(shapes.problem({"g2", "m1", "s1"}) == nullptr);
  }

  /// Given a run, then the playhead stays within it, its end is where it goes to by itself, and figures are those then.
  void thePlayheadMovesWithinTheRun()
  {
    const QTemporaryDir folder;
    Project p = lump(400, 600);
    p.watches = {watch("own", PartFigure{PartFigure::Kind::Mean, {p.parts[0].id}})};
    const std::filesystem::path path = folder.path().toStdString();
    Ran ran = runIn(p, path);
    const std::string& id = p.cases[0].id;
    CaseState state;
    ShownInstant instant;
    QVERIFY(!instant.move(id, state, 3)); // nothing to move in
    QVERIFY(instant.figures(p, id, state, noOthers) == nullptr && !instant.temperature(id, state));
    state.result = std::make_shared<CaseResult>(std::move(ran.result));
    state.run = loadShownRun(path, id);
    QVERIFY(state.run.record && state.run.fields);
    const double last = state.run.record->times.back();
    QCOMPARE(*instant.playhead(id, state), last);
    QVERIFY(instant.figures(p, id, state, noOthers)->atEnd);
    QVERIFY(instant.move(id, state, last / 2));
    QCOMPARE(*instant.playhead(id, state), last / 2);
    const ShownFigures* half = instant.figures(p, id, state, noOthers);
    QVERIFY(!half->atEnd && half->time && std::abs(*half->time - last / 2) < 1e-9);
    const double recorded = *state.run.record->at(RunTrace::Kind::Watch, "own", last / 2);
    QVERIFY2(std::abs(*half->watches[0].value - recorded) < 0.3, qPrintable(QString::number(recorded)));
    QVERIFY(instant.temperature(id, state) != nullptr);
    QVERIFY(instant.move(id, state, 1e9)); // beyond it: the end
    QCOMPARE(*instant.playhead(id, state), last);
    QVERIFY(instant.move(id, state, -5));
    QCOMPARE(*instant.playhead(id, state), state.run.record->times.front());
    instant.toEnd(id);
    QVERIFY(instant.figures(p, id, state, noOthers)->atEnd);
  }

  /// Given jumps and steps, then each step is told once with what flows at its end, and what was taken at once belongs
  /// to the step that follows.
  void everyStepIsToldWithItsHeat()
  {
    const Project p = lump(400, 600);
    const Mesh mesh = meshOf(p);
    const auto model = TimedModel::make(p, mesh, {}, 100);
    QVERIFY(model.has_value());
    std::vector<AcceptedStep> seen;
    std::vector<double> flowsSeen;
    std::vector<double> joules;
    int metered = 0;
    const FlowMeter meter = [&](const TimedModel&, std::span<const double> kelvin, std::span<const double>) {
      ++metered;
      return std::vector<double>{kelvin.empty() ? 0 : kelvin[0]};
    };
    const StepObserver observer = [&](const AcceptedStep& step) -> Expected<StepAnswer> {
      seen.push_back(step);
      flowsSeen.push_back(step.flows.empty() ? 0 : step.flows[0]);
      double sum = 0;
      for (const AcceptedStep::Jump& jump : step.jumps)
        sum += jump.joules;
      joules.push_back(sum);
      return StepAnswer{};
    };
    std::vector<double> fractions;
    const Progress progress = [&](std::string_view, double fraction, std::string_view) {
      fractions.push_back(fraction);
    };
    StepReporter reporter(**model, meter, observer, progress, 100);
    const auto stateAt = [](double time, double kelvin) {
      return TimedState{time, {kelvin, 300}, {}, {1, 2}, {0.5, -2}};
    };
    QVERIFY(reporter.begin(stateAt(100, 400), 200, {}).has_value());
    reporter.note({{FlowOwner::Kind::Boundary, 0}, 7});
    QVERIFY(reporter.tell(stateAt(100, 390), 100, {0}, 0, 200, {}).has_value()); // a jump, no step
    reporter.takeFlows({-1});
    QVERIFY(reporter.tell(stateAt(150, 380), 100, {3}, 11, 200, {}).has_value());
    QVERIFY(reporter.tell(stateAt(200, 370), 150, {3}, 5, 200, {}).has_value());
    QCOMPARE(seen.size(), 4U);
    QCOMPARE(flowsSeen[0], 400.0);
    QCOMPARE(flowsSeen[2], -1.0); // as the method has them
    QCOMPARE(joules, (std::vector<double>{0, 0, 7, 0}));
    QCOMPARE(seen[1].stored, 0.0);
    QCOMPARE(seen[2].stored, 18.0);
    QCOMPARE(seen[3].stored, 5.0);
    QCOMPARE(seen[2].fastestAt, 1);
    QCOMPARE(seen[2].fastest, 2.0);
    QVERIFY(std::abs(fractions[2] - 0.7) < 1e-12 && std::abs(fractions[3] - 0.9) < 1e-12);
    QVERIFY(metered >= 1);
  }

  void groupsStandTogether()
  {
    Project p = projectWith(0.1);
    const auto add = [&](const std::string& id, const std::string& group) {
      Case one;
      one.id = one.name = id;
      one.group = group;
      p.cases.push_back(one);
    };
    add("cold", "Rooms");
    add("thin", "Linings");
    add("warm", "Rooms");
    const std::vector<CaseGroup> groups = groupsOf(p);
    QCOMPARE(groups.size(), 3U);
    QCOMPARE(groups[1].name, std::string("Rooms"));
    QCOMPARE(groups[1].cases.size(), 2U);
    QVERIFY(fitsWords(p.cases[1], {}, "room COLD never"));
    QVERIFY(!fitsWords(p.cases[1], {}, "cold solved"));
    const std::vector<std::string> made = copyCases(p, {"cold", "warm"});
    QCOMPARE(made.size(), 2U);
    for (const std::string& id : made)
      QCOMPARE(findById(p.cases, id)->group, std::string("Rooms 2"));
    moveCases(p, {"warm", "thin"}, "steady");
    QCOMPARE(p.cases[0].id, std::string("warm"));
    QCOMPARE(p.cases[1].id, std::string("thin"));
    findById(p.cases, "warm")->comment = "the usual";
    shareWith(p, "warm", {"thin", "cold"}, CaseShare::Comment);
    QCOMPARE(findById(p.cases, "thin")->comment, std::string("the usual"));
  }
};

QTEST_GUILESS_MAIN(ShownTest)
#include "tst_shown.moc"
