// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Questions: what varies is read, samples fill their ranges, points are solved and kept, and limits, slopes and spreads
// agree with closed forms.
#include "TransientProjects.h"

#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "questions/PointModel.h"
#include "questions/PointSolver.h"
#include "questions/PointStore.h"
#include "questions/QuestionAnswer.h"

#include <QFile>
#include <QTest>
#include <array>
#include <fstream>
#include <numeric>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double k = 12, length = 0.1, area = 0.0004, watts = 3, cold = 300;

/// A bar of 100 × 20 × 20 mm, cold at its left, heated at its right: the right end is at 300 K + P L / (k A).
Project heatedBar()
{
  Project p = projectWith(0.02);
  p.materials = {material("metal", k), material("other", 2 * k)};
  p.parts = {part("bar", "metal", block(length, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.boundaries = {boundary("cooled", FixedSurface{"left", number(cold)})};
  p.sources = {source("heater", SurfacePower{"right", Property{watts, ""}})};
  p.watches = {watch("end", SurfaceFigure{Extreme::Mean, "right"}), watch("through", SurfaceHeat{"left"})};
  return p;
}

double rise(double power, double conductivity = k) { return power * length / (conductivity * area); }

Question asks(std::vector<Varied> varies, decltype(Question::asks) what)
{
  Question question;
  question.id = question.name = "question";
  question.base = "steady";
  question.varies = std::move(varies);
  question.asks = std::move(what);
  return question;
}

VariedRange over(const std::string& from, const std::string& to, std::optional<Number> count = std::nullopt,
                 bool logarithmic = false, bool whole = false)
{
  return {from, to, std::move(count), logarithmic, whole};
}

Varied range(const std::string& field, const std::string& from, const std::string& to,
             std::optional<Number> count = std::nullopt)
{
  return {field, field, over(from, to, std::move(count)), {}};
}
Varied tolerance(const std::string& field, const std::string& by, SpreadLaw law = SpreadLaw::Even)
{
  return {field, field, VariedTolerance{law, by}, {}};
}

PreparedQuestion prepared(const Project& project, const Question& question)
{
  auto ready = prepareQuestion(project, question);
  if (!ready)
    throw std::runtime_error(ready.error().sentence());
  return std::move(*ready);
}

std::string refusal(const Project& project, const Question& question)
{
  const auto ready = prepareQuestion(project, question);
  return ready ? std::string() : ready.error().sentence();
}

/// Solves in this process, one after the other.
class Solves
{
public:
  explicit Solves(const PreparedQuestion& of)
      : solver_(std::make_shared<PointSolver>(of.project, of.question, of.axes, path()))
  {
  }
  std::vector<PointAnswer> operator()(const std::vector<AskedPoint>& points)
  {
    std::vector<PointAnswer> answers;
    for (const AskedPoint& point : points)
      answers.push_back(solver_->solve(point, noProgress));
    return answers;
  }

private:
  [[nodiscard]] std::filesystem::path path() const { return folder_->path().toStdString(); }
  std::shared_ptr<QTemporaryDir> folder_ = std::make_shared<QTemporaryDir>();
  std::shared_ptr<PointSolver> solver_;
};

QuestionAnswer answered(const Project& project, const Question& question)
{
  const PreparedQuestion ready = prepared(project, question);
  auto answer = answerQuestion(ready, Solves(ready));
  if (!answer)
    throw std::runtime_error(answer.error().sentence());
  return std::move(*answer);
}

double numberOf(const OwnValue& value) { return std::get<Property>(value).si; }
double endOf(const QuestionAnswer& answer, std::size_t point, const std::string& watch = "end")
{
  return answer.answers[point].figure(watch, AskedFigure::AtEnd).value();
}

} // namespace

class QuestionsTest : public QObject
{
  Q_OBJECT

private slots:
  /// Ranges by equal steps and equal ratios, downwards too; whole numbers once each.
  void ranges()
  {
    Project p = heatedBar();
    const auto valuesOf = [&](const VariedRange& values) {
      const auto axis = readAxis(p, asks({}, AskSweep{}), Varied{"v", "heater.power", values, {}});
      std::vector<double> read;
      for (const OwnValue& value : axis->values)
        read.push_back(numberOf(value));
      return read;
    };
    QCOMPARE(valuesOf(over("1 W", "5 W")), (std::vector<double>{1, 2, 3, 4, 5}));
    QCOMPARE(valuesOf(over("5 W", "1 W", number(3))), (std::vector<double>{5, 3, 1}));
    const auto ratios = valuesOf(over("1 W", "1 kW", number(4), true));
    for (std::size_t i = 0; i < ratios.size(); ++i)
      QVERIFY(std::abs(ratios[i] - std::pow(10, static_cast<double>(i))) < 1e-9 * ratios[i]);
    QCOMPARE(valuesOf(over("1 W", "3 W", number(9), false, true)), (std::vector<double>{1, 2, 3}));
  }

  void whatCannotVaryIsRefused_data()
  {
    QTest::addColumn<QString>("field");
    QTest::addColumn<QString>("from");
    QTest::addColumn<QString>("said");
    QTest::newRow("no field") << "heater.powr"
                              << "1 W"
                              << "Did you mean “heater.power”";
    QTest::newRow("no number") << "bar.material"
                               << "1"
                               << "is no number";
    QTest::newRow("wrong unit") << "heater.power"
                                << "1 K"
                                << "W";
    QTest::newRow("nothing") << "heater.power"
                             << ""
                             << "";
    QTest::newRow("below zero by ratios") << "cooled.temperature"
                                          << "-400 °C"
                                          << "absolute zero";
  }
  void whatCannotVaryIsRefused()
  {
    QFETCH(QString, field);
    QFETCH(QString, from);
    QFETCH(QString, said);
    const std::string why =
        refusal(heatedBar(), asks({range(field.toStdString(), from.toStdString(), "9 W")}, AskSweep{}));
    QVERIFY2(!why.empty() && why.find(said.toStdString()) != std::string::npos, why.c_str());
  }

  void aQuestionWithoutCaseOrFieldIsRefused()
  {
    Question question = asks({range("heater.power", "1 W", "2 W")}, AskSweep{});
    question.base = "gone";
    QVERIFY(refusal(heatedBar(), question).find("no case") != std::string::npos);
    QVERIFY(refusal(heatedBar(), asks({}, AskSweep{})).find("Nothing varies") != std::string::npos);
  }

  /// The first 64 points of a Sobol sequence in the plane: each quarter of each side holds as many.
  void sobolFillsEvenly()
  {
    const auto places = sobolShares(2, 64);
    std::array<int, 16> cells{};
    for (const auto& place : places)
      ++cells[static_cast<std::size_t>(place[0] * 4) * 4 + static_cast<std::size_t>(place[1] * 4)];
    for (const int count : cells)
      QVERIFY2(std::abs(count - 4) <= 1, std::to_string(count).c_str());
  }
  void aLatinHypercubeHasOneInEachLayer()
  {
    const auto places = latinShares(3, 20, 7);
    for (std::size_t i = 0; i < 3; ++i) {
      std::set<int> layers;
      for (const auto& place : places)
        layers.insert(static_cast<int>(place[i] * 20));
      QCOMPARE(layers.size(), std::size_t{20});
    }
    QCOMPARE(latinShares(3, 20, 7), places);
    QVERIFY(latinShares(3, 20, 8) != places);
  }

  /// All with all, side by side, and lists of what is no number.
  void sweeps()
  {
    const Project p = heatedBar();
    const std::vector<Varied> both{range("heater.power", "1 W", "2 W", number(2)),
                                   {"m", "bar.material", VariedList{{"metal", "other"}}, {}}};
    const QuestionAnswer grid = answered(p, asks(both, AskSweep{}));
    QCOMPARE(grid.points.size(), std::size_t{4});
    for (std::size_t i = 0; i < 4; ++i) {
      const double expected = cold + rise(i < 2 ? 1 : 2, i % 2 == 0 ? k : 2 * k);
      QVERIFY2(std::abs(endOf(grid, i) - expected) < 1e-6, std::to_string(endOf(grid, i)).c_str());
    }
    QVERIFY(grid.words[3].find("2 W") != std::string::npos && grid.words[3].find("other") != std::string::npos);
    QCOMPARE(answered(p, asks(both, AskSweep{SweepWay::Together, {}, {}})).points.size(), std::size_t{2});
    Question uneven = asks(both, AskSweep{SweepWay::Together, {}, {}});
    std::get<VariedRange>(uneven.varies[0].over).count = number(3);
    QVERIFY(!answerQuestion(prepared(p, uneven), Solves(prepared(p, uneven))));
  }

  /// A switch, and the ambient of the case's own changes.
  void aSwitchVaries()
  {
    Project p = heatedBar();
    const QuestionAnswer answer = answered(p, asks({{"s", "heater.muted", VariedList{{"off", "on"}}, {}}}, AskSweep{}));
    const std::set<int> ends{static_cast<int>(std::lround(endOf(answer, 0))),
                             static_cast<int>(std::lround(endOf(answer, 1)))};
    QCOMPARE(ends, (std::set<int>{300, static_cast<int>(std::lround(cold + rise(watts)))}));
  }

  /// Points at which it cannot be solved say why; the others go on.
  void someCannotBeSolved()
  {
    Project p = heatedBar();
    p.parts[0].steps = {cut("hole", Cylinder{number(0.004), number(0.02)})};
    const QuestionAnswer answer = answered(p, asks({range("bar.hole.radius", "4 mm", "60 mm", number(2))}, AskSweep{}));
    QVERIFY2(answer.answers[0].solved(), answer.answers[0].failure.c_str());
    QVERIFY(!answer.answers[1].solved() && answer.answers[1].failure.find("bar") != std::string::npos);
    QVERIFY(answer.summary.find("1 could not be solved") != std::string::npos);
  }

  /// The power at which the end reaches 380 K, to a millionth.
  void theLimitOfABar()
  {
    Project p = heatedBar();
    p.watches[0].upper = number(380);
    const double exact = 80 * k * area / length;
    for (const Varied& asked : {range("heater.power", "1 W", "20 W"), range("heater.power", "", "")}) {
      const QuestionAnswer answer = answered(p, asks({asked}, AskLimit{}));
      QVERIFY2(answer.value.has_value(), answer.summary.c_str());
      QVERIFY2(std::abs(*answer.value - exact) < 1e-6 * exact, std::to_string(*answer.value).c_str());
      QCOMPARE(answer.watch, std::string("end"));
    }
  }

  /// A level of a watch that has no limit, or another one; one that is none.
  void aLevelInsteadOfALimit()
  {
    Project p = heatedBar();
    p.watches[0].upper = number(600);
    AskLimit ask;
    ask.watches = {"end"};
    ask.level = "106.85 °C"; // 380 K
    const QuestionAnswer answer = answered(p, asks({range("heater.power", "1 W", "20 W")}, ask));
    QVERIFY2(answer.value && std::abs(*answer.value - 80 * k * area / length) < 1e-6, answer.summary.c_str());
    ask.level = "106 W";
    QVERIFY(!answered(p, asks({range("heater.power", "1 W", "20 W")}, ask)).value);
    ask.watches.clear();
    QVERIFY(answered(p, asks({range("heater.power", "1 W", "20 W")}, ask)).summary.find("of which") !=
            std::string::npos);
  }

  /// A body that only radiates: εσA(T⁴ − Ta⁴) = P.
  void theLimitOfARadiatingBody()
  {
    Project p = projectWith(0.02);
    p.materials = {material("metal", 1e6)};
    p.materials.front().emissivity = number(0.8);
    p.parts = {part("cube", "metal", block(0.02, 0.02, 0.02))};
    p.surfaces = {exposedOf("skin", {"cube"})};
    p.boundaries = {boundary("sky", Radiation{"skin", number(300)})};
    p.sources = {source("heater", PartPower{{"cube"}, Property{1, ""}})};
    p.watches = {watch("t", PartFigure{Extreme::Mean, {"cube"}})};
    p.watches[0].upper = number(700);
    const QuestionAnswer answer = answered(p, asks({range("heater.power", "5 W", "60 W")}, AskLimit{}));
    const double exact = 0.8 * 5.670374419e-8 * 6 * 4e-4 * (std::pow(700.0, 4) - std::pow(300.0, 4));
    QVERIFY2(answer.value.has_value(), answer.summary.c_str());
    QVERIFY2(std::abs(*answer.value - exact) < 1e-6 * exact, std::to_string(1e6 * (*answer.value / exact - 1)).c_str());
  }

  /// A lump that is heated from 300 K: T = Ta + P/hA (1 − e^(−t/τ)); the power with which 400 K takes 60 s.
  void theTimeToALimit()
  {
    Project p = lump(300, 200);
    p.materials[0].conductivity.si = 5e8; // of one temperature
    p.cases[0].run->tolerance = number(1e-6);
    const double conductance = 9000 * 400 * 8e-6 / 100; // W/K, τ = 100 s
    p.sources = {source("heater", PartPower{{"lump"}, Property{40, ""}})};
    p.watches[0].upper = number(400);
    AskLimit ask;
    ask.figure = AskedFigure::TimeToLimit;
    ask.time = number(60);
    const QuestionAnswer answer = answered(p, asks({range("heater.power", "30 W", "150 W", number(3))}, ask));
    const double exact = 100 * conductance / (1 - std::exp(-0.6));
    QVERIFY2(answer.value.has_value(), answer.summary.c_str());
    QVERIFY2(std::abs(*answer.value - exact) < 1e-6 * exact, std::to_string(1e6 * (*answer.value / exact - 1)).c_str());
  }

  void limitsThatAreNotThere_data()
  {
    QTest::addColumn<QString>("field");
    QTest::addColumn<QString>("from");
    QTest::addColumn<QString>("to");
    QTest::addColumn<double>("limit");
    QTest::addColumn<QString>("said");
    QTest::newRow("kept everywhere") << "heater.power"
                                     << "1 W"
                                     << "2 W" << 900.0 << "is kept";
    QTest::newRow("kept nowhere") << "heater.power"
                                  << "10 W"
                                  << "20 W" << 310.0 << "nowhere";
    QTest::newRow("does not depend") << "other.conductivity"
                                     << "1 W/(m·K)"
                                     << "9 W/(m·K)" << 380.0 << "does not depend";
  }
  void limitsThatAreNotThere()
  {
    QFETCH(QString, field);
    QFETCH(QString, from);
    QFETCH(QString, to);
    QFETCH(double, limit);
    QFETCH(QString, said);
    Project p = heatedBar();
    p.watches[0].upper = number(limit);
    const QuestionAnswer answer =
        answered(p, asks({range(field.toStdString(), from.toStdString(), to.toStdString())}, AskLimit{}));
    QVERIFY(!answer.value);
    QVERIFY2(answer.summary.find(said.toStdString()) != std::string::npos, answer.summary.c_str());
    Project none = heatedBar();
    QVERIFY(
        answered(none, asks({range("heater.power", "1 W", "2 W")}, AskLimit{})).summary.find("No watch has a limit") !=
        std::string::npos);
  }

  /// dT/dP = L/(kA), dT/dk = −P L/(k² A), dT/dT₀ = 1; for one per cent each.
  void slopesOfABar()
  {
    const QuestionAnswer answer =
        answered(heatedBar(), asks({tolerance("heater.power", "10 %"), tolerance("metal.conductivity", "10 %"),
                                    tolerance("cooled.temperature", "5 K")},
                                   AskSensitivity{}));
    std::map<std::size_t, Sensitivity> byAxis;
    for (const Sensitivity& one : answer.slopes)
      if (one.watch == "end")
        byAxis[one.axis] = one;
    QCOMPARE(byAxis.size(), std::size_t{3});
    const std::array<double, 3> exact{length / (k * area), -watts * length / (k * k * area), 1};
    const std::array<double, 3> percent{0.01 * watts, 0.01 * k, 1};
    for (std::size_t i = 0; i < 3; ++i) {
      QVERIFY2(std::abs(byAxis[i].slope / exact[i] - 1) < 1e-4, std::to_string(byAxis[i].slope / exact[i]).c_str());
      QVERIFY(std::abs(byAxis[i].perStep / (exact[i] * percent[i]) - 1) < 1e-4);
    }
  }

  /// A sum of even and normal parts: the variance is by²/3 and σ², times the squared slopes.
  void spreadOfALinearModel()
  {
    Project p = heatedBar();
    p.watches[0].upper = number(cold + rise(watts));
    Question question =
        asks({tolerance("heater.power", "10 %"), tolerance("cooled.temperature", "2 K", SpreadLaw::Normal)},
             AskSensitivity{{}, number(256), {}});
    const QuestionAnswer answer = answered(p, question);
    const auto spread = std::find_if(answer.spreads.begin(), answer.spreads.end(),
                                     [](const Spread& one) { return one.watch == "end"; });
    QVERIFY(spread != answer.spreads.end());
    QCOMPARE(spread->count, 256);
    const double deviation = std::sqrt(std::pow(0.1 * rise(watts), 2) / 3 + 4);
    QVERIFY2(std::abs(spread->deviation / deviation - 1) < 0.01, std::to_string(spread->deviation / deviation).c_str());
    QVERIFY(std::abs(spread->mean - cold - rise(watts)) < 0.01 * deviation + 0.05);
    QVERIFY2(spread->chance && std::abs(*spread->chance - 0.5) < 0.02, std::to_string(*spread->chance).c_str());
  }

  void percentilesAreBetweenNumbers()
  {
    QCOMPARE(percentile({4, 1, 3, 2, 5}, 0.5), 3.0);
    QCOMPARE(percentile({0, 10}, 0.05), 0.5);
    QCOMPARE(percentile({7}, 0.95), 7.0);
  }

  /// A fin of a given profile area gives off most heat where β = L √(2h/(kt)) is 1.4192, the root of
  /// tanh β = 3β/cosh² β (Kraus, Aziz, Welty 2001): its thickness, within one per cent.
  void theBestFin()
  {
    constexpr double profile = 60e-6, depth = 0.02, h = 40, kFin = 60; // m², m, W/(m²·K), W/(m·K)
    Project p = projectWith(0.004);
    p.mesh.secondOrder = true;
    Parameter thickness;
    thickness.id = thickness.name = "thick";
    thickness.quantity = Quantity::Length;
    thickness.value = number(0.003);
    p.parameters = {thickness};
    p.materials = {material("metal", kFin)};
    Block fin{number(0.02), number(depth), number(0.003)};
    fin.sizeX = Number{0.02, "60e-6 m² / thick", true};
    fin.sizeZ = Number{0.003, "thick", true};
    p.parts = {part("fin", "metal", fin)};
    p.surfaces = {surface("root", {"fin.left"}), surface("sides", {"fin.top", "fin.bottom"})};
    p.boundaries = {boundary("base", FixedSurface{"root", number(400)}),
                    boundary("air", Convection{"sides", Property{h, ""}, Property{300, ""}})};
    p.watches = {watch("heat", SurfaceHeat{"root"})};
    double beta = 1.4;
    for (int i = 0; i < 50; ++i) // Newton's method on tanh β cosh² β − 3β
      beta -= (std::sinh(beta) * std::cosh(beta) - 3 * beta) / (std::cosh(2 * beta) - 3);
    const double exact = std::pow(profile * std::sqrt(2 * h / kFin) / beta, 2.0 / 3);
    AskBest ask;
    ask.watch = "heat";
    ask.most = true;
    ask.budget = number(40);
    const QuestionAnswer answer = answered(p, asks({range("thick.value", "1 mm", "5 mm")}, ask));
    QVERIFY2(answer.best.has_value(), answer.summary.c_str());
    const double found = numberOf(answer.points[*answer.best][0]);
    QVERIFY2(std::abs(found / exact - 1) < 0.01, std::to_string(found / exact).c_str());
  }

  /// Materials of the library by their conductivity, of a part; kept points bring theirs along.
  void materialsOfTheLibrary()
  {
    Project p = heatedBar();
    VariedMaterials metals;
    metals.least = number(100);
    const Question question = asks({{"m", "bar.material", metals, {}}}, AskSweep{});
    const PreparedQuestion ready = prepared(p, question);
    QVERIFY(ready.axes[0].values.size() > 2);
    const QuestionAnswer answer = answered(p, question);
    for (std::size_t i = 0; i < answer.points.size(); ++i)
      QVERIFY2(endOf(answer, i) - cold < rise(watts, 100), answer.words[i].c_str());
    const auto kept = keepAsCase(p, question, answer.axes, answer.points[1]);
    QVERIFY2(kept, kept ? "" : kept.error().sentence().c_str());
    const auto result = runCase(p, *findById(p.cases, *kept), QTemporaryDir().path().toStdString(), noProgress);
    QVERIFY(result);
    QVERIFY(std::abs(valueOf(*projectForCase(p, *findById(p.cases, *kept)), *result, "end") - endOf(answer, 1)) < 1e-6);
    metals.least = number(1e6);
    QVERIFY(refusal(p, asks({{"m", "bar.material", metals, {}}}, AskSweep{})).find("library") != std::string::npos);
  }

  /// What a stand-in overrides is not silently without effect.
  void whatAnotherValueOverrides()
  {
    Project p = heatedBar();
    p.materials[1].standsFor = "metal";
    p.parts[0].material = "other";
    const QuestionAnswer answer = answered(p, asks({range("other.conductivity", "1", "2")}, AskSweep{}));
    QVERIFY2(answer.answers[0].failure.find("something else sets it") != std::string::npos,
             answer.answers[0].failure.c_str());
  }

  /// What a material stands for is one of a list.
  void whatAMaterialStandsFor()
  {
    Project p = heatedBar();
    p.materials.push_back(material("any", 1));
    p.parts[0].material = "any";
    p.materials[2].standsFor = "metal";
    const QuestionAnswer answer =
        answered(p, asks({{"v", "any.standsFor", VariedList{{"metal", "other"}}, {}}}, AskSweep{}));
    QVERIFY2(answer.answers[1].solved(), answer.answers[1].failure.c_str());
    QVERIFY(std::abs(endOf(answer, 0) - cold - rise(watts)) < 1e-6);
    QVERIFY(std::abs(endOf(answer, 1) - cold - rise(watts, 2 * k)) < 1e-6);
  }

  /// Keys follow what counts: not the name of the case, but every value.
  void keysFollowInputs()
  {
    const Project p = heatedBar();
    const Question question = asks({range("heater.power", "1 W", "2 W")}, AskSweep{});
    const auto keyAt = [&](const Project& project, double power) {
      const PreparedQuestion ready = prepared(project, question);
      return PointSolver(ready.project, ready.question, ready.axes, {}).keyOf({plainValue(power)}).value();
    };
    Project renamed = p;
    renamed.cases[0].name = "Other";
    renamed.watches[0].upper = number(400); // limits are held against what came out
    QCOMPARE(keyAt(renamed, 1), keyAt(p, 1));
    QVERIFY(keyAt(p, 2) != keyAt(p, 1));
    Project finer = p;
    finer.mesh.size = number(0.01);
    QVERIFY(keyAt(finer, 1) != keyAt(p, 1));
  }

  void answersAreKept()
  {
    const QTemporaryDir folder;
    const std::filesystem::path file = pointsFile(folder.path().toStdString(), "q");
    PointAnswer answer{"key", {{"end", 371.25, 400.0, std::nullopt, 0.1}, {"none", {}, {}, {}, {}}}, {}, 0.5, false};
    {
      auto store = PointStore::open(file);
      QVERIFY(store);
      QVERIFY(store->keep(answer));
      QVERIFY(store->keep(PointAnswer{"bad", {}, "It did not work.", 0, false}));
      QCOMPARE(store->count(), 1); // a failure is tried again
    }
    auto again = PointStore::open(file);
    QVERIFY(again);
    const auto found = again->find("key");
    QVERIFY(found && found->known && found->figures == answer.figures);
    QVERIFY(!again->find("other"));
    auto beside = PointStore::open(file); // two windows
    QVERIFY(beside && beside->keep(PointAnswer{"second", {}, {}, 1, false}));
    QVERIFY(again->find("second"));
  }

  void damagedAndNewerFilesAreRefused()
  {
    const QTemporaryDir folder;
    const std::filesystem::path file = pointsFile(folder.path().toStdString(), "q");
    std::ofstream(file) << "this is no database, but long enough to be taken for one at a first look";
    const auto damaged = PointStore::open(file);
    QVERIFY(!damaged && damaged.error().sentence().find("q.points.sqlite") != std::string::npos);
    const std::filesystem::path later = pointsFile(folder.path().toStdString(), "later");
    QVERIFY(PointStore::open(later));
    {
      std::fstream header(later, std::ios::in | std::ios::out | std::ios::binary);
      header.seekp(60); // where the version of the user's own stands, big end first
      header.write("\0\0\0\x63", 4);
    }
    const auto newest = PointStore::open(later);
    QVERIFY(!newest && newest.error().sentence().find("version") != std::string::npos);
    const auto nowhere = PointStore::open("/nowhere/at/all.sqlite");
    QVERIFY(!nowhere && nowhere.error().kind == Failure::Kind::Unwritable);
    std::ofstream(answerFile(folder.path().toStdString(), "q")) << "{\"version\": 99}";
    const auto newer = loadAnswer(answerFile(folder.path().toStdString(), "q"));
    QVERIFY(!newer && newer.error().sentence().find("version") != std::string::npos);
  }

  /// What is written of an answer is read again.
  void answersAreWritten()
  {
    const Project p = heatedBar();
    const QTemporaryDir folder;
    const std::filesystem::path file = answerFile(folder.path().toStdString(), "q");
    const Question question = asks({tolerance("heater.power", "10 %")}, AskSensitivity{{}, number(8), {}});
    const QuestionAnswer answer = answered(p, question);
    QVERIFY(saveAnswer(answer, file));
    const auto again = loadAnswer(file);
    QVERIFY2(again, again ? "" : again.error().sentence().c_str());
    QCOMPARE(again->points.size(), answer.points.size());
    QVERIFY(again->points == answer.points && again->words == answer.words && again->hash == answer.hash);
    QCOMPARE(again->slopes.size(), answer.slopes.size());
    QCOMPARE(again->spreads.front().high, answer.spreads.front().high);
    for (std::size_t i = 0; i < answer.answers.size(); ++i)
      QVERIFY(again->answers[i].figures == answer.answers[i].figures);
    Project other = p;
    QCOMPARE(questionHash(other, question), answer.hash);
    other.sources[0].name = "Coil";
    QCOMPARE(questionHash(other, question), answer.hash);
    std::get<SurfacePower>(other.sources[0].heat).power.si = 4;
    QVERIFY(questionHash(other, question) != answer.hash);
  }

  /// A point on its way between processes stays the same to the last bit.
  void pointsTravel()
  {
    Property curve{1.0, ""};
    curve.table = {{number(300), number(1.0 / 3)}, {number(400), number(0.1)}};
    curve.si = 1.0 / 3;
    const AskedPoint point{plainValue(0.1 + 0.2), true, std::string("metal"), std::vector<std::string>{"a", "b"},
                           curve};
    const auto back = pointFrom(pointText(point));
    QVERIFY(back && *back == point);
    QVERIFY(!pointFrom("{"));
  }

  /// What a question lacks is a hint: it stops no solve.
  void aQuestionStopsNoSolve()
  {
    Project p = heatedBar();
    p.questions = {asks({}, AskBest{})};
    p.questions[0].base.clear();
    const std::vector<Finding> findings = checkModel(p);
    QVERIFY(!hasErrors(findings));
    QVERIFY(mentions(findings, Finding::Severity::Hint, {"question", "case"}));
    QVERIFY(mentions(findings, Finding::Severity::Hint, {"question", "watch"}));
    QVERIFY(solve(p).temperature.size() > 8);
  }

  /// A question is removed with its case's field, and kept by the file.
  void questionsAreKeptInTheFile()
  {
    Project p = heatedBar();
    p.questions = {asks({range("heater.power", "1 W", "2 W"), tolerance("metal.conductivity", "5 %")},
                        AskBest{"end", true, AskedFigure::Peak, true, number(20), number(3)})};
    const auto again = readProject(writeProject(p), "test");
    QVERIFY2(again, again ? "" : again.error().sentence().c_str());
    QVERIFY(again->questions == p.questions);
    QVERIFY(removeObject(p, "heater"));
    QCOMPARE(p.questions[0].varies.size(), std::size_t{1});
    QVERIFY(removeObject(p, "steady"));
    QVERIFY(p.questions[0].base.empty());
  }
};

QTEST_GUILESS_MAIN(QuestionsTest)
#include "tst_questions.moc"
