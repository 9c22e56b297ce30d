// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "scene/ColorMap.h"
#include "scene/Legend.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneModel.h"
#include "scene/SurfacePicker.h"
#include "window/Application.h"

#include <QApplication>
#include <QLineEdit>
#include <QSignalSpy>
#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A cold block with a warm one on top; they touch.
std::shared_ptr<const CaseResult> twoBlocks()
{
  static const auto result = [] {
    Project project = projectWith(0.01);
    project.materials = {material("m", 5)};
    project.parts = {part("low", "m", block(0.06, 0.06, 0.03)),
                     part("high", "m", block(0.03, 0.03, 0.03), Vec3(0, 0, 0.03))};
    project.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"})};
    project.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)}),
                          boundary("warm", FixedSurface{"top", number(400)})};
    return std::make_shared<const CaseResult>(solve(project));
  }();
  return result;
}

SceneModel::Source source()
{
  const auto result = twoBlocks();
  return {{result, &result->mesh}, {result, &result->unknowns}, {result, &result->temperature}, nullptr};
}

double areaOf(const DrawnSurface& surface)
{
  double area = 0;
  for (const Triangle& t : surface.triangles) {
    const auto p = [&](std::size_t i) -> const Vec3& { return surface.points[static_cast<std::size_t>(t[i])]; };
    area += (p(1) - p(0)).cross(p(2) - p(0)).norm() / 2;
  }
  return area;
}

constexpr double outerArea =
    2 * 0.0036 + 4 * 0.0018 + 4 * 0.0009; // the touching square is hidden once below, once above

} // namespace

class SceneTest : public QObject
{
  Q_OBJECT

private slots:
  void theSkinLeavesOutWhatNobodySees()
  {
    SceneModel model;
    model.setSource(source());
    const DrawnSurface all = model.skin({PartLook::Shown, PartLook::Shown}, PartLook::Shown);
    QVERIFY(std::abs(areaOf(all) - outerArea) < 1e-9);
    const DrawnSurface low = model.skin({PartLook::Shown, PartLook::Hidden}, PartLook::Shown);
    QVERIFY(std::abs(areaOf(low) - (2 * 0.0036 + 4 * 0.0018)) < 1e-9); // the touching face appears
    QVERIFY(model.skin({PartLook::Shown, PartLook::Shown}, PartLook::SeeThrough).triangles.empty());
    QVERIFY(!all.edges.empty());
  }

  void theSectionShowsTheInside()
  {
    SceneModel model;
    model.setSource(source());
    const DrawnSurface cut = model.sections({PartLook::Shown, PartLook::Shown}, {{Vec3(0, 0.001, 0), Vec3::UnitY()}});
    QVERIFY(std::abs(areaOf(cut) - (0.06 * 0.03 + 0.03 * 0.03)) < 1e-9);
    for (std::size_t i = 0; i < cut.points.size(); ++i)
      QVERIFY(std::abs(cut.points[i].y() - 0.001) < 1e-12);
    for (const double temperature : cut.temperatures)
      QVERIFY(temperature > 299.9 && temperature < 400.1);
  }

  /// On a cut, only lines of elements are drawn, not of the pieces that those of second order are drawn by: as long as
  /// on the same mesh of first order. Where faces meet the cut, its edges go around it.
  void elementLinesOfACut()
  {
    const auto linesOf = [](bool secondOrder) {
      Project project = projectWith(0.012);
      project.mesh.secondOrder = secondOrder;
      project.parts = {part("low", "", block(0.06, 0.06, 0.03))};
      const Mesh mesh = meshOf(project);
      Unknowns unknowns;
      unknowns.ofTet.resize(mesh.tets.size());
      SceneModel model;
      model.setSource(
          {std::make_shared<const Mesh>(mesh), std::make_shared<const Unknowns>(unknowns), nullptr, nullptr});
      const DrawnSurface cut =
          model.sections({PartLook::Shown}, {{Vec3(0, 0.001, 0), Vec3(0.1, 1, 0.05).normalized()}});
      const auto length = [&](const auto& lines) {
        double sum = 0;
        for (const auto& [a, b] : lines)
          sum += (cut.points[static_cast<std::size_t>(a)] - cut.points[static_cast<std::size_t>(b)]).norm();
        return sum;
      };
      return std::array{length(cut.elementEdges), length(cut.edges), areaOf(cut)};
    };
    const auto first = linesOf(false);
    const auto second = linesOf(true);
    for (std::size_t i = 0; i < 3; ++i)
      QVERIFY2(std::abs(first[i] - second[i]) < 1e-9 * first[i],
               qPrintable(QString("%1: %2, %3").arg(i).arg(first[i]).arg(second[i])));
    QVERIFY(first[0] > 5 * first[1]);
  }

  /// Several planes at once, each with its own; a part that is drawn elsewhere is cut there.
  void severalPlanesAndParts()
  {
    SceneModel model;
    model.setSource(source());
    const std::vector<PartLook> shown{PartLook::Shown, PartLook::Shown};
    const SectionPlane across{Vec3(0, 0.001, 0), Vec3::UnitY()};
    const SectionPlane flat{Vec3(0, 0, 0.01), Vec3::UnitZ()};
    const double one = areaOf(model.sections(shown, {across}));
    const double other = areaOf(model.sections(shown, {flat}));
    QVERIFY(std::abs(other - 0.0036) < 1e-9);
    const DrawnSurface both = model.sections(shown, {across, flat});
    QVERIFY(std::abs(areaOf(both) - one - other) < 1e-9);
    QCOMPARE(both.face.size(), both.triangles.size());
    QCOMPARE(both.temperatures.size(), both.points.size());
    QCOMPARE(both.pointPart.size(), both.blends.size());
    model.setOffsets({Vec3::Zero(), Vec3(0, 0.1, 0)}); // the upper one, out of reach of the cut
    QVERIFY(std::abs(areaOf(model.sections(shown, {across})) - 0.06 * 0.03) < 1e-9);
    QVERIFY(std::abs(areaOf(model.sections({PartLook::Hidden, PartLook::Shown}, {across}))) < 1e-12);
  }

  void picksTheNearestVisibleTriangle()
  {
    SceneModel model;
    model.setSource(source());
    const DrawnSurface skin = model.skin({PartLook::Shown, PartLook::Shown}, PartLook::Shown);
    SurfacePicker picker;
    picker.setSurface(skin);
    const auto top = picker.pick(Vec3(0.001, 0.002, 1), Vec3(0.001, 0.002, -1), {});
    QVERIFY(top && std::abs(top->place.z() - 0.06) < 1e-9 && std::abs(*top->temperature - 400) < 1e-6);
    // With the front half cut away the ray goes on to the back wall.
    const SectionPlanes plane{{Vec3::Zero(), -Vec3::UnitY()}};
    const auto behind = picker.pick(Vec3(0.001, -1, 0.01), Vec3(0.001, 1, 0.01), plane);
    QVERIFY(behind && std::abs(behind->place.y() - 0.03) < 1e-9);
    QVERIFY(!picker.pick(Vec3(1, 1, 1), Vec3(1, 1, -1), {}));
  }

  void theColourMapGrowsLighterAllTheWay()
  {
    double before = -1;
    for (int i = 0; i <= 100; ++i) {
      const QColor color = kilnGlow(i / 100.0);
      const auto linear = [](double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
      const double luminance =
          0.2126 * linear(color.redF()) + 0.7152 * linear(color.greenF()) + 0.0722 * linear(color.blueF());
      QVERIFY2(luminance > before, qPrintable(QString::number(i)));
      before = luminance;
    }
  }

  void theCanvasDrawsAndPicksWhatIsUnderThePointer()
  {
    SceneCanvas canvas;
    canvas.resize(500, 400);
    canvas.setSource(source());
    Coloring coloring;
    coloring.low = 300;
    coloring.high = 400;
    canvas.setColoring(coloring);
    canvas.setBackground(QColor(10, 200, 10), Qt::black);
    canvas.show();
    QVERIFY(QTest::qWaitForWindowExposed(&canvas));
    canvas.lookAlong(Vec3(0, 1, 0), Vec3(0, 0, 1));
    QTest::qWait(100);
    const QImage picture = canvas.grab().toImage();
    const auto pixelAt = [&](const Vec3& place) {
      return picture.pixelColor((canvas.pixelOf(place) * canvas.devicePixelRatioF()).toPoint());
    };
    // Bright at the warm top, dark at the cold bottom, background beside it.
    QVERIFY(pixelAt(Vec3(0.003, -0.015, 0.058)).lightness() > 150);
    QVERIFY(pixelAt(Vec3(0.003, -0.03, 0.002)).lightness() < 60);
    QCOMPARE(pixelAt(Vec3(0.027, -0.015, 0.05)), QColor(10, 200, 10));
    const auto picked = canvas.pickAt(canvas.pixelOf(Vec3(0.004, -0.015, 0.045)));
    QVERIFY(picked && picked->part == 1 && (picked->place - Vec3(0.004, -0.015, 0.045)).norm() < 1e-4);
    QVERIFY(canvas.isCovered(Vec3(0, 0, 0.015)));
    QVERIFY(!canvas.isCovered(Vec3(0, -0.03, 0.015)));
    // Clicking says so; dragging does not.
    QSignalSpy clicks(&canvas, &SceneCanvas::picked);
    const QPoint spot = canvas.pixelOf(Vec3(0.004, -0.015, 0.045)).toPoint();
    QTest::mouseClick(&canvas, Qt::LeftButton, {}, spot);
    QCOMPARE(clicks.size(), 1);
    const Vec3 eye = canvas.eye();
    QTest::mousePress(&canvas, Qt::LeftButton, {}, spot);
    QMouseEvent move(QEvent::MouseMove, spot + QPoint(60, 20), canvas.mapToGlobal(spot + QPoint(60, 20)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(&canvas, &move);
    QTest::mouseRelease(&canvas, Qt::LeftButton, {}, spot + QPoint(60, 20));
    QCOMPARE(clicks.size(), 1);
    QVERIFY((canvas.eye() - eye).norm() > 0.01);
  }

  void reparentingKeepsThePicture()
  {
    QWidget first, second;
    auto* canvas = new SceneCanvas(&first);
    canvas->resize(300, 200);
    canvas->setSource(source());
    canvas->setBackground(QColor(0, 0, 250), Qt::white);
    first.resize(300, 200);
    first.show();
    QVERIFY(QTest::qWaitForWindowExposed(&first));
    canvas->setParent(&second);
    canvas->show();
    second.resize(300, 200);
    second.show();
    QVERIFY(QTest::qWaitForWindowExposed(&second));
    QTest::qWait(100);
    const QImage picture = canvas->grab().toImage();
    QCOMPARE(picture.pixelColor(3, 3), QColor(0, 0, 250));
    QVERIFY(picture.pixelColor(picture.width() / 2, picture.height() / 2) != QColor(0, 0, 250));
  }

  void theLegendsEndsAreEditable()
  {
    Legend legend;
    legend.resize(110, 300);
    legend.setRange(300, 400);
    legend.show();
    QVERIFY(QTest::qWaitForWindowExposed(&legend));
    QSignalSpy edited(&legend, &Legend::rangeEdited);
    auto* top = legend.findChild<QLineEdit*>("legendTop");
    top->selectAll();
    QTest::keyClicks(top, "500 K");
    QTest::keyClick(top, Qt::Key_Return);
    QCOMPARE(edited.size(), 1);
    QCOMPARE(edited[0][1].toDouble(), 500.0);
    QVERIFY(legend.isPinned());
  }
};

int main(int argc, char** argv)
{
  kiln::prepareApplication();
  QApplication application(argc, argv);
  SceneTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_scene.moc"
