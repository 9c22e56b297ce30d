// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A case runs in time and is read on the strip; a network of nodes is built by hand: the real window, mouse and keys.
#include "TestProjects.h"
#include "WindowDriver.h"
#include "cases/CaseChip.h"
#include "cases/CaseEditor.h"
#include "document/LedgerRows.h"
#include "fields/TableEditor.h"
#include "io/ProjectFile.h"
#include "scene/SceneCanvas.h"
#include "scene/ScenePanel.h"
#include "strip/NetworkPage.h"
#include "strip/StripPanel.h"
#include "strip/TimePage.h"
#include "window/Film.h"

#include <QClipboard>
#include <QDir>
#include <QImage>
#include <QLabel>
#include <QMessageBox>
#include <QTabBar>
#include <QTabWidget>
#include <QTableWidget>
#include <cmath>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A lump that a heater warms and the air cools: 30 W over 0.5 W/K, 72 J/K.
Project heatedLump()
{
  Project p = projectWith(0.01);
  p.name = "lump";
  Material metal = material("metal", 400);
  metal.density = number(9000);
  metal.specificHeat = Property{1000, ""};
  p.materials = {metal};
  p.parts = {part("lump", "metal", block(0.02, 0.02, 0.02))};
  p.surfaces = {exposedOf("skin", {"lump"})};
  p.sources = {source("heater", PartPower{{"lump"}, Property{30, "30 W"}})};
  p.boundaries = {boundary("air", Convection{"skin", Property{0.5 / 0.0024, ""}, Property{293.15, "20 °C"}})};
  p.watches = {watch("t", PartFigure{PartFigure::Kind::Mean, {"lump"}})};
  return p;
}

} // namespace

class TimeTest : public QObject, protected WindowDriver
{
  Q_OBJECT

private:
  TimeChart* chart() const { return find<TimeChart>("timeChart"); }
  static void enter(QLineEdit* edit, const QString& text)
  {
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
  }
  static double kelvin(const ShownFigures* figures) { return figures->parts.front().mean; }

private slots:
  void initTestCase()
  {
    const std::filesystem::path file = folder_.filePath("lump.kiln").toStdString();
    QVERIFY(saveProject(heatedLump(), file).has_value());
    open();
    window_->openFile(QString::fromStdString(file.string()));
    solve();
  }
  void cleanupTestCase() { window_.reset(); }

  /// Two actions: copy the case, solve it. It ends by itself when nothing changes any more.
  void aSteadyCaseIsCopiedInTime()
  {
    const double steady = kelvin(document().shownFigures());
    copyInTime(document(), "steady");
    QVERIFY(project().cases.back().kind == Case::Kind::Transient);
    QCOMPARE(find<QTabBar>("stripPages")->currentIndex(), StripPanel::timePage);
    solve();
    const auto record = document().shownState().run.record;
    QVERIFY(record && record->finished);
    QVERIFY(record->reason.find("settled") != std::string::npos);
    QVERIFY(std::abs(kelvin(document().shownFigures()) - steady) < 0.7); // settled: 1 % of 60 K is left
    QVERIFY(find<QLabel>("stripTitle")->text().contains("at "));
    const QString times = find<QLabel>("watchTimes:t")->text();
    QVERIFY2(times.contains("peak") && times.contains("63 % of the change after 2 min"), qPrintable(times));
    QVERIFY(document().shownState().result->transient);
  }

  /// The playhead moves scene, ledger and cards together.
  void thePlayheadMovesEverything()
  {
    const auto& times = document().shownState().run.record->times;
    const double end = kelvin(document().shownFigures());
    const QRectF plot = chart()->plot();
    QTest::mouseClick(chart(), Qt::LeftButton, {}, QPoint(qRound(chart()->xOf(144)), qRound(plot.center().y())));
    QVERIFY(document().playhead() && std::abs(*document().playhead() - 144) < 0.02 * times.back());
    const double now = *document().playhead();
    const double expected = 293.15 + 60 * (1 - std::exp(-now / 144));
    QVERIFY2(std::abs(kelvin(document().shownFigures()) - expected) < 0.5,
             qPrintable(QString::number(kelvin(document().shownFigures()) - expected)));
    const auto drawn = window_->scene().canvas().drawnRange();
    QVERIFY(drawn && std::abs(drawn->second - expected) < 0.6);
    QTRY_VERIFY(find<QLabel>("watchFigure:t")->text() ==
                QString::fromStdString(formatQuantity(kelvin(document().shownFigures()), Quantity::Temperature)));
    QTest::keyClick(chart(), Qt::Key_Home);
    QVERIFY(std::abs(kelvin(document().shownFigures()) - 293.15) < 1e-3);
    QTest::keyClick(chart(), Qt::Key_Right);
    QVERIFY(*document().playhead() > 0);
    QTest::keyClick(chart(), Qt::Key_P); // the only peak is the end
    QVERIFY(std::abs(kelvin(document().shownFigures()) - end) < 0.1);
    QTest::keyClick(chart(), Qt::Key_Home);
    QTest::keyClick(chart(), Qt::Key_M);
    QVERIFY(std::abs(*document().playhead() - times.back()) < 1e-6);
    QTest::keyClick(chart(), Qt::Key_Home);
    QTest::keyClick(chart(), Qt::Key_Space); // plays to the end
    QTRY_VERIFY_WITH_TIMEOUT(std::abs(*document().playhead() - times.back()) < 1e-6, 20'000);
  }

  void theLedgerIsThatOfTheInstant()
  {
    document().setPlayhead(20);
    const ShownFigures& early = *document().shownFigures();
    QVERIFY(std::abs(early.heatIn - 30) < 1e-6);
    QVERIFY(early.stored > 20 && early.heatOut < 10);
    QVERIFY(std::abs(early.heatIn - early.heatOut - early.stored) < 0.05);
    QTest::keyClick(chart(), Qt::Key_End);
    QVERIFY(document().shownFigures()->stored < 0.5);
  }

  /// A watch made after the run is read from the stored instants.
  void aLaterWatchIsFilled()
  {
    document().edit("Watch", [](Project& p) {
      p.watches.push_back(watch("new", PartFigure{PartFigure::Kind::Hottest, {"lump"}}));
    });
    QVERIFY(document().shownState().outOfDate.isEmpty());
    document().setPlayhead(144);
    const auto& watches = document().shownFigures()->watches;
    QVERIFY(watches.back().id == "new" && watches.back().value);
    QVERIFY(std::abs(*watches.back().value - 293.15 - 60 * (1 - std::exp(-1.0))) < 1);
    // Its whole course is there: a trace, and what the run says of it.
    QCOMPARE(chart()->traces().size(), 2UL);
    const auto record = document().shownState().run.record;
    for (const double time : {0.0, 50.0, 144.0, 400.0})
      QVERIFY(std::abs(record->at(RunTrace::Kind::Watch, "new", time).value() -
                       record->at(RunTrace::Kind::Watch, "t", time).value()) < 1);
    const auto answers = answersOf(*record, project().watches.back());
    QVERIFY(answers && std::abs(*answers->reached63 - 144) < 5);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
  }

  void endRulesAreSetByHand()
  {
    const std::string id = document().shownCase();
    editCase(document(), window_->preferences(), id, window_.get());
    auto* editor = find<CaseEditor>("caseEditor");
    choose("addEnd", {"when a watch passes"});
    QCOMPARE(project().cases.back().run->ends.size(), 2U);
    type("field:" + QString::fromStdString(id) + ".run.end-2.value", "50 degC");
    const auto& rule = std::get<EndAtValue>(project().cases.back().run->ends[1].when);
    QCOMPARE(rule.value.si, 323.15);
    QCOMPARE(rule.watch, std::string("t"));
    QVERIFY(!document().shownState().outOfDate.isEmpty());
    editor->close();
    solve();
    const auto record = document().shownState().run.record;
    QVERIFY(std::abs(record->times.back() - 144 * std::log(2.0)) < 1);
    QVERIFY(record->reason.find("rose to 50.0 °C") != std::string::npos);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().cases.back().run->ends.size(), 1U);
  }

  /// A parameter gets a schedule in its table; the power follows it.
  void aPowerFollowsASchedule()
  {
    find<QTabWidget>("centre")->setCurrentIndex(2);
    document().edit("Parameter", [](Project& p) {
      Parameter power;
      power.id = power.name = "duty";
      power.quantity = Quantity::Power;
      power.value = {30, "30 W", false};
      p.parameters.push_back(power);
      Property follows{30, "duty"};
      follows.formula = true;
      std::get<PartPower>(p.sources[0].heat).power = follows;
    });
    QTest::mouseClick(find<QToolButton>("schedule:duty"), Qt::LeftButton);
    auto* editor = find<TableEditor>("tableEditor");
    auto* rows = editor->findChild<QTableWidget*>("tableRows");
    QTest::mouseClick(editor->findChild<QPushButton*>("tableAdd"), Qt::LeftButton);
    rows->item(1, 0)->setText("1 min");
    rows->item(1, 1)->setText("0 kW");
    auto* between = editor->findChild<QComboBox*>("scheduleBetween");
    between->setCurrentIndex(1);
    emit between->activated(1);
    QTest::mouseClick(editor->findChild<QPushButton*>("tableUse"), Qt::LeftButton);
    QVERIFY(project().parameters[0].schedule.has_value());
    QCOMPARE(project().parameters[0].schedule->points[1].at.si, 60.0);
    find<QTabWidget>("centre")->setCurrentIndex(0);
    solve();
    const auto record = document().shownState().run.record;
    QVERIFY(std::abs(record->find(RunTrace::Kind::SourceEnergy, "heater")->values.back() - 1800) < 0.01);
    const auto answers = answersOf(*record, project().watches[0]);
    QVERIFY(std::abs(answers->peak.time - 60) < 0.5 && answers->peakPassed);
  }

  /// A schedule made of ramps and holds, and one of on and off, instead of a table by hand.
  void aScheduleIsMadeOfRampsAndHolds()
  {
    find<QTabWidget>("centre")->setCurrentIndex(2);
    QTest::mouseClick(find<QToolButton>("schedule:duty"), Qt::LeftButton);
    auto* editor = find<TableEditor>("tableEditor");
    auto* rows = editor->findChild<QTableWidget*>("tableRows");
    QTest::mouseClick(editor->findChild<QPushButton*>("tableSegments"), Qt::LeftButton);
    auto* segments = editor->findChild<QDialog*>("segmentsEditor");
    auto* stretches = segments->findChild<QTableWidget*>("segments");
    QTest::mouseClick(segments->findChild<QPushButton*>("segmentsAdd"), Qt::LeftButton);
    const int last = stretches->rowCount() - 1;
    stretches->item(last, 0)->setText("20 W");
    stretches->item(last, 1)->setText("2 apples");
    QVERIFY(segments->findChild<QLabel*>("segmentsMessage")->text().contains("Stretch"));
    stretches->item(last, 1)->setText("2 min");
    stretches->item(last, 2)->setText("3 min");
    QTest::mouseClick(segments->findChild<QPushButton*>("segmentsUse"), Qt::LeftButton);
    QCOMPARE(rows->item(rows->rowCount() - 1, 0)->text(), QString("360"));
    QCOMPARE(rows->item(rows->rowCount() - 2, 0)->text(), QString("180"));
    QTest::mouseClick(editor->findChild<QPushButton*>("tableDuty"), Qt::LeftButton);
    auto* duty = editor->findChild<QDialog*>("dutyEditor");
    enter(duty->findChild<QLineEdit*>("dutyOn"), "30 W");
    enter(duty->findChild<QLineEdit*>("dutyPeriod"), "40 s");
    enter(duty->findChild<QLineEdit*>("dutyShare"), "10 s");
    QTest::mouseClick(duty->findChild<QPushButton*>("dutyUse"), Qt::LeftButton);
    QCOMPARE(rows->rowCount(), 3);
    enter(editor->findChild<QLineEdit*>("scheduleShift"), "5 s");
    QTest::mouseClick(editor->findChild<QPushButton*>("tableUse"), Qt::LeftButton);
    const Schedule& made = *project().parameters[0].schedule;
    QVERIFY(made.beyond == Schedule::Beyond::Repeats && made.between == Schedule::Between::Steps);
    QCOMPARE(made.points.back().at.si, 40.0);
    QCOMPARE(made.shift->si, 5.0);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().parameters[0].schedule->points[1].at.si, 60.0);
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  /// The page How long: when the lump peaked and settled; a click goes there.
  void howLongIsATable()
  {
    window_->strip().setPage(StripPanel::timesPage);
    auto* table = find<QTableWidget>("times");
    QVERIFY(table->isVisible());
    QCOMPARE(table->rowCount(), 3); // everything, the lump, the watch
    QCOMPARE(table->item(1, 0)->text(), QString("lump"));
    const auto record = document().shownState().run.record;
    const PartInTime lump = partsInTime(*record, std::nullopt).front();
    QVERIFY(table->item(1, 3)->text().startsWith(
        QString::fromStdString(formatQuantity(lump.hottest.peak.value, Quantity::Temperature))));
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualItemRect(table->item(1, 4)).center());
    QVERIFY(std::abs(*document().playhead() - lump.hottest.peak.time) < 1e-6);
    const QString before = table->item(1, 7)->text();
    enter(find<QLineEdit>("settleBand"), "10 K");
    QCOMPARE(project().cases.back().run->settleBand->si, 10.0);
    QVERIFY(table->item(1, 7)->text() != before);
    QCOMPARE(document().shownState().stage, CaseState::Stage::Solved); // nothing to solve anew
    QTest::mouseClick(find<QToolButton>("timesCopy"), Qt::LeftButton);
    QVERIFY(QApplication::clipboard()->text().contains("Settled after"));
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    window_->strip().setPage(StripPanel::timePage);
  }

  /// Dragged with the right button, a stretch of the traces fills the page; a double click shows all again.
  void aStretchOfTimeIsEnlarged()
  {
    const double before = chart()->timeAt(chart()->width() - 20);
    const QPoint from(chart()->width() / 4, 40);
    const QPoint to(chart()->width() / 2, 40);
    const double first = chart()->timeAt(from.x());
    QTest::mousePress(chart(), Qt::RightButton, {}, from);
    QMouseEvent move(QEvent::MouseMove, to, chart()->mapToGlobal(to), Qt::NoButton, Qt::RightButton, {});
    QApplication::sendEvent(chart(), &move);
    QTest::mouseRelease(chart(), Qt::RightButton, {}, to);
    QVERIFY(chart()->timeAt(chart()->width() - 20) < 0.6 * before);
    QVERIFY(std::abs(chart()->timeAt(60) - first) < 0.05 * before);
    QTest::mouseDClick(chart(), Qt::LeftButton, {}, from);
    QVERIFY(std::abs(chart()->timeAt(chart()->width() - 20) - before) < 1e-6 * before);
  }

  /// What is stored is chosen in the case's editor.
  void whatIsStoredIsChosen()
  {
    const std::string id = document().shownCase();
    editCase(document(), window_->preferences(), id, window_.get());
    auto* editor = window_->findChild<CaseEditor*>();
    openMore(*editor);
    choose("addStored", {"a stretch of time, more finely"});
    const TransientRun& run = *findById(project().cases, id)->run;
    QCOMPARE(run.storeAlso.size(), 1UL);
    QCOMPARE(run.storeAlso[0].every->si, 60.0);
    auto* parts = editor->findChild<QComboBox*>("storeParts");
    parts->setCurrentIndex(parts->count() - 1);
    emit parts->activated(parts->count() - 1);
    QCOMPARE(findById(project().cases, id)->run->storeParts, std::vector<std::string>{"lump"});
    editor->close();
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(findById(project().cases, id)->run->storeAlso.empty());
  }

  /// Cancelled half-way: the older result is shown whole, and that a later run was interrupted, which can be read; the
  /// project is untouched.
  void aCancelledRunSaysSo()
  {
    document().edit("Run for ever", [](Project& p) {
      p.parameters[0].schedule->beyond = Schedule::Beyond::Repeats;
      p.cases.back().run->ends = {{"end-1", EndAtTime{number(1e8)}, {}}};
      p.cases.back().run->longest = number(2e8);
    });
    const Project before = project();
    QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton);
    const auto runs = [&] {
      const auto record = document().shownState().run.record;
      return record && !record->finished && record->times.size() > 5;
    };
    QTRY_VERIFY_WITH_TIMEOUT(runs(), childTime); // it grows while it runs
    QCOMPARE(find<QLabel>("clock")->toolTip(), QString("running"));
    window_->solver().cancel();
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning(), childTime);
    QTRY_VERIFY2(find<QLabel>("clock")->toolTip().contains("a later run was interrupted at"),
                 qPrintable(find<QLabel>("clock")->toolTip()));
    QVERIFY(find<QLabel>("clock")->toolTip().startsWith("ended: "));
    QVERIFY(document().shownState().run.record->finished);
    QVERIFY(project() == before);
    const auto interrupted = loadRun(growingRunFile(document().resultsFolder(), project().cases.back().id));
    QVERIFY(interrupted && !interrupted->finished);
    QCOMPARE(interrupted->times.back(), document().shownState().run.interruptedAt.value());
  }

  /// It goes on from there, and is ended by hand and kept.
  void aStoppedRunGoesOnAndIsEndedByHand()
  {
    const double stopped = document().shownState().run.interruptedAt.value();
    QTest::mouseClick(find<QToolButton>("timeGoOn"), Qt::LeftButton);
    const auto further = [&] {
      const auto record = document().shownState().run.record;
      return window_->solver().isRunning() && record && record->times.back() > stopped + 300;
    };
    QTRY_VERIFY_WITH_TIMEOUT(further(), childTime);
    QCOMPARE(document().shownState().run.record->times.front(), 0.0);
    QVERIFY(find<QToolButton>("timeEndNow")->isVisible());
    QTest::mouseClick(find<QToolButton>("timeEndNow"), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && document().shownState().run.record->finished, childTime);
    QCOMPARE(document().shownState().run.record->reason, std::string("ended by hand"));
    QTRY_COMPARE(document().shownState().stage, CaseState::Stage::Solved);
    QVERIFY(!find<QToolButton>("timeEndNow")->isVisible());
  }

  /// Pictures of every frame, named in order.
  void aFilmIsSaved()
  {
    const QTemporaryDir pictures;
    QCOMPARE(saveFilm(document(), window_->scene(), pictures.path(), 3), 3);
    const QStringList files = QDir(pictures.path()).entryList({"*.png"}, QDir::Files, QDir::Name);
    QCOMPARE(files.size(), 3);
    QVERIFY(files.last().endsWith("-0003.png"));
    const QImage first(pictures.filePath(files.first()));
    QVERIFY(first.width() > 200 && first != QImage(pictures.filePath(files.last())));
    const QString animated = pictures.filePath("film.webp");
    QCOMPARE(saveAnimation(document(), window_->scene(), animated, 4), 4);
    QFile film(animated);
    QVERIFY(film.open(QIODevice::ReadOnly));
    const QByteArray bytes = film.readAll();
    QVERIFY(bytes.startsWith("RIFF") && bytes.contains("ANIM"));
    QCOMPARE(bytes.count("ANMF"), 4);
    const QString video = pictures.filePath("film.webm"); // see gui.video for what is in it
    QCOMPARE(saveAnimation(document(), window_->scene(), video, 4), 4);
    QVERIFY(QFileInfo(video).size() > 1000);
    // A folder that is not there: said so, and nothing more is tried.
    QTimer closer;
    int warned = 0;
    connect(&closer, &QTimer::timeout, this, [&] {
      if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget())) {
        warned += box->text().contains("could not be written") ? 1 : 0;
        box->close();
      }
    });
    closer.start(50);
    QCOMPARE(saveFilm(document(), window_->scene(), "/nowhere/at/all", 2), 0);
    QCOMPARE(warned, 1);
  }

  /// "When t rises to 40 °C, switch off the heater", set in the case's editor.
  void aRuleIsSetByHand()
  {
    const std::string id = document().shownCase();
    editCase(document(), window_->preferences(), id, window_.get());
    auto* editor = find<CaseEditor>("caseEditor");
    QTest::mouseClick(find<QToolButton>("addRule"), Qt::LeftButton);
    QCOMPARE(project().cases.back().run->rules.size(), 1U);
    type("field:" + QString::fromStdString(id) + ".run.rule-1.value", "40 degC");
    auto* effect = find<QComboBox>("ruleEffect:rule-1");
    pickCombo("ruleEffect:rule-1", effect->findText("switch off heater"));
    const RunRule rule = project().cases.back().run->rules[0];
    QCOMPARE(rule.mute, std::vector<std::string>{"heater"});
    QVERIFY(!rule.end && rule.value.si == 313.15);
    effect = find<QComboBox>("ruleEffect:rule-1");
    pickCombo("ruleEffect:rule-1", effect->findText("set duty to"));
    type("ruleValue:rule-1", "5 W");
    QCOMPARE(project().cases.back().run->rules[0].set.front().number()->si, 5.0);
    QVERIFY(project().cases.back().run->rules[0].mute.empty());
    // A coefficient, too; a power is no coefficient and is refused.
    effect = find<QComboBox>("ruleEffect:rule-1");
    pickCombo("ruleEffect:rule-1", effect->findData("set:air.coefficient"));
    const auto change = [&] { return project().cases.back().run->rules[0].set.front(); };
    QCOMPARE(change().field, std::string("air.coefficient"));
    const double before = change().number()->si;
    type("ruleValue:rule-1", "5 kW");
    QCOMPARE(change().number()->si, before);
    type("ruleValue:rule-1", "300 W/(m²·K)");
    QCOMPARE(change().number()->si, 300.0);
    effect = find<QComboBox>("ruleEffect:rule-1");
    pickCombo("ruleEffect:rule-1", effect->findText("switch off heater"));
    editor->close();
    document().edit("Shorter", [](Project& p) {
      p.parameters[0].schedule.reset();
      p.cases.back().run->ends = {{"end-1", EndAtTime{number(600)}, {}}};
      p.cases.back().run->longest.reset();
    });
    solve();
    const auto record = document().shownState().run.record;
    const double fired = 144 * std::log(3.0 / 2); // 20 of 60 K
    QVERIFY(std::abs(answersOf(*record, project().watches[0])->peak.time - fired) < 0.5);
    QVERIFY(std::abs(answersOf(*record, project().watches[0])->peak.value - 313.15) < 0.05);
    const bool marked = std::any_of(record->marks.begin(), record->marks.end(), [&](const RunMark& mark) {
      return mark.kind == RunMark::Kind::RuleFired && std::abs(mark.time - fired) < 0.5;
    });
    QVERIFY(marked);
    // The row that the rule turned off says so, from then on.
    const auto words = [&] { return ledgerBands(document(), TemperatureUnit::Celsius)[0].rows.front().set; };
    QVERIFY2(words().contains("changed by a rule at"), qPrintable(words()));
    document().setPlayhead(fired / 2);
    QVERIFY(!words().contains("changed by a rule"));
    document().setPlayhead(record->times.back());
  }

  /// A log over the traces, its difference in kelvin; heat over a dragged window.
  void measurementsAndWindows()
  {
    const QString log = folder_.filePath("log.csv");
    std::ofstream(log.toStdString()) << "time [min], t [°C]\n0, 20\n5, 25\n8, 22\n";
    window_->strip().setPage(StripPanel::timePage);
    find<TimePage>("timePage")->layOver(log);
    QCOMPARE(chart()->measured().size(), 1U);
    QVERIFY(chart()->misfits().first().contains("rms"));
    const QString before = chart()->misfits().first();
    type("measuredOffset", "30 s");
    QVERIFY(chart()->misfits().first() != before);
    QVERIFY(find<QLabel>("clock")->toolTip().contains("measured"));
    chart()->setMeasured({}, 0);
    const auto record = document().shownState().run.record;
    const QPoint from(qRound(chart()->xOf(100)), qRound(chart()->plot().center().y()));
    const QPoint to(qRound(chart()->xOf(300)), from.y());
    QTest::mousePress(chart(), Qt::LeftButton, Qt::ShiftModifier, from);
    QMouseEvent move(QEvent::MouseMove, to, chart()->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, Qt::ShiftModifier);
    QApplication::sendEvent(chart(), &move);
    QTest::mouseRelease(chart(), Qt::LeftButton, Qt::ShiftModifier, to);
    QVERIFY2(chart()->windowText().contains("stored −"),
             qPrintable(chart()->windowText())); // the heater is off: it cools
    QTest::mouseClick(chart(), Qt::LeftButton, {}, from);
    QVERIFY(chart()->windowText().isEmpty());
  }

  /// Three nodes and three links from nothing.
  void aNetworkIsBuiltByHand()
  {
    document().startEmpty();
    for (int i = 0; i < 3; ++i)
      choose("add:1", {"Lumped node"});
    QCOMPARE(project().nodes.size(), 3U);
    openRow("node");
    type("field:node.power", "10 W");
    closeRow("node");
    openRow("node-3");
    type("field:node-3.temperature", "300 K");
    closeRow("node-3");
    const auto link = [&](const QString& id, const QString& from, const QString& to, const QString& value) {
      choose("add:2", {"Conductance between two"});
      openRow(id.toStdString().c_str());
      const auto pick = [&](const QString& name, const QString& end) {
        const QString box = "field:" + id + "." + name;
        pickCombo(box, find<QComboBox>(box)->findData(end));
      };
      pick("endA", from);
      pick("endB", to);
      type("field:" + id + ".conductance", value);
      closeRow(id.toStdString().c_str());
    };
    link("link", "node", "node-2", "2 W/K");
    link("link-2", "node-2", "node-3", "0.5 W/K");
    link("link-3", "node-2", "node-3", "0.25 W/K");
    solve();
    const auto& nodes = document().shownFigures()->nodes;
    QCOMPARE(nodes.size(), 3U);
    QVERIFY(std::abs(nodes[1].temperature - 300 - 10 / 0.75) < 1e-5);
    QVERIFY(std::abs(nodes[0].temperature - nodes[1].temperature - 5) < 1e-5);
    window_->strip().setPage(StripPanel::networkPage);
    auto* network = find<NetworkPage>("network");
    QCOMPARE(network->boxes().size(), 3U);
    QCOMPARE(network->lines().size(), 3U);
    QCOMPARE(network->lines()[0].text, QString("10 W"));
    QVERIFY(!network->boxes()[0].figure.isEmpty());
    QVERIFY(std::abs(*network->lines()[0].drop / network->lines()[0].watts - 0.5) < 1e-6); // 2 W/K
    const QImage watts = network->grab().toImage();
    QTest::mouseClick(find<QToolButton>("networkResistances"), Qt::LeftButton);
    QVERIFY(network->grab().toImage() != watts);
    const QPoint from = network->boxes()[0].middle.toPoint();
    QTest::mousePress(network, Qt::LeftButton, {}, from);
    QTest::mouseMove(network, from + QPoint(40, 20));
    QMouseEvent move(QEvent::MouseMove, from + QPointF(40, 20), network->mapToGlobal(from + QPointF(40, 20)),
                     Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(network, &move);
    QTest::mouseRelease(network, Qt::LeftButton, {}, from + QPoint(40, 20));
    QCOMPARE(project().network.size(), 1U);
    QCOMPARE(project().network[0].id, project().nodes[0].id);
    QVERIFY(document().shownState().outOfDate.isEmpty()); // where it is drawn changes no result
    QVERIFY(std::abs(network->boxes()[0].middle.x() - from.x() - 40) < 2);
  }
};

QTEST_MAIN(TimeTest)
#include "tst_time.moc"
