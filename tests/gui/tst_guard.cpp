// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What happens around a window: it is killed in the middle of edits, its file is written by others, another window has
// it open, its results are damaged, more is asked of it than the machine can bear.
#include "../TransientProjects.h"
#include "../Trials.h"
#include "WindowDriver.h"
#include "io/AtomicFile.h"
#include "io/CaseStore.h"
#include "io/ProjectFile.h"
#include "io/RunFile.h"
#include "look/Theme.h"
#include "window/Application.h"

#include <QAbstractButton>
#include <QDialogButtonBox>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QMessageBox>
#include <QProcess>
#include <QStandardPaths>
#include <QStatusBar>
#include <csignal>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr const char* childWord = "edit-without-pause";
constexpr int editEvery = 200; // ms

Project slab()
{
  Project p = projectWith(0.01);
  p.name = "slab";
  p.materials = {material("brick", 0.5)};
  p.parts = {part("slab", "brick", block(0.05, 0.05, 0.02))};
  p.surfaces = {surface("under", {"slab.bottom"}), surface("over", {"slab.top"})};
  p.sources = {source("heater", SurfacePower{"over", {2, "2 W"}})};
  p.boundaries = {boundary("air", Convection{"under", Property{20, "20 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"slab"}})};
  return p;
}

double wattsOf(const Project& p) { return std::get<SurfacePower>(p.sources.front().heat).power.si; }

/// Edits the power of a project every fifth of a second, to 100, 101, … W, until it is killed; says each on the way.
int editWithoutPause(const QString& file)
{
  MainWindow window;
  window.drafts().setProgram(UKILN);
  window.show();
  window.openFile(file);
  for (int watts = 100;; ++watts) {
    window.document().setNumber("heater.power", {static_cast<double>(watts), std::to_string(watts) + " W"});
    std::printf("%d\n", watts);
    std::fflush(stdout);
    QTest::qWait(editEvery);
  }
}

} // namespace

class GuardTest : public QObject, private WindowDriver
{
  Q_OBJECT

  QString file() const { return folder_.filePath("slab.kiln"); }

  /// Presses a button of the box that appears next, and notes what it says.
  void answer(const QString& box, const QString& button, const std::function<void()>& cause)
  {
    said_.clear();
    bool pressed = false;
    QTimer looker;
    connect(&looker, &QTimer::timeout, this, [&] {
      for (QWidget* top : QApplication::topLevelWidgets()) {
        auto* own = qobject_cast<QMessageBox*>(top);
        if (own == nullptr || own->objectName() != box || !own->isVisible() || pressed)
          continue;
        said_ = own->text() + "\n" + own->informativeText();
        auto* wanted = own->findChild<QAbstractButton*>(button);
        if (wanted == nullptr)
          qFatal("no button %s", qPrintable(button));
        pressed = true;
        QTest::mouseClick(wanted, Qt::LeftButton);
        return;
      }
    });
    looker.start(30);
    cause();
    QTRY_VERIFY_WITH_TIMEOUT(pressed, childTime);
    window_->activateWindow(); // the box was; keys go where the window is active
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
  }
  QString said_;

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    QDir(Recovery::folder()).removeRecursively();
    QVERIFY(saveProject(slab(), file().toStdString()).has_value());
  }

  /// Given edits that never pause, when the program is killed, then no edit older than two seconds is lost; and it is
  /// offered when the project is opened by name.
  void everyEditIsSafeWithinTwoSeconds()
  {
    QProcess child;
    child.start(QCoreApplication::applicationFilePath(), {childWord, file()});
    QList<std::pair<qint64, int>> made; // when, what
    QElapsedTimer clock;
    clock.start();
    while (made.size() < 21 && child.waitForReadyRead(childTime))
      for (const QByteArray& line : child.readAllStandardOutput().split('\n'))
        if (!line.trimmed().isEmpty())
          made.append({clock.elapsed(), line.trimmed().toInt()});
    QVERIFY(made.size() >= 21);
    const qint64 killed = clock.elapsed();
    ::kill(static_cast<pid_t>(child.processId()), SIGKILL);
    QVERIFY(child.waitForFinished(childTime));
    int due = 0;
    for (const auto& [when, watts] : made)
      if (killed - when > 2000)
        due = watts;
    QVERIFY(due > 100);
    open();
    answer("recoverQuestion", "bringBack", [this] { QVERIFY(window_->openFile(file())); });
    QVERIFY2(wattsOf(project()) >= due, qPrintable(QString("%1 kept, %2 due").arg(wattsOf(project())).arg(due)));
    QVERIFY(document().isUnsaved());
    QVERIFY(Recovery::lost().empty());
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(wattsOf(project()), 2.0);
    waitForShapes();
  }

  /// Given a file that somebody else wrote while it was open here, then it is asked which counts.
  void aFileThatOthersWroteIsAskedAbout()
  {
    Project theirs = slab();
    std::get<SurfacePower>(theirs.sources.front().heat).power = {5, "5 W"};
    const auto writeTheirs = [&] { QVERIFY(saveProject(theirs, file().toStdString()).has_value()); };
    document().setNumber("heater.power", {3, "3 W"});
    answer("fileConflict", "keepMine", writeTheirs);
    QVERIFY2(said_.contains("written by somebody else") && said_.contains("3 W → 5 W"), qPrintable(said_));
    QCOMPARE(wattsOf(project()), 3.0);
    QTest::keySequence(window_.get(), QKeySequence::Save);
    QCOMPARE(wattsOf(*loadProject(file().toStdString())), 3.0);
    std::get<SurfacePower>(theirs.sources.front().heat).power = {6, "6 W"};
    answer("fileConflict", "takeTheirs", writeTheirs);
    QCOMPARE(wattsOf(project()), 6.0);
    QTest::keySequence(window_.get(), QKeySequence::Undo); // an edit like others
    QCOMPARE(wattsOf(project()), 3.0);
    QTest::keySequence(window_.get(), QKeySequence::Save);
    QCOMPARE(wattsOf(*loadProject(file().toStdString())), 3.0);
    QVERIFY(!document().isUnsaved());
  }

  void aSecondWindowIsTold()
  {
    MainWindow second;
    second.solver().setProgram(UKILN);
    second.drafts().setProgram(UKILN);
    second.show();
    QVERIFY(second.openFile(file()));
    QVERIFY2(second.statusBar()->currentMessage().contains("open elsewhere") &&
                 second.statusBar()->currentMessage().contains(QString::number(QCoreApplication::applicationPid())),
             qPrintable(second.statusBar()->currentMessage()));
    // What it saves is asked about in the first one.
    second.document().setNumber("heater.power", {9, "9 W"});
    second.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&second));
    answer("fileConflict", "takeTheirs", [&] { QTest::keySequence(&second, QKeySequence::Save); });
    QCOMPARE(wattsOf(project()), 9.0);
    window_->activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
    QTest::keySequence(window_.get(), QKeySequence::Save);
    second.document().undoStack().setClean();
  }

  /// Given more elements than the machine has room for, then the window asks, with the number, before it begins.
  void tooMuchIsAskedAboutFirst()
  {
    document().edit("size", [](Project& p) { p.mesh.size = Number{1e-6, "0.001 mm"}; });
    const auto press = [this] { QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton); };
    answer("tooLarge", "leaveIt", press);
    QVERIFY2(said_.contains("million elements"), qPrintable(said_));
    QVERIFY(!window_->solver().isRunning());
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    solve();
  }

  /// Given another number of elements to ask from, then that counts from the next case on, and is kept.
  void howManyElementsAreAskedAboutIsChosen()
  {
    const auto choose = [this](const QString& text) {
      QTimer::singleShot(0, this, [text] {
        auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
        if (dialog == nullptr || dialog->objectName() != "largeModels")
          qFatal("the question is not there");
        dialog->activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(dialog));
        auto* line = dialog->findChild<QLineEdit*>("mostElements");
        line->setFocus();
        QTest::keyClick(line, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClick(line, Qt::Key_Delete);
        QTest::keyClicks(line, text);
        QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
      });
      find<QAction>("largeModels")->trigger();
    };
    choose("20");
    QCOMPARE(Preferences().mostElements(), 20.0);
    document().edit("size", [](Project& p) { p.mesh.size = Number{0.009, "9 mm"}; });
    answer("tooLarge", "leaveIt", [this] { QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton); });
    QVERIFY2(said_.contains("without asking it may have") && said_.contains(" MB of memory"), qPrintable(said_));
    choose("");
    QCOMPARE(Preferences().mostElements(), 0.0);
    solve(); // not asked any more
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    solve();
  }

  /// Given a result one bit of which has flipped, when the project is opened, then the window is there as soon as ever
  /// and says which file it is.
  void aDamagedResultIsNamed()
  {
    const std::filesystem::path stored = resultFile(document().resultsFolder(), "steady");
    std::string bytes = *readWhole(stored);
    bytes[40] = static_cast<char>(bytes[40] ^ 4); // in the head
    QVERIFY(writeAtomically(stored, bytes));
    QVERIFY(document().save());
    QElapsedTimer clock;
    clock.start();
    QVERIFY(window_->openFile(file()));
    constexpr int usual = 5000; // ms
    QVERIFY2(clock.elapsed() < usual, qPrintable(QString::number(clock.elapsed())));
    const CaseState& state = document().shownState();
    QCOMPARE(state.stage, CaseState::Stage::Failed);
    QVERIFY2(state.message.contains("steady.h5") && state.message.contains("Solve the case again"),
             qPrintable(state.message));
    QVERIFY(!state.result);
    waitForShapes();
    solve();
  }

  /// Given any stored file of a run damaged anywhere, when the project is opened, then the window is there within
  /// seconds; it shows the run, or says which file is damaged and that the case should be solved again.
  void anyDamagedResultLeavesTheWindowUsable()
  {
    Random random(seed());
    const QString other = folder_.filePath("run.kiln");
    Project p = slab();
    p.materials = {heavy("brick", 0.5, 800, 1000)};
    inTime(p, 293.15, 200);
    QVERIFY(saveProject(p, other.toStdString()).has_value());
    QVERIFY(window_->openFile(other));
    waitForShapes();
    solve();
    const std::filesystem::path results = document().resultsFolder();
    const std::filesystem::path sound = folder_.filePath("sound").toStdString();
    std::filesystem::copy(results, sound, std::filesystem::copy_options::recursive);
    // One that was interrupted stands beside it.
    const std::filesystem::path growing = growingRunFile(results, "steady");
    std::filesystem::copy_file(runFile(results, "steady"), sound / growing.filename());
    std::vector<std::string> names;
    for (const auto& entry : std::filesystem::directory_iterator(sound))
      if (entry.is_regular_file() && entry.path().extension() != ".kiln")
        names.push_back(entry.path().filename().string());
    QVERIFY(names.size() >= 6);
    int named = 0;
    qint64 slowest = 0;
    for (int i = 0; i < trials(12); ++i) {
      QVERIFY(window_->openFile(file())); // lets go of the files
      std::error_code gone;               // the program that draws may still be tidying up there
      QTRY_VERIFY((std::filesystem::remove_all(results, gone), !std::filesystem::exists(results)));
      std::filesystem::copy(sound, results, std::filesystem::copy_options::recursive);
      const std::string& name = names[static_cast<std::size_t>(below(random, static_cast<long>(names.size())))];
      std::string bytes = *readWhole(results / name);
      const long reach =
          i % 2 == 0 ? std::min<long>(static_cast<long>(bytes.size()), 4096) : static_cast<long>(bytes.size());
      const auto at = static_cast<std::size_t>(reach > 0 ? below(random, reach) : 0);
      if (i % 5 == 0)
        bytes.resize(at);
      else if (at < bytes.size())
        bytes[at] = static_cast<char>(bytes[at] ^ (1 << below(random, 8)));
      QVERIFY(writeAtomically(results / name, bytes));
      QElapsedTimer clock;
      clock.start();
      QVERIFY(window_->openFile(other));
      QCoreApplication::processEvents();
      slowest = std::max(slowest, clock.elapsed());
      const QString trial =
          QString::fromStdString(name) + QString(" at %1: ").arg(at) + document().shownState().message;
      QVERIFY2(slowest < 10'000, qPrintable(trial));
      if (document().shownState().stage == CaseState::Stage::Failed) {
        ++named;
        QVERIFY2(document().shownState().message.contains("run.results/") &&
                     document().shownState().message.contains("Solve the case again"),
                 qPrintable(trial));
      } else if (document().shownState().result) {
        QVERIFY2(std::abs(document().shownState().result->time - 200) < 1e-9, qPrintable(trial));
      }
    }
    std::printf("| damaged results in the window | %d tried | %d named | slowest %lld ms |\n", trials(12), named,
                slowest);
    QVERIFY(window_->openFile(file()));
    waitForShapes();
  }

  void cleanupTestCase()
  {
    document().undoStack().setClean();
    window_.reset();
  }
};

int main(int argc, char** argv) { return kiln::runWindowTests<GuardTest>(argc, argv, childWord, editWithoutPause); }

#include "tst_guard.moc"
