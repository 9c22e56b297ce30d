// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is drawn on a face becomes a step of the right size at the right place, whichever way the part and the face are
// turned: against volumes, and against places that lie in the body or not.
#include "ShapeProjects.h"
#include "geometry/FaceSketch.h"
#include "geometry/Rotation.h"
#include "geometry/SurfaceFaces.h"
#include "model/RoundNumber.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

Project turnedBlock(const Vec3& degrees, const Vec3& position = Vec3(0.3, -0.2, 0.1))
{
  Project p = projectWith(0.02);
  p.parts = {part("p", "", block(0.1, 0.08, 0.06), position)};
  p.parts[0].shape.placement.rotation = {number(degrees.x() * pi / 180), number(degrees.y() * pi / 180),
                                         number(degrees.z() * pi / 180)};
  return p;
}

constexpr double whole = 0.1 * 0.08 * 0.06;

} // namespace

class SketchTest : public QObject
{
  Q_OBJECT

private slots:
  /// Numbers that were pointed at are written as one would, and what is written is what they are.
  void numbersAsWritten()
  {
    QCOMPARE(lengthNumber(0.0125).text, std::string("12.5 mm"));
    QCOMPARE(lengthNumber(-2e-8).text, std::string("0 mm")); // not "-0"
    QCOMPARE(angleNumber(-pi / 6).text, std::string("-30 deg"));
    QCOMPARE(coefficientNumber(12.3456).text, std::string("12.35 W/(m²·K)"));
    const std::array<std::pair<Quantity, Number>, 3> all{{{Quantity::Length, lengthNumber(0.123456789)},
                                                          {Quantity::Angle, angleNumber(1.23456789)},
                                                          {Quantity::AreaConductance, coefficientNumber(7.77777)}}};
    for (const auto& [quantity, value] : all) {
      const auto read = parseQuantity(value.text, quantity);
      QVERIFY2(read && std::abs(read->si - value.si) < 1e-12 * std::abs(value.si), value.text.c_str());
    }
  }

  /// The angles of a rotation are those it was made of, or others that turn the same way.
  void anglesOfARotation()
  {
    for (const double x : {-170.0, -20.0, 0.0, 45.0, 130.0})
      for (const double y : {-90.0, -35.0, 0.0, 60.0, 90.0})
        for (const double z : {-110.0, 0.0, 15.0, 180.0}) {
          const Eigen::Matrix3d turned =
              rotationOf({angleNumber(x * pi / 180), angleNumber(y * pi / 180), angleNumber(z * pi / 180)});
          QVERIFY((rotationOf(anglesOf(turned)) - turned).norm() < 1e-7);
        }
  }

  void everyFaceOfATurnedPart_data()
  {
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("y");
    QTest::addColumn<double>("z");
    QTest::newRow("upright") << 0.0 << 0.0 << 0.0;
    QTest::newRow("about z") << 0.0 << 0.0 << 30.0;
    QTest::newRow("about x") << 90.0 << 0.0 << 0.0;
    QTest::newRow("about y, upright angle") << 0.0 << 90.0 << 0.0;
    QTest::newRow("about all") << 20.0 << -35.0 << 110.0;
  }
  /// A rib stands out of the face by its height and changes the volume by its own; a pocket takes that away. Both stand
  /// where they were drawn: the top of the rib is a face at the place.
  void everyFaceOfATurnedPart()
  {
    QFETCH(const double, x);
    QFETCH(const double, y);
    QFETCH(const double, z);
    const Project p = turnedBlock({x, y, z});
    const FaceTable table = tableOf(p);
    for (const char* name : {"p.top", "p.bottom", "p.left", "p.right", "p.front", "p.back"}) {
      const Face& face = faceNamed(table, name);
      const auto plane = drawingPlane(face, PartId(0), p.parts[0]);
      QVERIFY2(plane, name);
      QVERIFY((plane->out - face.normal).norm() < 1e-9);
      QVERIFY((plane->along.cross(plane->across) - plane->out).norm() < 1e-9);
      const Sketch drawn{Sketch::Kind::Rectangle, {Vec2(-0.01, 0.004), Vec2(0.02, 0.016)}};
      for (const double height : {0.015, -0.02}) {
        Project changed = p;
        changed.parts[0].steps = {stepOf(drawn, height, *plane, p.parts[0])};
        changed.parts[0].steps[0].id = "own";
        const FaceTable after = tableOf(changed);
        const double expected = whole + 0.03 * 0.012 * height;
        QVERIFY2(std::abs(after.parts[0].volume - expected) < 1e-10,
                 (std::string(name) + " " + std::to_string(after.parts[0].volume - expected)).c_str());
        const Face& end = faceNamed(after, "p.own.top"); // of the rib; of what is cut, where it ends
        const Vec3 place = plane->placeOf(Vec2(0.005, 0.01), height);
        QVERIFY2((end.centroid - place).norm() < 1e-8, name);
        QVERIFY(std::abs(end.area - 0.03 * 0.012) < 1e-10);
      }
    }
  }

  void circlesAndOutlines()
  {
    const Project p = turnedBlock({10, 20, 30});
    const auto plane = drawingPlane(faceNamed(tableOf(p), "p.top"), PartId(0), p.parts[0]);
    const Sketch circle{Sketch::Kind::Circle, {Vec2(0.01, 0), Vec2(0.01, 0.012)}};
    const Sketch corner{Sketch::Kind::Outline, {Vec2(0, 0), Vec2(0.03, 0), Vec2(0, 0.02)}};
    const auto volumeWith = [&](const Sketch& sketch, double height) {
      Project changed = p;
      changed.parts[0].steps = {stepOf(sketch, height, *plane, p.parts[0])};
      changed.parts[0].steps[0].id = "own";
      return tableOf(changed).parts[0].volume;
    };
    QVERIFY(std::abs(volumeWith(circle, 0.01) - whole - pi * 0.012 * 0.012 * 0.01) < 1e-10);
    QVERIFY(std::abs(volumeWith(circle, -0.06) - whole + pi * 0.012 * 0.012 * 0.06) < 1e-10); // right through
    QVERIFY(std::abs(volumeWith(corner, 0.01) - whole - 0.5 * 0.03 * 0.02 * 0.01) < 1e-10);
    QVERIFY(std::abs(volumeWith(corner, -0.01) - whole + 0.5 * 0.03 * 0.02 * 0.01) < 1e-10);
    // An outline is not turned over when it is cut: what lies by its right angle is gone, what lies opposite is there.
    Project cut = p;
    cut.parts[0].steps = {stepOf(corner, -0.01, *plane, p.parts[0])};
    cut.parts[0].steps[0].id = "own";
    const Vec3 centroid = faceNamed(tableOf(cut), "p.own.top").centroid;
    QVERIFY((centroid - plane->placeOf(Vec2(0.01, 0.02 / 3), -0.01)).norm() < 1e-8);
  }

  /// What is cut reaches down to a face that it names, and follows it.
  void aHoleReachesDownToAFace()
  {
    Project p = turnedBlock({0, 0, 45});
    const auto plane = drawingPlane(faceNamed(tableOf(p), "p.top"), PartId(0), p.parts[0]);
    const Sketch circle{Sketch::Kind::Circle, {Vec2(0, 0), Vec2(0.01, 0)}};
    ShapeStep hole = stepOf(circle, -0.005, *plane, p.parts[0]);
    hole.id = "hole";
    const auto reach = reachOf(std::get<Cut>(hole.action).shape.form);
    QVERIFY(reach);
    *reach->upTo = "p.bottom";
    p.parts[0].steps = {hole};
    QVERIFY(std::abs(tableOf(p).parts[0].volume - whole + pi * 1e-4 * 0.06) < 1e-10);
  }

  void drawnLinesDivideWhereTheyAreDrawn()
  {
    Project p = turnedBlock({15, 0, 70});
    const auto plane = drawingPlane(faceNamed(tableOf(p), "p.right"), PartId(0), p.parts[0]);
    const Sketch drawn{Sketch::Kind::Rectangle, {Vec2(-0.02, -0.01), Vec2(0.01, 0.015)}};
    p.parts[0].steps = {divisionOf(drawn, "p.right")};
    p.parts[0].steps[0].id = "mark";
    const FaceTable divided = tableOf(p);
    const Face& inside = faceNamed(divided, "p.mark.inside");
    QVERIFY(std::abs(inside.area - 0.03 * 0.025) < 1e-10);
    QVERIFY((inside.centroid - plane->placeOf(Vec2(-0.005, 0.0025))).norm() < 1e-8);
  }

  void sizesAreTyped()
  {
    const Sketch drawn{Sketch::Kind::Rectangle, {Vec2(0.01, 0.01), Vec2(0, 0.02)}};
    const Sketch typed = drawn.sized({0.04, 0.03});
    QVERIFY((typed.points[1] - Vec2(0.01 - 0.04, 0.01 + 0.03)).norm() < 1e-12);  // towards where it was drawn
    QVERIFY((drawn.sized({0.02}).points[1] - Vec2(-0.01, 0.03)).norm() < 1e-12); // one number: a square
    const Sketch circle{Sketch::Kind::Circle, {Vec2(0, 0), Vec2(0, 0.5)}};
    QVERIFY(std::abs((circle.sized({0.02}).points[1]).norm() - 0.01) < 1e-12); // a diameter
    QVERIFY(!Sketch({Sketch::Kind::Rectangle, {Vec2(0, 0), Vec2(0.1, 0)}}).isSomething());
    QVERIFY(!Sketch({Sketch::Kind::Outline, {Vec2(0, 0), Vec2(0.1, 0)}}).isSomething());
    QCOMPARE(Sketch({Sketch::Kind::Rectangle, {Vec2(0, 0), Vec2(1, 1)}}).border().size(), std::size_t{5});
  }

  void roundFacesAreNoPlanes()
  {
    Project p = projectWith(0.02);
    p.parts = {part("rod", "", Cylinder{number(0.02), number(0.1)})};
    const FaceTable table = tableOf(p);
    QVERIFY(!drawingPlane(faceNamed(table, "rod.side"), PartId(0), p.parts[0]));
    const auto plane = drawingPlane(faceNamed(table, "rod.top"), PartId(0), p.parts[0]);
    QVERIFY(plane);
    QVERIFY(!plane->hitBy(Vec3(0, 0, 1), Vec3(1, 0, 1))); // beside it
    QVERIFY((*plane->hitBy(Vec3(0.01, 0, 1), Vec3(0.01, 0, 0.5)) - Vec3(0.01, 0, 0.1)).norm() < 1e-12);
  }
};

QTEST_GUILESS_MAIN(SketchTest)
#include "tst_sketch.moc"
