// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Many cases in the real window: groups, folding, finding, several edited at once, the queue, property sets, formulas
// and references of watches.
#include "RoomsDriver.h"
#include "cases/CaseBar.h"
#include "cases/GroupChip.h"
#include "io/CaseStore.h"
#include "strip/StripPanel.h"
#include "watches/WatchEditor.h"

#include <QCheckBox>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QScrollArea>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTabBar>
#include <QTableWidget>
#include <csignal>

using namespace kiln;
using namespace kiln::test;

class CasesWindowTest : public QObject, private RoomsDriver
{
  Q_OBJECT

  /// Answers the next dialog that asks for a text.
  static void answerWith(const QString& text)
  {
    QTimer::singleShot(50, qApp, [text] {
      auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
      if (dialog == nullptr)
        qFatal("nothing asks");
      dialog->setTextValue(text);
      dialog->accept();
    });
  }
  /// Chooses an entry of the menu of a chip.
  static void chooseOf(QWidget* widget, const QStringList& path)
  {
    walkMenu(path, [widget] {
      QContextMenuEvent event(QContextMenuEvent::Mouse, QPoint(4, 4), widget->mapToGlobal(QPoint(4, 4)));
      QApplication::sendEvent(widget, &event);
    });
  }

private slots:
  /// Given two hundred cases, then the window keeps its width, groups fold, and words find cases by name and state.
  void twoHundredCasesFit()
  {
    start(plateInRooms(200), "many");
    QCOMPARE(window_->width(), 1280);
    auto* row = find<QScrollArea>("caseRow");
    QVERIFY(row->width() < 1280 && row->viewport()->width() > 300);
    auto* even = find<GroupChip>("caseGroup:Even");
    QVERIFY2(even->text().contains("Even") && even->text().contains("100"), qPrintable(even->text()));
    QVERIFY(chip("room-0")->isVisible());
    QTest::mouseClick(even, Qt::LeftButton);
    QVERIFY(!chip("room-0")->isVisible() && chip("room-1")->isVisible());
    auto* filter = find<QLineEdit>("caseFilter");
    QVERIFY(filter->isVisible());
    QTest::keyClicks(filter, "room 17 never");
    QVERIFY(chip("room-17")->isVisible() && chip("room-170")->isVisible() && !chip("room-18")->isVisible());
    QTest::keyClicks(filter, " odd");
    QVERIFY(chip("room-17")->isVisible() && !chip("room-170")->isVisible());
    click("room-17");
    QCOMPARE(document().shownCase(), std::string("room-17"));
    filter->clear();
    QTest::qWait(20);
    QVERIFY(chip("room-17")->visibleRegion().boundingRect().width() > 0); // what is shown is in view
    QVERIFY(!chip("room-0")->isVisible());                                // still folded
    open();                                                               // in another window, too
    window_->openFile(folder_.filePath("many.kiln"));
    QVERIFY(!chip("room-0")->isVisible());
    QTest::mouseClick(find<GroupChip>("caseGroup:Even"), Qt::LeftButton);
    QVERIFY(chip("room-0")->isVisible());
  }

  /// Given ten cases chosen with Shift, then a value set in the ledger is each one's own, in one step of undo.
  void tenCasesAreEditedAtOnce()
  {
    start(plateInRooms(20), "ten");
    click("room-0");
    click("room-18", Qt::ShiftModifier); // those of its group stand together
    QCOMPARE(document().selectedCases().size(), 10U);
    click("room-18", Qt::ControlModifier);
    QCOMPARE(document().selectedCases().size(), 9U);
    click("room-18", Qt::ControlModifier);
    chooseOf(chip("room-4"), {"Edit these 10"});
    QVERIFY(find<QComboBox>("editScopeChoice")->currentText().contains("these 10 cases"));
    document().select("heater");
    openRow("heater");
    type("field:heater.power", "5 W");
    int own = 0;
    for (const Case& one : project().cases)
      own += std::any_of(one.changes.begin(), one.changes.end(), [](const Change& c) {
        return c.field == "heater.power" && c.number() != nullptr && c.number()->si == 5;
      });
    QCOMPARE(own, 10);
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).power.si, 3.0);
    document().undoStack().undo();
    QVERIFY(std::none_of(project().cases.begin(), project().cases.end(), [](const Case& one) {
      return std::any_of(one.changes.begin(), one.changes.end(),
                         [](const Change& c) { return c.field == "heater.power"; });
    }));
  }

  void severalAreGroupedGivenCopiedAndRemoved()
  {
    start(plateInRooms(4), "several");
    click("room-0");
    click("room-1", Qt::ControlModifier);
    answerWith("Chosen");
    chooseOf(chip("room-1"), {"Group"});
    QCOMPARE(findById(project().cases, "room-0")->group, std::string("Chosen"));
    QCOMPARE(findById(project().cases, "room-1")->group, std::string("Chosen"));
    QVERIFY(find<GroupChip>("caseGroup:Chosen")->isVisible());
    document().edit("comment", [](Project& p) { findById(p.cases, "room-0")->comment = "as planned"; });
    click("room-0");
    click("room-1", Qt::ControlModifier);
    chooseOf(chip("room-1"), {"Give them of", "its comment"});
    QCOMPARE(findById(project().cases, "room-1")->comment, std::string("as planned"));
    chooseOf(chip("room-1"), {"Duplicate"});
    QCOMPARE(project().cases.size(), 7U);
    QCOMPARE(document().selectedCases().size(), 2U);
    const std::string copy = document().shownCase();
    QCOMPARE(findById(project().cases, copy)->group, std::string("Chosen 2"));
    chooseOf(chip(copy), {"Remove them"});
    QCOMPARE(project().cases.size(), 5U);
    // Moved by keys: to the other side of its neighbour.
    click("room-2");
    chip("room-2")->setFocus();
    const auto placeOf = [&](const std::string& id) {
      return std::find_if(project().cases.begin(), project().cases.end(),
                          [&](const Case& one) { return one.id == id; }) -
             project().cases.begin();
    };
    const auto before = placeOf("room-2");
    QTest::keyClick(chip("room-2"), Qt::Key_Left, Qt::ControlModifier);
    QVERIFY(placeOf("room-2") < before);
    answerWith("Picked");
    chooseOf(find<GroupChip>("caseGroup:Chosen"), {"Rename"});
    QCOMPARE(findById(project().cases, "room-0")->group, std::string("Picked"));
  }

  /// Given a queue with a case that cannot be solved, then the others are, two at a time, and it says why.
  void theQueueGoesOnAfterAFailure()
  {
    Project p = plateInRooms(4);
    findById(p.cases, "room-1")->changes.push_back({"gone.power", Property{{1, {}}, {}}});
    Case after = *findById(p.cases, "room-1");
    after.id = after.name = "after it";
    after.changes.clear();
    after.kind = Case::Kind::Transient;
    after.run = TransientRun{};
    after.run->start = StartFromCase{"room-1", {}, {}};
    p.materials[0].density = Number{7000, ""};
    p.materials[0].specificHeat = Property{500, ""};
    p.cases.push_back(after);
    start(p, "queue");
    window_->strip().setPage(StripPanel::queuePage);
    auto* table = find<QTableWidget>("queue");
    find<QSpinBox>("queueAtATime")->setValue(2);
    QTest::keyClick(window_.get(), Qt::Key_F5, Qt::ShiftModifier);
    QTRY_VERIFY(table->rowCount() == 6);
    waitForQueue();
    const auto cellOf = [&](const QString& name, int column) {
      for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 0)->text() == name)
          return table->item(row, column)->text();
      return QString();
    };
    const auto stateOf = [&](const QString& name) { return cellOf(name, 1); };
    constexpr int gone = 3; // what is over says how long it took
    QVERIFY2(cellOf("Room 0", gone).section(' ', 0, 0).toDouble() > 0, qPrintable(cellOf("Room 0", gone)));
    QCOMPARE(cellOf("after it", gone), QString("–"));
    QCOMPARE(stateOf("Room 0"), QString("done"));
    QCOMPARE(stateOf("Room 3"), QString("done"));
    QCOMPARE(stateOf("Room 1"), QString("failed"));
    QCOMPARE(stateOf("after it"), QString("skipped"));
    QVERIFY(find<QLabel>("queueSummary")->text().contains("4 done, 1 failed, 1 skipped"));
    QVERIFY(document().state("room-1").message.contains("gone.power"));
    QVERIFY(document().state("after it").message.contains("Room 1"));
    QCOMPARE(document().state("room-2").stage, CaseState::Stage::Solved);
    QVERIFY(hottest("room-3") > hottest("room-0") + 1.5); // a warmer room
    // What the solver said is kept, and shown for the chosen one.
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0)->text() == "Room 2")
        table->setCurrentCell(row, 0);
    QTRY_VERIFY(find<QPlainTextEdit>("queueLog")->toPlainText().contains("solve:"));
    find<QSpinBox>("queueAtATime")->setValue(1);
  }

  /// Given a paused queue, then nothing starts, what waits can be put in another order or taken out, and goes on.
  void theQueueIsPausedAndPutInOrder()
  {
    start(plateInRooms(3), "paused");
    window_->strip().setPage(StripPanel::queuePage);
    auto* table = find<QTableWidget>("queue");
    QTest::mouseClick(find<QToolButton>("queuePause"), Qt::LeftButton);
    QTest::keyClick(window_.get(), Qt::Key_F5, Qt::ShiftModifier);
    QTRY_VERIFY(table->rowCount() == 4);
    QTest::qWait(200);
    QVERIFY(!window_->solver().isRunning());
    QCOMPARE(table->item(3, 0)->text(), QString("Room 2"));
    table->setCurrentCell(3, 0);
    QTRY_VERIFY(find<QToolButton>("queueUp")->isEnabled());
    QTest::mouseClick(find<QToolButton>("queueUp"), Qt::LeftButton);
    QTRY_VERIFY(table->item(2, 0)->text() == "Room 2");
    table->setCurrentCell(3, 0);
    QTest::qWait(20);
    QTest::mouseClick(find<QToolButton>("queueCancel"), Qt::LeftButton);
    QTRY_VERIFY(table->rowCount() == 3);
    QTest::mouseClick(find<QToolButton>("queuePause"), Qt::LeftButton);
    waitForQueue();
    QCOMPARE(document().state("room-2").stage, CaseState::Stage::Solved);
    QCOMPARE(document().state("room-1").stage, CaseState::Stage::NeverRun);
    QTest::mouseClick(find<QToolButton>("queueClear"), Qt::LeftButton);
    QTRY_VERIFY(table->rowCount() == 0);
  }

  /// Given solved cases, then each chip says so when the project is opened anew, and each is out of date once what they
  /// share has changed: none is left out while the window finds them one after the other.
  void everyChipSaysWhereItsCaseStands()
  {
    start(plateInRooms(4), "standing");
    QTest::keyClick(window_.get(), Qt::Key_F5, Qt::ShiftModifier);
    waitForQueue();
    QVERIFY(saveProject(document().project(), document().file()).has_value());
    const QString file = QString::fromStdString(document().file().string());
    window_.reset();
    open();
    window_->openFile(file);
    waitForShapes();
    const auto cases = document().project().cases;
    QCOMPARE(cases.size(), 5U);
    for (const Case& one : cases)
      QTRY_VERIFY2(chip(one.id)->accessibleName().contains(", solved"), qPrintable(chip(one.id)->accessibleName()));
    document().edit("warmer", [](Project& p) { std::get<PartPower>(p.sources[0].heat).power = Property{4, "4 W"}; });
    for (const Case& one : cases)
      QTRY_VERIFY2(chip(one.id)->accessibleName().contains("out of date"), qPrintable(chip(one.id)->accessibleName()));
  }

  /// Given more results than are to be kept in memory, then the others stay on the disk, known with their margin and
  /// whether they are current, and are read when they are shown.
  void resultsStayOnTheDisk()
  {
    Project p = plateInRooms(4);
    start(p, "disk");
    window_->solver().solve({"room-0", "room-1", "room-2", "room-3"});
    waitForQueue();
    std::map<std::string, double> hot;
    for (const char* id : {"room-0", "room-1", "room-2", "room-3"})
      hot[id] = hottest(id);
    click("room-1");
    document().compareWith({"room-2"});
    document().keepInMemory(0);
    const auto inMemory = [this](const char* id) { return document().knownState(id).result != nullptr; };
    QVERIFY(inMemory("room-1") && inMemory("room-2"));
    QVERIFY(!inMemory("room-0") && !inMemory("room-3"));
    const auto known = [&](const char* id) {
      const CaseState& state = document().state(id);
      return state.stage == CaseState::Stage::Solved && std::abs(state.watches[0].value.value_or(0) - hot[id]) < 1e-9;
    };
    document().edit("another limit", [](Project& all) { all.watches[0].upper = Number{380, "380 K"}; });
    QVERIFY(known("room-0") && !inMemory("room-0")); // a limit is compared with the value that is known
    QVERIFY(std::abs(*document().state("room-0").watches[0].margin - (380 - hot["room-0"])) < 1e-9);
    document().edit("another watch", [](Project& all) {
      all.watches[1].figure = PartFigure{Extreme::Mean, {"plate"}};
    });
    QVERIFY(!document().state("room-0").watches[1].value); // what it would read has to be read first
    click("room-0");
    QTRY_VERIFY(inMemory("room-0") && document().shownFigures()->watches[1].value.has_value());
    QVERIFY(known("room-0") && !inMemory("room-1"));
    document().edit("more power", [](Project& all) { all.sources[0].heat = PartPower{{"plate"}, {4, "4 W"}}; });
    QCOMPARE(document().state("room-3").stage, CaseState::Stage::OutOfDate);
    QVERIFY(!inMemory("room-3"));
    document().undoStack().undo();
    QCOMPARE(document().state("room-3").stage, CaseState::Stage::Solved);

    // What is damaged meanwhile says so when it is asked for.
    const std::filesystem::path file = resultFile(document().resultsFolder(), "room-3");
    std::filesystem::resize_file(file, std::filesystem::file_size(file) / 2);
    click("room-3");
    QTRY_COMPARE(document().shownState().stage, CaseState::Stage::Failed);
    QVERIFY2(document().shownState().message.contains("room-3"), qPrintable(document().shownState().message));

    // Opened anew, only the first ones are read at once.
    start(p, "disk");
    document().keepInMemory(0);
    QVERIFY(document().state("room-2").solved() && !inMemory("room-2"));
    click("room-2");
    QTRY_VERIFY(inMemory("room-2") && known("room-2"));
  }

  /// Given a job that the system kills, then it fails alone.
  void aKilledJobFailsAlone()
  {
    start(plateInRooms(2), "killed");
    document().edit("finer", [](Project& p) { p.mesh.size = Number{0.0015, ""}; });
    waitForShapes();
    window_->solver().solve({"room-0", "room-1"});
    QTRY_VERIFY(window_->solver().processId() > 0 && document().knownState("room-0").fraction > 0);
    QVERIFY(window_->solver().processId() > 0); // 0 would be all of the tests
    ::kill(static_cast<pid_t>(window_->solver().processId()), SIGKILL);
    QTRY_VERIFY_WITH_TIMEOUT(document().knownState("room-0").stage == CaseState::Stage::Failed, childTime);
    QVERIFY(document().state("room-0").message.contains("killed"));
    waitForQueue();
    QCOMPARE(document().state("room-1").stage, CaseState::Stage::Solved);
  }

  /// Given radiation switched off in one case, then the other's result stays current and the plate is hotter there.
  void radiationOffInOneCase()
  {
    start(plateInRooms(0), "glow");
    solve();
    const double with = hottest("steady");
    chooseOf(chip("steady"), {"Duplicate"});
    const std::string copy = document().shownCase();
    QTest::keyClick(window_.get(), Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(document().editsCaseOnly());
    auto* row = find<LedgerRowView>("row:glow");
    row->setFocus();
    QTest::keyClick(row, Qt::Key_Space);
    QCOMPARE(findById(project().cases, copy)->changes.size(), 1U);
    solve();
    QVERIFY(hottest(copy) > with + 5);
    QCOMPARE(document().state("steady").stage, CaseState::Stage::Solved);
  }

  /// Given values of a case's own, then they become a set that other cases take, and the set can be changed.
  void aPropertySetIsMadeAndTaken()
  {
    start(plateInRooms(2), "sets");
    click("room-0");
    QTest::keyClick(window_.get(), Qt::Key_P, Qt::AltModifier);
    answerWith("Cold air");
    QTest::mouseClick(find<QPushButton>("setFromCase"), Qt::LeftButton);
    QCOMPARE(project().sets.size(), 1U);
    QCOMPARE(project().sets[0].name, std::string("Cold air"));
    QVERIFY(findById(project().cases, "room-0")->changes.empty());
    QCOMPARE(findById(project().cases, "room-0")->sets, std::vector<std::string>{project().sets[0].id});
    QCOMPARE(document().shownProject().boundaries[0].name, std::string("air"));
    QCOMPARE(std::get<Convection>(document().shownProject().boundaries[0].condition).ambient.si, 280.15);
    auto* value = find<QLineEdit>("setValue:air.ambient");
    value->setFocus();
    value->selectAll();
    QTest::keyClicks(value, "5 parsecs");
    QTest::keyClick(value, Qt::Key_Return);
    QVERIFY(!find<QLabel>("setMessage")->text().isEmpty());
    QCOMPARE(project().sets[0].changes[0].number()->si, 280.15);
    value->selectAll();
    QTest::keyClicks(value, "3 °C");
    QTest::keyClick(value, Qt::Key_Return);
    QCOMPARE(project().sets[0].changes[0].number()->si, 276.15);
    QCOMPARE(std::get<Convection>(document().shownProject().boundaries[0].condition).ambient.si, 276.15);
    find<QDialog>("setEditor")->close();
  }

  /// Given a formula of two watches and a reference, then its card shows value, what it is made of, and whether it
  /// agrees.
  void aFormulaWatchAndItsReference()
  {
    start(plateInRooms(1), "formula");
    solve();
    choose("addWatch", {"Formula of watches"});
    auto* editor = find<WatchEditor>("watchEditor");
    const std::string id = project().watches.back().id;
    const QString path = "field:" + QString::fromStdString(id);
    QVERIFY(find<QLabel>("watchSaid")->text().contains("a is hot"));
    const double spread = *document().state("steady").watches[0].value - *document().state("steady").watches[1].value;
    QTRY_VERIFY(document().state("steady").watches.size() == 3);
    QVERIFY(std::abs(*document().state("steady").watches[2].value - spread) < 1e-9);
    type(path + ".formula", "a + ");
    QTRY_VERIFY(!document().findings().empty() &&
                mentions(document().findings(), Finding::Severity::Error, {"Its formula"}));
    type(path + ".formula", "2 * (a - b)");
    QVERIFY(std::abs(*document().state("steady").watches[2].value - 2 * spread) < 1e-9);
    type(path + ".reference", QString::number(2 * spread + 0.5, 'f', 6) + " K");
    type(path + ".tolerance", "0.1 K");
    auto* more = find<QLabel>("watchTimes:" + QString::fromStdString(id));
    QTRY_VERIFY2(more->text().contains("✕") && more->text().contains("beyond"), qPrintable(more->text()));
    type(path + ".tolerance", "1 K");
    QTRY_VERIFY2(more->text().contains("✓") && more->text().contains("within"), qPrintable(more->text()));
    editor->close();
  }
};

int main(int argc, char** argv) { return runWindowTests<CasesWindowTest>(argc, argv); }
#include "tst_many.moc"
