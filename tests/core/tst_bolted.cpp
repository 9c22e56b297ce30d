// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A bolted joint: its conductance by hand, and the heat through it where the contacts alone resist.
#include "ShapeProjects.h"
#include "geometry/BoltedJoint.h"
#include "geometry/SurfaceFaces.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A foot on a larger plate, both so conductive that only what lies between them resists.
Project footOnPlate()
{
  Project p = projectWith(0.01);
  p.materials = {material("metal", 1e5)};
  p.parts = {part("plate", "metal", block(0.2, 0.16, 0.02)),
             part("foot", "metal", block(0.08, 0.06, 0.01), {0.03, 0.02, 0.02})};
  p.surfaces = {surface("below", {"plate.bottom"}), surface("above", {"foot.top"})};
  p.boundaries = {boundary("cold", FixedSurface{"below", number(300)}),
                  boundary("warm", FixedSurface{"above", number(310)})};
  p.watches = {watch("through", ContactHeat{"foot", "plate"})};
  return p;
}

BoltedJoint theJoint()
{
  BoltedJoint joint;
  joint.partA = "plate";
  joint.partB = "foot";
  joint.centre = {0.04, 0.02, 0.02};
  joint.reach = 0.012;
  joint.hole = 0.003;
  joint.force = 4000;
  joint.surfaces = {180, 20, 2e-6, 0.15, 1.2e9};
  joint.elsewhere = 50;
  return joint;
}

} // namespace

class BoltedTest : public QObject
{
  Q_OBJECT

private slots:
  /// k = 2·180·20/200 = 36; p = 4000 N / (π (12² − 3²) mm²) = 9.431 MPa; h = 1.25·36·0.15/2e-6·(p/1.2 GPa)^0.95.
  void theConductanceByHand()
  {
    const BoltedJoint joint = theJoint();
    const double pressure = 4000 / (pi * (0.012 * 0.012 - 0.003 * 0.003));
    QVERIFY(std::abs(pressureOf(joint) - pressure) < 1e-6 * pressure);
    const double expected = 1.25 * 36 * 0.15 / 2e-6 * std::exp(0.95 * std::log(pressure / 1.2e9));
    QVERIFY(std::abs(pressedConductance(joint.surfaces, pressure) - expected) < 1e-9 * expected);
    // Nearly in proportion to the force, and to the softness.
    BoltedJoint twice = joint;
    twice.force *= 2;
    QVERIFY(std::abs(pressedConductance(twice.surfaces, pressureOf(twice)) / expected - std::pow(2, 0.95)) < 1e-9);
  }

  /// The heat through both contacts is that of two conductances beside each other, on every mesh: areas of faces are
  /// exact, however coarse the chords of their border are.
  void theHeatThroughTheJoint()
  {
    Project p = footOnPlate();
    const BoltedJoint joint = theJoint();
    const double reach = pi * 0.012 * 0.012;
    for (Material& material : p.materials)
      material.conductivity.si *= 1e5; // all of the drop is in the contacts
    for (const double size : {0.012, 0.006, 0.003}) {
      p.mesh.size = number(size);
      const auto bolted = withBoltedJoint(p, tableOf(p), joint);
      QVERIFY2(bolted, bolted ? "" : bolted.error().sentence().c_str());
      QCOMPARE(bolted->contacts.size(), std::size_t{2});
      const double pressed = std::get<AreaConductance>(bolted->contacts[1].exchange).conductance.si;
      QVERIFY(std::abs(pressed - pressedConductance(joint.surfaces, pressureOf(joint))) < 0.01);
      const double watts = 10 * (pressed * reach + 50 * (0.08 * 0.06 - reach));
      const double through = valueOf(*bolted, solve(*bolted), "through");
      QVERIFY2(std::abs(through / watts - 1) < 1e-6, std::to_string(through / watts).c_str());
    }
  }

  void theWasherIsWhereTheBoltStands()
  {
    const Project p = footOnPlate();
    const BoltedJoint joint = theJoint();
    const auto bolted = withBoltedJoint(p, tableOf(p), joint);
    QVERIFY(bolted);
    const auto table = tableOf(*bolted);
    const SurfaceFaces washer = facesOf(*bolted, table, bolted->surfaces.back());
    QVERIFY(std::abs(washer.area - pi * 0.012 * 0.012) < 1e-9); // wholly under the foot
    for (const FaceId face : washer.faces) {
      const Face& own = table.faces[static_cast<std::size_t>(face)];
      QVERIFY((own.centroid - joint.centre).norm() < 1e-7);
      QVERIFY(own.contact());
    }
  }

  void whatCannotBeIsSaid()
  {
    Project p = footOnPlate();
    const FaceTable table = tableOf(p);
    BoltedJoint joint = theJoint();
    joint.reach = joint.hole;
    const auto nowhere = withBoltedJoint(p, table, joint);
    QVERIFY(!nowhere && nowhere.error().sentence().find("presses on no area") != std::string::npos);
    p.parts[1].shape.placement.position.z = number(0.05); // they do not touch
    const auto apart = withBoltedJoint(p, tableOf(p), theJoint());
    QVERIFY(!apart && apart.error().sentence().find("share no flat face") != std::string::npos);
  }

  /// What was said of the whole pair is the rest now, by its old name and id.
  void theContactThatWasThereIsTheRest()
  {
    Project p = footOnPlate();
    p.contacts = {contact("plate", "foot", PerfectContact{})};
    p.contacts[0].name = "Foot";
    const auto bolted = withBoltedJoint(p, tableOf(p), theJoint());
    QVERIFY(bolted);
    QCOMPARE(bolted->contacts.size(), std::size_t{2});
    QCOMPARE(bolted->contacts[0].name, std::string("Foot"));
    QCOMPARE(std::get<AreaConductance>(bolted->contacts[0].exchange).conductance.si, 50.0);
  }
};

QTEST_GUILESS_MAIN(BoltedTest)
#include "tst_bolted.moc"
