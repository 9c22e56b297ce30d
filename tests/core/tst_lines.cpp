// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Profiles beside each other, instants as people say them, and places that are easily named.
#include "TestProjects.h"
#include "mesh/RoundEdge.h"
#include "mesh/SnapPlaces.h"
#include "results/ChosenInstants.h"
#include "results/LineProfile.h"

#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Temperature linear from piece to piece, 0 to 40 mm.
std::vector<LinePiece> ramp(double low, double high, int pieces, double begin = 0)
{
  std::vector<LinePiece> all;
  for (int i = 0; i < pieces; ++i) {
    LinePiece piece;
    piece.from = begin + 0.04 * i / pieces;
    piece.to = begin + 0.04 * (i + 1) / pieces;
    piece.temperatureFrom = low + (high - low) * i / pieces;
    piece.temperatureTo = low + (high - low) * (i + 1) / pieces;
    piece.part = PartId(0);
    all.push_back(piece);
  }
  return all;
}

RunRecord aRun()
{
  RunRecord record;
  record.times = {0, 60, 600, 3600};
  record.instants = {0, 60, 300, 600, 1800, 3600};
  record.marks = {{120, RunMark::Kind::SwitchedOff, "coils", "off"}, {60, RunMark::Kind::RuleFired, "r", ""}};
  return record;
}

std::size_t countOf(const std::vector<SnapPlace>& places, SnapPlace::Kind kind)
{
  return static_cast<std::size_t>(
      std::count_if(places.begin(), places.end(), [&](const SnapPlace& one) { return one.kind == kind; }));
}

} // namespace

class LinesTest : public QObject
{
  Q_OBJECT
private slots:
  void instants_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QList<double>>("times");
    QTest::newRow("times") << "10 min, 1 h,0.5 min" << QList<double>{30, 600, 3600};
    QTest::newRow("every second") << "every 2" << QList<double>{0, 300, 1800};
    QTest::newRow("marks") << "marks" << QList<double>{60, 120};
    QTest::newRow("mixed, twice") << " marks , 1 min, every 5 " << QList<double>{0, 60, 120, 3600};
    QTest::newRow("nothing") << " , " << QList<double>{};
  }
  void instants()
  {
    QFETCH(const QString, text);
    QFETCH(const QList<double>, times);
    const auto chosen = chosenInstants(text.toStdString(), aRun());
    QVERIFY2(chosen.has_value(), chosen ? "" : chosen.error().sentence().c_str());
    QCOMPARE(QList<double>(chosen->begin(), chosen->end()), times);
  }

  void refused_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("says");
    QTest::newRow("outside") << "2 h"
                             << "It goes from 0 s to";
    QTest::newRow("of another kind") << "5 W"
                                     << "time";
    QTest::newRow("no number") << "every other"
                               << "every 5";
    QTest::newRow("none at all") << "every 0"
                                 << "every 5";
    QTest::newRow("a number and more") << "every 3x"
                                       << "every 5";
  }
  void refused()
  {
    QFETCH(const QString, text);
    QFETCH(const QString, says);
    const auto chosen = chosenInstants(text.toStdString(), aRun());
    QVERIFY(!chosen);
    QVERIFY2(QString::fromStdString(chosen.error().sentence()).contains(says), chosen.error().sentence().c_str());
    QVERIFY(!chosenInstants("1 min", RunRecord{})); // a run without steps
  }

  /// Given two profiles on other pieces, then their difference is linear, too, and where one has nothing there is none.
  void differences()
  {
    const auto check = [](const std::vector<LinePiece>& less, double from, double to) {
      QVERIFY(!less.empty());
      for (const LinePiece& piece : less)
        for (const auto& [at, kelvin] :
             {std::pair(piece.from, piece.temperatureFrom), std::pair(piece.to, piece.temperatureTo)})
          QVERIFY(std::abs(kelvin - (from + (to - from) * at / 0.04)) < 1e-9);
    };
    check(lessProfile(ramp(300, 500, 4), ramp(280, 300, 4)), 20, 200);
    check(lessProfile(ramp(300, 500, 4), ramp(280, 300, 7)), 20, 200);
    check(lessProfile(ramp(300, 500, 7), ramp(300, 500, 3)), 0, 0);
    QCOMPARE(lessProfile(ramp(300, 500, 4), ramp(300, 500, 4, 0.02)).size(), 2U); // the other begins half-way
    QVERIFY(lessProfile(ramp(300, 500, 4), {}).empty());
    QVERIFY(!temperatureAt(ramp(300, 500, 4), 0.05));
    QVERIFY(std::abs(*temperatureAt(ramp(300, 500, 4), 0.01) - 350) < 1e-9);
  }

  void limitsThatArePassed()
  {
    const std::vector<double> places = crossingsOf(ramp(300, 500, 5), 375);
    QCOMPARE(places.size(), 1U);
    QVERIFY(std::abs(places[0] - 0.015) < 1e-12);
    QVERIFY(crossingsOf(ramp(300, 500, 5), 501).empty() && crossingsOf(ramp(300, 500, 5), 299).empty());
    QCOMPARE(crossingsOf(ramp(500, 300, 5), 450).size(), 1U); // falling too
  }

  /// Given a block, then its corners and the middles of its edges and faces are found, each where it is.
  void placesOfABlock()
  {
    Project p = projectWith(0.02);
    p.materials = {material("m", 1)};
    p.parts = {part("block", "m", block(0.06, 0.04, 0.02))};
    const std::vector<SnapPlace> places = snapPlaces(meshOf(p));
    QCOMPARE(countOf(places, SnapPlace::Kind::Corner), 8U);
    QCOMPARE(countOf(places, SnapPlace::Kind::EdgeMiddle), 12U);
    QCOMPARE(countOf(places, SnapPlace::Kind::FaceMiddle), 6U);
    QCOMPARE(countOf(places, SnapPlace::Kind::ArcCentre), 0U);
    const auto nearest = [&](const Vec3& place) { return *nearestOf(places, place); };
    QVERIFY((nearest(Vec3(0.031, 0.019, 0.021)).place - Vec3(0.03, 0.02, 0.02)).norm() < 1e-9);
    QVERIFY((nearest(Vec3(0.004, 0.021, 0.021)).place - Vec3(0, 0.02, 0.02)).norm() < 1e-9);
    const SnapPlace face = nearest(Vec3(0.001, 0.002, 0.0201));
    QCOMPARE(face.kind, SnapPlace::Kind::FaceMiddle);
    QVERIFY((face.place - Vec3(0, 0, 0.02)).norm() < 1e-9);
    QVERIFY(!nearestOf({}, Vec3::Zero()));
  }

  void placesOfACylinder()
  {
    Project p = projectWith(0.006);
    p.materials = {material("m", 1)};
    p.parts = {part("rod", "m", Cylinder{number(0.02), number(0.03)})};
    const std::vector<SnapPlace> places = snapPlaces(meshOf(p));
    QCOMPARE(countOf(places, SnapPlace::Kind::ArcCentre), 2U);
    for (const double z : {0.0, 0.03})
      QVERIFY(std::any_of(places.begin(), places.end(), [&](const SnapPlace& one) {
        return one.kind == SnapPlace::Kind::ArcCentre && (one.place - Vec3(0, 0, z)).norm() < 1e-7;
      }));
  }

  void circles()
  {
    std::vector<Vec3> arc;
    for (int i = 0; i < 9; ++i)
      arc.emplace_back(1 + 2 * std::cos(0.1 * i), 3 + 2 * std::sin(0.1 * i), 5);
    const auto circle = circleOf(arc);
    QVERIFY(circle && (circle->centre - Vec3(1, 3, 5)).norm() < 1e-9 && std::abs(circle->radius - 2) < 1e-9);
    arc[4].x() += 0.01;
    QVERIFY(!circleOf(arc));
    QVERIFY(!circleOf({Vec3(0, 0, 0), Vec3(1, 0, 0), Vec3(2, 0, 0), Vec3(3, 0, 0)}));
    QVERIFY(!circleOf({Vec3(0, 0, 0), Vec3(1, 1, 0), Vec3(2, 0, 0)}));
  }
};

QTEST_APPLESS_MAIN(LinesTest)
#include "tst_lines.moc"
