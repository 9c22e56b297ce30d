// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Awkward solids through the real `ukiln mesh`: each is meshed, or refused with an object and a reason; none hangs,
// none crashes without a word.
#include "TestProjects.h"
#include "geometry/GeometryImport.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <STEPControl_Writer.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>

#include <QElapsedTimer>
#include <QProcess>
#include <QRegularExpression>
#include <QTest>
#include <cmath>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double mm = 1e-3;

Number n(double value) { return number(value); }

Form cylinder(double radius, double height) { return Cylinder{n(radius), n(height)}; }
Form sphere(double radius) { return Sphere{n(radius)}; }
Form cone(double bottom, double top, double height) { return Cone{n(bottom), n(top), n(height)}; }

Form prism(const std::vector<std::pair<double, double>>& outline, double height)
{
  Prism prism;
  for (const auto& [a, b] : outline)
    prism.outline.push_back({n(a), n(b)});
  prism.height = n(height);
  return prism;
}

Part lying(Part part, double x, double y)
{
  part.shape.placement.rotation = {n(x), n(y), n(0)};
  return part;
}

Project of(std::vector<Part> parts)
{
  Project project;
  project.name = "awkward";
  project.materials = {material("stuff", 1)};
  project.parts = std::move(parts);
  Case one;
  one.id = "steady";
  one.name = "Steady";
  project.cases = {one};
  return project;
}

Part solid(const std::string& id, Form form, Vec3 place = Vec3::Zero())
{
  return part(id, "stuff", std::move(form), place);
}

Part with(Part part, std::vector<ShapeStep> steps)
{
  part.steps = std::move(steps);
  return part;
}

/// A surface through round, oval and shifted sections: no plane and no quadric.
Project lofted(const QString& folder, double twist)
{
  BRepOffsetAPI_ThruSections loft(true, false);
  for (int i = 0; i < 4; ++i) {
    const double z = 20. * i;
    const gp_Ax2 frame(gp_Pnt(4. * std::sin(i), 3. * i, z), gp_Dir(0, 0, 1),
                       gp_Dir(std::cos(twist * i), std::sin(twist * i), 0));
    const auto edge = i % 2 == 0 ? BRepBuilderAPI_MakeEdge(gp_Elips(frame, 14 - 2. * i, 6)).Edge()
                                 : BRepBuilderAPI_MakeEdge(gp_Circ(frame, 9)).Edge();
    loft.AddWire(BRepBuilderAPI_MakeWire(edge).Wire());
  }
  loft.Build();
  const QString file = folder + "/loft.step";
  STEPControl_Writer writer;
  writer.Transfer(loft.Shape(), STEPControl_AsIs);
  writer.Write(file.toUtf8().constData());
  const auto read = readGeometry(file.toStdString(), {}, noProgress);
  if (!read)
    throw std::runtime_error(read.error().sentence());
  Project project = of({});
  const Project taken = projectOf(*read);
  project.files = taken.files;
  project.parts = taken.parts;
  for (Part& one : project.parts)
    one.material = "stuff";
  return project;
}

} // namespace

class TestAwkward : public QObject
{
  Q_OBJECT

private:
  QTemporaryDir folder_;

private slots:
  void everySolidIsMeshedOrRefused_data()
  {
    QTest::addColumn<QString>("json");
    QTest::addColumn<double>("volume"); // m³ by formula; 0: unknown, or it may be refused; −1: it must be
    const auto row = [&](const char* name, Project project, double volume) {
      std::vector<std::string> all;
      for (const Part& one : project.parts)
        all.push_back(one.id);
      project.surfaces = {exposedOf("skin", all)};
      project.boundaries = {boundary("air", Convection{"skin", Property{10, ""}, Property{293, ""}})};
      const std::filesystem::path file = (folder_.path() + "/" + name + ".kiln").toStdString();
      QVERIFY(saveProject(project, file).has_value());
      QTest::newRow(name) << QString::fromStdString(file.string()) << volume;
    };
    const double pi = std::numbers::pi;
    const Form cube = block(20 * mm, 20 * mm, 20 * mm);
    const double cubeVolume = std::pow(20 * mm, 3);
    const auto wedge = [&](double degrees) {
      const double rise = 50 * mm * std::tan(degrees * pi / 180);
      return std::pair(prism({{0, 0}, {50 * mm, 0}, {50 * mm, rise}}, 20 * mm), 0.5 * 50 * mm * rise * 20 * mm);
    };
    row("knife edge of 2 degrees", of({solid("wedge", wedge(2).first)}), wedge(2).second);
    row("knife edge of 0.5 degrees", of({solid("wedge", wedge(0.5).first)}), wedge(0.5).second);
    row("tangent cylinders",
        of({solid("a", cylinder(10 * mm, 30 * mm)), solid("b", cylinder(10 * mm, 30 * mm), Vec3(20 * mm, 0, 0))}),
        2 * pi * 1e-4 * 30 * mm);
    row("bore tangent to a side",
        of({with(solid("a", cube), {cut("bore", cylinder(5 * mm, 30 * mm), Vec3(5 * mm, 0, -5 * mm))})}), 0);
    row("sphere on a plate",
        of({solid("plate", block(40 * mm, 40 * mm, 5 * mm)), solid("ball", sphere(10 * mm), Vec3(0, 0, 15 * mm))}), 0);
    const auto shell = [&](const std::string& id, double outer, double inner) {
      return with(solid(id, block(outer, outer, outer), Vec3(0, 0, -outer / 2)),
                  {cut("inside", block(inner, inner, inner), Vec3(0, 0, (outer - inner) / 2))});
    };
    row("nested shells",
        of({shell("outer", 50 * mm, 46 * mm), shell("middle", 44 * mm, 40 * mm), shell("inner", 38 * mm, 34 * mm)}),
        std::pow(50 * mm, 3) - std::pow(46 * mm, 3) + std::pow(44 * mm, 3) - std::pow(40 * mm, 3) +
            std::pow(38 * mm, 3) - std::pow(34 * mm, 3));
    row("nested spheres that touch",
        of({solid("core", sphere(5 * mm)), with(solid("coat", sphere(8 * mm)), {cut("inside", sphere(5 * mm))})}),
        4. / 3 * pi * std::pow(8 * mm, 3));
    row("sphere bored at its poles",
        of({with(solid("ball", sphere(10 * mm)), {cut("bore", cylinder(1 * mm, 30 * mm), Vec3(0, 0, -15 * mm))})}), 0);
    row("half sphere",
        of({with(solid("ball", sphere(10 * mm)),
                 {cut("half", block(30 * mm, 30 * mm, 15 * mm), Vec3(0, 0, -15 * mm))})}),
        2. / 3 * pi * 1e-6);
    row("cone to a point", of({solid("cone", cone(10 * mm, 0, 25 * mm))}), pi * 1e-4 * 25 * mm / 3);
    row("slender cone", of({solid("cone", cone(2 * mm, 0, 80 * mm))}), pi * 4e-6 * 80 * mm / 3);
    row("cone tip on a plate",
        of({solid("plate", block(40 * mm, 40 * mm, 5 * mm)),
            lying(solid("cone", cone(10 * mm, 0, 20 * mm), Vec3(0, 0, 25 * mm)), pi, 0)}),
        0);
    row("cones tip to tip",
        of({solid("under", cone(10 * mm, 0, 20 * mm)),
            lying(solid("over", cone(10 * mm, 0, 20 * mm), Vec3(0, 0, 40 * mm)), pi, 0)}),
        2 * pi * 1e-4 * 20 * mm / 3);
    const auto pairAt = [&](double distance) {
      return of({solid("a", cube), solid("b", cube, Vec3(20 * mm + distance, 0, 0))});
    };
    row("gap of 50 um", pairAt(50e-6), 2 * cubeVolume);
    row("gap of 2 um", pairAt(2e-6), 2 * cubeVolume);
    row("gap below the tolerance", pairAt(0.5e-6), 0);
    row("overlap of 10 um", pairAt(-10e-6), 0);
    row("overlap below the tolerance", pairAt(-0.5e-6), 2 * cubeVolume);
    row("one solid twice", of({solid("a", cube), solid("b", cube)}), 0);
    row("shifted against each other", of({solid("a", cube), solid("b", cube, Vec3(20 * mm, 3e-6, 5 * mm))}),
        2 * cubeVolume);
    row("torus", of({solid("ring", Torus{n(20 * mm), n(5 * mm)})}), 2 * pi * pi * 20 * mm * 25e-6);
    row("torus cut in two",
        of({with(solid("ring", Torus{n(20 * mm), n(5 * mm)}), {cut("half", block(60 * mm, 60 * mm, 10 * mm))})}),
        pi * pi * 20 * mm * 25e-6);
    row("lofted surface", lofted(folder_.path(), 0), 0);
    row("lofted and twisted surface", lofted(folder_.path(), 0.6), 0);
    row("foil of 0.1 mm", of({solid("foil", block(100 * mm, 100 * mm, 0.1 * mm))}), 100 * mm * 100 * mm * 0.1 * mm);
    row("needle", of({solid("needle", cylinder(0.25 * mm, 200 * mm))}), pi * 0.0625e-6 * 200 * mm);
    const Part across = lying(solid("pipe", cylinder(10 * mm, 60 * mm), Vec3(-30 * mm, 0, 30 * mm)), 0, pi / 2);
    const auto crossing = [&] {
      PlacedForm placed{cylinder(10 * mm, 60 * mm), across.shape.placement};
      return placed;
    };
    row("equal pipes crossing, joined",
        of({with(solid("pipe", cylinder(10 * mm, 60 * mm)), {{"branch", Join{crossing(), Once{}}, {}}})}),
        2 * pi * 1e-4 * 60 * mm - 16. / 3 * 1e-6);
    row("equal pipes crossing, cut",
        of({with(solid("pipe", cylinder(10 * mm, 60 * mm)), {{"branch", Cut{crossing(), Once{}}, {}}})}), 0);
    row("sieve",
        of({with(solid("plate", block(60 * mm, 60 * mm, 2 * mm)),
                 {cut("holes", cylinder(0.5 * mm, 4 * mm), Vec3(-25 * mm, 0, -1 * mm),
                      Row{n(26), {n(2 * mm), n(0), n(0)}})})}),
        60 * mm * 60 * mm * 2 * mm - 26 * pi * 0.25e-6 * 2 * mm);
    row("edges rounded to the full",
        of({with(solid("bar", block(20 * mm, 20 * mm, 10 * mm)),
                 {{"round", RoundEdges{{"bar.top"}, n(9.99 * mm)}, {}}})}),
        0);
    row("ball touching a wall from inside",
        of({with(solid("box", block(24 * mm, 24 * mm, 24 * mm)), {cut("inside", cube, Vec3(0, 0, 2 * mm))}),
            solid("ball", sphere(10 * mm), Vec3(0, 0, 12 * mm))}),
        0);
    row("no thickness", of({solid("foil", block(20 * mm, 20 * mm, 0))}), -1);
    row("outline that crosses itself",
        of({solid("bow", prism({{0, 0}, {20 * mm, 20 * mm}, {20 * mm, 0}, {0, 20 * mm}}, 10 * mm))}), -1);
    row("tube without a wall", of({solid("tube", Tube{n(10 * mm), n(10 * mm), n(20 * mm)})}), -1);
    row("cut away altogether", of({with(solid("a", cube), {cut("all", block(1, 1, 1), Vec3(0, 0, -0.5))})}), -1);
  }

  void everySolidIsMeshedOrRefused()
  {
    QFETCH(QString, json);
    QFETCH(double, volume);
    const QString out = json + ".results";
    QProcess process;
    QElapsedTimer clock;
    clock.start();
    process.start(UKILN, {"mesh", json, "--out", out});
    QVERIFY2(process.waitForFinished(90'000), "it hangs");
    QCOMPARE(process.exitStatus(), QProcess::NormalExit);
    const QString error = QString::fromUtf8(process.readAllStandardError());
    if (process.exitCode() != 0) {
      qInfo("refused: %s", qPrintable(error.trimmed()));
      static const QRegularExpression names("error: (parts?|faces?) ");
      QVERIFY2(error.contains(names), qPrintable(error));
      QVERIFY2(volume <= 0, qPrintable(error));
      return;
    }
    QVERIFY2(volume >= 0, "it should have been refused");
    const auto stored = loadMesh(meshFile(out.toStdString()));
    QVERIFY(stored.has_value());
    double meshed = 0;
    for (const double one : meshedVolumes(stored->mesh))
      meshed += one;
    double exact = 0;
    for (const GeometryPart& part : stored->mesh.geometry.parts)
      exact += part.volume;
    qInfo("%zu tets, smallest angle %.2f degrees, %lld ms", stored->mesh.tets.size(), stored->mesh.smallestDihedral,
          static_cast<long long>(clock.elapsed()));
    QVERIFY2(std::abs(meshed / exact - 1) < 0.07, qPrintable(QString::number(meshed / exact)));
    if (volume > 0)
      QVERIFY2(std::abs(exact / volume - 1) < 2e-3, qPrintable(QString::number(exact / volume)));
  }

  /// Flat faces of a STEP file are areas of a section model; a solid model refuses them with a sentence.
  void flatFacesOfAFile()
  {
    const auto rectangle = [](double x0, double x1) {
      BRepBuilderAPI_MakePolygon border(gp_Pnt(x0, 0, 0), gp_Pnt(x1, 0, 0), gp_Pnt(x1, 30, 0), gp_Pnt(x0, 30, 0), true);
      return BRepBuilderAPI_MakeFace(border.Wire(), true).Face();
    };
    STEPControl_Writer writer;
    writer.Transfer(rectangle(0, 20), STEPControl_AsIs); // mm
    writer.Transfer(rectangle(20, 50), STEPControl_AsIs);
    const QString file = folder_.path() + "/flat.step";
    QCOMPARE(writer.Write(qPrintable(file)), IFSelect_RetDone);
    const QString out = folder_.path() + "/flat.kiln";
    QProcess process;
    process.start(UKILN, {"import", file, "--to", out});
    QVERIFY(process.waitForFinished(60'000) && process.exitCode() == 0);
    QVERIFY(process.readAllStandardOutput().contains("for a section model"));
    Project project = *loadProject(out.toStdString());
    QCOMPARE(project.parts.size(), 2U);
    project.materials = {material("stuff", 2)};
    for (Part& one : project.parts)
      one.material = "stuff";
    const auto thin = buildGeometry(project);
    QVERIFY(!thin && thin.error().problem.find("no thickness") != std::string::npos);
    project.section = Section{PlaneSection{Across::Z, {}, {}}, {}};
    const auto geometry = buildGeometry(project);
    QVERIFY(geometry);
    QVERIFY(std::abs(geometry->table.parts[0].volume / 6e-4 - 1) < 1e-9);
    QVERIFY(std::abs(geometry->table.parts[1].volume / 9e-4 - 1) < 1e-9);
    std::string left, right;
    for (const Face& face : geometry->table.faces) {
      if (!face.aside && face.exposed() && face.normal.x() < -0.9)
        left = face.names.front();
      if (!face.aside && face.exposed() && face.normal.x() > 0.9)
        right = face.names.front();
    }
    project.surfaces = {surface("l", {left}), surface("r", {right})};
    project.boundaries = {boundary("hot", FixedSurface{"l", number(350)}),
                          boundary("cold", FixedSurface{"r", number(300)})};
    project.cases = of({}).cases;
    QVERIFY(std::abs(wattsOf(solve(project).boundaries, "hot") / (2 * 0.03 * 50 / 0.05) - 1) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(TestAwkward)
#include "tst_awkward.moc"
