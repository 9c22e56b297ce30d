// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Elements that come with a body: packed and unpacked, placed with their part, fitted to the model's edges and faces.
#include "TestProjects.h"
#include "base/PackedText.h"
#include "geometry/GeometryImport.h"
#include "geometry/TakenElements.h"
#include "mesh/KeptSkins.h"
#include "mesh/VolumeMesh.h"

#include <QTest>
#include <cmath>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A box of cells, each of five tetrahedra, mirrored from cell to cell so that their sides meet.
TakenElements boxOfCells(const Vec3& corner, double cell, std::array<int, 3> count)
{
  TakenElements made;
  const auto node = [&](int x, int y, int z) { return x + (count[0] + 1) * (y + (count[1] + 1) * z); };
  for (int z = 0; z <= count[2]; ++z)
    for (int y = 0; y <= count[1]; ++y)
      for (int x = 0; x <= count[0]; ++x)
        made.nodes.push_back(corner + cell * Vec3(x, y, z));
  for (int z = 0; z < count[2]; ++z)
    for (int y = 0; y < count[1]; ++y)
      for (int x = 0; x < count[0]; ++x) {
        const bool odd = (x + y + z) % 2 != 0;
        const auto at = [&](int i, int j, int k) { return node(x + (odd ? 1 - i : i), y + j, z + k); };
        for (std::array<int, 4> tet : {std::array{at(0, 0, 0), at(1, 0, 0), at(0, 1, 0), at(0, 0, 1)},
                                       std::array{at(1, 1, 0), at(0, 1, 0), at(1, 0, 0), at(1, 1, 1)},
                                       std::array{at(1, 0, 1), at(0, 0, 1), at(1, 1, 1), at(1, 0, 0)},
                                       std::array{at(0, 1, 1), at(1, 1, 1), at(0, 0, 1), at(0, 1, 0)},
                                       std::array{at(1, 0, 0), at(0, 1, 0), at(0, 0, 1), at(1, 1, 1)}}) {
          if (volumeOf(made, tet) < 0)
            std::swap(tet[0], tet[1]);
          made.tets.push_back(tet);
        }
      }
  return made;
}

/// A project with one body of 40 × 20 × 20 mm that brought its elements, in cells of 10 mm.
Project boxProject()
{
  Project drawing = projectWith(0.02);
  drawing.parts = {part("box", "m", block(0.04, 0.02, 0.02))};
  const QTemporaryDir folder;
  const std::string file = folder.filePath("box.step").toStdString();
  if (!writeGeometry(drawing, file))
    throw std::runtime_error("not written");
  auto found = readGeometry(file, {}, noProgress);
  Project p = projectOf(*found);
  p.mesh = drawing.mesh;
  p.materials = {material("m", 1)};
  p.parts[0].material = "m";
  p.files[0].bodies[0].elements = packElements(boxOfCells(Vec3(-0.02, -0.01, 0), 0.01, {4, 2, 2}));
  return p;
}

std::size_t tetsOf(const Mesh& mesh, int part)
{
  return static_cast<std::size_t>(std::count(mesh.tetPart.begin(), mesh.tetPart.end(), part));
}

} // namespace

class TestKept : public QObject
{
  Q_OBJECT

private slots:
  void bytesComeBackFromText()
  {
    std::string bytes(1000, '\0');
    for (std::size_t i = 0; i < bytes.size(); ++i)
      bytes[i] = static_cast<char>(i * i % 251);
    const std::string text = packedText(bytes);
    QVERIFY(unpackedText(text) == bytes);
    QVERIFY(text.size() < bytes.size());
    QVERIFY(!unpackedText("").has_value());
    QVERIFY(!unpackedText("12").has_value());
    QVERIFY(!unpackedText("999999999999:" + text).has_value());
    QVERIFY(!unpackedText(text.substr(0, text.size() / 2)).has_value());
    std::string other = text;
    other[other.size() / 2] = other[other.size() / 2] == 'A' ? 'B' : 'A';
    QVERIFY(unpackedText(other) != bytes);
  }

  void elementsComeBackFromTheirBody()
  {
    const TakenElements made = boxOfCells(Vec3(1, 2, 3), 0.5, {2, 1, 3});
    TakenBody body;
    body.name = "box";
    body.elements = packElements(made);
    const auto back = elementsOf(body);
    QVERIFY(back && back->nodes == made.nodes && back->tets == made.tets);
    double volume = 0;
    for (const auto& tet : back->tets)
      volume += volumeOf(*back, tet);
    QVERIFY(std::abs(volume / (1 * 0.5 * 1.5) - 1) < 1e-12);
    // Two triangles for every outer side of a cell.
    QCOMPARE(outerSides(*back).size(), std::size_t{2 * (2 * (2 * 1) + 2 * (2 * 3) + 2 * (1 * 3))});
  }

  /// Whatever is changed in the text, it is refused with the body's name or read as other elements, never worse.
  void damagedElementsAreRefused()
  {
    TakenBody body;
    body.name = "box";
    const std::string good = packElements(boxOfCells(Vec3::Zero(), 1, {1, 1, 1})).text();
    for (const std::string& bad : {std::string("x"), std::string("8 5"), "9" + good, "8 6 " + good.substr(4),
                                   good.substr(0, good.size() - 8), std::string("0 0 1:AAAA")}) {
      body.elements = SharedText(bad);
      const auto read = elementsOf(body);
      QVERIFY2(!read, bad.c_str());
      QVERIFY(read.error().object == "body box" && !read.error().remedy.empty());
    }
    TakenElements wrong = boxOfCells(Vec3::Zero(), 1, {1, 1, 1});
    wrong.tets[0][2] = 99; // no such node
    body.elements = packElements(wrong);
    QVERIFY(!elementsOf(body));
    wrong = boxOfCells(Vec3::Zero(), 1, {1, 1, 1});
    wrong.nodes[3].x() = std::nan("");
    body.elements = packElements(wrong);
    QVERIFY(!elementsOf(body));
    Project p = boxProject();
    p.files[0].bodies[0].elements = SharedText("8 5 nonsense");
    const auto mesh = buildMesh(p, *buildGeometry(p), noProgress);
    QVERIFY(!mesh && mesh.error().sentence().find("damaged") != std::string::npos);
  }

  void placesAreFoundToTheTolerance()
  {
    PlaceIndex index;
    index.add(Vec3(0.1, 0.2, 0.3), 7);
    index.add(Vec3(0.1, 0.2, 0.3 + 3e-7), 8);
    index.add(Vec3(-4e-7, 0, 0), 9); // beside the border of a cell of the index
    QCOMPARE(index.find(Vec3(0.1, 0.2, 0.3)), 7);
    QCOMPARE(index.find(Vec3(0.1, 0.2, 0.3 + 4e-7)), 8);
    QCOMPARE(index.find(Vec3(4e-7, 0, 0)), 9);
    QCOMPARE(index.find(Vec3(0.1, 0.2 + 2e-6, 0.3)), -1);
    QCOMPARE(PlaceIndex().find(Vec3::Zero()), -1);
  }

  /// The elements are used as they are, at both orders, turned, moved and repeated with their part.
  void elementsGoWithTheirPart()
  {
    Project p = boxProject();
    QCOMPARE(tetsOf(meshOf(p), 0), std::size_t{16 * 5});
    p.parts[0].shape.placement = {{number(0.3), number(-0.2), number(0.1)}, {number(0.4), number(0.5), number(0.6)}};
    const Mesh turned = meshOf(p);
    QCOMPARE(tetsOf(turned, 0), std::size_t{16 * 5});
    QVERIFY(std::abs(meshedVolumes(turned)[0] / 16e-6 - 1) < 1e-9);
    p.mesh.secondOrder = true;
    QCOMPARE(tetsOf(meshOf(p), 0), std::size_t{8 * 16 * 5}); // eight pieces each
    p.mesh.secondOrder = false;
    p.parts[0].repeat = Row{number(3), {number(0.1), {}, {}}};
    QCOMPARE(tetsOf(meshOf(p), 0), std::size_t{3 * 16 * 5});
    QCOMPARE(keptCount(p, p.parts[0]).tets, 3.0 * 16 * 5);
    QCOMPARE(keptCount(p, p.parts[0]).nodes, 3.0 * 45);
  }

  /// A plain part beside it is meshed to fit; what the two share is theirs together.
  void aNeighbourFollowsTheSkin()
  {
    Project p = boxProject();
    p.parts.push_back(part("cap", "m", block(0.04, 0.02, 0.005), Vec3(0, 0, 0.02)));
    const Mesh mesh = meshOf(p);
    QCOMPARE(tetsOf(mesh, 0), std::size_t{16 * 5});
    std::size_t shared = 0;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      if (mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])].contact()) {
        ++shared;
        QVERIFY(mesh.triangleTets[t][0] >= 0 && mesh.triangleTets[t][1] >= 0);
      }
    QCOMPARE(shared, std::size_t{2 * 8});
    QVERIFY(std::abs(meshedVolumes(mesh)[1] / 4e-6 - 1) < 1e-9);
    // Half as wide it still fits, along the middle of the file's nodes; a little less does not.
    p.parts[1].shape = {block(0.02, 0.02, 0.005), {{number(-0.01), {}, number(0.02)}, {}}};
    QCOMPARE(tetsOf(meshOf(p), 0), std::size_t{16 * 5});
    p.parts[1].shape = {block(0.019, 0.02, 0.005), {{number(-0.0105), {}, number(0.02)}, {}}};
    const auto misfit = buildMesh(p, *buildGeometry(p), noProgress);
    QVERIFY(!misfit);
    QCOMPARE(misfit.error().ids, std::vector<std::string>{p.parts[0].id});
    std::get<FileBody>(p.parts[0].shape.form).meshAnew = true;
    QVERIFY(tetsOf(meshOf(p), 0) > 0);
  }

  /// What is solved on kept elements is exact where a linear field is, whatever the other part's elements are.
  void heatCrossesFromKeptToPlainElements()
  {
    Project p = boxProject();
    p.parts.push_back(part("cap", "n", block(0.04, 0.02, 0.01), Vec3(0, 0, 0.02)));
    p.materials.push_back(material("n", 0.25));
    p.surfaces = {surface("low", {p.parts[0].id + "." + faceAt(p, Vec3(0, 0, -1), 0)}), surface("top", {"cap.top"})};
    p.boundaries = {boundary("hot", FixedSurface{"low", number(400)}),
                    boundary("cold", FixedSurface{"top", number(300)})};
    Case one;
    one.id = "steady";
    one.name = "Steady";
    p.cases = {one};
    // 20 mm of 1 and 10 mm of 0.25 W/(m·K): 0.06 m²·K/W over 8 cm².
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.boundaries, "hot") / (100 / 0.06 * 8e-4) - 1) < 1e-9);
  }

  void whatChangesTheShapeIsMeshedAnew()
  {
    const Project p = boxProject();
    QVERIFY(keepsElements(p, p.parts[0]) && firstThatKeeps(p) == &p.parts[0]);
    const auto refuses = [&](auto&& change) {
      Project other = p;
      change(other);
      return !keepsElements(other, other.parts[0]) && firstThatKeeps(other) == nullptr;
    };
    QVERIFY(refuses([](Project& o) { o.parts[0].steps = {{"push", PushFace{"box.f1", number(0.001)}, {}}}; }));
    QVERIFY(refuses([](Project& o) { o.parts[0].yieldsTo = {"other"}; }));
    QVERIFY(refuses([](Project& o) { o.section = Section{PlaneSection{}, {}}; }));
    QVERIFY(refuses([](Project& o) { o.parts[0].shape.form = block(1, 1, 1); }));
    QVERIFY(refuses([](Project& o) { std::get<FileBody>(o.parts[0].shape.form).meshAnew = true; }));
    QVERIFY(refuses([](Project& o) { o.files[0].bodies[0].elements = {}; }));
    Project muted = p;
    muted.parts[0].muted = true;
    QVERIFY(firstThatKeeps(muted) == nullptr);
  }

private:
  /// Lasting name of the face of a part that looks some way.
  static std::string faceAt(const Project& p, const Vec3& way, int part)
  {
    const auto geometry = buildGeometry(p);
    for (const Face& face : geometry->table.faces)
      if (face.parts[0] == part && face.exposed() && face.normal.dot(way) > 0.9) {
        const std::string& name = face.names.front();
        return name.substr(name.find('.') + 1);
      }
    return "none";
  }
};

QTEST_GUILESS_MAIN(TestKept)
#include "tst_kept.moc"
