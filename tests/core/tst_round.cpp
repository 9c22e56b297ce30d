// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Centres of round edges, on meshes, drafts and sections, against the shapes they were made of; and numbers of nodes,
// unknowns, parts and faces, which are not to be mixed up.
#include "TestProjects.h"
#include "heat/elements/Index.h"
#include "mesh/DraftMesh.h"
#include "mesh/RoundEdge.h"

#include <QTest>
#include <cmath>
#include <type_traits>

using namespace kiln;
using namespace kiln::test;

// Who takes one for the other is told by the compiler.
static_assert(!std::is_convertible_v<NodeId, UnknownId> && !std::is_constructible_v<UnknownId, NodeId>);
static_assert(!std::is_convertible_v<PartId, FaceId> && !std::is_constructible_v<NodeId, PartId>);
static_assert(!std::is_convertible_v<int, NodeId> && std::is_constructible_v<NodeId, int>);
static_assert(!std::is_assignable_v<NodeId&, UnknownId> && !std::is_assignable_v<UnknownId&, int>);

namespace
{

constexpr double radius = 0.03, height = 0.05;

Form rod() { return Cylinder{number(radius), number(height)}; }

Project one(const std::string& id, const Form& form, double size, const Vec3& at = Vec3::Zero())
{
  Project p = projectWith(size);
  p.materials = {material("clay", 1)};
  p.parts = {part(id, "clay", form, at)};
  return p;
}

FaceId faceOf(const Mesh& mesh, const std::string& name)
{
  for (std::size_t f = 0; f < mesh.geometry.faces.size(); ++f)
    if (const auto& names = mesh.geometry.faces[f].names; std::find(names.begin(), names.end(), name) != names.end())
      return FaceId(f);
  throw std::runtime_error("no face " + name);
}

} // namespace

class RoundTest : public QObject
{
  Q_OBJECT

private slots:
  void theEndOfARod_data()
  {
    QTest::addColumn<double>("size");
    QTest::addColumn<bool>("second");
    QTest::addColumn<bool>("draft");
    QTest::newRow("coarse") << 0.05 << false << false;
    QTest::newRow("fine") << 0.006 << false << false;
    QTest::newRow("second order") << 0.02 << true << false;
    QTest::newRow("draft") << 0.02 << false << true;
  }
  void theEndOfARod()
  {
    QFETCH(double, size);
    QFETCH(bool, second);
    QFETCH(bool, draft);
    Project p = one("rod", rod(), size, Vec3(0.01, 0.02, 0.03));
    p.mesh.secondOrder = second;
    const Mesh mesh = draft ? *draftMesh(*buildGeometry(p)) : meshOf(p);
    for (const auto& [name, z] : {std::pair("rod.top", 0.03 + height), {"rod.bottom", 0.03}})
      for (const double angle : {0.0, 1.0, 4.0}) {
        const Vec3 centre(0.01, 0.02, z);
        const Vec3 near = centre + 0.9 * radius * Vec3(std::cos(angle), std::sin(angle), 0);
        const auto edge = roundEdgeNear(mesh, faceOf(mesh, name), near);
        QVERIFY(edge.has_value());
        QVERIFY2((edge->centre - centre).norm() < 1e-7 && std::abs(edge->radius - radius) < 1e-7, name);
      }
  }

  /// Straight edges are none, however few nodes they have: the four corners of a rectangle lie on a circle, too.
  void aBlockHasNone()
  {
    for (const double size : {0.1, 0.01}) {
      const Mesh mesh = meshOf(one("tile", block(0.06, 0.06, 0.02), size));
      for (const Vec3& near : {Vec3(0.02, 0, 0.02), Vec3(0.0299, 0.0299, 0.02), Vec3(0, -0.025, 0.02)})
        QVERIFY(!roundEdgeNear(mesh, faceOf(mesh, "tile.top"), near));
    }
  }

  /// Of an edge that is made of lines and an arc only what is near the arc counts.
  void aRoundedCorner()
  {
    Project p = one("wedge", rod(), 0.004);
    p.parts.push_back(part("cut", "clay", block(0.06, 0.06, height), Vec3(0.03, 0.03, 0)));
    p.parts[0].yieldsTo = {"cut"}; // a quarter is taken out: an arc of 270° and two lines
    const Mesh mesh = meshOf(p);
    const FaceId top = faceOf(mesh, "wedge.top");
    const double z = height;
    const auto arc = roundEdgeNear(mesh, top, Vec3(-0.98 * radius, 0, z));
    QVERIFY(arc && std::abs(arc->radius - radius) < 1e-7 && (arc->centre - Vec3(0, 0, z)).norm() < 1e-7);
    QVERIFY(!roundEdgeNear(mesh, top, Vec3(0.015, 0.0, z)));
  }

  /// A face that has no border, or none of this mesh, has no edges.
  void aFaceWithoutEdges()
  {
    const Mesh mesh = meshOf(one("ball", Sphere{number(radius)}, 0.01));
    QVERIFY(!roundEdgeNear(mesh, FaceId(0), Vec3(radius, 0, 0)));
    QVERIFY(!roundEdgeNear(mesh, FaceId(mesh.geometry.faces.size()), Vec3::Zero()));
  }
};

QTEST_APPLESS_MAIN(RoundTest)
#include "tst_round.moc"
