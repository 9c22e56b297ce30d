// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Several cases in order: what fails holds up only what starts from it, what is current is not solved again, the ledger
// says which cases an edit counts in; a contact of a part of an interface; edits of all kinds undone.
#include "../TransientProjects.h"
#include "../Trials.h"
#include "WindowDriver.h"
#include "io/ProjectFile.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "window/Application.h"

#include <QDialog>
#include <QLabel>
#include <QStandardPaths>
#include <QStatusBar>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two slabs on each other; the face between them is divided. Four cases in time, one of them without a start.
Project slabs()
{
  Project p = projectWith(0.01);
  p.name = "slabs";
  p.materials = {heavy("brick", 0.5, 800, 1000)};
  p.parts = {part("low", "brick", block(0.04, 0.04, 0.01)),
             part("high", "brick", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.01))};
  p.parts[0].steps = {
      {"spot", SplitFace{"low.top", SplitByRectangle{number(0), number(0), number(0.02), number(0.02)}}, {}}};
  p.surfaces = {surface("under", {"low.bottom"}), surface("over", {"high.top"}), surface("spot", {"low.spot.inside"})};
  p.sources = {source("heater", SurfacePower{"over", {2, "2 W"}})};
  p.boundaries = {boundary("air", Convection{"under", Property{20, "20 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  p.contacts = {contact("low", "high", AreaConductance{{80, "80 W/(m²·K)"}})};
  p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"high"}})};
  inTime(p, 293.15, 30);
  const auto copy = [&](const char* id) -> TransientRun& {
    Case one = p.cases.front();
    one.id = one.name = id;
    p.cases.push_back(one);
    return *p.cases.back().run;
  };
  copy("hopeless").start = StartFromCase{"nowhere", "no.kiln", {}};
  copy("after").start = StartFromCase{"hopeless", {}, {}};
  copy("last");
  return p;
}

} // namespace

class OrderlyTest : public QObject, private WindowDriver
{
  Q_OBJECT

  CaseState::Stage stageOf(const std::string& id) { return document().state(id).stage; }
  void solveAll()
  {
    QTest::keySequence(window_.get(), QKeySequence(Qt::SHIFT | Qt::Key_F5));
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && stageOf("last") != CaseState::Stage::Running, childTime);
  }
  /// Boxes that tell of a failure are closed as they come.
  void closeBoxes()
  {
    for (QWidget* top : QApplication::topLevelWidgets())
      if (auto* box = qobject_cast<QDialog*>(top); box != nullptr && box->isVisible())
        box->reject();
  }

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    const QString file = folder_.filePath("slabs.kiln");
    QVERIFY(saveProject(slabs(), file.toStdString()).has_value());
    open();
    QVERIFY(window_->openFile(file));
    waitForShapes();
  }

  void oneFailureHoldsUpOnlyWhatStartsFromIt()
  {
    QTimer closer;
    connect(&closer, &QTimer::timeout, this, [this] { closeBoxes(); });
    closer.start(50);
    solveAll();
    QTRY_COMPARE_WITH_TIMEOUT(stageOf("last"), CaseState::Stage::Solved, childTime);
    QCOMPARE(stageOf("steady"), CaseState::Stage::Solved);
    QCOMPARE(stageOf("hopeless"), CaseState::Stage::Failed);
    QCOMPARE(stageOf("after"), CaseState::Stage::Failed);
    QVERIFY2(document().state("after").message.contains("starts from hopeless, which failed"),
             qPrintable(document().state("after").message));
  }

  void whatIsCurrentIsNotSolvedAgain()
  {
    document().edit("fewer", [](Project& p) {
      std::erase_if(p.cases, [](const Case& one) { return one.id == "hopeless" || one.id == "after"; });
    });
    QCOMPARE(stageOf("last"), CaseState::Stage::Solved);
    QTest::keySequence(window_.get(), QKeySequence(Qt::SHIFT | Qt::Key_F5));
    QVERIFY(!window_->solver().isRunning());
    QVERIFY2(window_->statusBar()->currentMessage().contains("Every case is up to date"),
             qPrintable(window_->statusBar()->currentMessage()));
  }

  void theLedgerSaysInWhichCasesAnEditCounts()
  {
    openRow("heater");
    auto* row = find<LedgerRowView>("row:heater");
    const auto* scope = row->findChild<QLabel*>("editScope");
    QVERIFY(scope != nullptr && scope->isVisible());
    QVERIFY2(scope->text().contains("all 2 cases"), qPrintable(scope->text()));
    QVERIFY(scope->mapTo(row, QPoint()).y() <
            row->findChild<QLineEdit*>("name:heater")->mapTo(row, QPoint()).y()); // first
    closeRow("heater");
  }

  /// Given a second contact for a pair, then readiness asks which faces are its own; told, both count.
  void aContactOfAPartOfAnInterface()
  {
    const std::string pair = project().contacts.front().id;
    openRow(QString::fromStdString(pair));
    document().duplicateSelected();
    QCOMPARE(project().contacts.size(), std::size_t{2});
    const std::string second = project().contacts.back().id;
    const auto alreadyJoined = [&] {
      return std::any_of(document().findings().begin(), document().findings().end(), [](const Finding& finding) {
        return finding.problem.find("already joins these parts") != std::string::npos;
      });
    };
    QVERIFY(alreadyJoined());
    openRow(QString::fromStdString(second));
    auto* faces = find<LedgerRowView>("row:" + QString::fromStdString(second))
                      ->findChild<QComboBox*>("field:" + QString::fromStdString(second) + ".surface");
    QVERIFY(faces != nullptr);
    faces->setCurrentIndex(faces->findData("spot"));
    emit faces->activated(faces->currentIndex());
    QCOMPARE(project().contacts.back().surface, std::string("spot"));
    QVERIFY(!alreadyJoined());
    auto* row = find<LedgerRowView>("row:" + QString::fromStdString(second));
    QVERIFY2(row->accessibleName().contains("on spot") && row->accessibleName().contains("0.0004 m²"),
             qPrintable(row->accessibleName()));
    document().select(second);
    QCOMPARE(document().litFaces().size(), std::size_t{1});
  }

  /// Given any edits by chance, when all are undone, then the project is what it was; redone, what it became.
  void anyEditsAreUndoneAndRedone()
  {
    Random random(seed());
    QVERIFY(document().save());
    document().undoStack().clear();
    const Project before = project();
    std::vector<Project> states{before};
    const auto anyOf = [&](const auto& list) {
      return list[static_cast<std::size_t>(below(random, static_cast<long>(list.size())))];
    };
    for (int i = 0; i < 60; ++i) {
      std::vector<std::string> ids;
      for (const Part& part : project().parts)
        ids.push_back(part.id);
      for (const Surface& surface : project().surfaces)
        ids.push_back(surface.id);
      for (const HeatSource& source : project().sources)
        ids.push_back(source.id);
      for (const Boundary& boundary : project().boundaries)
        ids.push_back(boundary.id);
      if (ids.empty())
        break;
      document().select(anyOf(ids));
      switch (below(random, 6)) {
      case 0:
        document().duplicateSelected();
        break;
      case 1:
        if (project().parts.size() > 1)
          document().removeSelected();
        break;
      case 2:
        static_cast<void>(document().paste(document().copySelected()));
        break;
      case 3:
        document().moveBefore(document().selectedId(), anyOf(ids));
        break;
      default: {
        Project copy = project();
        const std::vector<Field> all = fieldsOf(copy, document().selectedId());
        if (!all.empty())
          document().setNumber(anyOf(all).path, {0.01 * static_cast<double>(1 + below(random, 9)), {}});
      }
      }
      if (project() != states.back())
        states.push_back(project());
    }
    QVERIFY2(states.size() > 30, qPrintable(QString::number(states.size())));
    QUndoStack& undo = document().undoStack();
    for (std::size_t i = states.size() - 1; i-- > 0;) {
      undo.undo();
      while (project() == states[i + 1] && undo.canUndo()) // an edit that changed nothing
        undo.undo();
      QVERIFY2(project() == states[i], qPrintable(QString("undone to %1").arg(i)));
    }
    QVERIFY(project() == before && !document().isUnsaved());
    while (undo.canRedo())
      undo.redo();
    QVERIFY(project() == states.back());
  }

  void cleanupTestCase()
  {
    document().undoStack().setClean();
    window_.reset();
  }
};

int main(int argc, char** argv) { return kiln::runWindowTests<OrderlyTest>(argc, argv); }

#include "tst_orderly.moc"
