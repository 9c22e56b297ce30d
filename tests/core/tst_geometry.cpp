// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "geometry/Geometry.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"

#include <QTest>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

Project withParts(std::vector<Part> parts)
{
  Project project = projectWith(0.01);
  project.materials = {material("m", 1)};
  project.parts = std::move(parts);
  return project;
}

FaceTable tableOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  if (!geometry)
    throw std::runtime_error(geometry.error().sentence());
  return geometry->table;
}

QStringList namesOf(const FaceTable& table)
{
  QStringList names;
  for (const Face& face : table.faces)
    for (const std::string& name : face.names)
      names << QString::fromStdString(name);
  names.sort();
  return names;
}

} // namespace

class GeometryTest : public QObject
{
  Q_OBJECT

private slots:
  void everyFormHasItsVolumeAndFaceNames_data()
  {
    QTest::addColumn<std::shared_ptr<Form>>("form");
    QTest::addColumn<double>("volume");
    QTest::addColumn<QStringList>("names");
    const auto row = [](const char* name, Form form, double volume, const QStringList& names) {
      QTest::newRow(name) << std::make_shared<Form>(std::move(form)) << volume << names;
    };
    row("block", block(0.1, 0.2, 0.3), 0.006, {"p.back", "p.bottom", "p.front", "p.left", "p.right", "p.top"});
    row("cylinder", Cylinder{number(0.1), number(0.2)}, pi * 0.002, {"p.bottom", "p.side", "p.top"});
    row("tube", Tube{number(0.1), number(0.05), number(0.2)}, pi * 0.2 * (0.01 - 0.0025),
        {"p.bottom", "p.inside", "p.outside", "p.top"});
    row("sphere", Sphere{number(0.1)}, 4 * pi / 3 * 0.001, {"p.outside"});
    row("cone", Cone{number(0.1), number(0.05), number(0.2)}, pi * 0.2 / 3 * (0.01 + 0.0025 + 0.005),
        {"p.bottom", "p.side", "p.top"});
    row("pointed cone", Cone{number(0.1), number(0), number(0.2)}, pi * 0.2 / 3 * 0.01, {"p.bottom", "p.side"});
    row("torus", Torus{number(0.1), number(0.02)}, 2 * pi * pi * 0.1 * 0.0004, {"p.outside"});
    const std::vector<OutlinePoint> triangle{
        {number(0), number(0)}, {number(0.1), number(0)}, {number(0), number(0.1)}};
    row("prism", Prism{triangle, number(0.2)}, 0.001, {"p.bottom", "p.side1", "p.side2", "p.side3", "p.top"});
    const std::vector<OutlinePoint> ring{
        {number(0.1), number(0)}, {number(0.2), number(0)}, {number(0.2), number(0.1)}, {number(0.1), number(0.1)}};
    row("turned profile", TurnedProfile{ring, number(2 * pi)}, pi * 0.1 * 0.03,
        {"p.side1", "p.side2", "p.side3", "p.side4"});
    row("quarter turn", TurnedProfile{ring, number(pi / 2)}, pi * 0.1 * 0.03 / 4,
        {"p.end", "p.side1", "p.side2", "p.side3", "p.side4", "p.start"});
  }
  void everyFormHasItsVolumeAndFaceNames()
  {
    QFETCH(std::shared_ptr<Form>, form);
    QFETCH(double, volume);
    QFETCH(QStringList, names);
    const FaceTable table = tableOf(withParts({part("p", "m", *form)}));
    QVERIFY2(std::abs(table.parts[0].volume / volume - 1) < 1e-9, qPrintable(QString::number(table.parts[0].volume)));
    QCOMPARE(namesOf(table), names);
    for (const Face& face : table.faces)
      QVERIFY(face.exposed() && face.area > 0);
  }

  void normalsPointOutward()
  {
    const FaceTable table = tableOf(withParts({part("p", "m", block(0.1, 0.2, 0.3), Vec3(1, 2, 3))}));
    for (const Face& face : table.faces)
      QVERIFY((face.centroid - Vec3(1, 2, 3.15)).dot(face.normal) > 0);
  }

  void cutsAndJoinsKeepNames()
  {
    Part shell = part("shell", "m", block(0.1, 0.1, 0.1));
    shell.steps.push_back(cut("cavity", block(0.08, 0.08, 0.09), {0, 0, 0.01}));
    Part knob = shell;
    knob.steps.push_back(join("knob", Cylinder{number(0.01), number(0.02)}, {0.045, 0, 0.1}));
    const FaceTable plain = tableOf(withParts({shell}));
    QVERIFY(std::abs(plain.parts[0].volume - (0.001 - 0.08 * 0.08 * 0.09)) < 1e-12);
    QVERIFY(namesOf(plain).contains("shell.cavity.bottom"));
    QVERIFY(!namesOf(plain).contains("shell.cavity.top")); // the opening
    const FaceTable joined = tableOf(withParts({knob}));
    QVERIFY(namesOf(joined).contains("shell.knob.side") && namesOf(joined).contains("shell.top"));
  }

  void touchingPartsShareAFace()
  {
    const FaceTable table = tableOf(
        withParts({part("a", "m", block(0.1, 0.1, 0.1)), part("b", "m", block(0.04, 0.05, 0.1), Vec3(0, 0, 0.1))}));
    const auto pairs = touchingPairs(table);
    QCOMPARE(pairs.size(), std::size_t{1});
    QVERIFY(std::abs(pairs[0].area - 0.002) < 1e-12);
    const Face& shared = table.faces[static_cast<std::size_t>(pairs[0].faces.front())];
    QCOMPARE(QSet<QString>({QString::fromStdString(shared.names[0]), QString::fromStdString(shared.names[1])}),
             QSet<QString>({"a.top", "b.bottom"}));
    // The rest of a.top stays exposed under its old name.
    const SurfaceFaces rest = facesOf(withParts({}), table, surface("s", {"a.top"}));
    QCOMPARE(rest.faces.size(), std::size_t{2});
    QVERIFY(std::abs(rest.area - 0.01) < 1e-12);
  }

  void overlapsAreNamed()
  {
    const auto geometry = buildGeometry(
        withParts({part("a", "m", block(0.1, 0.1, 0.1)), part("b", "m", block(0.1, 0.1, 0.1), Vec3(0, 0, 0.05))}));
    QVERIFY(!geometry);
    const QString sentence = QString::fromStdString(geometry.error().sentence());
    QVERIFY2(sentence.contains("parts a and b") && sentence.contains("500 cm³") &&
                 sentence.contains("(0 mm, 0 mm, 75 mm)"),
             qPrintable(sentence));
  }

  void impossibleShapesAreNamed_data()
  {
    QTest::addColumn<std::shared_ptr<Form>>("form");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* name, Form form, const char* says) {
      QTest::newRow(name) << std::make_shared<Form>(std::move(form)) << QString(says);
    };
    row("tube", Tube{number(0.1), number(0.1), number(0.2)}, "inner radius");
    row("torus", Torus{number(0.1), number(0.1)}, "tube radius");
    row("cone", Cone{number(0), number(0), number(0.2)}, "Both its radii are zero");
    row("two points", Prism{{{number(0), number(0)}, {number(1), number(0)}}, number(1)}, "fewer than three points");
    row("flat outline", Prism{{{number(0), number(0)}, {number(1), number(0)}, {number(2), number(0)}}, number(1)},
        "no area");
    row("across the axis",
        TurnedProfile{{{number(-1), number(0)}, {number(1), number(0)}, {number(1), number(1)}}, number(1)},
        "crosses the axis");
  }
  void impossibleShapesAreNamed()
  {
    QFETCH(std::shared_ptr<Form>, form);
    QFETCH(QString, says);
    const auto geometry = buildGeometry(withParts({part("odd", "m", *form)}));
    QVERIFY(!geometry);
    QVERIFY2(QString::fromStdString(geometry.error().sentence()).contains(says), geometry.error().sentence().c_str());
    QVERIFY(geometry.error().object == "part odd");
  }

  void nothingLeftIsNamed()
  {
    Part gone = part("gone", "m", block(0.1, 0.1, 0.1));
    gone.steps.push_back(cut("all", block(1, 1, 1)));
    const auto geometry = buildGeometry(withParts({gone}));
    QVERIFY(!geometry && geometry.error().sentence().find("part gone: Nothing is left") == 0);
  }

  void surfaceRulesPickFaces()
  {
    const FaceTable table = tableOf(withParts(
        {part("a", "m", block(0.1, 0.1, 0.1)), part("b", "m", Cylinder{number(0.02), number(0.1)}, Vec3(0, 0, 0.1))}));
    Project project = withParts({});
    project.surfaces = {surface("base", {"a.bottom"})};
    const SurfaceFaces all = facesOf(project, table, exposedOf("s", {"a", "b"}, {"base"}));
    const double disc = pi * 0.0004;
    QVERIFY(std::abs(all.area - (5 * 0.01 - disc + disc + 2 * pi * 0.02 * 0.1)) < 1e-9);
    Surface up = exposedOf("up", {"a", "b"});
    up.facing = Facing{{number(0), number(0), number(2)}, number(0.3)};
    QVERIFY(std::abs(facesOf(project, table, up).area - 0.01) < 1e-9); // both tops; the round side looks everywhere
    QVERIFY(facesOf(project, table, surface("x", {"a.lid"})).notFound == std::vector<std::string>{"a.lid"});
    QCOMPARE(facesOf(project, table, surface("x", {"b.*"})).faces.size(), std::size_t{3});
  }

  void partsOfOneShapeHaveTheirOwnNamesAndPlaces()
  {
    const auto fin = [](const char* id, Vec3 place, double turn) {
      Part p = part(id, "m", block(0.1, 0.02, 0.03), place);
      p.shape.placement.rotation.z = number(turn);
      p.steps = {cut("hole", Cylinder{number(0.005), number(0.03)}, {0.05, 0.01, 0})};
      return p;
    };
    const std::vector<Part> parts = {fin("a", {0, 0, 0}, 0), fin("fin-b", {0.3, 0, 0}, 0.7), fin("c", {0, 0.3, 0}, 0)};
    const FaceTable together = tableOf(withParts(parts));
    for (std::size_t i = 0; i < parts.size(); ++i) {
      const FaceTable alone = tableOf(withParts({parts[i]}));
      QVERIFY(std::abs(together.parts[i].volume - alone.parts[0].volume) < 1e-18);
      for (const Face& face : alone.faces) {
        const auto same = std::find_if(together.faces.begin(), together.faces.end(),
                                       [&](const Face& other) { return other.names == face.names; });
        QVERIFY2(same != together.faces.end(), face.names.front().c_str());
        QVERIFY((same->centroid - face.centroid).norm() < 1e-12);
        QVERIFY((same->normal - face.normal).norm() < 1e-12);
        QCOMPARE(same->parts[0], static_cast<int>(i));
      }
    }
  }

  void namesLastWhenADimensionChanges()
  {
    const auto topArea = [](double height) {
      const Project project = withParts(
          {part("a", "m", block(0.1, 0.1, height)), part("b", "m", block(0.02, 0.02, 0.1), Vec3(0, 0, height))});
      return facesOf(project, tableOf(project), surface("s", {"a.top"})).area;
    };
    QVERIFY(std::abs(topArea(0.1) - topArea(0.3)) < 1e-12);
  }
};

QTEST_APPLESS_MAIN(GeometryTest)
#include "tst_geometry.moc"
