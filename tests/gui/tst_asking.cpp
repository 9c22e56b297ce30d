// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Questions in the window: asked by mouse and keys, answered by the real solver, read from table and chart.
#include "BarDriver.h"
#include "fields/QuestionEditor.h"
#include "strip/AnswerCharts.h"
#include "strip/LineChart.h"
#include "strip/QuestionsPage.h"

#include <QLabel>
#include <QScrollArea>
#include <QStackedWidget>
#include <QTableWidget>

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
    qunsetenv("SLURM_CONF");
    QTest::mouseClick(cluster, Qt::LeftButton);
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
