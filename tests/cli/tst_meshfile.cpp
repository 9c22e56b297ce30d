// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Meshes of other programs and linked files through the real `ukiln`: regions become parts, a flat mesh becomes a
// section, a linked file that changed says so.
#include "MeshSamples.h"
#include "TestProjects.h"
#include "geometry/GeometryImport.h"
#include "geometry/TakenElements.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "mesh/CountEstimate.h"
#include "mesh/SecondOrder.h"
#include "mesh/VolumeMesh.h"

#include <QFile>
#include <QProcess>
#include <QTest>
#include <algorithm>
#include <numeric>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A square of two regions, one of quads and one of triangles; the first has a hole of one cell.
QByteArray flatMesh()
{
  std::vector<Vec3> points;
  for (int y = 0; y <= 3; ++y)
    for (int x = 0; x <= 5; ++x)
      points.emplace_back(x, y, 2);
  const auto at = [](int x, int y) { return 6 * y + x; };
  std::vector<Cell> cells;
  for (int y = 0; y < 3; ++y)
    for (int x = 0; x < 5; ++x) {
      if (x == 1 && y == 1)
        continue;
      if (x < 3) {
        cells.push_back({9, {at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)}, 1});
      } else {
        cells.push_back({5, {at(x, y), at(x + 1, y), at(x + 1, y + 1)}, 2});
        cells.push_back({5, {at(x, y + 1), at(x, y), at(x + 1, y + 1)}, 2});
      }
    }
  return vtu(points, cells);
}

} // namespace

class TestMeshFile : public QObject
{
  Q_OBJECT

  QTemporaryDir folder_;

  QString write(const QString& name, const QByteArray& bytes)
  {
    QFile file(folder_.filePath(name));
    if (!file.open(QIODevice::WriteOnly))
      qFatal("cannot write");
    file.write(bytes);
    return file.fileName();
  }
  /// Exit code and what was said on standard error.
  static std::pair<int, QString> ukiln(const QStringList& arguments)
  {
    QProcess process;
    process.start(UKILN, arguments);
    if (!process.waitForFinished(60'000) || process.exitStatus() != QProcess::NormalExit)
      return {-1, "hangs or crashes"};
    return {process.exitCode(), QString::fromUtf8(process.readAllStandardError())};
  }
  Project imported(const QString& file, const QStringList& more = {})
  {
    const QString out = folder_.filePath("out.kiln");
    const auto [code, said] = ukiln(QStringList{"import", file, "--to", out} + more);
    if (code != 0)
      qFatal("%s", qPrintable(said));
    return *loadProject(out.toStdString());
  }

  /// Elements of a part.
  static std::size_t tetsOf(const Mesh& mesh, int part)
  {
    const auto pieces = std::count(mesh.tetPart.begin(), mesh.tetPart.end(), part);
    return static_cast<std::size_t>(pieces) / tetPieces(mesh.order);
  }

private slots:
  /// Every region is a part; what touches shares faces; heat crosses all three as through one bar, on the elements of
  /// the file.
  void regionsBecomeParts_data()
  {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QString>("first");
    QTest::newRow("VTU") << "cubes.vtu" << threeCubes(true) << "Region 4";
    QTest::newRow("legacy VTK") << "cubes.vtk" << threeCubes(true, legacyVtk) << "Region 4";
    QTest::newRow("Exodus II") << "cubes.exo" << threeCubes(true, exodus) << "Cube 4";
    QTest::newRow("CGNS") << "cubes.cgns" << threeCubes(true, cgns) << "Cube 4";
  }
  void regionsBecomeParts()
  {
    QFETCH(QString, name);
    QFETCH(QByteArray, text);
    QFETCH(QString, first);
    Project p = imported(write(name, text), {"--unit", "mm"});
    QCOMPARE(p.parts.size(), 3U);
    QCOMPARE(QString::fromStdString(p.parts[0].name), first);
    p.materials = {material("m", 2)};
    for (Part& part : p.parts)
      part.material = "m";
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    int contacts = 0;
    for (const GeometryPart& part : geometry->table.parts)
      QVERIFY(std::abs(part.volume / 1e-6 - 1) < 1e-9);
    std::string left, right;
    for (const Face& face : geometry->table.faces) {
      contacts += face.contact() ? 1 : 0;
      if (face.exposed() && face.normal.x() < -0.9)
        left = face.names.front();
      if (face.exposed() && face.normal.x() > 0.9)
        right = face.names.front();
    }
    QCOMPARE(contacts, 2);
    p.surfaces = {surface("l", {left}), surface("r", {right})};
    p.boundaries = {boundary("hot", FixedSurface{"l", number(330)}), boundary("cold", FixedSurface{"r", number(300)})};
    Case one;
    one.id = "steady";
    one.name = "Steady";
    p.cases = {one};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.boundaries, "hot") / (2 * 1e-4 * 30 / 0.03) - 1) < 1e-9);
    QCOMPARE(tetsOf(result.mesh, 0), 6U); // of the hexahedron
    QCOMPARE(tetsOf(result.mesh, 1), 6U); // of two wedges
    QCOMPARE(tetsOf(result.mesh, 2), 6U);
    for (Part& part : p.parts)
      std::get<FileBody>(part.shape.form).meshAnew = true;
    p.mesh.size = number(0.004);
    QVERIFY(tetsOf(meshOf(p), 0) > 20);
  }

  /// Structured zones are parts, too, that touch where their borders lie on each other.
  void structuredZones()
  {
    const Project p = imported(write("blocks.cgns", structuredCgns(3)), {"--unit", "mm"});
    QCOMPARE(p.parts.size(), 3U);
    QCOMPARE(p.parts[1].name, std::string("Block 2"));
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    const auto& faces = geometry->table.faces;
    QCOMPARE(std::count_if(faces.begin(), faces.end(), [](const Face& face) { return face.contact(); }), 2);
    for (const GeometryPart& part : geometry->table.parts)
      QVERIFY(std::abs(part.volume / 1e-6 - 1) < 1e-9);
  }

  /// Files that are cut off, or where bytes are changed, are refused with a sentence or read; nothing hangs or crashes.
  void spoiledFiles_data()
  {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QByteArray>("whole");
    QTest::newRow("Exodus II") << "spoiled.exo" << threeCubes(true, exodus);
    QTest::newRow("CGNS") << "spoiled.cgns" << threeCubes(true, cgns);
  }
  void spoiledFiles()
  {
    QFETCH(QString, name);
    QFETCH(QByteArray, whole);
    std::mt19937 random(11);
    int refused = 0;
    for (int trial = 0; trial < 12; ++trial) {
      QByteArray bytes = whole;
      if (trial % 2 == 0)
        bytes.truncate(static_cast<int>(random() % static_cast<unsigned>(whole.size())));
      else
        for (int i = 0; i < 40; ++i)
          bytes[static_cast<int>(random() % static_cast<unsigned>(whole.size()))] = static_cast<char>(random() % 256);
      const auto [code, said] =
          ukiln({"import", write(name, bytes), "--to", folder_.filePath("spoiled.kiln"), "--unit", "mm"});
      QVERIFY2(code >= 0, qPrintable(QString("trial %1: %2").arg(trial).arg(said)));
      refused += code != 0 ? 1 : 0;
      QVERIFY2(code == 0 || said.contains(name), qPrintable(said));
    }
    QVERIFY(refused >= 5);
  }

  /// Regions whose elements meet across each other are told, and one of them meshed anew is a way out.
  void elementsThatDoNotMeet()
  {
    Project p = imported(write("across.vtu", threeCubes(false)), {"--unit", "mm"});
    for (Part& part : p.parts)
      part.material = "m";
    p.materials = {material("m", 2)};
    const auto mesh = buildMesh(p, *buildGeometry(p), noProgress);
    QVERIFY(!mesh);
    QVERIFY(mesh.error().sentence().find("part Region 9: The elements of its file do not fit") != std::string::npos);
    std::get<FileBody>(p.parts[2].shape.form).meshAnew = true;
    const Mesh other = meshOf(p);
    QCOMPARE(tetsOf(other, 0), 6U);
    QCOMPARE(tetsOf(other, 1), 6U);
    QVERIFY(std::abs(meshedVolumes(other)[2] / 1e-6 - 1) < 1e-9);
  }

  /// Hexahedra in any numbering are divided alike from both sides; a part beside them follows their skin.
  void hexahedraInAnyNumbering()
  {
    constexpr int n = 3;
    std::vector<int> number_(64);
    std::iota(number_.begin(), number_.end(), 0);
    std::shuffle(number_.begin(), number_.end(), std::mt19937(5));
    const auto at = [&](int x, int y, int z) { return number_[static_cast<std::size_t>(x + 4 * y + 16 * z)]; };
    std::vector<Vec3> points(64);
    for (int z = 0; z <= n; ++z)
      for (int y = 0; y <= n; ++y)
        for (int x = 0; x <= n; ++x)
          points[static_cast<std::size_t>(at(x, y, z))] = Vec3(10 * x, 10 * y, 10 * z);
    std::vector<Cell> cells;
    for (int z = 0; z < n; ++z)
      for (int y = 0; y < n; ++y)
        for (int x = 0; x < n; ++x)
          cells.push_back({12,
                           {at(x, y, z), at(x + 1, y, z), at(x + 1, y + 1, z), at(x, y + 1, z), at(x, y, z + 1),
                            at(x + 1, y, z + 1), at(x + 1, y + 1, z + 1), at(x, y + 1, z + 1)},
                           1});
    Project p = imported(write("hexes.vtu", vtu(points, cells)), {"--unit", "mm"});
    QCOMPARE(p.parts.size(), 1U);
    QVERIFY(std::abs(estimateCount(p, buildGeometry(p)->table).elements - 27 * 6) < 28); // five or six each
    p.parts.push_back(part("own", "m", block(0.03, 0.03, 0.01), Vec3(0.015, 0.015, 0.03)));
    const Mesh mesh = meshOf(p);
    QVERIFY(tetsOf(mesh, 0) >= 27 * 5 && tetsOf(mesh, 0) <= 27 * 6);
    int shared = 0;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      shared += mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])].contact() ? 1 : 0;
    QCOMPARE(shared, 18 * (p.mesh.secondOrder ? 4 : 1)); // nine quads of the file, halved
    QVERIFY(std::abs(meshedVolumes(mesh)[1] / 9e-6 - 1) < 1e-9);

    p.parts[1].shape.placement.position.x = number(0.012); // across the file's triangles
    const auto misfit = buildMesh(p, *buildGeometry(p), noProgress);
    QVERIFY(!misfit && misfit.error().sentence().find("do not fit") != std::string::npos);
    p.parts[0].shape.placement.position = {number(-0.003), number(0), number(0)}; // moved, it fits again
    QVERIFY(tetsOf(meshOf(p), 0) >= 27 * 5);
    QVERIFY(firstThatKeeps(p) == &p.parts[0]);
    p.parts[0].steps = {cut("hole", Cylinder{number(0.004), number(0.05)}, {0.015, 0.015, -0.01})};
    QVERIFY(firstThatKeeps(p) == nullptr);
    QVERIFY(mentions(checkOnGeometry(p, buildGeometry(p)->table), Finding::Severity::Hint, {"meshed anew"}));
  }

  /// Triangles and quads make a section model with the regions' outlines, holes cut.
  void aFlatMeshBecomesASection()
  {
    Project p = imported(write("flat.vtu", flatMesh()), {"--unit", "cm"});
    QVERIFY(p.section.has_value());
    QCOMPARE(p.parts.size(), 2U);
    for (Part& part : p.parts)
      part.material = "m";
    p.materials = {material("m", 2)};
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    QVERIFY(std::abs(geometry->table.parts[0].volume / 8e-4 - 1) < 1e-9); // per metre of depth
    QVERIFY(std::abs(geometry->table.parts[1].volume / 6e-4 - 1) < 1e-9);
    QCOMPARE(std::get<FlatOutline>(p.parts[0].shape.form).outline.size(), 4U); // points on straight borders are gone
  }

  /// What was exported comes back: the same parts with the same volumes.
  void anExportComesBack()
  {
    Project p = projectWith(0.004);
    p.materials = {material("m", 2)};
    p.parts = {part("low", "m", block(0.02, 0.02, 0.01)), part("high", "m", block(0.01, 0.01, 0.01), Vec3(0, 0, 0.01))};
    p.surfaces = {surface("base", {"low.bottom"})};
    p.sources = {source("q", PartPower{{"high"}, number(1)})};
    p.boundaries = {boundary("cold", FixedSurface{"base", number(300)})};
    const QString file = folder_.filePath("two.kiln");
    QVERIFY(saveProject(p, file.toStdString()));
    QCOMPARE(ukiln({"solve", file}).first, 0);
    const QString out = folder_.filePath("two.vtu");
    QCOMPARE(ukiln({"export", file, "--case", "Steady", "--format", "vtu", "--to", out}).first, 0);
    const Project back = imported(out, {"--unit", "m"});
    QCOMPARE(back.parts.size(), 2U);
    QCOMPARE(back.parts[0].name, p.parts[0].name); // and names
    QCOMPARE(back.parts[1].name, p.parts[1].name);
    Project meshed = back;
    meshed.materials = {material("m", 2)};
    const auto geometry = buildGeometry(meshed);
    QVERIFY(geometry);
    QVERIFY(std::abs(geometry->table.parts[0].volume / 4e-6 - 1) < 1e-6);
    QVERIFY(std::abs(geometry->table.parts[1].volume / 1e-6 - 1) < 1e-6);
    // On the same elements the same heat gives the same temperatures.
    Project again = back;
    again.mesh = p.mesh;
    again.materials = p.materials;
    std::string base;
    for (const Face& face : geometry->table.faces)
      if (face.exposed() && face.normal.z() < -0.9 && face.centroid.z() < 1e-6)
        base = face.names.front();
    for (Part& part : again.parts)
      part.material = "m";
    again.surfaces = {surface("base", {base})};
    again.sources = {source("q", PartPower{{again.parts[1].id}, number(1)})};
    again.boundaries = p.boundaries;
    again.cases = p.cases;
    const CaseResult first = solve(p);
    const CaseResult second = solve(again);
    QCOMPARE(tetsOf(second.mesh, 0), tetsOf(first.mesh, 0));
    QCOMPARE(tetsOf(second.mesh, 1), tetsOf(first.mesh, 1));
    const auto hottest = [](const CaseResult& r) {
      return *std::max_element(r.temperature.begin(), r.temperature.end());
    };
    QVERIFY(std::abs(hottest(second) - hottest(first)) < 1e-6 * (hottest(first) - 300));
  }

  /// A linked file stays outside: the project holds no shape, solves, and says when the file changes or is gone.
  void aLinkedFile()
  {
    Project drawing = projectWith(0.01);
    drawing.materials = {material("m", 2)};
    drawing.parts = {part("plate", "m", block(0.03, 0.02, 0.004))};
    const QString step = folder_.filePath("plate.step");
    QVERIFY(writeGeometry(drawing, step.toStdString()));
    Project p = imported(step);
    p.files[0].linked = true;
    p.files[0].path = "plate.step";
    p.materials = {material("m", 2)};
    p.parts[0].material = "m";
    p.surfaces = {exposedOf("all", {p.parts[0].id})};
    p.sources = {source("q", PartPower{{p.parts[0].id}, number(1)})};
    p.boundaries = {boundary("air", Convection{"all", number(10), number(300)})};
    Case one;
    one.id = "steady";
    one.name = "Steady";
    p.cases = {one};
    const QString file = folder_.filePath("linked.kiln");
    QVERIFY(saveProject(p, file.toStdString()));
    const auto loaded = loadProject(file.toStdString());
    QVERIFY(loaded && loaded->files[0].linked && loaded->files[0].bodies[0].shape.empty());
    QVERIFY(checkLinked(*loaded, folder_.path().toStdString()).empty());
    const auto [code, said] = ukiln({"solve", file});
    QVERIFY2(code == 0, qPrintable(said));

    drawing.parts = {part("plate", "m", block(0.03, 0.02, 0.006))};
    QVERIFY(writeGeometry(drawing, step.toStdString()));
    const auto changed = ukiln({"solve", file});
    QVERIFY2(changed.first != 0 && changed.second.contains("changed since it was read"), qPrintable(changed.second));
    QVERIFY(mentions(checkLinked(*loaded, folder_.path().toStdString()), Finding::Severity::Error, {"changed"}));

    QVERIFY(QFile::remove(step));
    const auto gone = ukiln({"solve", file});
    QVERIFY2(gone.first != 0 && gone.second.contains("plate.step"), qPrintable(gone.second));
    QVERIFY(mentions(checkLinked(*loaded, folder_.path().toStdString()), Finding::Severity::Error, {"not at"}));
  }
};

QTEST_GUILESS_MAIN(TestMeshFile)
#include "tst_meshfile.moc"
