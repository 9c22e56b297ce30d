// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A section model in the real window: made from nothing, drawn flat, an edge picked, solved per metre; and one cut from
// a solid model in one action.
#include "../TestProjects.h"
#include "WindowDriver.h"
#include "io/ProjectFile.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "strip/LineChart.h"
#include "strip/StripPanel.h"

#include <QLabel>

using namespace kiln;
using namespace kiln::test;

class TestSection : public QObject, WindowDriver
{
  Q_OBJECT

  QStringList launched_;

  SceneCanvas& canvas() { return window_->scene().canvas(); }
  double figure(const std::string& id)
  {
    for (const WatchFigure& one : document().shownFigures()->watches)
      if (one.id == id && one.value)
        return *one.value;
    return -1;
  }

private slots:
  void initTestCase()
  {
    Project p = projectWith(0.01);
    p.materials = {material("brick", 0.5)};
    p.parts = {part("wall", "brick", block(0.1, 1, 0.3))};
    p.surfaces = {surface("in", {"wall.left"}), surface("out", {"wall.right"})};
    p.sources = {source("glow", PartPower{{"wall"}, Property{60, "60 W"}})};
    p.boundaries = {boundary("hot", FixedSurface{"in", Number{400, "400 K"}}),
                    boundary("air", Convection{"out", number(10), number(300)})};
    p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"wall"}}), watch("lost", SurfaceHeat{"out"})};
    QVERIFY(saveProject(p, folder_.filePath("wall.kiln").toStdString()));
    open();
    window_->setLauncher([this](const QStringList& arguments) { launched_ = arguments; });
    QVERIFY(window_->openFile(folder_.filePath("wall.kiln")));
    waitForShapes();
  }
  void cleanupTestCase() { window_.reset(); }

  /// The dialog says what a section is, and the action can be undone.
  void theModelBecomesASection()
  {
    QVERIFY(!canvas().isFlat());
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L));
    find<QComboBox>("sectionKind")->setCurrentIndex(1);
    QVERIFY(find<QLineEdit>("sectionDepth")->placeholderText().contains("per metre"));
    QTest::mouseClick(find<QPushButton>("sectionApply"), Qt::LeftButton);
    QVERIFY(project().section.has_value());
    waitForShapes();
    QTRY_VERIFY(canvas().isFlat());
    // Watts in all have no meaning without a depth.
    QTRY_VERIFY(find<QToolButton>("readiness")->text().contains("✕"));
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    waitForShapes();
    QVERIFY(!project().section && !canvas().isFlat());
  }

  /// One action: a file of its own beside this one, with what was set kept and totals shared out.
  void aSectionIsCutFromTheSolid()
  {
    solve();
    const double solid = figure("hottest");
    const double lost = figure("lost");
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L));
    find<QComboBox>("sectionKind")->setCurrentIndex(1);
    QTest::mouseClick(find<QPushButton>("sectionCut"), Qt::LeftButton);
    const QString said = find<QLabel>("sectionMessage")->text();
    QVERIFY2(said.contains("wall-section.kiln") && said.contains("per volume"), qPrintable(said));
    QTest::mouseClick(find<QPushButton>("sectionClose"), Qt::LeftButton);
    QCOMPARE(launched_, QStringList{folder_.filePath("wall-section.kiln")}); // in a window of its own
    QVERIFY(!project().section);                                             // the solid model is untouched
    QVERIFY(window_->openFile(folder_.filePath("wall-section.kiln")));
    waitForShapes();
    QTRY_VERIFY(canvas().isFlat());
    QVERIFY(std::holds_alternative<PartDensity>(project().sources[0].heat));
    QVERIFY(!find<QToolButton>("readiness")->text().contains("✕"));
    solve();
    QVERIFY(std::abs(figure("hottest") - solid) < 1e-6);
    QVERIFY(std::abs(figure("lost") - lost) < 1e-6 * std::abs(lost)); // the solid is one metre deep
    const auto* row = find<LedgerRowView>("row:air");
    QVERIFY2(row->figureText().endsWith("W/m"), qPrintable(row->figureText()));
  }

  /// Near a border the edge is picked, further in the part's flat side.
  void anEdgeIsPicked()
  {
    const auto [low, high] = canvas().model().bounds();
    const auto click = [&](double acrossShare, double upShare) {
      const Vec3 place(low.x() + acrossShare * (high.x() - low.x()), low.y(), low.z() + upShare * (high.z() - low.z()));
      QTest::mouseClick(&canvas(), Qt::LeftButton, {}, canvas().pixelOf(place).toPoint());
      return document().pickedFaces();
    };
    QCOMPARE(click(0.995, 0.5), std::vector<std::string>{"wall.right"});
    QCOMPARE(click(0.5, 0.995), std::vector<std::string>{"wall.top"});
    QCOMPARE(click(0.5, 0.5), std::vector<std::string>{"wall.front"});
  }

  /// Flat shapes are offered first, and one joins the model.
  void aFlatPartIsAdded()
  {
    choose("add:" + QString::number(static_cast<int>(Band::Parts)), {"Rectangle"});
    waitForShapes();
    QCOMPARE(project().parts.size(), 2U);
    QVERIFY(std::holds_alternative<Rectangle>(project().parts[1].shape.form));
    QTRY_COMPARE(document().shownMesh()->geometry.parts.size(), 2U);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    waitForShapes();
  }

  /// Smaller elements where it matters, from the menu; the project keeps them, and forgets them by undo.
  void theMeshIsRefined()
  {
    QTimer answer;
    connect(&answer, &QTimer::timeout, this, [] {
      if (QWidget* dialog = QApplication::activeModalWidget())
        QTest::keyClick(dialog->findChild<QLineEdit*>(), Qt::Key_Return);
    });
    answer.start(50);
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::Key_F7));
    answer.stop();
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && !project().mesh.finerAt.empty(), childTime);
    QTRY_COMPARE(document().shownState().stage, CaseState::Stage::Solved);
    QVERIFY(document().shownState().outOfDate.isEmpty()); // the result is of the mesh that was found
    window_->activateWindow();                            // the question took the focus with it
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(project().mesh.finerAt.empty());
  }

  /// A turned section shows what it is turned about, a plane one has nothing to show.
  void theAxisIsDrawn()
  {
    const auto& overlay = window_->scene().overlay();
    for (const bool turned : {true, false}) {
      Project p = projectWith(0.01);
      p.section = turned ? Section{TurnedSection{}, {}} : Section{PlaneSection{}, {}};
      p.materials = {material("brick", 0.5)};
      p.parts = {part("pipe", "brick", Rectangle{number(0.02), number(0.3)}, {0.05, 0, 0})};
      const QString file = folder_.filePath(turned ? "pipe.kiln" : "plate.kiln");
      QVERIFY(saveProject(p, file.toStdString()));
      QVERIFY(window_->openFile(file));
      waitForShapes();
      QTRY_COMPARE(overlay.axis().has_value(), turned);
      if (turned) {
        QCOMPARE(overlay.axis()->first.x(), 0.0);
        QVERIFY(overlay.axis()->first.z() < 0 && overlay.axis()->second.z() > 0.3);
      }
    }
  }

  /// With lines, and on every page, the window still fits a small screen; a profile through the wall is a straight
  /// line.
  void aLineThroughTheWall()
  {
    Project p = projectWith(0.01);
    p.section = Section{PlaneSection{}, {}};
    p.materials = {material("brick", 0.5)};
    p.parts = {part("wall", "brick", Rectangle{number(0.1), number(0.3)})};
    p.surfaces = {surface("in", {"wall.left"}), surface("out", {"wall.right"})};
    p.boundaries = {boundary("hot", FixedSurface{"in", Number{500, "500 K"}}),
                    boundary("cold", FixedSurface{"out", Number{300, "300 K"}})};
    Line line;
    line.id = line.name = "through";
    line.from = {number(-0.05), number(0), number(0)};
    line.to = {number(0.05), number(0), number(0)};
    p.lines = {line};
    Question question;
    question.id = "which";
    question.name = "Which of all the thicknesses that a wall may have keeps its outside cool?";
    question.base = "steady";
    p.questions = {question};
    const QString file = folder_.filePath("profile.kiln");
    QVERIFY(saveProject(p, file.toStdString()));
    QVERIFY(window_->openFile(file));
    window_->solver().solve({"steady"});
    QTRY_VERIFY_WITH_TIMEOUT(document().shownState().result != nullptr, childTime);
    StripPanel& strip = window_->strip();
    for (int page = 0; page < strip.pageNames().size(); ++page) {
      strip.setPage(page);
      QCoreApplication::processEvents();
      QVERIFY2(window_->minimumSizeHint().width() <= 1024,
               qPrintable(QString("%1: %2").arg(strip.pageNames()[page]).arg(window_->minimumSizeHint().width())));
    }
    strip.setPage(StripPanel::linePage);
    auto* chart = find<LineChart>("lineChart");
    QTRY_VERIFY(!chart->curves().empty());
    const QPolygonF& curve = chart->curves().front().pieces.front();
    for (const QPointF& point : curve)
      QVERIFY2(std::abs(point.y() - (226.85 - 2 * point.x())) < 0.01, qPrintable(QString::number(point.y())));
  }
};

QTEST_MAIN(TestSection)
#include "tst_section.moc"
