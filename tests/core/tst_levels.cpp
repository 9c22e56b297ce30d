// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Levels of exact fields: surfaces, regions and lines against formulas.
#include "TestProjects.h"
#include "mesh/SecondOrder.h"
#include "results/LevelField.h"
#include "results/LevelLines.h"

#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

struct Exact {
  std::shared_ptr<const Mesh> mesh;
  std::shared_ptr<const Unknowns> unknowns;

  explicit Exact(const Project& project) : mesh(std::make_shared<Mesh>(meshOf(project)))
  {
    unknowns = std::make_shared<Unknowns>(numberUnknowns(*mesh, std::vector<bool>(mesh->geometry.faces.size(), false)));
  }
  template <class Field>
  [[nodiscard]] LevelField field(Field&& at) const
  {
    auto values = std::make_shared<std::vector<double>>();
    for (const NodeId node : unknowns->node)
      values->push_back(at(mesh->placeOf(node)));
    return LevelField(mesh, unknowns, std::move(values));
  }
};

Project twoBlocks(double size)
{
  Project p = projectWith(size);
  p.materials = {material("m", 1)};
  p.parts = {part("low", "m", block(0.1, 0.1, 0.1)), part("high", "m", block(0.1, 0.1, 0.1), Vec3(0, 0, 0.1))};
  return p;
}

/// Volume between a closed surface and the place it is seen from, by the divergence theorem.
double volumeWithin(const LevelSurface& surface, const Vec3& from)
{
  double volume = 0;
  for (const auto& t : surface.triangles) {
    const auto corner = [&](std::size_t i) -> Vec3 { return surface.points[static_cast<std::size_t>(t[i])] - from; };
    volume += corner(0).cross(corner(1)).dot(corner(2)) / 6;
  }
  return std::abs(volume);
}

/// A square of two by two triangles in x and y, from 0 to 2.
struct Grid {
  std::vector<Vec3> points;
  std::vector<std::array<int, 3>> triangles;
  std::vector<double> values;

  template <class Field>
  Grid(int cells, Field&& field)
  {
    for (int j = 0; j <= cells; ++j)
      for (int i = 0; i <= cells; ++i) {
        points.emplace_back(2.0 * i / cells, 2.0 * j / cells, 0);
        values.push_back(field(points.back().x(), points.back().y()));
      }
    for (int j = 0; j < cells; ++j)
      for (int i = 0; i < cells; ++i) {
        const int a = j * (cells + 1) + i;
        triangles.push_back({a, a + 1, a + cells + 2});
        triangles.push_back({a, a + cells + 2, a + cells + 1});
      }
  }
};

} // namespace

class LevelsTest : public QObject
{
  Q_OBJECT
private slots:
  /// Given a field that falls with the distance from a place, then the surface of a level is a sphere: its area and the
  /// volume within come out, the finer the mesh the better, with second order.
  void aSphere()
  {
    Project p = projectWith(0.01);
    p.materials = {material("m", 1)};
    p.parts = {part("p", "m", block(0.1, 0.1, 0.1))};
    const Vec3 middle(0.002, -0.001, 0.051);
    const double radius = 0.045;
    std::vector<double> areaOff, volumeOff;
    for (const double size : {0.008, 0.004, 0.002}) {
      p.mesh.size = number(size);
      const Exact exact(p);
      const LevelSurface surface =
          exact.field([&](const Vec3& x) { return 400 - 1000 * (x - middle).norm(); }).surfaceAt(400 - 1000 * radius);
      areaOff.push_back(std::abs(surface.wholeArea() / (4 * pi * radius * radius) - 1));
      volumeOff.push_back(std::abs(volumeWithin(surface, middle) / (4 * pi / 3 * std::pow(radius, 3)) - 1));
    }
    QVERIFY2(areaOff.back() < 1e-3, qPrintable(QString::number(areaOff.back())));
    QVERIFY2(volumeOff.back() < 1e-3, qPrintable(QString::number(volumeOff.back())));
    for (const auto* off : {&areaOff, &volumeOff}) {
      const double order = std::log2((*off)[0] / (*off)[2]) / 2;
      QVERIFY2(order > 1.6, qPrintable(QString::number(order)));
    }
  }

  /// Given a field linear in the height, then the surface is the plane of the box, its triangles face the lower side,
  /// and the volume above is exact, part by part.
  void aPlane()
  {
    const Exact exact(twoBlocks(0.02));
    const LevelField field = exact.field([](const Vec3& x) { return 300 + 1000 * x.z(); });
    QVERIFY(std::abs(field.low() - 300) < 1e-9 && std::abs(field.high() - 500) < 1e-9);
    const LevelSurface surface = field.surfaceAt(333); // z = 33 mm
    QVERIFY(std::abs(surface.wholeArea() / 0.01 - 1) < 1e-9);
    QVERIFY(std::abs(surface.area[0] / 0.01 - 1) < 1e-9 && surface.area[1] == 0);
    for (const Vec3& point : surface.points)
      QVERIFY(std::abs(point.z() - 0.033) < 1e-12);
    for (const auto& t : surface.triangles) {
      const auto corner = [&](std::size_t i) -> const Vec3& { return surface.points[static_cast<std::size_t>(t[i])]; };
      QVERIFY((corner(1) - corner(0)).cross(corner(2) - corner(0)).z() <= 0);
    }
    const LevelRegion above = field.above(333);
    QVERIFY(std::abs(above.volume[0] / (0.01 * 0.067) - 1) < 1e-6);
    QVERIFY(std::abs(above.volume[1] / 0.001 - 1) < 1e-6);
    QVERIFY(std::abs(above.share[0] - 0.67) < 1e-6 && std::abs(above.share[1] - 1) < 1e-9);
    const LevelRegion below = field.below(333);
    QVERIFY(std::abs(below.whole + above.whole - 0.002) < 1e-12);
    QCOMPARE(below.parts(), std::vector<PartId>{PartId(0)});
    QVERIFY(field.surfaceAt(333, {0, 1}).triangles.empty()); // its part is left out
  }

  /// In a turned section a level is a surface around the axis, with its real area and what it encloses: of a field of
  /// the radius a cylinder, of the height a ring, of both a cone's mantle. The volume is that of the chords of the
  /// mesh.
  void aroundAnAxis()
  {
    Project p = projectWith(0.004);
    p.section = Section{TurnedSection{}, {}};
    p.materials = {material("m", 1)};
    constexpr double inner = 0.02, outer = 0.05, tall = 0.04;
    p.parts = {part("ring", "m", Rectangle{number(outer - inner), number(tall)}, Vec3((inner + outer) / 2, 0, 0))};
    const Exact exact(p);
    double low = 1;
    for (const Vec3& node : exact.mesh->nodes)
      low = std::min(low, node.z());
    const auto near = [](double value, double expected) { return std::abs(value / expected - 1) < 1e-9; };
    const LevelField radius = exact.field([](const Vec3& x) { return x.x(); });
    QVERIFY(near(radius.surfaceAt(0.031).wholeArea(), 2 * pi * 0.031 * tall));
    QVERIFY(near(radius.above(0.031).whole, pi * (outer * outer - 0.031 * 0.031) * tall));
    const LevelField height = exact.field([&](const Vec3& x) { return x.z() - low; });
    QVERIFY(near(height.surfaceAt(0.013).wholeArea(), pi * (outer * outer - inner * inner)));
    QVERIFY(near(height.below(0.013).whole, pi * (outer * outer - inner * inner) * 0.013));
    // r + z = 60 mm: from (20, 40) to (50, 10), a mantle π (a + b) s.
    const LevelField cone = exact.field([&](const Vec3& x) { return x.x() + x.z() - low; });
    QVERIFY(near(cone.surfaceAt(0.06).wholeArea(), pi * (inner + outer) * std::hypot(0.03, 0.03)));
  }

  /// Given a level, then each face says whether the region reaches it.
  void facesReached()
  {
    const Exact exact(twoBlocks(0.02));
    const LevelField field = exact.field([](const Vec3& x) { return 300 + 1000 * x.z(); });
    const LevelRegion above = field.above(450);
    for (std::size_t f = 0; f < exact.mesh->geometry.faces.size(); ++f) {
      const Face& face = exact.mesh->geometry.faces[f];
      const bool ofUpper = face.touches(PartId(1)) && !face.contact();
      QCOMPARE(above.reached[f] != 0, ofUpper); // its sides end below 200 mm, its top is there
    }
    QVERIFY(field.above(500.1).parts().empty());
    QCOMPARE(field.above(299).whole, field.below(501).whole);
  }

  /// Given values that differ between two parts at their common face, then each part has its own level.
  void eachPartItsOwn()
  {
    const Exact exact(twoBlocks(0.03));
    auto field = std::make_shared<PartwiseField>(exact.unknowns->node.size());
    for (std::size_t t = 0; t < exact.mesh->tets.size(); ++t)
      for (const UnknownId unknown : exact.unknowns->ofTet[t])
        field->set(unknown, exact.mesh->tetPart[t], exact.mesh->tetPart[t] == PartId(0) ? 10 : 20);
    const LevelField levels(exact.mesh, exact.unknowns, field);
    QVERIFY(levels.surfaceAt(15).triangles.empty()); // a jump is no level
    QCOMPARE(levels.above(15).parts(), std::vector<PartId>{PartId(1)});
    QVERIFY(std::abs(levels.above(15).whole - 0.001) < 1e-12);
  }

  void straightLines()
  {
    const Grid grid(8, [](double x, double y) { return 10 * x + 5 * y; });
    const auto lines = levelLines(grid.points, grid.triangles, grid.values, {3, 11, 29.5, 31});
    QCOMPARE(lines.size(), 3U); // nothing is above 30
    for (const LevelLine& line : lines)
      for (const Vec3& point : line.points)
        QVERIFY(std::abs(10 * point.x() + 5 * point.y() - line.level) < 1e-12);
    // From (0.3, 0) to (0, 0.6); from (1.1, 0) to (0.1, 2).
    QVERIFY(std::abs(lines[0].length() - std::hypot(0.3, 0.6)) < 1e-12);
    QVERIFY(std::abs(lines[1].length() - std::hypot(1.0, 2.0)) < 1e-12);
    QVERIFY((lines[1].middle() - Vec3(0.6, 1, 0)).norm() < 1e-12);
  }

  /// Given a hill, then its lines are closed, one each, as long as circles.
  void closedLines()
  {
    const Grid grid(64, [](double x, double y) { return -std::hypot(x - 1.01, y - 0.99); });
    const auto lines = levelLines(grid.points, grid.triangles, grid.values, {-0.8, -0.4});
    QCOMPARE(lines.size(), 2U);
    for (const LevelLine& line : lines) {
      QVERIFY((line.points.front() - line.points.back()).norm() < 1e-12);
      QVERIFY(std::abs(line.length() / (-2 * pi * line.level) - 1) < 2e-3);
    }
  }

  void noNumberNoLine()
  {
    Grid grid(4, [](double x, double) { return x; });
    const std::size_t before = levelLines(grid.points, grid.triangles, grid.values, {0.7}).front().points.size();
    grid.values[6] = std::numeric_limits<double>::quiet_NaN();
    const auto lines = levelLines(grid.points, grid.triangles, grid.values, {0.7});
    std::size_t after = 0;
    for (const LevelLine& line : lines)
      after += line.points.size();
    QVERIFY(after < before);
    for (const LevelLine& line : lines)
      for (const Vec3& point : line.points)
        QVERIFY(std::isfinite(point.x()));
  }

  void clippedSurfaces()
  {
    const Grid grid(7, [](double x, double) { return 100 * x; });
    const auto areaOf = [](const ClippedSurface& clipped) {
      double area = 0;
      for (const auto& t : clipped.triangles) {
        const auto corner = [&](std::size_t i) -> const Vec3& {
          return clipped.points[static_cast<std::size_t>(t[i])];
        };
        area += (corner(1) - corner(0)).cross(corner(2) - corner(0)).z() / 2; // they keep their side
      }
      return area;
    };
    QVERIFY(std::abs(areaOf(clippedAt(grid.points, grid.triangles, grid.values, 55, true)) - 2 * 1.45) < 1e-12);
    QVERIFY(std::abs(areaOf(clippedAt(grid.points, grid.triangles, grid.values, 55, false)) - 2 * 0.55) < 1e-12);
    QVERIFY(clippedAt(grid.points, grid.triangles, grid.values, 500, true).triangles.empty());
  }

  void roundNumbers()
  {
    QCOMPARE(roundLevels(13, 87, 5), (std::vector<double>{20, 40, 60, 80}));
    QCOMPARE(roundLevels(-0.3, 0.3, 6).size(), 7U);
    QVERIFY(roundLevels(5, 5, 4).empty());
    QCOMPARE(roundStep(1, 10), 0.1);
    QCOMPARE(roundStep(75, 10), 10.0);
  }
};

QTEST_APPLESS_MAIN(LevelsTest)
#include "tst_levels.moc"
