// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is seen of a result besides its colours: levels, lines, heat flux, cuts, labels, views, heat paths, faces.
#include "BarDriver.h"
#include "scene/AxisCross.h"
#include "scene/CutHandles.h"
#include "scene/CutList.h"
#include "scene/SceneOverlay.h"
#include "strip/LineChart.h"
#include "strip/PathsPage.h"
#include "strip/StripPanel.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QFileDialog>
#include <QMimeData>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>

using namespace kiln;
using namespace kiln::test;

class LookTest : public QObject, private BarDriver
{
  Q_OBJECT

private slots:
  /// Given a bar whose temperature falls evenly, then a typed level is its cross-section, what lies above is its share,
  /// and a watch of that is made.
  void aLevel()
  {
    solved();
    openPanel();
    QTest::mouseClick(find<QCheckBox>("lookLevelOn"), Qt::LeftButton, {}, QPoint(8, 8));
    QTRY_VERIFY(find<QLineEdit>("lookLevelAt")->isVisible());
    QVERIFY2(words().startsWith("0.0004 m²"), qPrintable(words())); // in the middle at first
    type("lookLevelAt", "375 K");                                   // a quarter from the right
    QTRY_COMPARE(words(), QString("0.0004 m² in warm"));
    choose("lookLevelLook", static_cast<int>(LevelLook::Above));
    QTRY_COMPARE(words(), QString("1e-05 m³: warm 50 %; reaches right"));
    choose("lookLevelLook", static_cast<int>(LevelLook::Below));
    QTRY_VERIFY2(words().contains("cool 100 %, warm 50 %") && words().contains("reaches left"), qPrintable(words()));
    auto* slider = find<QSlider>("lookLevel");
    slider->setValue(slider->maximum() / 4); // 325 K
    QTRY_VERIFY2(words().contains("cool 50 %"), qPrintable(words()));
    QVERIFY2(find<QLineEdit>("lookLevelAt")->text().startsWith("51."),
             qPrintable(find<QLineEdit>("lookLevelAt")->text()));
    QTest::mouseClick(find<QPushButton>("lookWatch"), Qt::LeftButton);
    QCOMPARE(project().watches.size(), 2U);
    QTRY_VERIFY(document().shownFigures()->watches.size() == 2);
    QVERIFY(std::abs(*document().shownFigures()->watches[1].value - 3e-5) < 1e-9); // three quarters of 40 cm³
    window_->document().undoStack().undo();
    QCOMPARE(project().watches.size(), 1U);
    QTest::mouseClick(find<QCheckBox>("lookLevelOn"), Qt::LeftButton, {}, QPoint(8, 8));
    QTRY_VERIFY(!find<QLineEdit>("lookLevelAt")->isVisible() && !canvas().isGlass());
  }

  /// Given lines of equal value, then they lie at round degrees where those are, with their numbers in scene and
  /// legend.
  void linesOfEqualValue()
  {
    solved();
    openPanel();
    find<QSpinBox>("lookLines")->setValue(5);
    QTRY_COMPARE(drawing().labels().size(), 5U); // 40, 60, 80, 100 and 120 °C
    QCOMPARE(drawing().labels().front().text, QString("40.0 °C"));
    for (const LevelLine& line : drawing().lines())
      for (const Vec3& point : line.points)
        QVERIFY(std::abs(300 + 1000 * (point.x() + 0.05) - line.level) < 1e-6);
    QCOMPARE(window_->scene().overlay().lineNumbers().size(), 5U);
    find<QSpinBox>("lookLines")->setValue(0);
    QTRY_VERIFY(drawing().lines().empty() && window_->scene().overlay().lineNumbers().empty());
  }

  /// Given palettes and steps, then a place has the colour that they give its temperature.
  void palettesAndSteps()
  {
    solved();
    openPanel();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    const auto colorAtThird = [&] {
      const QImage picture = canvas().grabFramebuffer();
      const QPointF pixel = canvas().pixelOf(Vec3(-0.05 + 0.1 / 3, 0.001, 0.02)) * picture.devicePixelRatio();
      return QColor(picture.pixel(pixel.toPoint()));
    };
    const auto isGrey = [](const QColor& c) {
      return std::abs(c.red() - c.blue()) < 6 && std::abs(c.red() - c.green()) < 6;
    };
    QVERIFY(!isGrey(colorAtThird()));
    choose("lookPalette", static_cast<int>(Palette::Grey));
    QTRY_VERIFY(isGrey(colorAtThird()));
    const int smooth = colorAtThird().lightness();
    find<QSpinBox>("lookSteps")->setValue(2); // the lower half is of one colour: the darkest
    QTRY_VERIFY2(colorAtThird().lightness() < smooth - 20, qPrintable(colorAtThird().name()));
  }

  /// Given arrows and streamlines, then there are more where more are asked for, and streamlines run from end to end.
  void heatFlux()
  {
    solved();
    openPanel();
    choose("lookFlux", static_cast<int>(FluxLook::Arrows));
    QTRY_VERIFY(drawing().arrows() > 10);
    const std::size_t few = drawing().arrows();
    find<QSlider>("lookDensity")->setValue(90);
    QTRY_VERIFY(drawing().arrows() > few);
    choose("lookFlux", static_cast<int>(FluxLook::Streamlines));
    QTRY_VERIFY(drawing().ways() > 4 && drawing().arrows() == 0);
    QVERIFY(canvas().isGlass()); // else they could not be seen
    choose("lookFlux", static_cast<int>(FluxLook::None));
    QTRY_VERIFY(drawing().ways() == 0 && !canvas().isGlass());
  }

  /// Given a component of the flux, then hovering reads it, with its sign.
  void hoverReadsWhatIsShown()
  {
    solved();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    const auto hover = [&] {
      QTest::mouseMove(&canvas(), QPoint(3, 3));
      QTest::mouseMove(&canvas(), canvas().pixelOf(Vec3(0.025, 0.002, 0.02)).toPoint());
      return window_->scene().overlay().hover();
    };
    QTRY_VERIFY2(hover().endsWith("101.9 °C") || hover().contains("102"), qPrintable(hover()));
    choose("colorBy", static_cast<int>(Shown::FluxX));
    QTRY_VERIFY2(hover().contains("−10 kW/m²"), qPrintable(hover()));
    choose("colorBy", static_cast<int>(Shown::Gradient));
    QTRY_VERIFY2(hover().contains("1000 K/m"), qPrintable(hover()));
    choose("colorBy", static_cast<int>(Shown::Material));
    QTRY_VERIFY2(hover().endsWith("metal"), qPrintable(hover()));
  }

  /// Given cuts, then they take away what lies beyond; one is dragged by its grip, tilted, turned round and removed.
  void cuts()
  {
    solved();
    openPanel();
    canvas().lookAlong(Vec3(0, 1, 0), Vec3(0, 0, 1));
    QTest::mouseClick(find<QToolButton>("cutAddX"), Qt::LeftButton);
    QTRY_COMPARE(canvas().sections().size(), 1U);
    QVERIFY(std::abs(canvas().sections()[0].through.x()) < 1e-9);
    double area = 0;
    for (const auto& t : canvas().drawnCuts().triangles) {
      const auto corner = [&](std::size_t i) { return canvas().drawnCuts().points[static_cast<std::size_t>(t[i])]; };
      area += (corner(1) - corner(0)).cross(corner(2) - corner(0)).norm() / 2;
    }
    QVERIFY(area < 4e-4 + 1e-9); // it lies on the faces where the halves meet: theirs, or none
    const QPoint grip = window_->scene().cutHandles().grip(0).toPoint();
    const QPoint away = canvas().pixelOf(Vec3(0.02, 0, 0.01)).toPoint();
    QTest::mousePress(&canvas(), Qt::LeftButton, {}, grip);
    QTest::mouseMove(&canvas(), away);
    QTest::mouseRelease(&canvas(), Qt::LeftButton, {}, away);
    QTRY_VERIFY2(std::abs(canvas().sections()[0].through.x() - 0.02) < 1e-3,
                 qPrintable(QString::number(canvas().sections()[0].through.x())));
    QCOMPARE(find<QComboBox>("sectionAxis")->currentText(), QString("Own cuts"));
    find<QSpinBox>("cutAbout1")->setValue(90); // now it takes away the back
    QTRY_VERIFY(std::abs(canvas().sections()[0].normal.y() - 1) < 1e-9);
    QTest::mouseClick(find<QToolButton>("cutFlip1"), Qt::LeftButton);
    QTRY_VERIFY(std::abs(canvas().sections()[0].normal.y() + 1) < 1e-9);
    QTest::mouseClick(find<QToolButton>("cutAddZ"), Qt::LeftButton);
    QTRY_COMPARE(canvas().sections().size(), 2U);
    QVERIFY(!canvas().drawnCuts().elementEdges.empty());
    QTest::mouseClick(find<QToolButton>("cutRemove1"), Qt::LeftButton);
    QTRY_COMPARE(canvas().sections().size(), 1U);
    QVERIFY(std::abs(canvas().sections()[0].normal.z() - 1) < 1e-9);
  }

  /// Given parts pulled apart, then they stand farther from each other and show the faces they met with.
  void pulledApart()
  {
    solved();
    openPanel();
    const auto width = [&] {
      const auto [low, high] = canvas().model().bounds();
      return high.x() - low.x();
    };
    QVERIFY(std::abs(width() - 0.1) < 1e-9);
    const std::size_t before = canvas().drawnSkin().triangles.size();
    choose("lookApartAlong", static_cast<int>(Axis::X));
    find<QSlider>("lookApart")->setValue(50);
    QTRY_VERIFY(width() > 0.15);
    QVERIFY(canvas().drawnSkin().triangles.size() > before);
    find<QSlider>("lookApart")->setValue(0);
    QTRY_VERIFY(std::abs(width() - 0.1) < 1e-9);
  }

  /// Given a view that is kept, then it is in the file, the project opens with it, and Ctrl+1 brings it back.
  void viewsAreKept()
  {
    solved();
    openPanel();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    QTest::mouseClick(find<QToolButton>("cutAddY"), Qt::LeftButton);
    choose("colorBy", static_cast<int>(Shown::HeatFlux));
    find<QSpinBox>("lookLines")->setValue(4);
    window_->scene().setPartLook("cool", PartLook::SeeThrough);
    const Vec3 eye = canvas().eye();
    QTest::keyClicks(find<QLineEdit>("viewName"), "From above");
    QTest::mouseClick(find<QToolButton>("viewKeep"), Qt::LeftButton);
    QCOMPARE(project().views.size(), 1U);
    QCOMPARE(project().views[0].seeThrough, std::vector<std::string>{"cool"});
    QVERIFY(document().state("steady").outOfDate.isEmpty()); // a view changes no result
    QVERIFY(window_->document().save());
    const QString file = QString::fromStdString(document().file().string());

    window_.reset();
    open();
    window_->openFile(file);
    waitForShapes();
    const auto asKept = [&] {
      return (canvas().eye() - eye).norm() < 1e-9 && canvas().sections().size() == 1 &&
             find<QComboBox>("colorBy")->currentIndex() == static_cast<int>(Shown::HeatFlux) &&
             canvas().looks()[0] == PartLook::SeeThrough;
    };
    QTRY_VERIFY(asKept());
    window_->scene().showAllParts();
    window_->scene().setSection(-1, 0);
    canvas().lookFromCorner();
    choose("colorBy", 0);
    QVERIFY(!asKept());
    QTest::keyClick(window_.get(), Qt::Key_1, Qt::ControlModifier);
    QTRY_VERIFY(asKept());
    openPanel();
    QTest::mouseClick(find<QToolButton>("viewMore:from-above"), Qt::NoButton);
    walkMenu({"Remove it"}, [&] { find<QToolButton>("viewMore:from-above")->showMenu(); });
    QTRY_VERIFY(project().views.empty());
    window_->document().undoStack().undo();
    QCOMPARE(project().views.size(), 1U);
  }

  /// Given a project with a view and no result, then its shapes are seen by that view once they are drawn; and one
  /// without views shows nothing of the one before.
  void aViewOfWhatIsNotSolved()
  {
    Project p = bar();
    View view;
    view.id = view.name = "above";
    view.eye = {{0, {}}, {0, {}}, {0.7, {}}};
    view.up = {{0, {}}, {1, {}}, {0, {}}};
    view.towards = {{0, {}}, {0, {}}, {0.01, {}}};
    view.cuts = {{"cut-1", {{0, {}}, {0, {}}, {0.015, {}}}, {{0, {}}, {0, {}}, {1, {}}}}};
    view.lines = Number{6, {}};
    view.hidden = {"warm", "gone"}; // one of them is no part any more
    p.views = {view};
    start(p, "unsolved");
    QTRY_VERIFY(!canvas().model().empty());
    QTRY_COMPARE(canvas().sections().size(), 1U);
    QVERIFY((canvas().eye() - Vec3(0, 0, 0.7)).norm() < 1e-9);
    QVERIFY(canvas().looks()[1] == PartLook::Hidden && canvas().looks()[0] == PartLook::Shown);
    p.views.clear();
    const std::string other = save(p, "other");
    window_->openFile(QString::fromStdString(other));
    QTRY_VERIFY(canvas().sections().empty());
    QTRY_VERIFY(!canvas().model().empty() && canvas().looks()[1] == PartLook::Shown);
    openPanel();
    QCOMPARE(find<QSpinBox>("lookLines")->value(), 0);
  }

  /// Given the ends of the axes in the corner, then a click on one looks straight at that side.
  void axisCross()
  {
    solved();
    canvas().lookFromCorner();
    const AxisCross& cross = window_->scene().cross();
    QTest::mouseClick(&canvas(), Qt::LeftButton, {}, cross.end(2, true).toPoint());
    const SceneCanvas::Camera camera = canvas().camera();
    QTRY_VERIFY(((camera.towards - camera.eye).normalized() - Vec3(0, 0, -1)).norm() < 1e-6);
    QVERIFY(document().selectedId().empty()); // nothing was picked
    QTest::keyClick(window_.get(), Qt::Key_1, Qt::ControlModifier | Qt::AltModifier);
    const SceneCanvas::Camera right = canvas().camera();
    QTRY_VERIFY(((right.towards - right.eye).normalized() - Vec3(-1, 0, 0)).norm() < 1e-6);
    const double pixels = cross.scaleLength() / canvas().pixelLength();
    QVERIFY(pixels > 30 && pixels < 200);
    QVERIFY2(cross.scaleText().endsWith(" mm"), qPrintable(cross.scaleText()));
  }

  /// Given a picture that is saved, then it has the size that was asked for, and a drawing has its words and its scale.
  void pictures()
  {
    solved();
    const QString png = folder_.filePath("scene.png"), svg = folder_.filePath("scene.svg");
    const QSize before = canvas().size();
    QVERIFY(window_->scene().savePicture(png, {900, 700}, Qt::white));
    const QImage image(png);
    QCOMPARE(image.size(), QSize(900, 700));
    QCOMPARE(image.pixelColor(3, 3), QColor(Qt::white));
    QVERIFY(image.text("Title").contains("Steady") && image.text("Title").contains("Temperature, °C"));
    QCOMPARE(canvas().size(), before);
    document().edit("hotter", [](Project& p) {
      std::get<FixedSurface>(p.boundaries[1].condition).temperature = {500, "226.85 °C"};
    });
    QVERIFY(window_->scene().savePicture(svg, {800, 600}, Qt::white));
    QFile file(svg);
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QByteArray text = file.readAll();
    QVERIFY(text.contains("out of date") && text.contains("warm") && text.contains("<image"));
    QVERIFY(!window_->scene().savePicture("/nowhere/scene.png", {800, 600}, Qt::white));
    QVERIFY(!window_->scene().savePicture("/nowhere/scene.svg", {800, 600}, Qt::white));
    // The dialog asks, and says when it could not be written.
    QTest::keyClick(window_.get(), Qt::Key_P, Qt::ControlModifier | Qt::AltModifier);
    QTRY_VERIFY(window_->findChild<QDialog*>("pictureDialog") != nullptr);
    find<QSpinBox>("pictureWidth")->setValue(640);
    window_->findChild<QDialog*>("pictureDialog")->reject();
  }

  /// Given a picture at rest, then it is drawn again smooth; while one turns it is not.
  void smoothAtRest()
  {
    solved();
    QTRY_VERIFY(canvas().isSmooth());
    canvas().orbit(5, 0);
    QVERIFY(!canvas().isSmooth());
    QTRY_VERIFY(canvas().isSmooth());
    canvas().lookAlong(Vec3(0.3, 1, -0.4), Vec3(0, 0, 1));
    QTRY_VERIFY(canvas().isSmooth());
    choose("colorBy", static_cast<int>(Shown::Material)); // few colours but those that lines and borders are mixed of
    const auto colors = [&] {
      const QImage picture = canvas().grabFramebuffer();
      QSet<QRgb> all;
      for (int x = 0; x < picture.width(); ++x)
        for (int y = 0; y < picture.height(); ++y)
          all.insert(picture.pixel(x, y));
      return all.size();
    };
    canvas().orbit(3, 0);
    QVERIFY(!canvas().isSmooth());
    const auto plain = colors();
    QTRY_VERIFY(canvas().isSmooth());
    QVERIFY2(colors() > 2 * plain, qPrintable(QString("%1 %2").arg(colors()).arg(plain)));
  }

  /// Given the heat flux, then its largest place has a flag, with what is doubtful about it.
  void largestFlux()
  {
    solved();
    choose("colorBy", static_cast<int>(Shown::HeatFlux));
    QTRY_VERIFY(!window_->scene().overlay().flags().empty());
    const QString text = window_->scene().overlay().flags().front().text;
    QVERIFY2(text.startsWith("largest: ") && text.contains("10 kW/m²"), qPrintable(text));
  }

  /// Given instants that are typed, then their curves stand beside the shown one, and the difference to the first is
  /// drawn; what cannot be read is said.
  void instantsAlongALine()
  {
    Project p = bar();
    p.materials[0].density = number(2000);
    p.materials[0].specificHeat = Property{800, ""};
    p.watches[0].upper = Number{360, "86.85 °C"};
    Line line;
    line.id = line.name = "through";
    line.from = {{-0.05, "-50 mm"}, {0, "0 mm"}, {0.01, "10 mm"}};
    line.to = {{0.05, "50 mm"}, {0, "0 mm"}, {0.01, "10 mm"}};
    p.lines = {line};
    Case& one = p.cases.front();
    one.kind = Case::Kind::Transient;
    one.run = TransientRun{};
    one.run->start = StartUniform{number(300), {}, {}};
    one.run->ends = {{"end", EndAtTime{number(600)}, {}}};
    start(p, "warming");
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().run.record && document().shownState().run.record->finished);
    showPage(StripPanel::linePage);
    auto* chart = find<LineChart>("lineChart");
    QTRY_COMPARE(chart->curves().size(), 1U);
    type("lineInstants", "1 min, 5 min");
    QTRY_COMPARE(chart->curves().size(), 3U);
    QVERIFY(chart->curves()[0].name.endsWith("at 1 min") && chart->curves()[1].name.endsWith("at 5 min"));
    QVERIFY(chart->readoutAt(75).contains("°C"));
    choose("lineQuantity", 2);
    QTRY_COMPARE(chart->curves().size(), 2U); // less the first
    QVERIFY(chart->curves()[1].name.contains("−"));
    for (const QPolygonF& piece : chart->curves()[1].pieces)
      for (const QPointF& point : piece)
        QVERIFY(point.y() > -0.5); // it warms everywhere
    type("lineInstants", "1 day");
    QVERIFY2(find<QLineEdit>("lineInstants")->toolTip().contains("lies outside the run"),
             qPrintable(find<QLineEdit>("lineInstants")->toolTip()));
    QCOMPARE(chart->curves().size(), 2U);
    type("lineInstants", "every 3");
    QTRY_VERIFY(chart->curves().size() > 2);
  }
};

int main(int argc, char** argv) { return runWindowTests<LookTest>(argc, argv); }
#include "tst_look.moc"
