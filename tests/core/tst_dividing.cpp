// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Lines drawn on round faces against exact areas, prisms that reach up to a face of their own part, a smallest size,
// and what starts otherwise: surfaces and boxes.
#include "ShapeProjects.h"
#include "TransientProjects.h"
#include "geometry/SurfaceFaces.h"
#include "io/ProjectFile.h"
#include "mesh/MeshSizes.h"
#include "results/ResultFields.h"

#include <QTest>
#include <cmath>
#include <fstream>
#include <sstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

std::string problemOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  return geometry ? std::string() : geometry.error().sentence();
}

double areaNamed(const Project& project, const std::string& name)
{
  return facesOf(project, tableOf(project), surface("s", {name})).area;
}

constexpr double radius = 0.04, height = 0.1;

/// A rod with a line on its side.
template <class Line>
Project rodWith(const Line& line, const std::string& face = "p.side")
{
  Project project = projectWith(0.01);
  project.parts = {part("p", "", Cylinder{number(radius), number(height)})};
  project.parts[0].steps = {{"mark", SplitFace{face, line}, {}}};
  return project;
}

constexpr double coneHeight = 0.05;

template <class Line>
Project coneWith(const Line& line, double bottom, double top)
{
  Project project = projectWith(0.01);
  project.parts = {part("p", "", Cone{number(bottom), number(top), number(coneHeight)})};
  project.parts[0].steps = {{"mark", SplitFace{"p.side", line}, {}}};
  return project;
}

OutlinePoint point(double a, double b, double bulge = 0) { return {number(a), number(b), number(bulge)}; }

} // namespace

class DividingTest : public QObject
{
  Q_OBJECT

private slots:
  /// Wrapping does not stretch: a rectangle, a circle and an outline keep their areas, the rest is what is left over,
  /// and the volume does not change.
  void closedLinesKeepTheirAreas_data()
  {
    QTest::addColumn<int>("kind");
    QTest::addColumn<double>("area");
    QTest::addColumn<double>("exact"); // what wrapping approximates
    QTest::newRow("rectangle") << 0 << 0.03 * 0.02 << 1e-12;
    QTest::newRow("circle") << 1 << pi * 0.015 * 0.015 << 5e-8;
    QTest::newRow("triangle") << 2 << 0.5 * 0.03 * 0.02 << 1e-8;
    QTest::newRow("with an arc") << 3 << 0.02 * 0.02 + pi * 0.01 * 0.01 / 2 << 5e-8;
  }
  void closedLinesKeepTheirAreas()
  {
    QFETCH(const int, kind);
    QFETCH(const double, area);
    QFETCH(const double, exact);
    const auto build = [&]() -> Project {
      switch (kind) {
      case 0:
        return rodWith(SplitByRectangle{number(0.06), number(0.01), number(0.03), number(0.02)});
      case 1:
        return rodWith(SplitByCircle{number(0.05), number(-0.01), number(0.015)});
      case 2:
        return rodWith(SplitByOutline{{point(0.04, -0.01), point(0.07, -0.01), point(0.055, 0.01)}});
      default:
        return rodWith(
            SplitByOutline{{point(0.04, -0.01), point(0.06, -0.01, 0.01), point(0.06, 0.01), point(0.04, 0.01)}});
      }
    };
    const Project p = build();
    QCOMPARE(problemOf(p), std::string());
    const double inside = areaNamed(p, "p.mark.inside");
    QVERIFY2(std::abs(inside - area) < exact, QByteArray::number(inside - area));
    const double whole = 2 * pi * radius * height;
    QVERIFY(std::abs(areaNamed(p, "p.mark.outside") - (whole - inside)) < 1e-9);
    QVERIFY(std::abs(areaNamed(p, "p.side") - whole) < 1e-9); // both are still of the side
    const double volume = tableOf(p).parts[0].volume - pi * radius * radius * height;
    QVERIFY2(std::abs(volume) < (kind == 0 ? 1e-11 : 1e-7), QByteArray::number(volume)); // the quadrature of the kernel
  }

  /// Around: two rings. What lies to the left of the line, upwards here, is inside.
  void aLineAroundMakesTwoRings()
  {
    const Project p = rodWith(SplitByLine{number(0), number(0.02), number(0.01), number(0.02)});
    QCOMPARE(problemOf(p), std::string());
    QVERIFY(std::abs(areaNamed(p, "p.mark.inside") - 2 * pi * radius * (height / 2 - 0.02)) < 1e-12);
    QVERIFY(std::abs(areaNamed(p, "p.mark.outside") - 2 * pi * radius * (height / 2 + 0.02)) < 1e-12);
  }

  /// The half of a rod has an end to each side: along its axis a line divides it, from the middle of the face.
  void aLineAlongDividesAHalfRod()
  {
    Project p = projectWith(0.01);
    p.parts = {part(
        "p", "", TurnedProfile{{point(0, 0), point(radius, 0), point(radius, height), point(0, height)}, number(pi)})};
    p.parts[0].steps = {
        {"mark", SplitFace{"p.side2", SplitByLine{number(0.01), number(-0.01), number(0.01), number(0.01)}}, {}}};
    QCOMPARE(problemOf(p), std::string());
    const double half = pi * radius;
    QVERIFY(std::abs(areaNamed(p, "p.mark.inside") + areaNamed(p, "p.mark.outside") - half * height) < 1e-12);
    QVERIFY(std::abs(std::min(areaNamed(p, "p.mark.inside"), areaNamed(p, "p.mark.outside")) -
                     (half / 2 - 0.01) * height) < 1e-9);
  }

  /// A slanted line is a helix; it cuts a half rod into two pieces of the areas that it has when it is rolled out.
  void aSlantedLineIsAHelix()
  {
    Project p = projectWith(0.01);
    p.parts = {part(
        "p", "", TurnedProfile{{point(0, 0), point(radius, 0), point(radius, height), point(0, height)}, number(pi)})};
    p.parts[0].steps = {
        {"mark", SplitFace{"p.side2", SplitByLine{number(-0.02), number(-0.05), number(0.02), number(0.05)}}, {}}};
    QCOMPARE(problemOf(p), std::string());
    for (const char* name : {"p.mark.inside", "p.mark.outside"})
      QVERIFY2(std::abs(areaNamed(p, name) - pi * radius * height / 2) < 1e-8, name);
  }

  /// On cones that narrow upwards and downwards: what is closed keeps its area, rings and strips have theirs.
  void onACone_data()
  {
    QTest::addColumn<double>("bottom");
    QTest::addColumn<double>("top");
    QTest::newRow("narrowing") << 0.04 << 0.02;
    QTest::newRow("widening") << 0.02 << 0.04;
    QTest::newRow("to a point") << 0.04 << 0.0;
  }
  void onACone()
  {
    QFETCH(double, bottom);
    QFETCH(double, top);
    const double slant = std::hypot(coneHeight, bottom - top);
    const double whole = pi * (bottom + top) * slant;
    const auto inside = [&](const Project& p) {
      if (const std::string problem = problemOf(p); !problem.empty())
        throw std::runtime_error(problem);
      const double area = areaNamed(p, "p.mark.inside");
      const double rest = areaNamed(p, "p.mark.outside");
      if (std::abs(area + rest - whole) > 1e-8)
        throw std::runtime_error("inside " + std::to_string(1e6 * area) + ", the rest " + std::to_string(1e6 * rest) +
                                 " of " + std::to_string(1e6 * whole));
      return area;
    };
    const auto near = [](double value, double expected, double within) {
      return std::abs(value - expected) < within ? std::string() : std::to_string(1e6 * (value - expected)) + " mm²";
    };
    QCOMPARE(near(inside(coneWith(SplitByRectangle{number(0.03), number(0), number(0.03), number(0.02)}, bottom, top)),
                  0.03 * 0.02, 2e-8),
             std::string());
    QCOMPARE(
        near(inside(coneWith(SplitByCircle{number(0.025), number(0.002), number(0.01)}, bottom, top)), pi * 1e-4, 5e-8),
        std::string());
    QCOMPARE(near(inside(coneWith(SplitByOutline{{point(0.01, -0.01), point(0.04, -0.01), point(0.02, 0.012)}}, bottom,
                                  top)),
                  0.5 * 0.03 * 0.022, 2e-8),
             std::string());
    // Around, 5 mm above the middle: what lies above is to the left.
    const double there = (bottom + top) / 2 + 0.005 * (top - bottom) / slant;
    QCOMPARE(near(inside(coneWith(SplitByLine{number(0), number(0.005), number(0.01), number(0.005)}, bottom, top)),
                  pi * (there + top) * (slant / 2 - 0.005), 1e-9),
             std::string());
  }

  void linesThatMissAreRefused()
  {
    QVERIFY(problemOf(rodWith(SplitByCircle{number(0), number(0.5), number(0.01)})).find("does not divide") !=
            std::string::npos);
    Project ball = projectWith(0.01);
    ball.parts = {part("p", "", Sphere{number(0.04)})};
    const std::string face = tableOf(ball).faces.front().names.front();
    ball.parts[0].steps = {{"mark", SplitFace{face, SplitByCircle{number(0), number(0), number(0.01)}}, {}}};
    QVERIFY2(problemOf(ball).find("Only flat faces, cylinders and cones") != std::string::npos,
             problemOf(ball).c_str());
    const Project slanted = coneWith(SplitByLine{number(0), number(0), number(0.01), number(0.01)}, 0.04, 0.02);
    QVERIFY(problemOf(slanted).find("around it or along it") != std::string::npos);
    const Project around = coneWith(SplitByRectangle{number(0), number(0), number(0.5), number(0.01)}, 0.04, 0.02);
    QVERIFY(!problemOf(around).empty()); // farther than once around
  }

  /// Projects of before call the step "split".
  void theFormerNameIsRead()
  {
    const Project p = rodWith(SplitByRectangle{number(0.06), number(0), number(0.03), number(0.02)});
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("old.kiln").toStdString();
    QVERIFY(saveProject(p, file));
    std::stringstream written;
    written << std::ifstream(file).rdbuf();
    std::string text = written.str();
    const auto at = text.find("\"divide\"");
    QVERIFY(at != std::string::npos);
    text.replace(at, 8, "\"split\"");
    std::ofstream(file) << text;
    const auto read = loadProject(file);
    QVERIFY2(read, read ? "" : read.error().sentence().c_str());
    QVERIFY(read->parts == p.parts);
  }

  /// A hole that is cut down from the top to a face inside, and a rib that grows with its part.
  void aStepReachesAFaceOfItsOwnPart()
  {
    const std::vector<OutlinePoint> square{point(-0.01, -0.01), point(0.01, -0.01), point(0.01, 0.01),
                                           point(-0.01, 0.01)};
    Project p = projectWith(0.01);
    p.parts = {part("p", "", block(0.1, 0.1, 0.03))};
    p.parts[0].steps = {{"hole", Cut{PlacedForm{Prism{square, number(1), "p.top"}, {}}}, {}}};
    QCOMPARE(problemOf(p), std::string());
    QVERIFY(std::abs(tableOf(p).parts[0].volume - (0.1 * 0.1 - 0.02 * 0.02) * 0.03) < 1e-11);
    std::get<Block>(p.parts[0].shape.form).sizeZ = number(0.05); // it follows
    QVERIFY(std::abs(tableOf(p).parts[0].volume - (0.1 * 0.1 - 0.02 * 0.02) * 0.05) < 1e-11);
    std::get<Prism>(std::get<Cut>(p.parts[0].steps[0].action).shape.form).upTo = "p.left";
    QVERIFY(problemOf(p).find("not a flat face across its axis") != std::string::npos);
    // The part's own first form has no face to reach up to yet.
    p.parts[0].steps.clear();
    p.parts[0].shape.form = Prism{square, number(1), "p.top"};
    QVERIFY(problemOf(p).find("which depends on it") != std::string::npos);
  }

  /// Roundings ask for small elements; a smallest size bounds that, and sizes that are set stay.
  void aSmallestSizeBoundsWhatTheShapeAsksFor()
  {
    Project p = projectWith(0.05);
    p.parts = {part("p", "", block(0.1, 0.1, 0.02))};
    p.parts[0].steps = {{"soft", RoundEdges{{"p.top"}, number(0.001)}, {}}};
    p.mesh.acrossWalls = number(4);
    const auto smallestOf = [&] {
      const FaceTable table = tableOf(p);
      const std::vector<double> wall(table.faces.size(), 0.02);
      const MeshSizes sizes = chooseSizes(p, table, wall);
      return *std::min_element(sizes.face.begin(), sizes.face.end());
    };
    const double before = smallestOf();
    QVERIFY(before < 0.006);
    p.mesh.smallest = number(0.008);
    QVERIFY(std::abs(smallestOf() - 0.008) < 1e-15);
    p.mesh.fineness = number(2); // divides all sizes, this too
    QVERIFY(std::abs(smallestOf() - 0.004) < 1e-15);
    p.mesh.fineness.reset();
    p.surfaces = {surface("soft", {"p.soft.round"})};
    p.surfaces[0].meshSize = number(0.002);
    QVERIFY(std::abs(smallestOf() - 0.002) < 1e-15);
    p.surfaces.clear();
    const auto elements = [&] {
      const auto mesh = meshOf(p);
      return mesh.tets.size();
    };
    const std::size_t coarse = elements();
    p.mesh.smallest.reset();
    QVERIFY2(elements() > 2 * coarse, std::to_string(coarse).c_str());
  }

  /// Insulated, a bar whose one half starts warmer ends at the mean by heat, whichever way the half is named.
  void boxesStartOtherwise()
  {
    Project p = projectWith(0.01);
    p.materials = {heavy("m", 10, 1000, 1000)};
    p.parts = {part("bar", "m", block(0.2, 0.04, 0.04))};
    TransientRun& run = inTime(p, 300, 1);
    auto& start = std::get<StartUniform>(run.start);
    start.boxes = {{"warm", {number(-0.2), number(-1), number(-1)}, {number(0), number(1), number(1)}, number(400)}};
    p.watches = {watch("all", PartFigure{PartFigure::Kind::Mean, {"bar"}}),
                 watch("left", PointFigure{{number(-0.09), number(0), number(0.02)}}),
                 watch("right", PointFigure{{number(0.09), number(0), number(0.02)}})};
    const Ran ran = kiln::test::run(p);
    const auto startOf = [&](const std::string& id) { return ran.record.at(RunTrace::Kind::Watch, id, 0).value_or(0); };
    QVERIFY(std::abs(startOf("left") - 400) < 1e-9);
    QVERIFY(std::abs(startOf("right") - 300) < 1e-9);
    QVERIFY2(std::abs(startOf("all") - 350) < 3, std::to_string(startOf("all")).c_str()); // an element at the border
    // Corners may be given either way round, and a later box counts before an earlier one.
    std::swap(start.boxes[0].low, start.boxes[0].high);
    start.boxes.push_back(
        {"cold", {number(-0.2), number(-1), number(-1)}, {number(-0.08), number(1), number(1)}, number(250)});
    const Ran again = kiln::test::run(p);
    QVERIFY(std::abs(again.record.at(RunTrace::Kind::Watch, "left", 0).value_or(0) - 250) < 1e-9);
  }

  void surfacesStartOtherwise()
  {
    Project p = projectWith(0.01);
    p.materials = {heavy("m", 10, 1000, 1000)};
    p.parts = {part("bar", "m", block(0.2, 0.04, 0.04))};
    p.surfaces = {surface("hot end", {"bar.left"})};
    p.surfaces[0].id = "end";
    TransientRun& run = inTime(p, 300, 1);
    std::get<StartUniform>(run.start).boxes = {
        {"all", {number(-1), number(-1), number(-1)}, {number(1), number(1), number(1)}, number(320)}};
    std::get<StartUniform>(run.start).surfaces = {{"end", number(500)}}; // before the boxes
    p.watches = {watch("end", SurfaceFigure{PartFigure::Kind::Mean, "end"}),
                 watch("right", PointFigure{{number(0.09), number(0), number(0.02)}})};
    const Ran ran = kiln::test::run(p);
    QVERIFY(std::abs(ran.record.at(RunTrace::Kind::Watch, "end", 0).value_or(0) - 500) < 1e-9);
    QVERIFY(std::abs(ran.record.at(RunTrace::Kind::Watch, "right", 0).value_or(0) - 320) < 1e-9);
  }

  /// Of each element by itself: in a bar with a flat flux all agree with the recovered one; turned material axes turn
  /// the components.
  void elementValuesAreThoseOfTheElements()
  {
    Project p = projectWith(0.02);
    p.materials = {material("m", 10)};
    p.parts = {part("bar", "m", block(0.2, 0.04, 0.04))};
    p.surfaces = {surface("cold", {"bar.left"}), surface("warm", {"bar.right"})};
    p.boundaries = {boundary("c", FixedSurface{"cold", number(300)}), boundary("w", FixedSurface{"warm", number(400)})};
    const CaseResult result = solve(p);
    const double flux = 10 * 100 / 0.2; // W/m², against x
    for (const double value : elementValues(p, result, result.temperature, Shown::HeatFlux))
      QVERIFY(std::abs(value - flux) < 1e-6 * flux);
    for (const double value : elementValues(p, result, result.temperature, Shown::FluxX))
      QVERIFY(std::abs(value + flux) < 1e-6 * flux);
    for (const double value : elementValues(p, result, result.temperature, Shown::Gradient))
      QVERIFY(std::abs(value - 500) < 1e-6 * 500);
    QVERIFY(elementValues(p, result, result.temperature, Shown::Temperature).empty());
    p.materials[0].conductivityY = Property{10, ""}; // it has axes now
    p.materials[0].conductivityZ = Property{10, ""};
    p.parts[0].materialAxes.z = number(pi / 2);
    for (const double value : elementValues(p, result, result.temperature, Shown::FluxY, true))
      QVERIFY2(std::abs(std::abs(value) - flux) < 1e-6 * flux, std::to_string(value).c_str());
  }
};

QTEST_GUILESS_MAIN(DividingTest)
#include "tst_dividing.moc"
