// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is asked of a result at a place: labels, heat paths, faces, contacts; sections with values as heights; what of
// the heat flux can be chosen.
#include "BarDriver.h"
#include "ledger/LedgerRowView.h"
#include "scene/CutList.h"
#include "scene/LabelHandles.h"
#include "scene/SceneOverlay.h"
#include "strip/PathsPage.h"
#include "strip/StripPanel.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QMimeData>
#include <QSlider>
#include <QTableWidget>

using namespace kiln;
using namespace kiln::test;

class SeenTest : public QObject, private BarDriver
{
  Q_OBJECT

private slots:
  /// Given a pinned label, then it says its value in scene and table, follows the next result, is snapped, copied and
  /// made a watch.
  void labels()
  {
    solved();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    const auto isOver = [&] {
      QTest::mouseMove(&canvas(), QPoint(4, 4));
      QTest::mouseMove(&canvas(), canvas().pixelOf(Vec3(0.0251, 0.0003, 0.02)).toPoint());
      return window_->scene().overlay().hover().contains("warm");
    };
    const auto pinned = [&] { // the pointer of the desktop may come in between
      if (project().labels.empty() && isOver())
        QTest::keyClick(window_.get(), Qt::Key_L, Qt::ControlModifier | Qt::AltModifier);
      return project().labels.size() == 1;
    };
    QTRY_VERIFY(pinned());
    QTRY_COMPARE(window_->scene().overlay().labels().size(), 1U);
    const QString shown = window_->scene().overlay().labels()[0].text;
    QVERIFY2(shown.startsWith("warm  10") && shown.endsWith("°C"), qPrintable(shown)); // some 102 °C
    showPage(StripPanel::labelsPage);
    auto* table = find<QTableWidget>("labels");
    QTRY_COMPARE(table->rowCount(), 1);
    QCOMPARE(table->item(0, 3)->text(), QString("warm"));
    table->selectRow(0);
    QVERIFY(find<QToolButton>("labelSnap")->isVisible());
    QVERIFY2(table->selectedItems().size() > 3, qPrintable(QString::number(table->selectedItems().size())));
    QTest::mouseClick(find<QToolButton>("labelSnap"), Qt::LeftButton); // the middle of the top face
    const auto placed = [&] { return placeOf(project().labels[0].place); };
    QTRY_VERIFY2((placed() - Vec3(0.025, 0, 0.02)).norm() < 1e-6,
                 qPrintable(QString("%1 %2 %3").arg(placed().x()).arg(placed().y()).arg(placed().z())));
    const auto reads = [&](const QString& text) { return table->item(0, 1)->text() == text; };
    QTRY_VERIFY2(reads("101.8 °C") || reads("101.9 °C"), qPrintable(table->item(0, 1)->text())); // 375 K is between
    type("labelAtX", "-50 mm");
    type("labelAtZ", "10 mm");
    QTest::mouseClick(find<QToolButton>("labelAdd"), Qt::LeftButton);
    QTRY_COMPARE(table->rowCount(), 2);
    QTRY_VERIFY2(table->item(1, 1)->text().startsWith("26."), qPrintable(table->item(1, 1)->text()));
    type("labelAtX", "1 m");
    QTest::mouseClick(find<QToolButton>("labelAdd"), Qt::LeftButton);
    QTRY_COMPARE(table->item(2, 1)->text(), QString("in no part"));
    table->clearSelection();
    QTest::mouseClick(find<QToolButton>("labelsCopy"), Qt::LeftButton);
    QVERIFY(QApplication::clipboard()->text().contains("in no part"));
    table->clearSelection();
    table->selectRow(0);
    QTest::mouseClick(find<QToolButton>("labelWatch"), Qt::LeftButton);
    QTRY_COMPARE(project().watches.size(), 2U);
    QTRY_VERIFY(std::abs(*document().shownFigures()->watches[1].value - 375) < 1e-6);
    // Another result: the label follows.
    document().edit("hotter", [](Project& p) {
      std::get<FixedSurface>(p.boundaries[1].condition).temperature = {500, "226.85 °C"};
    });
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY2(reads("176.8 °C") || reads("176.9 °C"), qPrintable(table->item(0, 1)->text())); // 300 + 0.75 · 200
    table->selectRow(2);
    QTest::mouseClick(find<QToolButton>("labelRemove"), Qt::LeftButton);
    QTRY_COMPARE(project().labels.size(), 2U);
  }

  /// Given heat that goes from one end to the other, then its bands carry all of it, say so under the pointer, light
  /// what they pass, and are copied.
  void heatPaths()
  {
    solved();
    showPage(StripPanel::pathsPage);
    auto* paths = find<PathsCanvas>("pathsCanvas");
    QTRY_COMPARE(paths->paths().bands.size(), 3U); // hot → warm → cool → cold
    QVERIFY(std::abs(paths->paths().in - watts) < 1e-6 && std::abs(paths->paths().out - watts) < 1e-6);
    for (const PathBand& band : paths->paths().bands)
      QVERIFY(std::abs(band.watts - watts) < 1e-6);
    std::size_t between = 3;
    for (std::size_t i = 0; i < 3; ++i)
      if (!paths->paths().bands[i].via.empty())
        between = i;
    QVERIFY(between < 3);
    const QPoint on = paths->bandMiddle(between).toPoint();
    QVERIFY2(paths->textAt(on).startsWith("warm → cool: 4 W, 12.5 K/W"), qPrintable(paths->textAt(on)));
    QTest::mouseMove(paths, on);
    QTRY_VERIFY(!document().litFaces().empty());
    for (const FaceId face : document().litFaces())
      QVERIFY(document().shownMesh()->geometry.faces[static_cast<std::size_t>(face)].contact());
    QTest::mouseClick(paths, Qt::LeftButton, {}, on);
    QCOMPARE(document().selectedId(), pairId("cool", "warm"));
    QTest::mouseClick(find<QToolButton>("pathsCopy"), Qt::LeftButton);
    const QMimeData* copied = QApplication::clipboard()->mimeData();
    QVERIFY(copied->hasImage() && copied->data("image/svg+xml").contains("<svg") &&
            copied->data("image/svg+xml").contains("warm"));
  }

  /// Given faces, then the table says what passes each, and nothing at insulated ones.
  void faces()
  {
    solved();
    showPage(StripPanel::facesPage);
    auto* table = find<QTableWidget>("faces");
    QTRY_COMPARE(table->rowCount(), 11); // two blocks that share one face
    int passed = 0;
    for (int row = 0; row < table->rowCount(); ++row) {
      const double ledger = table->item(row, 3)->text().replace(QChar(0x2212), '-').section(' ', 0, 0).toDouble();
      if (table->item(row, 1)->text().startsWith("insulated"))
        QCOMPARE(ledger, 0.0);
      else
        passed += std::abs(std::abs(ledger) - watts) < 1e-3 ? 1 : 0;
    }
    QCOMPARE(passed, 3);
    QVERIFY(find<QLabel>("facesSum")->text().startsWith("Enters through faces: "));
    choose("colorBy", static_cast<int>(Shown::FaceFlow));
    QTRY_VERIFY(find<QWidget>("legend")->isVisible());
    QVERIFY2(find<QLineEdit>("legendTop")->text().startsWith("4"), qPrintable(find<QLineEdit>("legendTop")->text()));
  }

  /// Given a contact that is selected, then its two sides are told apart by their marks and their words.
  void bothSidesOfAContact()
  {
    solved();
    QVERIFY(window_->scene().overlay().sides().empty());
    document().select(pairId("cool", "warm"));
    const auto& sides = window_->scene().overlay().sides();
    QCOMPARE(sides.size(), 2U);
    QCOMPARE(sides[0].text, QString("from cool"));
    QCOMPARE(sides[1].text, QString("to warm"));
    QVERIFY(sides[0].pinned != sides[1].pinned); // round and square
    QVERIFY(sides[0].place.x() < 0 && sides[1].place.x() > 0);
    document().select("cool");
    QVERIFY(window_->scene().overlay().sides().empty());
  }

  /// Given a label, when it is dragged by its place, then it moves along the face that it lies on, and not beyond.
  void aLabelIsMovedAlongItsFace()
  {
    solved();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    document().edit("label", [](Project& p) {
      Label label;
      label.id = label.name = "here";
      label.place = {number(0.02), number(0), number(0.02)};
      p.labels = {label};
    });
    auto* handles = canvas().findChild<LabelHandles*>();
    const auto pixel = [&](double x, double y) { return canvas().pixelOf(Vec3(x, y, 0.02)).toPoint(); };
    QVERIFY((handles->grip("here")->toPoint() - pixel(0.02, 0)).manhattanLength() < 3);
    QTest::mousePress(&canvas(), Qt::LeftButton, {}, pixel(0.02, 0));
    QVERIFY(handles->held());
    QTest::mouseMove(&canvas(), pixel(0.04, 0.005));
    QTest::mouseMove(&canvas(), pixel(-0.03, 0)); // another part's face: it waits
    QTest::mouseRelease(&canvas(), Qt::LeftButton, {}, pixel(-0.03, 0));
    const Number3& place = project().labels[0].place;
    QVERIFY2(std::abs(place.x.si - 0.04) < 0.001 && std::abs(place.y.si - 0.005) < 0.001,
             qPrintable(QString::number(place.x.si)));
    QVERIFY(std::abs(place.z.si - 0.02) < 1e-6);
    document().undoStack().undo();
    QVERIFY(std::abs(project().labels[0].place.x.si - 0.02) < 1e-12);
  }

  /// Given a band of heat paths under the pointer, then the row of what it is of is framed in the ledger.
  void aBandLightsItsRow()
  {
    solved();
    showPage(StripPanel::pathsPage);
    auto* paths = window_->findChild<PathsCanvas*>();
    QTRY_VERIFY(!paths->paths().blocks.empty());
    std::size_t warm = 0;
    while (paths->paths().blocks[warm].id != "warm")
      ++warm;
    auto* row = find<LedgerRowView>("row:warm");
    const auto framed = [&] { return row->grab().toImage().pixelColor(row->width() / 2, 1) == theme().accent; };
    QVERIFY(!framed());
    QTest::mouseMove(paths, paths->blockBox(warm).center().toPoint());
    QTRY_COMPARE(document().pointedId(), std::string("warm"));
    QVERIFY(framed());
    QTest::mouseMove(window_.get(), QPoint(2, 2));
    QApplication::sendEvent(paths, std::make_unique<QEvent>(QEvent::Leave).get());
    QTRY_VERIFY(document().pointedId().empty());
    QVERIFY(!framed());
  }

  /// Given what can be chosen of the heat flux, then a view keeps it, and the picture follows.
  void fluxAsItIsAsked()
  {
    solved();
    openPanel();
    choose("lookFlux", static_cast<int>(FluxLook::Arrows));
    find<QSlider>("lookDensity")->setValue(60);
    for (const char* box : {"lookSameLength", "lookRaw"})
      QTest::mouseClick(find<QCheckBox>(box), Qt::LeftButton, {}, QPoint(8, 8));
    const View kept = window_->scene().currentView();
    QVERIFY(kept.sameLength && kept.raw && kept.density && kept.density->si == 60);
    QTRY_VERIFY(drawing().arrows() > 10);
    // Of each element by itself: coloured by element, so that no level can be shown.
    choose("colorBy", static_cast<int>(Shown::HeatFlux));
    QTRY_VERIFY(!find<QCheckBox>("lookLevelOn")->isEnabled());
    QTest::mouseClick(find<QCheckBox>("lookRaw"), Qt::LeftButton, {}, QPoint(8, 8));
    QTRY_VERIFY(find<QCheckBox>("lookLevelOn")->isEnabled());
    window_->scene().streamFromHottest();
    QTRY_VERIFY(drawing().ways() > 0);
    QCOMPARE(window_->scene().currentView().flux, FluxLook::Streamlines);
  }

  /// Given a material whose axes are turned by a right angle, then the component along its second axis is the whole
  /// flux and along its first nothing.
  void componentsAlongMaterialAxes()
  {
    Project p = bar();
    p.materials[0].conductivityY = Property{10, "10 W/(m·K)"};
    p.materials[0].conductivityZ = Property{10, "10 W/(m·K)"};
    for (Part& one : p.parts)
      one.materialAxes.z = Number{M_PI / 2, "90 deg"};
    start(p, "axes");
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
    openPanel();
    choose("colorBy", static_cast<int>(Shown::FluxX));
    const auto most = [&] {
      const auto range = canvas().drawnRange();
      return range ? std::max(std::abs(range->first), std::abs(range->second)) : -1;
    };
    QTRY_VERIFY(std::abs(most() - 10000) < 1);
    QTest::mouseClick(find<QCheckBox>("lookMaterialAxes"), Qt::LeftButton, {}, QPoint(8, 8));
    QTRY_VERIFY2(most() < 1, qPrintable(QString::number(most())));
    choose("colorBy", static_cast<int>(Shown::FluxY));
    QTRY_VERIFY(std::abs(most() - 10000) < 1);
  }

  /// Given a part one sees through, then the slider says how clear it is, and a view keeps that.
  void howClear()
  {
    solved();
    openPanel();
    window_->scene().setPartLook("warm", PartLook::SeeThrough);
    const auto there = [&] {
      return canvas().grabFramebuffer().pixelColor(canvas().pixelOf(Vec3(0.03, 0, 0.02)).toPoint());
    };
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    find<QSlider>("lookClear")->setValue(0);
    QTRY_VERIFY(window_->scene().currentView().clear.has_value());
    QTest::qWait(50);
    const QColor solid = there();
    find<QSlider>("lookClear")->setValue(100);
    QTest::qWait(50);
    const QColor nothing = there();
    const int apart = std::abs(solid.red() - nothing.red()) + std::abs(solid.green() - nothing.green()) +
                      std::abs(solid.blue() - nothing.blue());
    QVERIFY2(apart > 30, qPrintable(solid.name() + " " + nothing.name()));
  }

  /// Given a section model, then a level is a line with its length of surface, and values stand up as heights.
  void aSectionAsHeights()
  {
    Project p = bar();
    p.section = Section{PlaneSection{Across::Y, number(0), std::nullopt}, {}};
    start(p, "flat");
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
    QTRY_VERIFY(canvas().isFlat());
    openPanel();
    QVERIFY(find<QSlider>("lookHeight")->isVisible());
    QTest::mouseClick(find<QCheckBox>("lookLevelOn"), Qt::LeftButton, {}, QPoint(8, 8));
    QTRY_VERIFY(find<QLineEdit>("lookLevelAt")->isVisible());
    type("lookLevelAt", "375 K");
    QTRY_COMPARE(words(), QString("0.02 m² per metre of depth in warm"));
    choose("lookLevelLook", static_cast<int>(LevelLook::Above));
    QTRY_VERIFY2(words().startsWith("0.0005 m³ per metre of depth: warm 50 %"), qPrintable(words()));
    QVERIFY(canvas().looksStraightAtSection());
    const auto depth = [&] {
      double low = 1e9, high = -1e9;
      for (const Vec3& place : canvas().drawnSkin().points) {
        low = std::min(low, place.y());
        high = std::max(high, place.y());
      }
      return high - low;
    };
    const double flat = depth();
    find<QSlider>("lookHeight")->setValue(40);
    QTRY_VERIFY(depth() > 10 * flat);
    QVERIFY(!canvas().looksStraightAtSection()); // from above they could not be seen
    QVERIFY(window_->scene().currentView().height.has_value());
    const auto [low, high] = canvas().model().bounds();
    QVERIFY(std::abs(depth() - flat - 0.4 * (high - low).norm()) < 0.02 * (high - low).norm());
    find<QSlider>("lookHeight")->setValue(0);
    QTRY_VERIFY(std::abs(depth() - flat) < 1e-9);
  }
};

int main(int argc, char** argv) { return kiln::runWindowTests<SeenTest>(argc, argv); }
#include "tst_seen.moc"
