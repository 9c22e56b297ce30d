// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Parameters that are figures of solved cases, and results of points that cases take over.
#include "TransientProjects.h"

#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "questions/PointModel.h"
#include "questions/PointSolver.h"
#include "questions/QuestionAnswer.h"
#include "run/KeptFields.h"
#include "run/ResultIdentity.h"
#include "run/TakenFigures.h"

#include <QFile>
#include <QTest>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double cold = 300, rise = 62.5; // K: 3 W through 0.1 m of 12 W/(m·K) and 0.0004 m²

/// A bar from 300 K, heated at its end; the case "after" begins where the case "steady" ends: its cold side is as hot
/// as the end is there.
Project chained()
{
  Project p = projectWith(0.02);
  p.materials = {material("metal", 12)};
  p.parts = {part("bar", "metal", block(0.1, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.boundaries = {boundary("cooled", FixedSurface{"left", number(cold)})};
  p.sources = {source("heater", SurfacePower{"right", Property{3, ""}})};
  p.watches = {watch("end", SurfaceFigure{Extreme::Mean, "right"}), watch("through", SurfaceHeat{"left"})};
  Parameter hot;
  hot.id = hot.name = "hot";
  hot.quantity = Quantity::Temperature;
  hot.value = number(310);
  hot.taken = TakenFigure{"steady", "end", AskedFigure::AtEnd, {}};
  p.parameters = {hot};
  Case after = p.cases.front();
  after.id = after.name = "after";
  after.changes = {{"cooled.temperature", Property{Number{310, "hot", true}, {}}}};
  p.cases.push_back(after);
  return p;
}

std::filesystem::path in(const QTemporaryDir& folder) { return folder.path().toStdString(); }

void solveIn(const QTemporaryDir& folder, const Project& project, const std::string& caseId)
{
  const auto result = runCase(project, *findById(project.cases, caseId), in(folder), noProgress);
  QVERIFY2(result, result ? "" : wordsOf(result.error()).c_str());
}

double endOf(const Project& project, const std::string& caseId, const CaseResult& result)
{
  return valueOf(*projectForCase(project, *findById(project.cases, caseId)), result, "end");
}

} // namespace

class TakenTest : public QObject
{
  Q_OBJECT

private slots:
  /// Nothing before it is solved; then its figure, and the formulas that use it.
  void takenWhenSolved()
  {
    Project p = chained();
    const QTemporaryDir folder;
    QVERIFY(takeFigures(p, in(folder)).empty());
    QCOMPARE(p.parameters[0].value.si, 310.0);
    solveIn(folder, p, "steady");
    QCOMPARE(takeFigures(p, in(folder)), std::vector<std::string>{"hot"});
    QVERIFY(std::abs(p.parameters[0].value.si - (cold + rise)) < 1e-6);
    QVERIFY(takeFigures(p, in(folder)).empty()); // once
    const auto after = runCase(p, p.cases[1], in(folder), noProgress);
    QVERIFY(after);
    QVERIFY(std::abs(endOf(p, "after", *after) - (cold + 2 * rise)) < 1e-5);
    // Of a result that is out of date nothing is taken.
    std::get<SurfacePower>(p.sources[0].heat).power.si = 4;
    QVERIFY(takeFigures(p, in(folder)).empty());
    QVERIFY(!figureToTake(p, *p.parameters[0].taken, in(folder)));
  }

  void whatWaitsForWhat()
  {
    Project p = chained();
    QCOMPARE(takesFrom(p, p.cases[0]), std::vector<std::string>());
    QCOMPARE(takesFrom(p, p.cases[1]), std::vector<std::string>{"steady"});
    QCOMPARE(waitsFor(p, p.cases[1]), std::vector<std::string>{"steady"});
    const auto ordered = inOrder(p, {p.cases[1]});
    QVERIFY(ordered && ordered->size() == 2);
    QCOMPARE((*ordered)[0].id, std::string("steady"));
    QCOMPARE((*ordered)[1].id, std::string("after"));
    p.cases[1].changes.clear(); // it uses the parameter no more
    QVERIFY(takesFrom(p, p.cases[1]).empty());
    // A case that depends on its own figure.
    p.cases[0].changes = {{"cooled.temperature", Property{Number{310, "hot", true}, {}}}};
    const auto circle = inOrder(p, {p.cases[0]});
    QVERIFY(!circle && circle.error().sentence().find("in a circle: “Steady”") != std::string::npos);
  }

  /// The numbers of a run: its last, highest and lowest, and when the limit is met.
  void figuresOfARun()
  {
    Project p = lump(400, 50); // T = 300 + 100 exp(−t / 100 s)
    p.watches[0].lower = number(370);
    const QTemporaryDir folder;
    solveIn(folder, p, "steady");
    const auto taken = [&](AskedFigure figure) {
      return figureToTake(p, {"steady", "t", figure, {}}, in(folder)).value_or(-1);
    };
    const double last = 300 + 100 * std::exp(-0.5);
    QVERIFY2(std::abs(taken(AskedFigure::AtEnd) - last) < 0.3, std::to_string(taken(AskedFigure::AtEnd)).c_str());
    QCOMPARE(taken(AskedFigure::Peak), 400.0);
    QVERIFY(std::abs(taken(AskedFigure::Trough) - taken(AskedFigure::AtEnd)) < 1e-6);
    const double met = -100 * std::log(0.7); // s
    QVERIFY2(std::abs(taken(AskedFigure::TimeToLimit) - met) < 0.01 * met,
             std::to_string(taken(AskedFigure::TimeToLimit)).c_str());
    p.watches[0].lower = number(200); // never
    QVERIFY(!figureToTake(p, {"steady", "t", AskedFigure::TimeToLimit, {}}, in(folder)));
  }

  /// What it is taken from goes: the value stays as it was last.
  void withoutItsCase()
  {
    Project p = chained();
    p.parameters[0].value = number(350);
    removeObject(p, "steady");
    QVERIFY(!p.parameters[0].taken);
    QCOMPARE(p.parameters[0].value.si, 350.0);
    Project q = chained();
    removeObject(q, "end");
    QVERIFY(!q.parameters[0].taken);
  }

  void readBack()
  {
    const QTemporaryDir folder;
    const Project p = chained();
    QVERIFY(saveProject(p, in(folder) / "p.kiln"));
    const auto back = loadProject(in(folder) / "p.kiln");
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    QVERIFY(back->parameters == p.parameters);
  }

  /// Points that keep their temperatures: a point kept as a case takes them over instead of being solved.
  void pointsAreTakenOver()
  {
    Project p = chained();
    Question question;
    question.id = question.name = "powers";
    question.base = "steady";
    question.keepsFields = true;
    question.varies = {{"v1", "heater.power", VariedRange{"2 W", "4 W", Number{2, {}, false}}, {}}};
    const auto ready = prepareQuestion(p, question);
    const auto points = sweptPoints(*ready);
    QVERIFY(points && points->size() == 2);
    const QTemporaryDir folder;
    const QTemporaryDir work; // a worker's own
    PointSolver solver(ready->project, ready->question, ready->axes, in(work), keptIn(question, in(folder)));
    for (const AskedPoint& point : *points) {
      QVERIFY(!solver.hasKept(point));
      QVERIFY(solver.solve(point, noProgress).solved());
      QVERIFY(solver.hasKept(point));
    }
    const auto kept = keepAsCase(p, question, ready->axes, points->back());
    QVERIFY(kept);
    const Case& one = *findById(p.cases, *kept);
    QStringList stages;
    const Progress noted = [&](std::string_view stage, double, std::string_view words) {
      stages << QString::fromStdString(std::string(stage) + " " + std::string(words));
    };
    const auto result = runCase(p, one, in(folder), noted);
    QVERIFY(result);
    QVERIFY2(stages.join(";").contains("solved before") && !stages.join(";").contains("mesh"),
             qPrintable(stages.join(";")));
    QCOMPARE(result->caseId, *kept);
    QVERIFY(std::abs(endOf(p, *kept, *result) - (cold + rise * 4 / 3)) < 1e-6);
    QVERIFY(isUpToDate(p, one, in(folder)));
    // A case of other inputs is solved.
    Project other = p;
    other.materials[0].conductivity.si = 20;
    stages.clear();
    QVERIFY(runCase(other, one, in(folder), noted));
    QVERIFY(!stages.join(";").contains("solved before"));
    // What cannot be read is solved, too.
    for (const auto& entry : std::filesystem::directory_iterator(keptFieldsFolder(in(folder), "powers")))
      std::filesystem::resize_file(entry.path(), 100);
    QVERIFY(!findKept(in(folder), *currentIdentity(p, one, in(folder))));
  }

  void runsAreTakenOver()
  {
    Project p = lump(400, 50);
    Question question;
    question.id = question.name = "starts";
    question.base = "steady";
    question.keepsFields = true;
    question.varies = {{"v1", "air.ambient", VariedRange{"20 °C", "30 °C", Number{2, {}, false}}, {}}};
    const auto ready = prepareQuestion(p, question);
    QVERIFY2(ready, ready ? "" : ready.error().sentence().c_str());
    const auto points = sweptPoints(*ready);
    const QTemporaryDir folder, work;
    PointSolver solver(ready->project, ready->question, ready->axes, in(work), keptIn(question, in(folder)));
    const PointAnswer answer = solver.solve(points->front(), noProgress);
    QVERIFY2(answer.solved(), answer.failure.c_str());
    const auto kept = keepAsCase(p, question, ready->axes, points->front());
    QVERIFY(kept);
    solveIn(folder, p, *kept);
    const auto run = loadRun(runFile(in(folder), *kept));
    QVERIFY2(run, run ? "" : run.error().sentence().c_str());
    QVERIFY(std::abs(valueAt(*run, "t", 50) - *answer.figure("t", AskedFigure::AtEnd)) < 1e-9);
  }
};

QTEST_GUILESS_MAIN(TakenTest)
#include "tst_taken.moc"
