// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The surface mesher by itself: planar triangles, patches with holes, constrained lines, curved metrics.
#include "mesh/PatchMesh.h"

#include <QTest>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

using namespace kiln;

namespace
{

constexpr double pi = std::numbers::pi;

/// A closed border from points, divided to about \p size; appended to \p border.
void addLoop(PatchBorder& border, const std::vector<Vec2>& corners, double size)
{
  const int first = static_cast<int>(border.vertices.size());
  for (std::size_t c = 0; c < corners.size(); ++c) {
    const Vec2& a = corners[c];
    const Vec2& b = corners[(c + 1) % corners.size()];
    const int pieces = std::max(1, static_cast<int>(std::lround((b - a).norm() / size)));
    for (int i = 0; i < pieces; ++i) {
      const Vec2 uv = a + (b - a) * i / pieces;
      border.vertices.push_back({uv, border.placeAt(uv), static_cast<int>(border.vertices.size()), true, false});
    }
  }
  const int last = static_cast<int>(border.vertices.size());
  for (int i = first; i < last; ++i)
    border.segments.push_back({i, i + 1 < last ? i + 1 : first});
}

PatchBorder flat(double size)
{
  PatchBorder border;
  border.placeAt = [](const Vec2& uv) { return Vec3(uv.x(), uv.y(), 0); };
  border.sizeAt = [size](const PatchVertex&) { return size; };
  border.scaleAt = [](const Vec2&) { return Vec2(1, 1); };
  return border;
}

const std::vector<Vec2> square{{0, 0}, {1, 0}, {1, 1}, {0, 1}};

double areaOf(const PatchMesh& patch)
{
  double area = 0;
  for (const Triangle& t : patch.triangles()) {
    const auto p = [&](std::size_t i) -> const Vec3& { return patch.vertices()[static_cast<std::size_t>(t[i])].place; };
    area += (p(1) - p(0)).cross(p(2) - p(0)).norm() / 2;
  }
  return area;
}

double smallestAngle(const PatchMesh& patch)
{
  double smallest = pi;
  for (const Triangle& t : patch.triangles())
    for (std::size_t i = 0; i < 3; ++i) {
      const auto p = [&](std::size_t k) -> const Vec3& {
        return patch.vertices()[static_cast<std::size_t>(t[(i + k) % 3])].place;
      };
      const Vec3 a = p(1) - p(0);
      const Vec3 b = p(2) - p(0);
      smallest = std::min(smallest, std::atan2(a.cross(b).norm(), a.dot(b)));
    }
  return smallest * 180 / pi;
}

/// Each inner edge has two triangles, each border segment one.
bool isManifold(const PatchMesh& patch, std::size_t borderSegments)
{
  std::map<std::pair<int, int>, int> edges;
  for (const Triangle& t : patch.triangles())
    for (std::size_t i = 0; i < 3; ++i)
      ++edges[std::minmax(t[i], t[(i + 1) % 3])];
  std::size_t single = 0;
  for (const auto& [edge, count] : edges) {
    if (count > 2)
      return false;
    single += count == 1 ? 1 : 0;
  }
  return single == borderSegments;
}

} // namespace

class PatchTest : public QObject
{
  Q_OBJECT

private slots:
  void aSquareIsFilledToTheWantedSize_data()
  {
    QTest::addColumn<double>("size");
    for (const double size : {0.5, 0.2, 0.1, 0.05, 0.02})
      QTest::newRow(qPrintable(QString::number(size))) << size;
  }
  void aSquareIsFilledToTheWantedSize()
  {
    QFETCH(double, size);
    PatchBorder border = flat(size);
    addLoop(border, square, size);
    const std::size_t segments = border.segments.size();
    PatchMesh patch(border);
    QVERIFY(patch.build());
    QVERIFY(std::abs(areaOf(patch) - 1) < 1e-12);
    QVERIFY(isManifold(patch, segments));
    QVERIFY2(smallestAngle(patch) > 20, qPrintable(QString::number(smallestAngle(patch))));
    // An equilateral triangle of this edge has √3/4 h².
    const double ideal = 1 / (std::sqrt(3.0) / 4 * size * size);
    const double ratio = static_cast<double>(patch.triangles().size()) / ideal;
    QVERIFY2(ratio > 0.5 && ratio < 1.6, qPrintable(QString::number(ratio)));
  }

  void theBorderIsNeverSplit()
  {
    PatchBorder border = flat(0.05);
    addLoop(border, square, 0.25); // a coarse border around a fine inside
    const std::size_t given = border.vertices.size();
    PatchMesh patch(border);
    QVERIFY(patch.build());
    for (std::size_t i = given; i < patch.vertices().size(); ++i) {
      const Vec2& uv = patch.vertices()[i].uv;
      QVERIFY(uv.x() > 1e-6 && uv.x() < 1 - 1e-6 && uv.y() > 1e-6 && uv.y() < 1 - 1e-6);
    }
    for (std::size_t i = 0; i < given; ++i)
      QVERIFY(patch.vertices()[i].uv == border.vertices[i].uv);
    QVERIFY(isManifold(patch, border.segments.size()));
  }

  void holesStayOpen()
  {
    PatchBorder border = flat(0.08);
    addLoop(border, square, 0.08);
    addLoop(border, {{0.3, 0.3}, {0.3, 0.6}, {0.6, 0.6}, {0.6, 0.3}}, 0.08);
    PatchMesh patch(border);
    QVERIFY(patch.build());
    QVERIFY(std::abs(areaOf(patch) - (1 - 0.09)) < 1e-12);
    QVERIFY(isManifold(patch, border.segments.size()));
  }

  void anIslandInAHoleIsFilled()
  {
    PatchBorder border = flat(0.08);
    addLoop(border, square, 0.08);
    addLoop(border, {{0.2, 0.2}, {0.8, 0.2}, {0.8, 0.8}, {0.2, 0.8}}, 0.08);
    addLoop(border, {{0.4, 0.4}, {0.6, 0.4}, {0.6, 0.6}, {0.4, 0.6}}, 0.08);
    PatchMesh patch(border);
    QVERIFY(patch.build());
    QVERIFY(std::abs(areaOf(patch) - (1 - 0.36 + 0.04)) < 1e-12);
  }

  void aLineInsideIsKept()
  {
    PatchBorder border = flat(0.1);
    addLoop(border, square, 0.1);
    const int first = static_cast<int>(border.vertices.size());
    for (int i = 0; i <= 5; ++i) {
      const Vec2 uv(0.3 + 0.08 * i, 0.4 + 0.03 * i);
      border.vertices.push_back({uv, border.placeAt(uv), first + i, true, false});
      if (i > 0)
        border.segments.push_back({first + i - 1, first + i});
    }
    PatchMesh patch(border);
    QVERIFY(patch.build());
    std::set<std::pair<int, int>> edges;
    for (const Triangle& t : patch.triangles())
      for (std::size_t i = 0; i < 3; ++i)
        edges.insert(std::minmax(t[i], t[(i + 1) % 3]));
    for (int i = 1; i <= 5; ++i)
      QVERIFY(edges.contains({first + i - 1, first + i}));
    QVERIFY(std::abs(areaOf(patch) - 1) < 1e-12);
  }

  void aSlitAndAThinStripAreFilled()
  {
    PatchBorder strip = flat(0.1);
    addLoop(strip, {{0, 0}, {2, 0}, {2, 0.02}, {0, 0.02}}, 0.1);
    PatchMesh patch(strip);
    QVERIFY(patch.build());
    QVERIFY(std::abs(areaOf(patch) - 0.04) < 1e-12);
    PatchBorder comb = flat(0.1);
    addLoop(comb, {{0, 0}, {1, 0}, {1, 1}, {0.52, 1}, {0.52, 0.1}, {0.48, 0.1}, {0.48, 1}, {0, 1}}, 0.1);
    PatchMesh combed(comb);
    QVERIFY(combed.build());
    QVERIFY(std::abs(areaOf(combed) - (1 - 0.04 * 0.9)) < 1e-12);
    QVERIFY(isManifold(combed, comb.segments.size()));
  }

  void crossingBordersAreRefused()
  {
    PatchBorder border = flat(0.5);
    addLoop(border, {{0, 0}, {1, 1}, {1, 0}, {0, 1}}, 10); // a bow tie
    PatchMesh patch(border);
    QVERIFY(!patch.build());
    PatchBorder nothing = flat(0.5);
    PatchMesh empty(nothing);
    QVERIFY(!empty.build());
  }

  void gradedSizesAreFollowed()
  {
    PatchBorder border = flat(0.2);
    border.sizeAt = [](const PatchVertex& v) { return 0.01 + 0.3 * (v.place - Vec3(0.5, 0.5, 0)).norm(); };
    addLoop(border, square, 0.15);
    PatchMesh patch(border);
    QVERIFY(patch.build());
    double near = 0, far = 0;
    for (const Triangle& t : patch.triangles()) {
      const auto p = [&](std::size_t i) -> const Vec3& {
        return patch.vertices()[static_cast<std::size_t>(t[i])].place;
      };
      const Vec3 centre = (p(0) + p(1) + p(2)) / 3;
      const double longest = std::max({(p(0) - p(1)).norm(), (p(1) - p(2)).norm(), (p(2) - p(0)).norm()});
      const double away = (centre - Vec3(0.5, 0.5, 0)).norm();
      if (away < 0.05)
        near = std::max(near, longest);
      if (away > 0.3 && away < 0.4)
        far = std::max(far, longest);
    }
    QVERIFY2(near < 0.045 && far > 0.06, qPrintable(QString("%1 %2").arg(near).arg(far)));
    QVERIFY(smallestAngle(patch) > 15);
  }

  void aRolledSheetIsMeshedInItsOwnMetric()
  {
    // Half a cylinder of radius 0.2: u is an angle, v a height. Its triangles must be as good as flat ones.
    constexpr double radius = 0.2, height = 0.5, size = 0.04;
    PatchBorder border;
    border.placeAt = [](const Vec2& uv) { return Vec3(radius * std::cos(uv.x()), radius * std::sin(uv.x()), uv.y()); };
    border.sizeAt = [](const PatchVertex&) { return size; };
    border.scaleAt = [scale = Vec2(radius, 1)](const Vec2&) { return scale; };
    border.scale = {radius, 1};
    const auto edge = [&](const Vec2& a, const Vec2& b) {
      const int pieces = static_cast<int>(std::lround((b - a).cwiseProduct(border.scale).norm() / size));
      for (int i = 0; i < pieces; ++i) {
        const Vec2 uv = a + (b - a) * i / pieces;
        border.vertices.push_back({uv, border.placeAt(uv), static_cast<int>(border.vertices.size()), true, false});
      }
    };
    edge({0, 0}, {pi, 0});
    edge({pi, 0}, {pi, height});
    edge({pi, height}, {0, height});
    edge({0, height}, {0, 0});
    const int count = static_cast<int>(border.vertices.size());
    for (int i = 0; i < count; ++i)
      border.segments.push_back({i, (i + 1) % count});
    PatchMesh patch(border);
    QVERIFY(patch.build());
    QVERIFY2(smallestAngle(patch) > 20, qPrintable(QString::number(smallestAngle(patch))));
    const double chordShare = areaOf(patch) / (pi * radius * height);
    QVERIFY(chordShare > 0.99 && chordShare < 1);
  }

  void regionsFollowTheirBordersByParity()
  {
    const auto triangles = triangulateRegion({{0, 0}, {4, 0}, {4, 4}, {0, 4}, {1, 1}, {3, 1}, {3, 3}, {1, 3}},
                                             {{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7}, {7, 4}});
    QVERIFY(triangles);
    QCOMPARE(triangles->size(), std::size_t{8});
    QVERIFY(!triangulateRegion({{0, 0}, {1, 1}, {0, 1}, {1, 0}}, {{0, 1}, {2, 3}}));
    QVERIFY(!triangulateRegion({{0, 0}, {1, 1}, {2, 2}}, {{0, 1}, {1, 2}}));
  }
};

QTEST_APPLESS_MAIN(PatchTest)
#include "tst_patch.moc"
