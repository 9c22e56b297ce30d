// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Two results seen together: beside each other, behind a line, by their difference; of this and of another project, and
// two instants of one run. And a watch at the centre of an arc.
#include "RoomsDriver.h"
#include "scene/BesideCanvas.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "scene/WipeLine.h"
#include "strip/StripPanel.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QLabel>
#include <QTabBar>
#include <QTableWidget>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// The plate warming from one temperature as its only case.
Project warmingPlate()
{
  Project p = plateInRooms(0);
  p.materials[0].density = number(2000);
  p.materials[0].specificHeat = Property{800, ""};
  Case& one = p.cases.front();
  one.kind = Case::Kind::Transient;
  one.run = TransientRun{};
  one.run->start = StartUniform{number(293.15), {}, {}};
  one.run->ends = {{"end", EndAtTime{number(1800)}, {}}};
  return p;
}

} // namespace

class BesideTest : public QObject, private RoomsDriver
{
  Q_OBJECT

  void showDifferencePage() { window_->strip().setPage(StripPanel::differencePage); }
  /// A figure of the page What differs: 1 of the shown case, 2 of the other; in °C without its unit.
  double shownFigure(const QString& name, int column)
  {
    auto* table = find<QTableWidget>("differentFigures");
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0)->text() == name)
        return table->item(row, column)->text().section(' ', 0, 0).replace(QChar(0x2212), '-').toDouble();
    return -1e9;
  }
  static QColor colorAt(SceneCanvas& canvas, const QPointF& pixel)
  {
    const QImage picture = canvas.grabFramebuffer();
    return QColor(picture.pixel((pixel * picture.devicePixelRatio()).toPoint()));
  }

private slots:
  /// Given two solved cases, then they stand beside each other with one camera, one scale and one size, the legend
  /// hides neither, and their difference is coloured about zero.
  void twoCasesStandBesideEachOther()
  {
    start(plateInRooms(2), "pair");
    window_->solver().solve({"room-0", "room-1"});
    waitForQueue();
    click("room-0");
    document().compareWith({"room-1"});
    window_->strip().setPage(StripPanel::differencePage);
    QTRY_VERIFY(find<QLabel>("stripTitle")->text().startsWith("“Room 1” beside Room 0, steady")); // names both
    QWidget* beside = window_->findChild<QWidget*>("beside");
    QVERIFY(beside != nullptr && !beside->isVisible());
    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
    QTRY_VERIFY(beside->isVisible());
    QCOMPARE(find<QLabel>("besideCaption")->text(), QString("Room 1"));
    auto& left = window_->scene().canvas();
    auto* right = find<SceneCanvas>("besideCanvas");
    QTRY_VERIFY(left.height() == right->height() && std::abs(left.width() - right->width()) <= 2);
    auto* legend = window_->findChild<QWidget*>("legend");
    const auto placeOf = [](const QWidget& w) { return QRect(w.mapToGlobal(QPoint()), w.size()); };
    QTRY_VERIFY(legend->isVisible() && !placeOf(*legend).intersects(placeOf(left)) &&
                !placeOf(*legend).intersects(placeOf(*right)));
    const double low = *document().state("room-0").watches[1].value, high = hottest("room-1");
    QVERIFY(high > hottest("room-0")); // one scale from the coldest of either to the hottest of either
    const auto scaleEnd = [this](const char* name) {
      return find<QLineEdit>(name)->text().section(' ', 0, 0).toDouble();
    };
    constexpr double zero = 273.15, shown = 0.06; // K, °C is shown to a tenth
    QTRY_VERIFY(std::abs(scaleEnd("legendBottom") + zero - low) < shown &&
                std::abs(scaleEnd("legendTop") + zero - high) < shown);
    const Vec3 corner(0.06, 0.06, 0.01), top(0.01, 0.01, 0.01);
    const auto colorOf = [&](SceneCanvas& canvas) {
      const QImage picture = canvas.grabFramebuffer();
      return QColor(picture.pixel((canvas.pixelOf(top) * picture.devicePixelRatio()).toPoint()));
    };
    const auto lighter = [&] { return colorOf(*right).lightness() - colorOf(left).lightness(); };
    QTRY_VERIFY2(lighter() > 30, qPrintable(colorOf(*right).name() + colorOf(left).name())); // hotter on one scale

    const auto apart = [&] { return (left.pixelOf(corner) - right->pixelOf(corner)).manhattanLength(); };
    QTRY_VERIFY(apart() < 3);
    const QPointF before = right->pixelOf(corner);
    const auto turn = [&] {
      QTest::mousePress(&left, Qt::LeftButton, {}, QPoint(20, left.height() - 20));
      QTest::mouseMove(&left, QPoint(80, left.height() - 40));
      QTest::mouseRelease(&left, Qt::LeftButton, {}, QPoint(80, left.height() - 40));
    };
    turn();
    QTRY_VERIFY((right->pixelOf(corner) - before).manhattanLength() > 5);
    QVERIFY(apart() < 3);
    QTest::mouseClick(find<QToolButton>("besideTied"), Qt::LeftButton);
    turn();
    QTRY_VERIFY(apart() > 5);

    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
    QTRY_VERIFY(!beside->isVisible() && legend->parentWidget() == &left && legend->isVisible());
    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    const double warmer = high - hottest("room-0"); // less than the rooms: radiation grows with the cube
    QVERIFY(warmer > 0.5 && warmer < 1);
    QTRY_VERIFY(std::abs(scaleEnd("legendTop") - warmer) < shown);
    QCOMPARE(scaleEnd("legendBottom"), -scaleEnd("legendTop"));
    QVERIFY2(window_->scene().overlay().caption().startsWith("Room 1 − Room 0"),
             qPrintable(window_->scene().overlay().caption()));
  }

  /// Given a line between two cases, then each shows on its side of it where the whole view has it, with one scale; the
  /// line is moved with pointer and keys.
  void oneBehindALine()
  {
    start(plateInRooms(2), "line");
    window_->solver().solve({"room-0", "room-1"});
    waitForQueue();
    click("room-0");
    document().compareWith({"room-1"});
    auto& left = window_->scene().canvas();
    const int wide = left.width();
    QTest::mouseClick(find<QToolButton>("wipeTool"), Qt::LeftButton);
    auto* line = find<WipeLine>("wipeLine");
    auto* right = find<SceneCanvas>("besideCanvas");
    QTRY_VERIFY(line->isVisible() && right->isVisible());
    QVERIFY(left.width() > wide / 2 + 60); // it keeps its room, but for the scale
    const auto offset = [&] { return right->mapTo(&left, QPoint()).x(); };
    const auto agree = [&] { // a place is at the same pixel of the window in both
      const Vec3 corner(0.03, 0.03, 0.01);
      const QPointF there = right->pixelOf(corner) + QPointF(offset(), 0);
      return (left.pixelOf(corner) - there).manhattanLength() < 2;
    };
    QTRY_VERIFY(agree() && std::abs(offset() - left.width() / 2) <= 1);
    QTest::mousePress(line, Qt::LeftButton, {}, line->rect().center());
    QTest::mouseMove(line, line->rect().center() + QPoint(90, 0));
    QTest::mouseRelease(line, Qt::LeftButton, {}, line->rect().center());
    QTRY_VERIFY(agree() && std::abs(offset() - left.width() / 2 - 90) <= 2);
    const int before = offset();
    line->setFocus();
    QTest::keyClick(line, Qt::Key_Left);
    QTRY_VERIFY(agree() && offset() < before);
    QTest::mouseDClick(line, Qt::LeftButton);
    QTRY_VERIFY(std::abs(offset() - left.width() / 2) <= 1);
    QTest::mousePress(right, Qt::LeftButton, {}, QPoint(40, right->height() - 20)); // either side turns both
    QTest::mouseMove(right, QPoint(90, right->height() - 60));
    QTest::mouseRelease(right, Qt::LeftButton, {}, QPoint(90, right->height() - 60));
    QTRY_VERIFY(agree());
    QCOMPARE(find<QLabel>("besideCaption")->text(), QString("Room 1"));
    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier | Qt::AltModifier);
    QTRY_VERIFY(!line->isVisible() && !right->isVisible());
    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier); // beside each other it is a whole view again
    QTRY_VERIFY(right->isVisible() && std::abs(left.width() - right->width()) <= 2);
    const Vec3 corner(0.03, 0.03, 0.01);
    QTRY_VERIFY((left.pixelOf(corner) - right->pixelOf(corner)).manhattanLength() < 3);
  }

  /// Given a case of another project, then it is read in the background, named with its file, and stands beside the
  /// shown one; a file that is gone says so.
  void aCaseOfAnotherProject()
  {
    Project other = plateInRooms(1);
    other.sources[0].heat = PartPower{{"plate"}, {6, "6 W"}};
    start(other, "other");
    window_->solver().solve({"room-0"});
    waitForQueue();
    const double there = hottest("room-0");
    start(plateInRooms(1), "here");
    solve();
    showDifferencePage();
    auto* choice = find<QComboBox>("comparedCase");
    QTimer answer; // first for the file, then for its case
    connect(&answer, &QTimer::timeout, this, [&] {
      QWidget* dialog = QApplication::activeModalWidget();
      if (auto* cases = qobject_cast<QInputDialog*>(dialog)) {
        cases->setTextValue("Room 0");
        cases->accept();
      } else if (auto* files = qobject_cast<QFileDialog*>(dialog)) {
        files->findChild<QLineEdit*>("fileNameEdit")->setText(folder_.filePath("other.kiln"));
        QMetaObject::invokeMethod(files, "accept");
      }
    });
    answer.start(100);
    pickCombo("comparedCase", choice->findText("A case of another project…"));
    answer.stop();
    window_->activateWindow(); // nobody manages windows here
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
    QCOMPARE(project().cases.front().comparedProject, std::string("other.kiln"));
    QTRY_VERIFY(document().compared().state != nullptr);
    QCOMPARE(document().compared().name, QString("other.kiln: Room 0"));
    QTRY_VERIFY(std::abs(shownFigure("hot", 2) + 273.15 - there) < 0.06);
    QVERIFY(std::abs(shownFigure("hot", 1) + 273.15 - hottest("steady")) < 0.06);
    QVERIFY(find<QLabel>("stripTitle")->text().startsWith("“other.kiln: Room 0” beside Steady"));
    QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
    QTRY_VERIFY(find<BesideCanvas>("beside")->isVisible());
    const auto range = [this] { return find<BesideCanvas>("beside")->range().value_or(std::pair(0., 0.)); };
    QTRY_VERIFY2(range().second > there - 0.1, qPrintable(QString("%1, not %2").arg(range().second).arg(there)));
    QCOMPARE(find<QLabel>("besideCaption")->text(), QString("other.kiln: Room 0"));
    window_->scene().setColorBy(static_cast<int>(Shown::Difference));
    QTRY_VERIFY(window_->scene().overlay().caption().startsWith("other.kiln: Room 0 − Steady"));
    QVERIFY(std::abs(document().difference()->high - (there - hottest("steady"))) < 0.2);

    document().undoStack().undo(); // to what it was compared with before
    QCOMPARE(document().compared().name, QString("Room 0"));
    document().compareWith({"room-0", "gone.kiln"});
    QTRY_VERIFY2(document().compared().problem.contains("gone.kiln"), qPrintable(document().compared().problem));
    QTRY_VERIFY(find<QLabel>("comparedNotes")->text().contains("gone.kiln"));
    document().compareWith({"no-such", "other.kiln"});
    QTRY_VERIFY2(document().compared().problem.contains("no case “no-such”"),
                 qPrintable(document().compared().problem));
  }

  /// Given a run, then one of its instants stands beside another one of it.
  void twoInstantsOfOneRun()
  {
    start(warmingPlate(), "instants");
    solve();
    showDifferencePage();
    auto* choice = find<QComboBox>("comparedCase");
    const int itself = choice->findText("Steady itself, at another instant");
    QVERIFY(itself >= 0);
    pickCombo("comparedCase", itself);
    type("comparedInstant", "10 min");
    QTRY_COMPARE(document().compared().name, QString("Steady, at 10 min"));
    document().setPlayhead(1200);
    const RunRecord& run = *document().shownState().run.record;
    const auto at = [&](double time) { return *run.at(RunTrace::Kind::Watch, "hot", time) - 273.15; };
    QTRY_VERIFY2(std::abs(shownFigure("hot", 1) - at(1200)) < 0.06, qPrintable(QString::number(shownFigure("hot", 1))));
    QVERIFY(std::abs(shownFigure("hot", 2) - at(600)) < 0.06);
    QVERIFY(at(1200) > at(600) + 1);
    const DifferentSide side = document().comparedSide();
    QVERIFY(std::abs(*std::max_element(side.kelvin->begin(), side.kelvin->end()) - 273.15 - at(600)) < 0.2);
    document().setPlayhead(1500); // the chosen instant stays
    QVERIFY(document().comparedSide().kelvin == side.kelvin);
    QVERIFY(document().difference()->mean < 0);
    auto* instant = find<QLineEdit>("comparedInstant");
    instant->setFocus();
    instant->selectAll();
    QTest::keyClick(instant, Qt::Key_Delete);
    QTest::keyClick(instant, Qt::Key_Return);
    QTRY_VERIFY(document().compared().name.isEmpty()); // itself at its end is nothing to compare with
  }

  /// Given a click near a round edge, then a watch stands at its centre; a straight edge is refused in words.
  void aWatchAtTheCentreOfAnArc()
  {
    Project p = plateInRooms(0);
    p.parts[0].shape.form = Cylinder{number(0.03), number(0.01)};
    start(p, "arc");
    auto& canvas = window_->scene().canvas();
    canvas.lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    choose("addWatch", {"Temperature at the centre of an arc"});
    const QPoint near = canvas.pixelOf(Vec3(0.027, 0, 0.01)).toPoint();
    QTest::mouseClick(&canvas, Qt::LeftButton, {}, near);
    QTRY_COMPARE(project().watches.size(), 3U);
    const auto& place = std::get<PointFigure>(project().watches.back().figure).place;
    QVERIFY(std::hypot(place.x.si, place.y.si) < 1e-6 && std::abs(place.z.si - 0.01) < 1e-6);

    start(plateInRooms(0), "straight");
    auto& other = window_->scene().canvas();
    other.lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    choose("addWatch", {"Temperature at the centre of an arc"});
    QTest::mouseClick(&other, Qt::LeftButton, {}, other.pixelOf(Vec3(0.02, 0, 0.01)).toPoint());
    QTRY_VERIFY(window_->scene().overlay().hover().contains("no arc"));
    QCOMPARE(project().watches.size(), 2U);
    QTest::keyClick(&other, Qt::Key_Escape);
    QTRY_VERIFY(window_->scene().overlay().hover().isEmpty());
  }
};

int main(int argc, char** argv) { return runWindowTests<BesideTest>(argc, argv); }
#include "tst_beside.moc"
