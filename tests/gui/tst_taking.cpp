// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Geometry is taken in from a file, solved, doubted and read again: the real window, mouse and keys.
#include "TestProjects.h"
#include "WindowDriver.h"
#include "geometry/GeometryImport.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "strip/LinePage.h"
#include "strip/StripPanel.h"
#include "window/ImportDialog.h"
#include "window/ImportPreview.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QLabel>
#include <QMimeData>
#include <QSlider>
#include <QTabBar>
#include <QTableWidget>
#include <cmath>
#include <fstream>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A plate and a chip that stands on it, as another program would draw them.
Project drawing(double thickness)
{
  Project p = projectWith(0.005);
  p.materials = {material("any", 1)};
  p.parts = {part("plate", "any", block(0.06, 0.04, thickness), {0, 0, -thickness}),
             part("chip", "any", block(0.01, 0.01, 0.003))};
  p.parts[0].name = "Plate";
  p.parts[1].name = "Chip";
  return p;
}

} // namespace

class TakingTest : public QObject, protected WindowDriver
{
  Q_OBJECT

private:
  QString file() const { return folder_.filePath("drawing.step"); }
  void draw(double thickness) const
  {
    const auto written = writeGeometry(drawing(thickness), file().toStdString());
    QVERIFY2(written, written ? "" : written.error().sentence().c_str());
  }
  ImportDialog* dialog() const { return find<ImportDialog>("importDialog"); }
  void waitForBodies() const { QTRY_VERIFY_WITH_TIMEOUT(!dialog()->isReading(), childTime); }
  double figure(const std::string& id)
  {
    for (const WatchFigure& one : document().shownState().watches)
      if (one.id == id && one.value)
        return *one.value;
    return 0;
  }
  void pressTakeIn()
  {
    QVERIFY(find<QPushButton>("takeIn")->isEnabled());
    QTest::mouseClick(find<QPushButton>("takeIn"), Qt::LeftButton);
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  }

private slots:
  void initTestCase()
  {
    draw(0.004);
    open();
  }
  void cleanupTestCase() { window_.reset(); }

  void bodiesAreShownBeforeTheyAreTaken()
  {
    // Dropped onto the window.
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(file())});
    QDragEnterEvent enter(QPoint(400, 400), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window_.get(), &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent drop(QPointF(400, 400), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window_.get(), &drop);
    waitForBodies();
    auto* bodies = find<QTableWidget>("bodies");
    QCOMPARE(bodies->rowCount(), 2);
    QCOMPARE(bodies->item(0, 0)->text(), QString("Plate"));
    QCOMPARE(bodies->item(0, 1)->text(), QString("60 mm × 40 mm × 4 mm"));
    bodies->item(1, 0)->setText("Die"); // renamed before it comes in
    pressTakeIn();
    QCOMPARE(project().parts.size(), 2U);
    QCOMPARE(project().parts[1].name, std::string("Die"));
    QCOMPARE(project().files.size(), 1U);
    waitForShapes();
    QCOMPARE(document().shownMesh()->geometry.parts.size(), 2U);
    QTRY_VERIFY(!find<QToolButton>("readiness")->text().contains("Ready")); // no material is not silent
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(project().parts.empty() && project().files.empty());
    QTest::keySequence(window_.get(), QKeySequence::Redo);
    QCOMPARE(project().parts.size(), 2U);
  }

  void itIsSolvedLikeAnyOther()
  {
    openRow("plate");
    choose("materialLibrary", {"metal", "Aluminium alloy, wrought"});
    closeRow("plate");
    openRow("chip");
    choose("materialLibrary", {"ceramic", "Alumina"});
    closeRow("chip");
    document().select("chip");
    choose("add:0", {"Power in parts"});
    type("field:power-in-parts.power", "10 W");
    closeRow("power-in-parts");
    waitForShapes();
    document().select("plate");
    choose("add:3", {"Convection"});
    waitForShapes();
    QVERIFY(find<QLabel>("surfaceCount")->text().contains("face"));
    document().edit("Watch", [](Project& p) {
      p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"chip"}}),
                   watch("mean", PartFigure{PartFigure::Kind::Mean, {"plate"}})};
    });
    solve();
    QVERIFY(figure("hot") > figure("mean") && figure("mean") > 293.15);
  }

  void aLineIsLaidThroughTheHottestPlace()
  {
    window_->strip().setPage(StripPanel::linePage);
    choose("newLine", {"Along z, through the hottest place"});
    QCOMPARE(project().lines.size(), 1U);
    auto* page = find<LinePage>("linePage");
    QVERIFY(find<LineChart>("lineChart")->isVisible());
    const QStringList rows = page->tableText(",").split('\n', Qt::SkipEmptyParts);
    QVERIFY(rows.size() > 4);
    QVERIFY(rows[1].startsWith("0,Plate,"));
    QVERIFY(rows.last().startsWith("7,Die,") || rows.last().startsWith("7,Chip,"));
    // The hottest value of the line is that of the watch.
    double hottest = 0;
    for (const QString& row : rows.mid(1))
      hottest = std::max(hottest, row.section(',', 2, 2).toDouble());
    QVERIFY(std::abs(hottest + 273.15 - figure("hot")) < 0.01);
    QVERIFY(document().shownState().outOfDate.isEmpty()); // a line changes no result
    theChartTellsAndShowsMore(hottest);
    type("field:" + QString::fromStdString(project().lines[0].id) + ".to.z", "0 mm");
    QVERIFY(page->tableText(",").split('\n', Qt::SkipEmptyParts).last().startsWith("4,Plate,"));
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QTest::mouseClick(find<QToolButton>("lineCopy"), Qt::LeftButton);
    QVERIFY(QApplication::clipboard()->text().contains("Plate\t"));
  }

private:
  /// The pointer tells values, a rectangle shows that much, a double click all again.
  void theChartTellsAndShowsMore(double hottest)
  {
    auto& chart = *find<LineChart>("lineChart");
    const QRectF whole = chart.range();
    QVERIFY(whole.left() == 0 && std::abs(whole.right() - 7) < 1e-6); // mm
    QVERIFY(whole.top() < hottest && whole.bottom() > hottest);
    const QString told = chart.readoutAt(2);
    QVERIFY2(told.startsWith("2 mm: ") && told.endsWith(" °C"), qPrintable(told));
    QVERIFY(chart.readoutAt(8).isEmpty());
    const QPoint first = chart.pixelOf({1, whole.bottom()}).toPoint() + QPoint(0, 4);
    const QPoint second = chart.pixelOf({3, whole.top()}).toPoint() - QPoint(0, 4);
    QTest::mousePress(&chart, Qt::LeftButton, {}, first);
    QTest::mouseMove(&chart, second);
    QTest::mouseRelease(&chart, Qt::LeftButton, {}, second);
    QVERIFY2(std::abs(chart.range().left() - 1) < 0.05 && std::abs(chart.range().right() - 3) < 0.05,
             qPrintable(QString("%1 to %2").arg(chart.range().left()).arg(chart.range().right())));
    QTest::mouseDClick(&chart, Qt::LeftButton, {}, second);
    QCOMPARE(chart.range(), whole);
  }

private slots:
  void aLineIsLaidBetweenTwoClicks()
  {
    SceneCanvas& canvas = window_->scene().canvas();
    QCOMPARE(window_->scene().overlay().line().size(), 2UL); // that of the page
    canvas.lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    canvas.fit();
    const auto [low, high] = canvas.model().bounds();
    const Vec3 first(low.x() + 0.1 * (high.x() - low.x()), low.y() + 0.2 * (high.y() - low.y()), high.z());
    const Vec3 second(high.x() - 0.1 * (high.x() - low.x()), first.y(), high.z());
    const auto click = [&](const Vec3& place) {
      const QPoint at = canvas.pixelOf(place).toPoint();
      QTest::mouseClick(&canvas, Qt::LeftButton, {}, at);
      return canvas.pickAt(at)->place;
    };
    choose("newLine", {"Between two places clicked in the scene"});
    QVERIFY(window_->scene().overlay().hover().contains("where the line begins"));
    QTest::keyClick(&canvas, Qt::Key_Escape);
    QVERIFY(window_->scene().overlay().hover().isEmpty());
    QCOMPARE(project().lines.size(), 1U);
    choose("newLine", {"Between two places clicked in the scene"});
    const Vec3 from = click(first);
    QCOMPARE(project().lines.size(), 1U);
    const Vec3 to = click(second);
    QCOMPARE(project().lines.size(), 2U);
    const Line& line = project().lines.back();
    QVERIFY(std::abs(line.from.x.si - from.x()) < 1e-6 && std::abs(line.to.x.si - to.x()) < 1e-6);
    QVERIFY((window_->scene().overlay().line().front() - from).norm() < 1e-6);
    window_->strip().setPage(StripPanel::numbersPage);
    QVERIFY(window_->scene().overlay().line().empty());
    window_->strip().setPage(StripPanel::linePage);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().lines.size(), 1U);
  }

  /// An edge is clicked in the scene; the profile follows it, the scene shows it.
  void anEdgeIsClicked()
  {
    window_->strip().setPage(StripPanel::linePage);
    SceneCanvas& canvas = window_->scene().canvas();
    const auto [low, high] = canvas.model().bounds();
    const Vec3 near(low.x() + 0.5 * (high.x() - low.x()), low.y() + 0.03 * (high.y() - low.y()), high.z());
    choose("newLine", {"Along an edge clicked in the scene"});
    QVERIFY(window_->scene().overlay().hover().contains("near the edge"));
    QTest::mouseClick(&canvas, Qt::LeftButton, {}, canvas.pixelOf(near).toPoint());
    QCOMPARE(project().lines.size(), 2U);
    const Line& edge = project().lines.back();
    QCOMPARE(edge.faces.size(), 2U);
    QVERIFY(window_->scene().overlay().line().size() > 2);
    for (const Vec3& place : window_->scene().overlay().line()) // the front edge of the plate's top
      QVERIFY(std::abs(place.y() - low.y()) < 1e-6 && std::abs(place.z() - low.z() - 0.004) < 1e-6);
    QTest::mouseClick(find<QToolButton>("lineCopy"), Qt::LeftButton);
    QVERIFY(QApplication::clipboard()->text().count('\n') > 4);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().lines.size(), 1U);
  }

  void threeMeshesSayHowSure()
  {
    window_->solver().askHowSure(document().shownCase());
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && document().shownState().sure, childTime);
    const QString said = find<QLabel>("watchTimes:hot")->text();
    QVERIFY2(said.contains("mesh"), qPrintable(said));
    const auto* sure = document().shownState().sureOf("hot");
    QVERIFY(sure != nullptr && std::abs(sure->values[1] - figure("hot")) < 1e-6);
    // Another power, and the answer no longer counts.
    openRow("power-in-parts");
    type("field:power-in-parts.power", "12 W");
    solve();
    QVERIFY(document().shownState().sureOf("hot") == nullptr);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    solve();
    QVERIFY(document().shownState().sureOf("hot") != nullptr);
  }

  /// Asked of a case in time, it is refused with a sentence, and nothing is lost.
  void onlySteadyCasesRefine()
  {
    document().edit("Transient", [](Project& p) {
      p.cases.front().kind = Case::Kind::Transient;
      p.cases.front().run = TransientRun{};
    });
    QString said;
    // The window's own answer is a dialog; only the sentence counts here.
    const auto heard = connect(&window_->solver(), &SolverQueue::failed, this, [&](const QString& s) { said = s; });
    QTimer closer;
    connect(&closer, &QTimer::timeout, this, [] {
      if (QWidget* dialog = QApplication::activeModalWidget())
        dialog->close();
    });
    closer.start(50);
    window_->solver().refine(document().shownCase(), "1 K"); // runs in time have twins, but refine nothing
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && !said.isEmpty(), childTime);
    disconnect(heard);
    QVERIFY2(said.contains("refined by a steady case"), qPrintable(said));
    QVERIFY(document().shownState().stage != CaseState::Stage::Failed);
    QVERIFY(document().shownState().result);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(document().shownState().stage, CaseState::Stage::Solved);
    QVERIFY(document().shownState().sureOf("hot") != nullptr);
  }

  /// The drawing changed; what was set on its faces is still there.
  void itIsReadAgain()
  {
    const double before = figure("mean");
    const Project was = project();
    draw(0.008);
    (new ImportDialog(document(), UKILN, file(), project().files[0].id, window_.get()))->show();
    waitForBodies();
    const QString said = find<QLabel>("importSaid")->text();
    QVERIFY2(said.contains("Unchanged: Chip") && said.contains("Changed: Plate"), qPrintable(said));
    pressTakeIn();
    QVERIFY(project().files[0].bodies[0].hash != was.files[0].bodies[0].hash);
    QVERIFY(project().surfaces == was.surfaces && project().parts == was.parts);
    waitForShapes();
    QVERIFY(!find<QToolButton>("readiness")->text().contains("✕"));
    solve();
    QVERIFY(std::abs(figure("mean") - before) > 0.1); // thicker: more face to cool
    QVERIFY(figure("mean") < before);
  }

  /// The angle slider divides the skin of a triangle file into faces, and the picture shows it at once; bodies are
  /// joined before they come in.
  void facesAreSplitByAnAngleAndBodiesJoined()
  {
    Project cans = projectWith(0.01);
    cans.materials = {material("any", 1)};
    cans.parts = {part("can", "any", Cylinder{number(0.01), number(0.02)}, {0.2, 0, 0}),
                  part("other", "any", Cylinder{number(0.01), number(0.02)}, {0.25, 0, 0})};
    const QString stl = folder_.filePath("cans.stl");
    QVERIFY(writeGeometry(cans, stl.toStdString()));
    const std::size_t before = project().parts.size();
    window_->openFile(stl);
    waitForBodies();
    const auto colours = [this] {
      std::set<QRgb> seen;
      for (const QColor& color : find<ImportPreview>("importPreview")->faceColors())
        seen.insert(color.rgb());
      return seen.size();
    };
    QCOMPARE(find<QTableWidget>("bodies")->rowCount(), 2);
    QCOMPARE(colours(), 6U); // side, top and bottom of each, though the side is many triangles
    find<QTableWidget>("bodies")->item(0, 0)->setText("Cans");
    auto* slider = find<QSlider>("importAngleSlider");
    slider->setFocus();
    QTest::keyClick(slider, Qt::Key_Home); // 1 deg: every strip by itself
    QTRY_VERIFY_WITH_TIMEOUT(dialog()->isReading(), childTime);
    waitForBodies();
    QCOMPARE(colours(), 10U);             // all that there are
    QTest::keyClick(slider, Qt::Key_End); // 90 deg: sides and ends run together
    QTRY_VERIFY_WITH_TIMEOUT(dialog()->isReading(), childTime);
    waitForBodies();
    QCOMPARE(find<QTableWidget>("bodies")->item(0, 0)->text(), QString("Cans")); // what was typed stays
    QVERIFY2(colours() <= 6U, qPrintable(QString::number(colours())));
    QVERIFY(find<QTableWidget>("bodies")->item(1, 4)->text().contains("the same body as Cans"));
    QTest::mouseClick(find<QToolButton>("joinAlike"), Qt::LeftButton);
    QVERIFY(find<QTableWidget>("bodies")->item(1, 4)->text().contains("one part with Cans"));
    pressTakeIn();
    QCOMPARE(project().parts.size(), before + 1);
    const Part& joined = project().parts.back();
    QCOMPARE(joined.name, std::string("Cans"));
    QCOMPARE(joined.steps.size(), 1U);
    waitForShapes();
    const FaceTable& table = document().shownMesh()->geometry;
    const double volume = table.parts[static_cast<std::size_t>(table.partIndex(joined.id))].volume;
    QVERIFY(std::abs(volume / (2 * M_PI * 1e-4 * 0.02) - 1) < 0.03); // of facets
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().parts.size(), before);
  }

  /// Elements of a mesh file are kept until a tick is taken away or a step changes the shape; colours are chosen.
  void elementsOfAMeshFile()
  {
    const QString vtu = folder_.filePath("cell.vtu");
    std::ofstream(vtu.toStdString())
        << R"(<?xml version="1.0"?><VTKFile type="UnstructuredGrid" version="0.1" byte_order="LittleEndian">
<UnstructuredGrid><Piece NumberOfPoints="8" NumberOfCells="1"><Points>
<DataArray type="Float64" NumberOfComponents="3" format="ascii">
0 0 100 10 0 100 10 10 100 0 10 100 0 0 110 10 0 110 10 10 110 0 10 110</DataArray></Points><Cells>
<DataArray type="Int64" Name="connectivity" format="ascii">0 1 2 3 4 5 6 7</DataArray>
<DataArray type="Int64" Name="offsets" format="ascii">8</DataArray>
<DataArray type="UInt8" Name="types" format="ascii">12</DataArray></Cells><CellData>
<DataArray type="Int32" Name="region" format="ascii">3</DataArray></CellData></Piece></UnstructuredGrid></VTKFile>)";
    window_->openFile(vtu);
    waitForBodies();
    pressTakeIn();
    const std::string id = project().parts.back().id;
    const auto form = [this] { return std::get<FileBody>(project().parts.back().shape.form); };
    waitForShapes();
    openRow(QString::fromStdString(id));
    auto* keep = find<QCheckBox>("keepElements");
    QVERIFY(keep->isChecked() && keep->isEnabled());
    keep->setFocus();
    QTest::keyClick(keep, Qt::Key_Space);
    QVERIFY(form().meshAnew);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(!form().meshAnew);
    choose("addStep", {"Thicken a face"});
    QCOMPARE(project().parts.back().steps.size(), 1U);
    QVERIFY(std::holds_alternative<ThickenFace>(project().parts.back().steps[0].action));
    QTRY_VERIFY(!find<QCheckBox>("keepElements")->isEnabled());
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    document().edit("Colour", [&](Project& p) { p.parts.back().colour = "#204080"; });
    auto* by = find<QComboBox>("colorBy");
    const int before = by->currentIndex();
    by->setCurrentIndex(by->findText("Part"));
    emit by->activated(by->currentIndex());
    const auto& key = window_->scene().overlay().key();
    QVERIFY(std::any_of(key.begin(), key.end(), [](const auto& one) { return one.first == QColor("#204080"); }));
    choose("partColour", {"Let the program choose"});
    QVERIFY(project().parts.back().colour.empty());
    by->setCurrentIndex(before);
    emit by->activated(before);
    closeRow(QString::fromStdString(id));
  }

  void aFileThatIsNoGeometryIsRefused()
  {
    const QString bad = folder_.filePath("bad.stp");
    std::ofstream(bad.toStdString()) << "no drawing at all";
    const Project before = project();
    window_->openFile(bad);
    waitForBodies();
    QVERIFY(find<QLabel>("importSaid")->text().contains("bad.stp"));
    QVERIFY(!find<QPushButton>("takeIn")->isEnabled());
    QTest::keyClick(dialog(), Qt::Key_Escape);
    QVERIFY(project() == before);
  }
};

QTEST_MAIN(TakingTest)
#include "tst_taking.moc"
