// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The real window with mouse and keys, as a user would see it.
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "ledger/LedgerRowView.h"
#include "look/Theme.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QAbstractButton>
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTableView>
#include <QTemporaryDir>
#include <QTest>
#include <QToolButton>
#include <csignal>

using namespace kiln;

namespace
{

const std::filesystem::path demoFile = std::filesystem::path(KILN_SOURCE_DIR) / "demo/studio-kiln.kiln";
constexpr int solveTime = 120'000; // ms, far above the usual ten seconds

} // namespace

class WindowTest : public QObject
{
  Q_OBJECT

  QTemporaryDir folder_;
  std::unique_ptr<MainWindow> window_;

  [[nodiscard]] QString projectFile() const { return folder_.filePath("kiln.kiln"); }

  template <class Widget>
  Widget* find(const QString& name) const
  {
    auto* widget = window_->findChild<Widget*>(name);
    if (widget == nullptr)
      qFatal("no widget %s", qPrintable(name));
    return widget;
  }
  [[nodiscard]] QString text(const QString& label) const { return find<QLabel>(label)->text(); }
  [[nodiscard]] double figure(const QString& watch) const
  {
    return text("watchFigure:" + watch).remove(" °C").replace("−", "-").toDouble();
  }
  [[nodiscard]] CaseState::Stage stage() const { return window_->document().shownState().stage; }

  void openRow(const QString& id) const
  {
    auto* row = find<LedgerRowView>("row:" + id);
    if (!row->isOpen()) {
      row->setFocus();
      QTest::keyClick(row, Qt::Key_Return);
    }
    QVERIFY(row->isOpen());
  }
  void type(const QString& field, const QString& value) const
  {
    auto* edit = find<QLineEdit>(field);
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, value);
    QTest::keyClick(edit, Qt::Key_Return);
  }
  void solveByKey()
  {
    QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && stage() == CaseState::Stage::Solved, solveTime);
  }

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    Project quick = *loadProject(demoFile);
    quick.mesh = {}; // first order: a quick look
    QVERIFY(saveProject(quick, projectFile().toStdString()));
    window_ = std::make_unique<MainWindow>();
    window_->solver().setProgram(UKILN);
    window_->drafts().setProgram(UKILN);
    window_->resize(1280, 800);
    window_->show();
    QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
    window_->activateWindow(); // shortcuts work in the active window only
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
  }

  void openingAnUnsolvedProjectMeshesItToBeSeen()
  {
    QVERIFY(window_->openFile(projectFile()));
    QCOMPARE(find<QAbstractButton>("case:hold")->isChecked(), true);
    QVERIFY(text("stripTitle").contains("not solved yet"));
    QTRY_VERIFY_WITH_TIMEOUT(window_->document().geometryIsCurrent() && !window_->solver().isRunning(), solveTime);
    QTRY_VERIFY(find<QToolButton>("readiness")->text().contains("Ready"));
    QVERIFY(!window_->scene().canvas().model().empty());
  }

  void solvingShowsTheHotSpotsAndClosesTheLedger()
  {
    solveByKey();
    QVERIFY(figure("coil-peak") > 1000 && figure("coil-peak") < 1150);
    QVERIFY(text("watchPlace:coil-peak").contains("on Coils"));
    QVERIFY(text("watchMargin:coil-peak").startsWith("+"));
    QCOMPARE(text("bandTotal:0"), QString("1.44 kW"));
    QCOMPARE(text("bandTotal:3"), QString("−1.44 kW"));
    QVERIFY(find<QLabel>("status")->text().contains("heat balance error"));
    bool flagged = false;
    for (const Flag& flag : window_->scene().overlay().flags())
      flagged = flagged || flag.text.startsWith("Coils  10");
    QVERIFY(flagged);
  }

  void aSmallerPowerMarksEverythingOutOfDateAndCoolsTheCoils()
  {
    const double before = figure("coil-peak");
    openRow("coil-power");
    type("field:coil-power.power", "1.3 kW");
    QCOMPARE(stage(), CaseState::Stage::OutOfDate);
    QCOMPARE(window_->document().shownState().outOfDate, QString("solution")); // not the mesh
    QVERIFY(text("stripTitle").contains("out of date (solution)"));
    QVERIFY(text("watchPlace:coil-peak").startsWith("out of date"));
    QVERIFY(window_->scene().overlay().caption().contains("out of date"));
    QVERIFY(find<QLabel>("status")->text().contains("out of date"));
    QVERIFY(window_->windowTitle().contains("•"));
    for (const Case& one : window_->document().project().cases) // other cases share the power
      QVERIFY(window_->document().state(one.id).stage != CaseState::Stage::Solved);
    solveByKey();
    QVERIFY(window_->document().shownState().result->info.times.front().stage == "read mesh"); // re-meshed nothing
    QVERIFY(figure("coil-peak") < before - 50);
    QCOMPARE(text("bandTotal:0"), QString("1.3 kW"));
    QCOMPARE(text("bandTotal:3"), QString("−1.3 kW"));
    QVERIFY(window_->document().shownState().result->relativeImbalance() < 1e-6);
  }

  void undoBringsTheResultBackIntoDate()
  {
    const CaseResult* solved = window_->document().shownState().result.get();
    window_->document().undoStack().undo();
    QCOMPARE(stage(), CaseState::Stage::OutOfDate);
    window_->document().undoStack().redo();
    QCOMPARE(stage(), CaseState::Stage::Solved);
    QCOMPARE(window_->document().shownState().result.get(), solved);
  }

  void aBadNumberIsRefusedAndTheOldValueKept()
  {
    openRow("outer-air");
    auto* row = find<LedgerRowView>("row:outer-air");
    const QString field = "field:outer-air.coefficient";
    auto* edit = row->findChild<QLineEdit*>(field);
    auto* message = row->findChild<QLabel*>("fieldMessage");
    const Project before = window_->document().project();
    for (const auto& [typed, says] : {std::pair{"50 W", "is a power, but this field takes an area conductance"},
                                      {"-3", "must not be negative"},
                                      {"lots", "There is no parameter “lots”"}}) {
      edit->setFocus();
      edit->selectAll();
      QTest::keyClicks(edit, typed);
      QTest::keyClick(edit, Qt::Key_Return);
      QVERIFY2(message->isVisible(), qPrintable(QString("%1: %2 / %3").arg(typed, edit->text(), message->text())));
      QVERIFY2(message->text().contains(says), qPrintable(message->text()));
      QVERIFY(window_->document().project() == before);
      QTest::keyClick(edit, Qt::Key_Escape);
      QCOMPARE(edit->text(), QString("8 W/(m²·K)"));
    }
  }

  void readsBackWhileTyping()
  {
    openRow("outer-air");
    auto* row = find<LedgerRowView>("row:outer-air");
    auto* edit = row->findChild<QLineEdit*>("field:outer-air.ambient");
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, "95 degF");
    QCOMPARE(row->findChild<QLabel*>("fieldMessage")->text(), QString("95 degF = 35.0 °C"));
    QTest::keyClick(edit, Qt::Key_Escape);
    QCOMPARE(edit->text(), QString("22 °C"));
  }

  void pickingTheShellSelectsItsRowAndBack()
  {
    SceneCanvas& canvas = window_->scene().canvas();
    QCOMPARE(canvas.sections().size(), 1U); // its first view is cut open
    window_->scene().setSection(-1, 0);
    canvas.lookAlong(Vec3(0, 1, 0), Vec3(0, 0, 1));
    const QPoint spot = canvas.pixelOf(Vec3(0.2, -0.26, 0.1)).toPoint();
    QTest::mouseMove(&canvas, spot);
    QTest::qWait(50);
    QVERIFY2(window_->scene().overlay().hover().startsWith("Shell  ·  shell.front  ·  "),
             qPrintable(window_->scene().overlay().hover()));
    QVERIFY(window_->scene().overlay().hover().endsWith("°C"));
    QTest::mouseClick(&canvas, Qt::LeftButton, {}, spot);
    QCOMPARE(window_->document().selectedId(), std::string("shell"));
    QTest::mouseClick(find<LedgerRowView>("row:floor-gap"), Qt::LeftButton, {}, QPoint(60, 8));
    QCOMPARE(window_->document().litFaces().size(), std::size_t{1}); // shell.bottom
  }

  void hidingAPartShowsWhatIsBehind()
  {
    SceneCanvas& canvas = window_->scene().canvas();
    const QPointF spot = canvas.pixelOf(Vec3(0.2, -0.26, 0.1));
    window_->scene().setPartLook("shell", PartLook::Hidden);
    const auto& parts = canvas.model().source().mesh->geometry.parts;
    QCOMPARE(parts[static_cast<std::size_t>(canvas.pickAt(spot)->part)].id, std::string("fibre"));
    window_->scene().setPartLook("shell", PartLook::SeeThrough);
    QCOMPARE(parts[static_cast<std::size_t>(canvas.pickAt(spot)->part)].id, std::string("fibre"));
    window_->scene().showAllParts();
    QCOMPARE(parts[static_cast<std::size_t>(canvas.pickAt(spot)->part)].id, std::string("shell"));
  }

  void coloursByWhatWasSet()
  {
    auto* by = find<QComboBox>("colorBy");
    auto* legend = find<QWidget>("legend");
    QVERIFY(legend->isVisible());
    const QImage before = window_->scene().canvas().grab().toImage();
    for (int i = 1; i < by->count(); ++i) {
      by->setCurrentIndex(i);
      emit by->activated(i);
      const auto what = static_cast<Shown>(i);
      if (what == Shown::Difference) { // the other case is not solved: it says so instead of colours
        QVERIFY(!legend->isVisible() && window_->scene().overlay().caption().contains("is not solved"));
        continue;
      }
      QCOMPARE(legend->isVisible(), quantityOf(what).has_value());
      QCOMPARE(window_->scene().overlay().caption().contains("as set"), isAsSet(what));
      QCOMPARE(window_->scene().overlay().key().empty(), !isAsSet(what));
      QVERIFY(window_->scene().overlay().caption().contains(by->currentText()));
      QVERIFY(window_->scene().canvas().grab().toImage() != before);
    }
    by->setCurrentIndex(0);
    emit by->activated(0);
    QVERIFY(legend->isVisible());
  }

  void mutingTheOuterRadiationHeatsTheShell()
  {
    const double before = figure("touch");
    auto* row = find<LedgerRowView>("row:room");
    row->setFocus();
    QTest::keyClick(row, Qt::Key_Space);
    QVERIFY(findById(window_->document().project().boundaries, "room")->muted);
    QCOMPARE(stage(), CaseState::Stage::OutOfDate);
    solveByKey();
    QVERIFY2(figure("touch") > before + 20, qPrintable(QString("%1 → %2").arg(before).arg(figure("touch"))));
    QVERIFY(text("watchMargin:touch").startsWith("−")); // beyond its limit now
    window_->document().undoStack().undo();
  }

  void aWatchAddedAfterTheSolveShowsAtOnce()
  {
    window_->document().undoStack().redo(); // back to the solved state
    QCOMPARE(stage(), CaseState::Stage::Solved);
    window_->document().select("lid-brick");
    QTest::mouseClick(find<QToolButton>("addWatch"), Qt::LeftButton);
    QMenu* menu = nullptr;
    QTRY_VERIFY((menu = window_->findChild<QMenu*>("addWatchMenu")) != nullptr && menu->isVisible());
    QTest::keyClick(menu, Qt::Key_Down);
    QTest::keyClick(menu, Qt::Key_Return);
    QTRY_COMPARE(window_->document().project().watches.back().name, std::string("Lid brick, hottest"));
    QVERIFY(figure("watch-1") > 900);
    QCOMPARE(stage(), CaseState::Stage::Solved); // a watch changes no result
  }

  void numbersSortAndCopy()
  {
    auto* table = find<QTableView>("numbers");
    table->sortByColumn(2, Qt::DescendingOrder);
    QCOMPARE(table->model()->index(0, 1).data().toString(), QString("Coils"));
    table->sortByColumn(2, Qt::AscendingOrder);
    QVERIFY(table->model()->rowCount() > 20);
    table->setFocus();
    QTest::keyClick(table, Qt::Key_C, Qt::ControlModifier);
    const QStringList lines = QApplication::clipboard()->text().split('\n');
    QVERIFY(lines[0].startsWith("Kind\tName\tHottest, °C"));
    QCOMPARE(lines.size(), table->model()->rowCount() + 2);
  }

  void theTemperatureUnitIsAPreference()
  {
    const double celsius = figure("touch");
    window_->preferences().setTemperatureUnit(TemperatureUnit::Fahrenheit);
    QVERIFY(text("watchFigure:touch").endsWith("°F"));
    QVERIFY(std::abs(text("watchFigure:touch").remove(" °F").toDouble() - (celsius * 1.8 + 32)) < 0.2);
    window_->preferences().setTemperatureUnit(TemperatureUnit::Celsius);
  }

  void aContactCanBeChanged()
  {
    openRow("shell|fibre");
    auto* choice = find<LedgerRowView>("row:shell|fibre")->findChild<QComboBox*>("field:shell|fibre.kind");
    choice->setCurrentIndex(0);
    emit choice->activated(0);
    QVERIFY(std::holds_alternative<PerfectContact>(
        findById(window_->document().project().contacts, "shell|fibre")->exchange));
    QCOMPARE(stage(), CaseState::Stage::OutOfDate);
    window_->document().undoStack().undo();
    QCOMPARE(stage(), CaseState::Stage::Solved);
  }

  void aCaseKeepsItsOwnValues()
  {
    QTest::mouseClick(find<QAbstractButton>("case:hold-hot-room"), Qt::LeftButton);
    QCOMPARE(window_->document().shownCase(), std::string("hold-hot-room"));
    window_->document().setNumber("outer-air.ambient", {311.15, "38 °C"});
    const Project& project = window_->document().project();
    QCOMPARE(std::get<Convection>(findById(project.boundaries, "outer-air")->condition).ambient.text,
             std::string("22 °C"));
    QCOMPARE(findById(project.cases, "hold-hot-room")->changes.front().number()->text, std::string("38 °C"));
    window_->document().undoStack().undo();
    QTest::mouseClick(find<QAbstractButton>("case:hold"), Qt::LeftButton);
  }

  void readinessLeadsToThePlace()
  {
    window_->document().edit("spoil", [](Project& project) { project.parts.front().material.clear(); });
    auto* button = find<QToolButton>("readiness");
    QTRY_VERIFY(button->text().contains("✕ 1"));                   // after the picture
    QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton); // refused, and shows why
    QVERIFY(!window_->solver().isRunning());
    auto* list = find<QWidget>("readinessList");
    QVERIFY(list->isVisible());
    QLabel* line = find<QLabel>("finding:0");
    QVERIFY(line->text().contains("It has no material"));
    emit line->linkActivated("#0");
    QCOMPARE(window_->document().selectedId(), std::string("shell"));
    QVERIFY(find<LedgerRowView>("row:shell")->isOpen());
    window_->document().undoStack().undo();
    QTest::mouseClick(button, Qt::LeftButton);
    QVERIFY(!list->isVisible());
  }

  void facesInsulatedOnlyByDefaultAreListed()
  {
    window_->document().edit("mute", [](Project& project) {
      for (const char* id : {"floor-gap", "floor"})
        findById(project.boundaries, id)->muted = true;
    });
    bool listed = false;
    for (const Finding& finding : window_->document().findings())
      listed = listed || finding.sentence().find("1 face(s), 0.27 m², are insulated only by default (shell.bottom)") !=
                             std::string::npos;
    QVERIFY(listed);
    window_->document().undoStack().undo();
  }

  void theFinishIsEditedWhereItMatters()
  {
    openRow("floor");
    type("field:enamel.emissivity", "0.5");
    QCOMPARE(window_->document().project().finishes.front().emissivity.si, 0.5);
    QCOMPARE(window_->document().shownState().outOfDate, QString("solution"));
    window_->document().undoStack().undo();
  }

  void theMeshSizeIsEditedInTheMenu()
  {
    auto* field = find<QLineEdit>("field:mesh.size");
    QCOMPARE(field->placeholderText(), QString("automatic"));
    type("field:mesh.size", "40 mm");
    QCOMPARE(window_->document().project().mesh.size->si, 0.04);
    QCOMPARE(window_->document().shownState().outOfDate, QString("mesh and solution"));
    field->clear();
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(!window_->document().project().mesh.size);
    QCOMPARE(stage(), CaseState::Stage::Solved);
  }

  void theCountIsToldBeforeMeshing()
  {
    QMenu* menu = nullptr;
    for (QAction* action : window_->menuBar()->actions())
      if (action->text() == "&Mesh")
        menu = action->menu();
    QVERIFY(menu != nullptr);
    menu->popup(window_->mapToGlobal(QPoint(80, 40)));
    QTRY_VERIFY(menu->isVisible());
    const auto* count = find<QLabel>("meshCount");
    const auto about = [count] {
      static const QRegularExpression words(
          "^About (\\d+)( k)? tetrahedra by these sizes, \\d+(\\.\\d+)? [MG]B to solve; now \\d+( k)?$");
      const QRegularExpressionMatch match = words.match(count->text());
      return match.hasMatch() ? match.captured(1).toDouble() * (match.captured(2).isEmpty() ? 1 : 1000) : 0;
    };
    const double before = about();
    const auto there = static_cast<double>(window_->document().shownMesh()->tets.size());
    QVERIFY2(before > there / 3 && before < 3 * there, qPrintable(count->text()));
    auto* field = find<QLineEdit>("field:mesh.fineness");
    field->setFocus();
    type("field:mesh.fineness", "2");
    QVERIFY2(about() > 4 * before, qPrintable(count->text()));
    QTest::keyClicks(field, "3");
    QTest::keyClick(field, Qt::Key_Escape);
    QCOMPARE(field->text(), QString("2"));
    QVERIFY(menu->isVisible());
    QTest::keyClick(field, Qt::Key_Escape);
    QVERIFY(!menu->isVisible());
    window_->document().undoStack().undo();
    QCOMPARE(stage(), CaseState::Stage::Solved);
  }

  void aCancelledSolveLeavesTheOldResult()
  {
    window_->document().edit("finer", [](Project& project) { project.mesh.size = Number{0.02, "20 mm"}; });
    QCOMPARE(window_->document().shownState().outOfDate, QString("mesh and solution"));
    const CaseResult* old = window_->document().shownState().result.get();
    auto* solve = find<QPushButton>("solve");
    QTest::mouseClick(solve, Qt::LeftButton);
    QTRY_COMPARE(solve->text(), QString("Cancel"));
    QTRY_VERIFY(window_->document().shownState().fraction > 0);
    QTest::mouseClick(solve, Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning(), 10'000);
    QTRY_COMPARE(solve->text(), QString("Solve"));
    QCOMPARE(stage(), CaseState::Stage::OutOfDate);
    QCOMPARE(window_->document().shownState().result.get(), old);
  }

  void aKilledSolverIsReportedAndHurtsNothing()
  {
    const Project before = window_->document().project();
    QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton);
    QTRY_VERIFY(window_->document().shownState().fraction > 0);
    QVERIFY(window_->solver().processId() > 0); // 0 would be all of the tests
    ::kill(static_cast<pid_t>(window_->solver().processId()), SIGKILL);
    QTRY_COMPARE(stage(), CaseState::Stage::Failed);
    QVERIFY(find<QLabel>("status")->text().contains("killed or crashed half-way"));
    QVERIFY(window_->document().project() == before);
    QVERIFY(window_->document().shownState().result != nullptr);
    window_->document().undoStack().undo();
    solveByKey();
  }

  void saveAndReopenGivesTheSameValues()
  {
    const Project before = window_->document().project();
    const QString touch = text("watchFigure:touch");
    QVERIFY(window_->document().isUnsaved());
    QTest::keyClick(window_.get(), Qt::Key_S, Qt::ControlModifier);
    QTRY_VERIFY(!window_->document().isUnsaved());
    QVERIFY(!window_->windowTitle().contains("•"));
    QVERIFY(window_->openFile(projectFile()));
    Project after = window_->document().project();
    QVERIFY(!after.picture.empty()); // as it was saved
    after.picture = before.picture;
    QVERIFY(after == before);
    QCOMPARE(stage(), CaseState::Stage::Solved); // the stored result still matches
    QCOMPARE(text("watchFigure:touch"), touch);
    QVERIFY(window_->preferences().recentFiles().contains(projectFile()));
  }

  void aDamagedFileIsRefusedAndTheOpenProjectStays()
  {
    const QString bad = folder_.filePath("bad.kiln");
    QVERIFY(writeAtomically(bad.toStdString(), readWhole(projectFile().toStdString())->substr(0, 3000)));
    const Project before = window_->document().project();
    QVERIFY(!window_->openFile(bad));
    auto* box = window_->findChild<QMessageBox*>("sentence");
    QVERIFY(box != nullptr && box->text().contains("bad.kiln, line") && box->text().contains("ends too early"));
    QTest::keyClick(box, Qt::Key_Return);
    QVERIFY(window_->document().project() == before);
  }

  void lightAndDarkDiffer()
  {
    const auto paper = [&] { return window_->grab().toImage().pixelColor(window_->width() / 2, 5); };
    window_->preferences().setThemeChoice(ThemeChoice::Dark);
    QTest::qWait(50);
    QVERIFY(paper().lightness() < 80);
    window_->preferences().setThemeChoice(ThemeChoice::Light);
    QTest::qWait(50);
    QVERIFY(paper().lightness() > 200);
  }

  void theSmallestWindowStillWorks()
  {
    window_->resize(1024, 700);
    QTest::qWait(50);
    QString wide = QString("%1 × %2").arg(window_->width()).arg(window_->height());
    for (const QWidget* zone : window_->findChildren<QWidget*>()) // who needs the room
      if (constexpr int most = 640; zone->minimumSizeHint().width() > most)
        wide += QString("; %1 %2 asks for %3")
                    .arg(zone->metaObject()->className(), zone->objectName())
                    .arg(zone->minimumSizeHint().width());
    QVERIFY2(window_->width() <= 1024 && window_->height() <= 700, qPrintable(wide));
    for (const char* name : {"solve", "readiness"})
      QVERIFY(window_->rect().contains(
          QRect(find<QWidget>(name)->mapTo(window_.get(), QPoint()), find<QWidget>(name)->size())));
    QVERIFY(window_->scene().canvas().width() > 250);
  }
};

int main(int argc, char** argv)
{
  kiln::prepareApplication();
  QApplication application(argc, argv);
  kiln::applyTheme(application, kiln::ThemeChoice::Light);
  WindowTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_window.moc"
