// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Shape steps against exact volumes and areas: repeats, rounded and bevelled edges, pushed and tilted faces, split
// lines, prisms that reach up to a face, arcs; lasting names through all of it.
#include "TestProjects.h"
#include "geometry/SurfaceFaces.h"
#include "mesh/DraftMesh.h"
#include "mesh/FaceNeighbours.h"
#include "model/Edit.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double tiny = 1e-11;

FaceTable tableOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  if (!geometry)
    throw std::runtime_error(geometry.error().sentence());
  return geometry->table;
}

Project onePart(Form form, std::vector<ShapeStep> steps = {}, Repeat repeat = Once{})
{
  Project project = projectWith(0.01);
  project.parts = {part("p", "", std::move(form))};
  project.parts[0].steps = std::move(steps);
  project.parts[0].repeat = std::move(repeat);
  return project;
}

double areaNamed(const Project& project, const std::string& name)
{
  return facesOf(project, tableOf(project), surface("s", {name})).area;
}

std::string problemOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  return geometry ? std::string() : geometry.error().sentence();
}

OutlinePoint point(double a, double b, double bulge = 0) { return {number(a), number(b), number(bulge)}; }

} // namespace

class StepsTest : public QObject
{
  Q_OBJECT

private slots:
  void aFinBankIsOneBody()
  {
    const Row row{number(5), {number(0.02), number(0), number(0)}};
    const Project p = onePart(block(0.12, 0.05, 0.01), {join("fins", block(0.002, 0.05, 0.03), {-0.04, 0, 0.01}, row)});
    const FaceTable table = tableOf(p);
    QCOMPARE(table.parts.size(), std::size_t{1});
    QVERIFY(std::abs(table.parts[0].volume - (0.12 * 0.05 * 0.01 + 5 * 0.002 * 0.05 * 0.03)) < tiny);
    QVERIFY(std::abs(areaNamed(p, "p.fins.top") - 5 * 0.002 * 0.05) < tiny);     // all copies by one name
    QVERIFY(std::abs(areaNamed(p, "p.fins#1.top") - 0.002 * 0.05) < tiny);       // the first copy by itself too
    QVERIFY(std::abs(areaNamed(p, "p.fins#3.top") - 0.002 * 0.05) < tiny);       // and each by its own
    QVERIFY(std::abs(areaNamed(p, "p.top") - (0.12 - 5 * 0.002) * 0.05) < tiny); // the plate between them
  }

  /// A step that is left out leaves the volume and the faces of the shape without it; its neighbours act as before.
  void aStepIsLeftOut()
  {
    Project p = projectWith(0.01);
    p.materials = {material("m", 1)};
    p.parts = {part("plate", "m", block(0.1, 0.1, 0.01))};
    p.parts[0].steps = {join("rib", block(0.02, 0.1, 0.03), Vec3(0, 0, 0.01)),
                        cut("hole", block(0.01, 0.01, 0.01), Vec3(0.03, 0.03, 0))};
    const auto volume = [&] { return buildGeometry(p)->table.parts.front().volume; };
    const auto faces = [&] { return buildGeometry(p)->table.faces.size(); };
    QVERIFY(std::abs(volume() - (1e-4 + 6e-5 - 1e-6)) < 1e-12);
    const std::size_t all = faces();
    p.parts[0].steps[0].muted = true;
    QVERIFY(std::abs(volume() - (1e-4 - 1e-6)) < 1e-12);
    QVERIFY(faces() < all);
    p.parts[0].steps.erase(p.parts[0].steps.begin());
    QVERIFY(std::abs(volume() - (1e-4 - 1e-6)) < 1e-12);
  }

  void aRingTurnsAboutItsAxis()
  {
    Ring ring{number(6)};
    ring.centre = {number(0.05), number(0), number(0)};
    const Project p = onePart(Cylinder{number(0.005), number(0.02)}, {}, ring);
    const FaceTable table = tableOf(p);
    QVERIFY(std::abs(table.parts[0].volume - 6 * M_PI * 0.005 * 0.005 * 0.02) < tiny);
    QVERIFY(std::abs(table.parts[0].high.x() - 0.105) < 1e-6);
    QVERIFY(std::abs(table.parts[0].low.x() + 0.005) < 1e-6);
  }

  void stepsMoveAndTurnWithTheirPart()
  {
    Project p = onePart(block(0.1, 0.04, 0.02), {cut("hole", block(0.02, 0.02, 0.02), {0.03, 0, 0})});
    const double before = tableOf(p).parts[0].volume;
    p.parts[0].shape.placement = {{number(1), number(2), number(3)}, {number(0.3), number(0.2), number(-0.5)}};
    QVERIFY(std::abs(tableOf(p).parts[0].volume - before) < tiny);
    QVERIFY(std::abs(before - (0.1 * 0.04 * 0.02 - 0.02 * 0.02 * 0.02)) < tiny);
  }

  void edgesAreRoundedAndBevelled()
  {
    const double r = 0.004;
    Project p = onePart(block(0.1, 0.05, 0.02), {{"soft", RoundEdges{{"p.top", "p.right"}, number(r)}, {}}});
    const double full = 0.1 * 0.05 * 0.02;
    QVERIFY(std::abs(tableOf(p).parts[0].volume - (full - (r * r - M_PI * r * r / 4) * 0.05)) < tiny);
    QVERIFY(std::abs(areaNamed(p, "p.soft.round") - M_PI * r / 2 * 0.05) < tiny);
    QVERIFY(std::abs(areaNamed(p, "p.top") - (0.1 - r) * 0.05) < tiny); // keeps its name
    p.parts[0].steps = {{"edge", BevelEdges{{"p.top", "p.right"}, number(r)}, {}}};
    QVERIFY(std::abs(tableOf(p).parts[0].volume - (full - r * r / 2 * 0.05)) < tiny);
    QVERIFY(std::abs(areaNamed(p, "p.edge.bevel") - r * std::sqrt(2) * 0.05) < tiny);
    p.parts[0].steps = {{"edge", RoundEdges{{"p.top", "p.bottom"}, number(r)}, {}}};
    QVERIFY(problemOf(p).find("share no edge") != std::string::npos);
    p.parts[0].steps = {{"edge", RoundEdges{{"p.lid"}, number(r)}, {}}};
    QVERIFY(problemOf(p).find("no face “p.lid”") != std::string::npos);
    p.parts[0].steps = {{"edge", RoundEdges{{"p.top"}, number(0.5)}, {}}};
    QVERIFY(problemOf(p).find("step edge") != std::string::npos || problemOf(p).find("Step edge") != std::string::npos);
  }

  void aFaceIsPushedOutAndIn()
  {
    for (const double distance : {0.01, -0.01}) {
      const Project p = onePart(block(0.1, 0.05, 0.03), {{"move", PushFace{"p.right", number(distance)}, {}}});
      QVERIFY(std::abs(tableOf(p).parts[0].volume - (0.1 + distance) * 0.05 * 0.03) < tiny);
      QVERIFY(std::abs(areaNamed(p, "p.right") - 0.05 * 0.03) < tiny);
      QVERIFY(std::abs(areaNamed(p, "p.top") - (0.1 + distance) * 0.05) < tiny); // neighbours follow with their names
      QCOMPARE(tableOf(p).faces.size(), std::size_t{6});
    }
    const Project round = onePart(Cylinder{number(0.02), number(0.05)}, {{"m", PushFace{"p.side", number(0.01)}, {}}});
    QVERIFY(problemOf(round).find("Only flat faces") != std::string::npos);
  }

  /// Round faces too: the layer's volume is exact, and names stay.
  void aFaceIsThickened()
  {
    const double r = 0.02, h = 0.05;
    const auto equals = [](double value, double exact) { return std::abs(value / exact - 1) < 1e-6; };
    for (const double t : {0.004, -0.004}) {
      const Project p = onePart(Cylinder{number(r), number(h)}, {{"m", ThickenFace{"p.side", number(t)}, {}}});
      QCOMPARE(QString::fromStdString(problemOf(p)), QString());
      QVERIFY(equals(tableOf(p).parts[0].volume, M_PI * (r + t) * (r + t) * h));
      QVERIFY(equals(areaNamed(p, "p.side"), 2 * M_PI * (r + t) * h));
      QVERIFY(equals(areaNamed(p, "p.top"), M_PI * (r + t) * (r + t)));
      QCOMPARE(tableOf(p).faces.size(), std::size_t{3});
    }
    const Project tube =
        onePart(Tube{number(0.03), number(r), number(h)}, {{"m", ThickenFace{"p.inside", number(0.005)}, {}}});
    QCOMPARE(QString::fromStdString(problemOf(tube)), QString());
    QVERIFY(equals(tableOf(tube).parts[0].volume, M_PI * (0.03 * 0.03 - 0.015 * 0.015) * h));
    const Project ball = onePart(Sphere{number(r)}, {{"m", ThickenFace{"p.outside", number(0.002)}, {}}});
    QCOMPARE(QString::fromStdString(problemOf(ball)), QString());
    QVERIFY(equals(tableOf(ball).parts[0].volume, 4 * M_PI / 3 * std::pow(r + 0.002, 3)));
    const Project flat = onePart(block(0.1, 0.05, 0.03), {{"m", ThickenFace{"p.right", number(0.01)}, {}}});
    QVERIFY(equals(tableOf(flat).parts[0].volume, 0.11 * 0.05 * 0.03));
    QCOMPARE(tableOf(flat).faces.size(), std::size_t{6});
    const Project gone = onePart(Cylinder{number(r), number(h)}, {{"m", ThickenFace{"p.side", number(-0.03)}, {}}});
    QVERIFY(!problemOf(gone).empty());
    const Project none = onePart(Cylinder{number(r), number(h)}, {{"m", ThickenFace{"p.rim", number(0.01)}, {}}});
    QVERIFY(problemOf(none).find("no face “p.rim”") != std::string::npos);
  }

  /// A layer is laid on whatever steps came before, in either order, and names stay.
  void aPushedBlockIsThickened()
  {
    const ShapeStep push{"pu", PushFace{"p.top", number(0.008)}, {}};
    const ShapeStep layer{"th", ThickenFace{"p.left", number(0.003)}, {}};
    for (const auto& steps : {std::vector{push, layer}, std::vector{layer, push}}) {
      const Project p = onePart(block(0.07, 0.04, 0.005), steps);
      QCOMPARE(QString::fromStdString(problemOf(p)), QString());
      QVERIFY(std::abs(tableOf(p).parts[0].volume / (0.073 * 0.04 * 0.013) - 1) < 1e-6);
      QVERIFY(std::abs(areaNamed(p, "p.left") / (0.04 * 0.013) - 1) < 1e-6);
      QVERIFY(std::abs(areaNamed(p, "p.top") / (0.073 * 0.04) - 1) < 1e-6);
    }
  }

  void aFaceIsTiltedOutwards()
  {
    const double angle = 0.2;
    const Project p = onePart(block(0.1, 0.05, 0.03), {{"lean", TiltFace{"p.right", number(angle)}, {}}});
    const double wedge = 0.03 * 0.03 * std::tan(angle) / 2 * 0.05;
    QVERIFY2(std::abs(tableOf(p).parts[0].volume - (0.1 * 0.05 * 0.03 + wedge)) < tiny,
             qPrintable(QString::number(tableOf(p).parts[0].volume - 0.1 * 0.05 * 0.03)));
    QVERIFY2(std::abs(areaNamed(p, "p.right") - 0.05 * 0.03 / std::cos(angle)) < tiny,
             qPrintable(QString::number(areaNamed(p, "p.right"))));
  }

  void splitLinesDivideAFace_data()
  {
    QTest::addColumn<int>("kind");
    QTest::addColumn<double>("inside");
    QTest::newRow("line") << 0 << 0.05 * 0.06; // left of a line along b at a = 0.01: 0.05 + 0.01 wide
    QTest::newRow("rectangle") << 1 << 0.02 * 0.01;
    QTest::newRow("circle") << 2 << M_PI * 0.01 * 0.01;
    QTest::newRow("outline") << 3 << 0.02 * 0.02 / 2;
  }
  void splitLinesDivideAFace()
  {
    QFETCH(int, kind);
    QFETCH(double, inside);
    SplitFace split{"p.top", SplitByLine{number(0.01), number(0), number(0.01), number(0.02)}};
    if (kind == 1)
      split.line = SplitByRectangle{number(0.01), number(0.005), number(0.02), number(0.01)};
    if (kind == 2)
      split.line = SplitByCircle{number(0.01), number(0.005), number(0.01)};
    if (kind == 3)
      split.line = SplitByOutline{{point(0, 0), point(0.02, 0), point(0, 0.02)}};
    const Project p = onePart(block(0.1, 0.05, 0.02), {{"spot", split, {}}});
    QVERIFY(std::abs(tableOf(p).parts[0].volume - 0.1 * 0.05 * 0.02) < tiny); // the body stays as it was
    QVERIFY2(std::abs(areaNamed(p, "p.spot.inside") - inside) < tiny,
             qPrintable(QString::number(areaNamed(p, "p.spot.inside"), 'g', 12)));
    QVERIFY(std::abs(areaNamed(p, "p.spot.outside") - (0.1 * 0.05 - inside)) < tiny);
    QVERIFY(std::abs(areaNamed(p, "p.top") - 0.1 * 0.05) < tiny); // the whole by its old name
    const Mesh mesh = meshOf(p);                                  // and it meshes
    QVERIFY(!mesh.tets.empty());
  }

  void aSplitLineBesideItsFaceIsRefused()
  {
    const SplitFace split{"p.top", SplitByCircle{number(0.5), number(0), number(0.01)}};
    const Project p = onePart(block(0.1, 0.05, 0.02), {{"spot", split, {}}});
    QVERIFY(problemOf(p).find("does not divide the face") != std::string::npos);
  }

  void aPrismReachesUpToAFace()
  {
    const std::vector<OutlinePoint> square{point(-0.01, -0.01), point(0.01, -0.01), point(0.01, 0.01),
                                           point(-0.01, 0.01)};
    Project p = projectWith(0.01);
    p.parts = {part("lid", "", block(0.1, 0.1, 0.01), {0, 0, 0.08}),
               part("post", "", Prism{square, number(1), "lid.bottom"})};
    QVERIFY(std::abs(tableOf(p).parts[1].volume - 0.02 * 0.02 * 0.08) < tiny);
    p.parts[0].shape.placement.position.z = number(0.05);
    QVERIFY(std::abs(tableOf(p).parts[1].volume - 0.02 * 0.02 * 0.05) < tiny); // it follows
    p.parts[1].shape.placement.position.z = number(0.06);
    QVERIFY(problemOf(p).find("below its base") != std::string::npos);
    std::get<Prism>(p.parts[1].shape.form).upTo = "lid.handle";
    QVERIFY(problemOf(p).find("no such face") != std::string::npos);
    p.parts[0].shape.form = Prism{square, number(1), "post.bottom"};
    std::get<Prism>(p.parts[1].shape.form).upTo = "lid.bottom";
    QVERIFY(problemOf(p).find("which depends on it") != std::string::npos);
  }

  void arcsInOutlines()
  {
    // A square of edge 2a with half circles on two sides.
    const double a = 0.02;
    const std::vector<OutlinePoint> outline{point(-a, -a), point(a, -a, a), point(a, a), point(-a, a, a)};
    const Project prism = onePart(Prism{outline, number(0.01)});
    QVERIFY(std::abs(tableOf(prism).parts[0].volume - (4 * a * a + M_PI * a * a) * 0.01) < tiny);
    // Half a disc turned about its flat side is a sphere.
    const Project ball = onePart(TurnedProfile{{point(0, -a, a), point(0, a), point(0, 0)}, number(2 * M_PI)});
    QVERIFY2(std::abs(tableOf(ball).parts[0].volume - 4.0 / 3 * M_PI * a * a * a) < 1e-9, problemOf(ball).c_str());
  }

  void rulesNarrowByPlaceAndHands()
  {
    Project p = onePart(block(0.1, 0.05, 0.02));
    const FaceTable table = tableOf(p);
    Surface rule = exposedOf("s", {"p"});
    rule.within = Within{};
    rule.within->lowZ = number(0.005);
    QCOMPARE(facesOf(p, table, rule).faces.size(), std::size_t{5}); // all but the bottom
    rule.near = Near{{number(0.05), number(0), number(0.01)}, number(0.01)};
    QCOMPARE(facesOf(p, table, rule).faces.size(), std::size_t{1}); // right
    rule.added = {"p.bottom", "p.gone"};
    const SurfaceFaces picked = facesOf(p, table, rule);
    QCOMPARE(picked.faces.size(), std::size_t{2}); // whatever the rest of the rule says
    QCOMPARE(picked.notFound, std::vector<std::string>{"p.gone"});
    rule.without = {"p.right"};
    QCOMPARE(facesOf(p, table, rule).faces.size(), std::size_t{1});
  }

  void picksGrowOverSmoothNeighboursOnly()
  {
    const Project p = onePart(block(0.1, 0.05, 0.02), {{"soft", RoundEdges{{"p.top"}, number(0.004)}, {}}});
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    const auto draft = draftMesh(*geometry);
    QVERIFY2(draft, draft ? "" : draft.error().sentence().c_str());
    const auto named = [&](const std::string& name) {
      const std::vector<FaceId> faces = facesOf(p, geometry->table, surface("s", {name})).faces;
      return std::set<FaceId>(faces.begin(), faces.end());
    };
    // From the top over the round edges to the sides, which end at the sharp bottom edge.
    const std::set<FaceId> grown = grownSmoothly(*draft, named("p.top"), 0.44);
    QVERIFY(!grown.contains(*named("p.bottom").begin()));
    for (const char* name : {"p.top", "p.soft.round", "p.left", "p.front"})
      for (const FaceId face : named(name))
        QVERIFY2(grown.contains(face), name);
    QCOMPARE(grownSmoothly(*draft, named("p.bottom"), 0.44).size(), std::size_t{1});
  }

  void draftsShowTheFacesToScale()
  {
    const Project p = onePart(Sphere{number(0.05)});
    const auto geometry = buildGeometry(p);
    const auto draft = draftMesh(*geometry);
    QVERIFY(geometry && draft && draft->tets.empty());
    double area = 0;
    for (std::size_t t = 0; t < draft->triangles.size(); ++t) {
      area += triangleArea(*draft, t);
      const auto& corners = draft->triangles[t];
      const Vec3& a = draft->nodes[static_cast<std::size_t>(corners[0])];
      const Vec3 normal = (draft->nodes[static_cast<std::size_t>(corners[1])] - a)
                              .cross(draft->nodes[static_cast<std::size_t>(corners[2])] - a);
      QVERIFY(normal.dot(a) > 0 || normal.norm() < 1e-12); // outwards; at the poles some have no area
    }
    QVERIFY(std::abs(area / (4 * M_PI * 0.05 * 0.05) - 1) < 0.03);
  }

  void onlyChangedPartsAreBuiltAgain()
  {
    Project p = onePart(block(0.1, 0.05, 0.02));
    p.parts.push_back(part("q", "", Sphere{number(0.01)}, {0, 0, 0.1}));
    PartCache cache;
    QVERIFY(buildLoose(p, cache));
    p.parts[1].shape.form = Sphere{number(0.02)};
    p.parts[0].name = "another name";
    const auto loose = buildLoose(p, cache);
    QVERIFY(loose);
    QVERIFY(std::abs(loose->table.parts[1].volume - 4.0 / 3 * M_PI * 8e-6) < tiny);
    QCOMPARE(loose->table.parts[0].name, std::string("another name"));
  }
};

QTEST_APPLESS_MAIN(StepsTest)
#include "tst_steps.moc"
