// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Questions in the window: asked by mouse and keys, answered by the real solver, read from table and chart.
#include "BarDriver.h"
#include "fields/QuestionEditor.h"
#include "strip/AnswerCharts.h"
#include "strip/LineChart.h"
#include "strip/ParallelChart.h"
#include "strip/QuestionsPage.h"

#include <QCheckBox>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QScrollArea>
#include <QSlider>
#include <QStackedWidget>
#include <QStatusBar>
#include <QTabWidget>
#include <QTableWidget>
#include <QToolButton>

using namespace kiln;
using namespace kiln::test;

class AskingTest : public QObject, private BarDriver
{
  Q_OBJECT

private:
  QuestionsPage& page() { return *find<QuestionsPage>("questionsPage"); }
  QTableWidget& table() { return *find<QTableWidget>("points"); }
  QString said() { return find<QLabel>("questionSaid")->text(); }
  QuestionEditor* editor() { return find<QuestionEditor>("questionEditor"); }

  /// A bar from 300 K that is heated at its right by 4 W: 400 K there.
  void heatedBar()
  {
    Project p = bar();
    p.boundaries.pop_back();
    p.sources = {source("heater", SurfacePower{"right", Property{4, "4 W"}})};
    p.watches[0].upper = Number{420, "146.85 °C"};
    p.watches.push_back(watch("through", SurfaceHeat{"left"}));
    static int count = 0; // a folder of its own each
    start(p, qPrintable(QString("bar-%1").arg(++count)));
    showPage(StripPanel::questionsPage);
    QVERIFY(said().startsWith("Which one"));
  }
  /// By the button's menu.
  void newQuestion(int kind)
  {
    find<QToolButton>("questionNew")->menu()->actions().at(kind)->trigger();
    QTRY_VERIFY(window_->findChild<QuestionEditor*>("questionEditor") != nullptr);
  }
  /// A field by a word of its name, as one would type it.
  void vary(const QString& name)
  {
    auto* choice = editor()->findChild<QComboBox*>("vary");
    QVERIFY(choice != nullptr);
    const int index = choice->findText(name, Qt::MatchContains);
    QVERIFY2(index >= 0, qPrintable(name));
    choice->setCurrentIndex(index);
    emit choice->activated(index);
    QCoreApplication::processEvents();
  }
  /// A field of the editor, by the end of its path.
  void enter(const QString& ending, const QString& text)
  {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    for (QLineEdit* line : editor()->findChildren<QLineEdit*>())
      if (line->objectName().startsWith("field:") && line->objectName().endsWith(ending)) {
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
        QCoreApplication::processEvents();
        return;
      }
    QFAIL(qPrintable("no field " + ending));
  }
  void askIt()
  {
    QTest::mouseClick(editor()->findChild<QPushButton*>("questionEditorAsk"), Qt::LeftButton);
    waitForQueue();
    QTRY_VERIFY(page().answers().find(page().chosen()) != nullptr);
  }

private slots:
  /// A sweep over a power: a row a point, a curve, and a point kept as a case that solves to the same.
  void aSweep()
  {
    heatedBar();
    newQuestion(0);
    QVERIFY(editor()->findChild<QLabel*>("questionProblem")->text().contains("Nothing varies"));
    vary("source heater, Power");
    enter(".from", "2 W");
    enter(".to", "6 W");
    enter(".count", "3");
    QTRY_COMPARE(editor()->findChild<QLabel*>("questionProblem")->text(), QString("3 point(s)."));
    askIt();
    QCOMPARE(said(), QString("3 of 3 points."));
    QCOMPARE(table().rowCount(), 3);
    QCOMPARE(table().item(0, 0)->text(), QString("2 W"));
    QVERIFY2(table().item(0, 1)->text().startsWith("76.8"), qPrintable(table().item(0, 1)->text())); // 300 + 50 K
    QVERIFY(table().item(2, 1)->text().startsWith("176."));
    QVERIFY(table().item(0, 3)->text().contains("kept") && table().item(2, 3)->text().contains("passed"));
    auto* curve = find<LineChart>("questionCurve");
    QVERIFY(curve->isVisible());
    QCOMPARE(curve->curves().front().pieces.front().size(), 3);
    QVERIFY(curve->readoutAt(4).contains("126.85"));
    table().selectRow(0);
    QTest::mouseClick(find<QToolButton>("questionKeep"), Qt::LeftButton);
    QCOMPARE(project().cases.size(), std::size_t{2});
    QVERIFY2(said().startsWith("Kept as case"), qPrintable(said()));
    window_->solver().solve({document().shownCase()});
    waitForQueue();
    QTRY_VERIFY2(document().shownState().result != nullptr,
                 qPrintable(document().shownState().message + QString::fromStdString(document().shownCase())));
    QVERIFY(std::abs(hottest(document().shownCase()) - 350) < 1e-3);
  }

  /// An edit makes the answer out of date, the way back current; what is known is not solved again.
  void outOfDateAndBack()
  {
    const std::string id = page().chosen();
    QVERIFY(page().answers().isCurrent(id));
    document().setNumber("metal.conductivity", {20, "20 W/(m·K)", false});
    QTRY_VERIFY2(said().startsWith("Out of date"), qPrintable(said()));
    document().undoStack().undo();
    QTRY_VERIFY(!said().startsWith("Out of date"));
    QTest::mouseClick(find<QToolButton>("questionAsk"), Qt::LeftButton);
    waitForQueue();
    for (const PointAnswer& answer : page().answers().find(id)->answers)
      QVERIFY(answer.known || answer.seconds < 60); // read again or solved
    QCOMPARE(table().rowCount(), 3);
  }

  /// Points that keep their temperatures: one that is kept as a case is solved at once, without being solved again.
  void temperaturesOfPoints()
  {
    heatedBar();
    newQuestion(0);
    vary("source heater, Power");
    enter(".from", "2 W");
    enter(".to", "6 W");
    enter(".count", "3");
    QCheckBox* keeps = nullptr;
    for (QCheckBox* box : editor()->findChildren<QCheckBox*>())
      if (box->objectName().endsWith("keepsFields"))
        keeps = box;
    QVERIFY(keeps != nullptr);
    keeps->click();
    QVERIFY(project().questions.back().keepsFields);
    window_->solver().solve({"steady"});
    askIt();
    QTRY_VERIFY(document().shownState().result != nullptr);
    // A click on its row shows a point's scene, and says so; another one that of another; none the case's own.
    const auto shownHottest = [&] {
      const auto& shown = *canvas().model().source().temperature;
      return *std::max_element(shown.begin(), shown.end());
    };
    table().selectRow(2);
    QTRY_VERIFY2(document().estimateWords().contains("6 W"), qPrintable(document().estimateWords()));
    QVERIFY(std::abs(shownHottest() - 450) < 1e-3);
    table().selectRow(0);
    QTRY_VERIFY(document().estimateWords().contains("2 W"));
    QVERIFY(std::abs(shownHottest() - 350) < 1e-3);
    table().clearSelection();
    QVERIFY(document().estimateWords().isEmpty());
    QVERIFY(std::abs(shownHottest() - 400) < 1e-3);
    table().selectRow(2);
    QTRY_VERIFY(document().estimateWords().contains("6 W"));
    QTest::mouseClick(find<QToolButton>("questionKeep"), Qt::LeftButton);
    QVERIFY(document().estimateWords().isEmpty());
    QVERIFY2(said().contains("with its temperatures"), qPrintable(said()));
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
    QVERIFY(std::abs(hottest(document().shownCase()) - 450) < 1e-3);
    QFile log(QString::fromStdString((document().resultsFolder() / (document().shownCase() + ".log")).string()));
    QVERIFY(log.open(QIODevice::ReadOnly));
    const QByteArray text = log.readAll();
    QVERIFY2(text.contains("solved before") && !text.contains("resolving"), text.constData());
  }

  /// A parameter that is a figure of a case, chosen by its button: what depends on it waits for that case, and it
  /// follows whenever that is solved.
  void aFigureOfACase()
  {
    heatedBar();
    document().edit("chain", [](Project& p) {
      Parameter hot;
      hot.id = hot.name = "hot";
      hot.quantity = Quantity::Temperature;
      hot.value = number(300);
      p.parameters = {hot};
      Case after = p.cases.front();
      after.id = after.name = "after";
      after.changes = {{"cold.temperature", Property{Number{300, "hot", true}, {}}}};
      p.cases.push_back(after);
    });
    find<QTabWidget>("centre")->setCurrentIndex(2);
    QVERIFY(find<QSlider>("slider:hot")->isEnabled());
    QMenu* menu = find<QToolButton>("taken:hot")->menu();
    emit menu->aboutToShow();
    QAction* chosen = nullptr;
    for (QAction* ofCase : menu->actions())
      if (ofCase->menu() != nullptr && ofCase->text() == "Steady")
        for (QAction* watch : ofCase->menu()->actions())
          if (watch->text() == "hottest")
            chosen = watch;
    QVERIFY(chosen != nullptr);
    chosen->trigger();
    QVERIFY(find<QLabel>("parameterMessage")->text().contains("when “Steady” is solved"));
    QCOMPARE(find<QToolButton>("taken:hot")->text(), QString("Steady: hottest ●"));
    QVERIFY(!find<QSlider>("slider:hot")->isEnabled());
    window_->solver().solve({"after"});
    waitForQueue();
    QTRY_VERIFY(document().state("after").stage == CaseState::Stage::Solved);
    QVERIFY(std::abs(project().parameters[0].value.si - 400) < 1e-3);
    QVERIFY(std::abs(hottest("after") - 500) < 1e-3);
    QVERIFY(document().state("after").outOfDate.isEmpty());
    // Less power: the first case is solved anew, the second is out of date until it is, too.
    document().setNumber("heater.power", {2, "2 W", false});
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(std::abs(project().parameters[0].value.si - 350) < 1e-3);
    QVERIFY(!document().state("after").outOfDate.isEmpty());
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  /// How much is allowed: 4.8 W bring the end to 420 K.
  void aLimit()
  {
    heatedBar();
    newQuestion(2);
    vary("source heater, Power");
    enter(".from", "1 W");
    enter(".to", "10 W");
    askIt();
    QVERIFY2(said().contains("4.8 W") && said().contains("at its limit"), qPrintable(said()));
    QVERIFY(find<LineChart>("questionCurve")->isVisible());
  }

  /// A level instead of the limit: the table holds the points against it, and the editor says at once what is no level.
  void aLevelInTheTable()
  {
    heatedBar();
    newQuestion(2);
    vary("source heater, Power");
    enter(".from", "1 mm"); // a slip
    QTRY_VERIFY2(editor()->findChild<QLabel*>("questionProblem")->text().contains("is a length"),
                 qPrintable(editor()->findChild<QLabel*>("questionProblem")->text()));
    QVERIFY(!editor()->findChild<QPushButton*>("questionEditorAsk")->isEnabled());
    enter(".from", "1 W");
    enter(".to", "10 W");
    document().edit("of", [](Project& p) {
      auto& ask = std::get<AskLimit>(p.questions[0].asks);
      ask.watches = {"hottest"};
      ask.level = "350 K"; // 2 W; the watch's own limit is 420 K
    });
    QTRY_VERIFY(editor()->findChild<QPushButton*>("questionEditorAsk")->isEnabled());
    askIt();
    QVERIFY2(said().contains("2 W"), qPrintable(said()));
    for (int row = 0; row < table().rowCount(); ++row) {
      const double watts =
          page().answers().find(page().chosen())->points[static_cast<std::size_t>(row)].size() == 1
              ? std::get<Property>(page().answers().find(page().chosen())->points[static_cast<std::size_t>(row)][0]).si
              : 0;
      if (std::abs(watts - 2) > 0.01)
        QCOMPARE(table().item(row, table().columnCount() - 1)->text().contains("kept"), watts < 2);
    }
  }

  /// How sensitive: one per cent of 4 W is 1 K, one per cent of k is −1 K.
  void aTornado()
  {
    heatedBar();
    newQuestion(1);
    vary("source heater, Power");
    vary("material metal, Conductivity");
    enter(".samples", "8");
    askIt();
    auto* tornado = find<TornadoChart>("questionTornado");
    QVERIFY(tornado->isVisible());
    QCOMPARE(tornado->bars().size(), std::size_t{2});
    QSet<QString> texts{tornado->bars()[0].text, tornado->bars()[1].text};
    QCOMPARE(texts, (QSet<QString>{"1 K", "−1 K"}));
    QCOMPARE(table().horizontalHeaderItem(5)->text(), QString("Keeps its limits"));
  }

  /// A map over two values with the limit as a line; a point by its read-out.
  void aMap()
  {
    heatedBar();
    newQuestion(0);
    vary("source heater, Power");
    enter("v1.from", "2 W");
    enter("v1.to", "6 W");
    enter("v1.count", "3");
    vary("boundary cold, Temperature");
    enter("v2.from", "0 °C");
    enter("v2.to", "40 °C");
    enter("v2.count", "2");
    askIt();
    auto* map = find<MapChart>("questionMap");
    QVERIFY(map->isVisible());
    const QString read = map->readoutAt(map->pixelOf(4, 20)); // 20 °C + 100 K
    QVERIFY2(read.endsWith(": 120"), qPrintable(read));
  }

  /// Lines over all values: a range dragged on an upright leaves its points, in the table and among the figures.
  void brushing()
  {
    auto* kinds = find<QComboBox>("questionChart");
    QStringList names;
    for (int i = 0; i < kinds->count(); ++i)
      names << kinds->itemText(i);
    QCOMPARE(names, (QStringList{"Map", "Two figures", "All values"}));
    const auto chooseChart = [&](const QString& name) {
      kinds->setCurrentIndex(kinds->findText(name));
      emit kinds->activated(kinds->currentIndex());
      QCoreApplication::processEvents();
    };
    chooseChart("All values");
    auto* lines = find<ParallelChart>("questionLines");
    QVERIFY(lines->isVisible());
    const auto leftRows = [&] {
      QStringList left;
      for (int row = 0; row < table().rowCount(); ++row)
        if (!table().isRowHidden(row))
          left << table().item(row, 0)->text() + " " + table().item(row, 1)->text();
      left.sort();
      return left;
    };
    const auto drag = [&](std::size_t axis, double from, double to) {
      const QPoint a = lines->pixelOf(axis, from).toPoint();
      const QPoint b = lines->pixelOf(axis, to).toPoint();
      QTest::mousePress(lines, Qt::LeftButton, {}, a);
      QTest::mouseMove(lines, (a + b) / 2);
      QTest::mouseMove(lines, b);
      QTest::mouseRelease(lines, Qt::LeftButton, {}, b);
    };
    QCOMPARE(leftRows().size(), 6);
    drag(0, 3, 5); // W
    QCOMPARE(leftRows(), (QStringList{"4 W 0.0 °C", "4 W 40.0 °C"}));
    drag(2, 110, 150); // °C, hottest: 100 or 140 there
    QCOMPARE(leftRows(), QStringList{"4 W 40.0 °C"});
    chooseChart("Two figures");
    QVERIFY(find<ScatterChart>("questionScatter")->isVisible());
    QCOMPARE(leftRows(), QStringList{"4 W 40.0 °C"}); // it stays in another picture
    chooseChart("All values");
    std::size_t place = 99;
    const QObject here; // for as long as the place
    connect(lines, &ParallelChart::chosen, &here, [&](std::size_t own) { place = own; });
    const QPointF between = (lines->pixelOf(0, 4) + lines->pixelOf(1, 40)) / 2;
    QTest::mouseClick(lines, Qt::LeftButton, {}, between.toPoint());
    QCOMPARE(page().answers().find(page().chosen())->answers.at(place).figures.size(), std::size_t{2});
    QCOMPARE(table().item(table().currentRow(), 1)->text(), QString("40.0 °C"));
    QTest::mouseClick(lines, Qt::LeftButton, {}, lines->pixelOf(2, 130).toPoint());
    QCOMPARE(leftRows().size(), 2); // a click takes that range away
    QTest::keyClick(lines, Qt::Key_Escape);
    QCOMPARE(leftRows().size(), 6);
  }

  /// The best of a list: the material that keeps the end coolest.
  void theBestOfAList()
  {
    heatedBar();
    document().edit("more", [](Project& p) { p.materials.push_back(material("better", 40)); });
    newQuestion(3);
    vary("part warm, Material");
    auto* values = editor()->findChild<QLineEdit*>("values:warm.material");
    QVERIFY(values != nullptr);
    values->setFocus();
    QTest::keyClicks(values, "metal; better");
    QTest::keyClick(values, Qt::Key_Return);
    QCoreApplication::processEvents();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QComboBox* aim = nullptr;
    for (QComboBox* box : editor()->findChildren<QComboBox*>())
      if (box->objectName().startsWith("field:") && box->objectName().endsWith(".watch"))
        aim = box;
    QVERIFY(aim != nullptr);
    aim->setCurrentIndex(aim->findData("hottest"));
    emit aim->activated(aim->currentIndex());
    askIt();
    QVERIFY2(said().contains("is the best of 2 points"), qPrintable(said()));
    QVERIFY(find<ScatterChart>("questionScatter")->isVisible());
    for (int row = 0; row < table().rowCount(); ++row)
      QCOMPARE(table().item(row, table().columnCount() - 1)->text().contains("best"),
               table().item(row, 0)->text() == "better");
  }

  /// Only sweeps are handed in; where nothing takes them, that is said.
  void noCluster()
  {
    heatedBar();
    newQuestion(2);
    QVERIFY(!find<QToolButton>("questionCluster")->isEnabled());
    editor()->close();
    newQuestion(0);
    vary("source heater, Power");
    editor()->close();
    auto* cluster = find<QToolButton>("questionCluster");
    QVERIFY(cluster->isEnabled());
    QTest::mouseClick(cluster, Qt::LeftButton);
    qputenv("SLURM_CONF", "/nowhere/slurm.conf");
    QTest::mouseClick(find<QToolButton>("questionAsk"), Qt::LeftButton);
    QTRY_VERIFY2(said().contains("workload manager"), qPrintable(said()));
    QTest::mouseClick(cluster, Qt::LeftButton);
    // The queue likewise: the case fails with the reason, and is solved here when that is wanted again.
    showPage(StripPanel::queuePage);
    auto* whole = find<QToolButton>("queueCluster");
    QTest::mouseClick(whole, Qt::LeftButton);
    QVERIFY(window_->solver().isCluster());
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY2(document().state("steady").message.contains("workload manager"),
                 qPrintable(document().state("steady").message));
    QTest::mouseClick(whole, Qt::LeftButton);
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
    qunsetenv("SLURM_CONF");
    showPage(StripPanel::questionsPage);
  }

  /// What an earlier window has handed in is said when the project is opened again.
  void handedInBefore()
  {
    heatedBar();
    const std::filesystem::path folder = document().resultsFolder() / ".cluster-cases-0";
    std::filesystem::create_directories(folder);
    for (const auto& [name, text] : {std::pair("job", "12"), {"cases", "Steady\nAfter\n"}}) {
      QFile file(QString::fromStdString((folder / name).string()));
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write(text);
    }
    QVERIFY(document().save());
    QVERIFY(window_->openFile(QString::fromStdString(document().file().string())));
    QVERIFY(window_->solver().isCluster());
    QVERIFY2(window_->statusBar()->currentMessage().contains("Steady, After"),
             qPrintable(window_->statusBar()->currentMessage()));
    window_->solver().setCluster(false);
    std::filesystem::remove_all(folder);
  }

  /// The chip beside the cases leads to a question.
  void theChip()
  {
    heatedBar();
    auto* chip = find<QToolButton>("questionsChip");
    QVERIFY(!chip->isVisible());
    newQuestion(0);
    editor()->close();
    showPage(StripPanel::numbersPage);
    QTRY_VERIFY(chip->isVisible());
    QCOMPARE(chip->text(), QString("Questions 1"));
    chip->menu()->actions().front()->trigger();
    QVERIFY(page().isVisible());
    QCOMPARE(page().chosen(), project().questions[0].id);
  }

  /// What fails says why, in the row; the question is removed with its button, and comes back.
  void whatFailsAndRemoval()
  {
    heatedBar();
    newQuestion(0);
    vary("source heater, Power");
    enter(".from", "2 W");
    enter(".to", "6 W");
    enter(".count", "2");
    window_->solver().setProgram("/nowhere/ukiln");
    QTest::mouseClick(editor()->findChild<QPushButton*>("questionEditorAsk"), Qt::LeftButton);
    QTRY_VERIFY2(said().contains("could not be started"), qPrintable(said()));
    QTest::mouseClick(find<QToolButton>("questionRemove"), Qt::LeftButton);
    QVERIFY(project().questions.empty());
    QVERIFY(said().startsWith("Which one"));
    document().undoStack().undo();
    QCOMPARE(project().questions.size(), std::size_t{1});
  }
};

QTEST_MAIN(AskingTest)
#include "tst_asking.moc"
