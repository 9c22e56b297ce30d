// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Geometry from files: what is taken, what is refused and why, and what stays when a file is read again.
#include "TestProjects.h"
#include "geometry/GeometryImport.h"
#include "geometry/LinkedShapes.h"
#include "geometry/Rematch.h"
#include "io/ProjectFile.h"
#include "run/InputHash.h"

#include <QTest>
#include <cmath>
#include <fstream>
#include <numbers>
#include <random>
#include <set>
#include <sstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

FoundGeometry readFrom(const std::filesystem::path& path, const ImportSettings& settings = {})
{
  auto found = readGeometry(path, settings, noProgress);
  if (!found)
    throw std::runtime_error(found.error().sentence());
  return std::move(*found);
}

/// A plate with a bore, a post that stands aside, and three pins as one part.
Project assembly()
{
  Project p = projectWith(0.01);
  p.materials = {material("steel", 20)};
  p.parts = {part("plate", "steel", block(0.1, 0.06, 0.02)),
             part("post", "steel", Cylinder{number(0.01), number(0.05)}, {0.2, 0, 0}),
             part("pins", "steel", Cylinder{number(0.004), number(0.03)}, {0, 0.2, 0})};
  p.parts[0].name = "Plate, bored";
  p.parts[0].steps = {cut("bore", Cylinder{number(0.008), number(0.04)}, {0.02, 0, -0.01})};
  p.parts[2].repeat = Row{number(3), {number(0.02), {}, {}}};
  return p;
}

std::filesystem::path write(const Project& project, const QTemporaryDir& folder, const char* name)
{
  const std::filesystem::path path = std::filesystem::path(folder.path().toStdString()) / name;
  if (auto written = writeGeometry(project, path); !written)
    throw std::runtime_error(written.error().sentence());
  return path;
}

const FoundBody& bodyNamed(const FoundGeometry& found, const std::string& name)
{
  for (const FoundBody& body : found.bodies)
    if (body.body.name == name)
      return body;
  throw std::runtime_error("no body " + name);
}

/// Twelve triangles of a cube of edge \p size, in the file's unit.
std::string cubeText(const std::string& name, double size, double shift, int leaveOut = -1)
{
  const std::array<std::array<int, 4>, 6> sides{
      {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}}};
  std::string text = "solid " + name + "\n";
  int count = 0;
  for (const auto& side : sides)
    for (const auto& corners : {std::array{0, 1, 2}, std::array{0, 2, 3}}) {
      if (count++ == leaveOut)
        continue;
      text += "facet normal 0 0 0\nouter loop\n";
      for (const int corner : corners) {
        const int c = side[static_cast<std::size_t>(corner)];
        text += "vertex " + std::to_string(shift + size * (c & 1)) + " " + std::to_string(size * (c >> 1 & 1)) + " " +
                std::to_string(size * (c >> 2 & 1)) + "\n";
      }
      text += "endloop\nendfacet\n";
    }
  return text + "endsolid " + name + "\n";
}

std::filesystem::path writeText(const QTemporaryDir& folder, const char* name, const std::string& text)
{
  const std::filesystem::path path = std::filesystem::path(folder.path().toStdString()) / name;
  std::ofstream(path, std::ios::binary) << text;
  return path;
}

/// The block of a slab problem: heat in on one side, air on the other.
Project slabOf(Part own)
{
  Project p = projectWith(0.01);
  p.materials = {material("stuff", 2)};
  own.id = own.name = "slab";
  own.material = "stuff";
  p.parts = {std::move(own)};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"slab"}})};
  return p;
}

void setUp(Project& p, const std::string& left, const std::string& right)
{
  p.surfaces = {surface("in", {"slab." + left}), surface("out", {"slab." + right})};
  p.sources = {source("heat", SurfacePower{"in", Property{5, ""}})};
  p.boundaries = {boundary("air", Convection{"out", Property{50, ""}, Property{300, ""}})};
}

/// Name of the face whose middle lies nearest to a place.
std::string faceAt(const Project& project, const Vec3& place)
{
  const auto geometry = buildGeometry(project);
  if (!geometry)
    throw std::runtime_error(geometry.error().sentence());
  const Face* best = nullptr;
  for (const Face& face : geometry->table.faces)
    if (best == nullptr || (face.centroid - place).norm() < (best->centroid - place).norm())
      best = &face;
  return best->names.front().substr(best->names.front().find('.') + 1);
}

} // namespace

class TestImport : public QObject
{
  Q_OBJECT

private slots:
  void stepKeepsNamesAndVolumes()
  {
    const QTemporaryDir folder;
    const Project project = assembly();
    const FoundGeometry found = readFrom(write(project, folder, "assembly.step"));
    QCOMPARE(found.bodies.size(), std::size_t(3));
    const auto geometry = buildGeometry(project);
    QVERIFY(geometry);
    for (const GeometryPart& part : geometry->table.parts) {
      const FoundBody& body = bodyNamed(found, part.name);
      QVERIFY2(body.problem.empty(), body.problem.c_str());
      QVERIFY(std::abs(body.volume - part.volume) < 1e-9 * part.volume);
    }
    const double pins = 3 * std::numbers::pi * 0.004 * 0.004 * 0.03;
    QVERIFY(std::abs(bodyNamed(found, "pins").volume - pins) < 1e-9 * pins);
    // As a project: the same parts with the same boxes.
    const auto again = buildGeometry(projectOf(found));
    QVERIFY(again);
    QCOMPARE(again->table.parts.size(), std::size_t(3));
    QVERIFY((again->table.parts[1].low - geometry->table.parts[1].low).norm() < 1e-7);
  }

  void trianglesKeepNamesAndFaces()
  {
    const QTemporaryDir folder;
    const FoundGeometry found = readFrom(write(assembly(), folder, "assembly.stl"));
    const FoundBody& plate = bodyNamed(found, "Plate, bored");
    QVERIFY2(plate.problem.empty(), plate.problem.c_str());
    QVERIFY(std::abs(plate.volume / (0.1 * 0.06 * 0.02 - std::numbers::pi * 0.008 * 0.008 * 0.02) - 1) < 0.01);
    // Six sides and the bore: its many flat strips are one face.
    const std::set<std::string> names(plate.body.faces.begin(), plate.body.faces.end());
    QCOMPARE(names.size(), std::size_t(7));
    QVERIFY(plate.body.faces.size() > 12);
    QVERIFY(bodyNamed(found, "pins 2").sameAs == bodyNamed(found, "pins 1").body.id);
  }

  void unitsAreThoseSaid()
  {
    const QTemporaryDir folder;
    const auto path = writeText(folder, "cube.stl", cubeText("cube", 2, 0));
    QVERIFY(std::abs(readFrom(path).bodies.front().volume - 8e-9) < 1e-15);
    ImportSettings inches;
    inches.unit = 0.0254;
    QVERIFY(std::abs(readFrom(path, inches).bodies.front().volume - std::pow(0.0508, 3)) < 1e-10);
  }

  void whatLeaksIsNamedAndTheRestComesIn()
  {
    const QTemporaryDir folder;
    const FoundGeometry found =
        readFrom(writeText(folder, "two.stl", cubeText("whole", 10, 0) + cubeText("torn", 10, 50, 3)));
    QCOMPARE(found.bodies.size(), std::size_t(2));
    const FoundBody& torn = bodyNamed(found, "torn");
    QVERIFY(torn.problem.find("leaks at 3 edges") != std::string::npos);
    QVERIFY(torn.problem.find("mm") != std::string::npos); // says where
    QVERIFY(bodyNamed(found, "whole").problem.empty());
    QCOMPARE(found.file.bodies.size(), std::size_t(1));
    QCOMPARE(projectOf(found).parts.size(), std::size_t(1));
  }

  void aCavityIsCutOut()
  {
    // The inner cube is turned inside out: swap two corners of each triangle.
    std::string inner = cubeText("box", 4, 3);
    std::string turned;
    std::vector<std::string> corners;
    std::istringstream lines(inner);
    for (std::string line; std::getline(lines, line);) {
      if (line.starts_with("vertex ")) {
        std::istringstream numbers(line.substr(7));
        double x = 0, y = 0, z = 0;
        numbers >> x >> y >> z;
        corners.push_back("vertex " + std::to_string(x) + " " + std::to_string(y + 3) + " " + std::to_string(z + 3));
        if (corners.size() == 3) {
          turned += corners[0] + "\n" + corners[2] + "\n" + corners[1] + "\n";
          corners.clear();
        }
      } else if (!line.starts_with("solid") && !line.starts_with("endsolid")) {
        turned += line + "\n";
      }
    }
    std::string text = cubeText("box", 10, 0);
    text.insert(text.rfind("endsolid"), turned);
    const QTemporaryDir folder;
    const FoundGeometry found = readFrom(writeText(folder, "hollow.stl", text));
    QCOMPARE(found.bodies.size(), std::size_t(1));
    QVERIFY2(found.bodies.front().problem.empty(), found.bodies.front().problem.c_str());
    QVERIFY(std::abs(found.bodies.front().volume - (1000 - 64) * 1e-9) < 1e-15);
  }

  void aBodyFromAFileSolvesLikeOurOwn()
  {
    const QTemporaryDir folder;
    Project own = slabOf(part("slab", "stuff", block(0.1, 0.02, 0.02)));
    const FoundGeometry found = readFrom(write(own, folder, "slab.step"));
    Project taken = slabOf(projectOf(found).parts.front());
    taken.files = {found.file};
    setUp(own, "left", "right");
    setUp(taken, faceAt(taken, {-0.05, 0, 0.01}), faceAt(taken, {0.05, 0, 0.01}));
    const double exact = 300 + 5 / (50 * 4e-4) + 5 * 0.1 / (2 * 4e-4);
    QVERIFY(std::abs(valueOf(own, solve(own), "hot") - exact) < 1e-6);
    QVERIFY(std::abs(valueOf(taken, solve(taken), "hot") - exact) < 1e-6);
    // What was done to it later acts on it, and the project survives its file.
    taken.parts.front().steps = {cut("bore", Cylinder{number(0.004), number(0.02)})};
    const std::string text = writeProject(taken);
    const auto read = readProject(text, "test");
    QVERIFY(read);
    QVERIFY(*read == taken);
    const auto geometry = buildGeometry(*read);
    QVERIFY(geometry);
    QVERIFY(std::abs(geometry->table.parts.front().volume - (4e-5 - std::numbers::pi * 0.004 * 0.004 * 0.02)) < 1e-12);
  }

  void damageIsRefusedWithItsName()
  {
    const QTemporaryDir folder;
    const FoundGeometry found = readFrom(write(assembly(), folder, "assembly.step"));
    Project p = projectOf(found);
    p.files.front().bodies.front().shape = SharedText("12:AAAA");
    p.files.front().bodies.front().hash = "another";
    const auto damaged = buildGeometry(p);
    QVERIFY(!damaged);
    QVERIFY(damaged.error().sentence().find("damaged") != std::string::npos);
    QVERIFY(damaged.error().sentence().find("Plate") != std::string::npos);
    p.files.clear();
    const auto missing = buildGeometry(p);
    QVERIFY(!missing && missing.error().sentence().find("no body") != std::string::npos);
    for (const auto& [name, text] : {std::pair{"empty.step", std::string()},
                                     {"words.step", std::string("ISO-10303-21;\nnothing of use")},
                                     {"words.stl", std::string("solid and nothing else")},
                                     {"short.stl", std::string(90, 'x')},
                                     {"picture.png", std::string("PNG")},
                                     {"wrong.obj", std::string("v 0 0 0\nf 1 2 9\n")}}) {
      const auto read = readGeometry(writeText(folder, name, text), {}, noProgress);
      QVERIFY2(!read && read.error().object.find(name) != std::string::npos && !read.error().remedy.empty(), name);
    }
  }

  void cutFilesNeverCrash()
  {
    const QTemporaryDir folder;
    const auto whole = write(assembly(), folder, "whole.step");
    std::ifstream in(whole, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    std::mt19937 chance(5);
    int read = 0;
    for (int i = 0; i < 25; ++i) {
      std::string broken = text.substr(0, text.size() / 3 + chance() % (text.size() * 2 / 3));
      broken[chance() % broken.size()] = static_cast<char>(chance() % 256);
      read += readGeometry(writeText(folder, "broken.step", broken), {}, noProgress) ? 1 : 0;
    }
    QVERIFY(read < 25); // some are still whole enough; most are refused with a sentence
  }

  void smallRoundFacesAreRemoved()
  {
    const QTemporaryDir folder;
    Project p = assembly();
    p.parts.resize(1);
    p.parts.front().steps.push_back(cut("small", Cylinder{number(0.0005), number(0.04)}, {-0.03, 0, -0.01}));
    const auto path = write(p, folder, "plate.step");
    ImportSettings settings;
    settings.removeBelow = 0.001;
    const FoundGeometry found = readFrom(path, settings);
    QVERIFY(found.bodies.front().note.find("1 small round face") != std::string::npos);
    const double exact = 0.1 * 0.06 * 0.02 - std::numbers::pi * 0.008 * 0.008 * 0.02;
    QVERIFY(std::abs(found.bodies.front().volume - exact) < 1e-9 * exact);
    // The same as a step of our own part; the large bore stays.
    p.parts.front().steps.push_back({"tidy", RemoveFaces{{}, number(0.001)}, {}});
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    QVERIFY(std::abs(geometry->table.parts.front().volume - exact) < 1e-9 * exact);
    p.parts.front().steps.back().action = RemoveFaces{{"plate.nothing"}, {}};
    const auto none = buildGeometry(p);
    QVERIFY(!none && none.error().sentence().find("no face to remove") != std::string::npos);
  }

  /// An imported body is joined with and cut by own shapes, a face of it pushed and another tilted, beside own parts.
  void ownShapesOnABodyFromAFile()
  {
    const QTemporaryDir folder;
    Project drawing = projectWith(0.01);
    drawing.materials = {material("m", 1)};
    drawing.parts = {part("plate", "m", block(0.06, 0.04, 0.01))};
    const auto found = readGeometry(write(drawing, folder, "plate.step"), {}, noProgress);
    QVERIFY(found);
    Project p = projectOf(*found);
    p.materials = {material("m", 1)};
    p.parts[0].material = "m";
    std::string right;
    const auto bare = buildGeometry(p);
    QVERIFY(bare);
    for (const Face& face : bare->table.faces) {
      if (face.normal.x() > 0.9)
        right = face.names.front();
    }
    const double low = bare->table.parts[0].low.z();
    p.parts[0].steps = {join("boss", Cylinder{number(0.005), number(0.02)}, Vec3(0, 0, low + 0.01)),
                        cut("hole", Cylinder{number(0.003), number(0.05)}, Vec3(0.02, 0, low - 0.01)),
                        {"push", PushFace{right, number(0.01)}, {}}};
    p.parts.push_back(part("lid", "m", block(0.02, 0.02, 0.005), Vec3(0, 0, low + 0.03)));
    const auto built = buildGeometry(p);
    QVERIFY2(built.has_value(), built ? "" : built.error().sentence().c_str());
    const double pi = std::numbers::pi;
    const double volume = 0.07 * 0.04 * 0.01 + pi * 25e-6 * 0.02 - pi * 9e-6 * 0.01;
    QVERIFY2(std::abs(built->table.parts[0].volume / volume - 1) < 1e-6,
             qPrintable(QString::number(built->table.parts[0].volume / volume)));
    QVERIFY(
        std::any_of(built->table.faces.begin(), built->table.faces.end(), [](const Face& f) { return f.contact(); }));
    p.parts[0].steps = {{"tilt", TiltFace{right, number(0.1)}, {}}};
    const auto tilted = buildGeometry(p);
    QVERIFY2(tilted.has_value(), tilted ? "" : tilted.error().sentence().c_str());
    const double leaning = tilted->table.parts[0].volume - 0.06 * 0.04 * 0.01;
    QVERIFY2(std::abs(leaning / (0.5 * 1e-4 * std::tan(0.1) * 0.04) - 1) < 1e-4, qPrintable(QString::number(leaning)));
  }

  /// A sleeve is laid on the wall of a bore of an imported body, and its round outside is taken down.
  void aRoundFaceOfAFileIsThickened()
  {
    const QTemporaryDir folder;
    Project drawing = projectWith(0.01);
    drawing.materials = {material("m", 1)};
    drawing.parts = {part("flange", "m", Cylinder{number(0.03), number(0.02)})};
    drawing.parts[0].steps = {cut("bore", Cylinder{number(0.01), number(0.03)}, Vec3(0, 0, -0.005))};
    const auto found = readGeometry(write(drawing, folder, "flange.step"), {}, noProgress);
    QVERIFY(found);
    Project p = projectOf(*found);
    std::string bore, outside;
    const auto bare = buildGeometry(p);
    QVERIFY(bare);
    for (const Face& face : bare->table.faces)
      if (!face.planar)
        (face.area < 0.002 ? bore : outside) = face.names.front();
    p.parts[0].steps = {{"sleeve", ThickenFace{bore, number(0.004)}, {}},
                        {"turned", ThickenFace{outside, number(-0.005)}, {}}};
    const auto built = buildGeometry(p);
    QVERIFY2(built.has_value(), built ? "" : built.error().sentence().c_str());
    const double volume = std::numbers::pi * (0.025 * 0.025 - 0.006 * 0.006) * 0.02;
    QVERIFY(std::abs(built->table.parts[0].volume / volume - 1) < 1e-6);
    QCOMPARE(built->table.faces.size(), 4U);
    const auto named = [&](const std::string& name) {
      return std::count_if(built->table.faces.begin(), built->table.faces.end(), [&](const Face& face) {
        return std::find(face.names.begin(), face.names.end(), name) != face.names.end();
      });
    };
    QCOMPARE(named(bore), 1);
    QCOMPARE(named(outside), 1);
  }

  /// Colours go out and come in; a part without one has none in the file either. They change no result.
  void coloursOfParts()
  {
    const QTemporaryDir folder;
    Project model = assembly();
    model.parts[0].colour = "#C04020";
    model.parts[1].colour = "#3060a0";
    const Project back = projectOf(readFrom(write(model, folder, "coloured.step")));
    QCOMPARE(back.parts.size(), 3U);
    QCOMPARE(QString::fromStdString(back.parts[0].colour).toLower(), QString("#c04020"));
    QCOMPARE(QString::fromStdString(back.parts[1].colour).toLower(), QString("#3060a0"));
    QVERIFY(back.parts[2].colour.empty());
    Project plain = back;
    for (Part& own : plain.parts)
      own.colour.clear();
    QCOMPARE(inputHashes(plain).geometry, inputHashes(back).geometry);
    QCOMPARE(inputHashes(plain).mesh, inputHashes(back).mesh);
  }

  /// Two bodies of a file as one part: their volumes together, faces of both by name, and one of them gone is told.
  void bodiesOfAFileJoined()
  {
    const QTemporaryDir folder;
    Project drawing = projectWith(0.01);
    drawing.materials = {material("m", 1)};
    drawing.parts = {part("foot", "m", block(0.04, 0.04, 0.01)),
                     part("stem", "m", Cylinder{number(0.005), number(0.03)}, {0, 0, 0.01})};
    const FoundGeometry found = readFrom(write(drawing, folder, "lamp.step"));
    Project p = projectOf(found);
    const std::string stem = std::get<FileBody>(p.parts[1].shape.form).body;
    p.parts.pop_back();
    p.parts[0].steps = {{"with-stem", Join{{FileBody{p.files[0].id, stem}, {}}}, {}}};
    const auto built = buildGeometry(p);
    QVERIFY2(built.has_value(), built ? "" : built.error().sentence().c_str());
    QCOMPARE(built->table.parts.size(), 1U);
    const double volume = 0.04 * 0.04 * 0.01 + std::numbers::pi * 25e-6 * 0.03;
    QVERIFY(std::abs(built->table.parts[0].volume / volume - 1) < 1e-9);
    QVERIFY(std::any_of(built->table.faces.begin(), built->table.faces.end(), [&](const Face& face) {
      return !face.names.empty() && face.names.front().starts_with(p.parts[0].id + ".with-stem.f");
    }));
    drawing.parts.pop_back();
    const auto again = rematch(p.files[0], readFrom(write(drawing, folder, "less.step")).file);
    QVERIFY(again.has_value());
    const GeometryFile before = p.files[0];
    QCOMPARE(takeAgain(p, *again, before), std::vector<std::string>{p.parts[0].id});
    QVERIFY(buildGeometry(p).has_value()); // keeps its shape
    std::get<FileBody>(std::get<Join>(p.parts[0].steps[0].action).shape.form).body = "none";
    const auto lost = buildGeometry(p);
    QVERIFY(!lost && lost.error().sentence().find("no body “none”") != std::string::npos);
  }

  /// A linked file is read as it was read at first: its unit, its angle, what was removed.
  void aLinkedFileIsReadTheSameWay()
  {
    const QTemporaryDir folder;
    const auto path = write(assembly(), folder, "cubes.stl");
    ImportSettings settings;
    settings.featureAngle = 1.2;
    Project p = projectOf(readFrom(path, settings));
    p.files[0].linked = true;
    p.files[0].path = "cubes.stl";
    for (TakenBody& body : p.files[0].bodies)
      body.shape = {};
    QVERIFY(fillLinked(p, folder.path().toStdString()));
    QVERIFY(!p.files[0].bodies[0].shape.empty());
    const auto whole = buildGeometry(p);
    QVERIFY2(whole.has_value(), whole ? "" : whole.error().sentence().c_str());
    std::set<std::string> names;
    for (const Face& face : whole->table.faces)
      if (face.parts[0] == 0)
        names.insert(face.names.front());
    const std::set<std::string> taken(p.files[0].bodies[0].faces.begin(), p.files[0].bodies[0].faces.end());
    QCOMPARE(names.size(), taken.size());
    QCOMPARE(p.files[0].faceAngle->si, 1.2); // kept for when it is read again

    const auto drawn = write(assembly(), folder, "bored.step");
    settings.removeBelow = 0.009; // the bore
    Project closed = projectOf(readFrom(drawn, settings));
    closed.files[0].linked = true;
    closed.files[0].path = "bored.step";
    const double volume = buildGeometry(closed)->table.parts[0].volume;
    for (TakenBody& body : closed.files[0].bodies)
      body.shape = {};
    QVERIFY(fillLinked(closed, folder.path().toStdString()));
    QVERIFY(std::abs(buildGeometry(closed)->table.parts[0].volume / volume - 1) < 1e-9);
    QVERIFY(std::abs(volume / (0.1 * 0.06 * 0.02) - 1) < 1e-9);
  }

  void readAgainKeepsWhatIsStillThere()
  {
    const QTemporaryDir folder;
    Project model = assembly();
    const FoundGeometry before = readFrom(write(model, folder, "model.step"));
    Project project = projectOf(before);
    for (Part& own : project.parts)
      own.material = "steel";
    const std::string topName = faceAt(project, {-0.02, 0, 0.02});
    // Taller, and the post is gone, and a ball is new.
    model.parts[0].shape.form = block(0.1, 0.06, 0.026);
    model.parts.erase(model.parts.begin() + 1);
    model.parts.push_back(part("ball", "steel", Sphere{number(0.02)}, {0, -0.3, 0}));
    const FoundGeometry now = readFrom(write(model, folder, "model.step"));
    const auto again = rematch(before.file, now.file);
    QVERIFY(again);
    QCOMPARE(again->kept, std::vector<std::string>{"pins"});
    QCOMPARE(again->gone, std::vector<std::string>{"post"});
    QCOMPARE(again->added, std::vector<std::string>{"ball"});
    QCOMPARE(again->changed.size(), std::size_t(1));
    QVERIFY(again->goneFaces.empty());
    const std::vector<std::string> lost = takeAgain(project, *again, before.file);
    QCOMPARE(lost, std::vector<std::string>{"post"}); // it keeps its shape
    QVERIFY(buildGeometry(project));
    QCOMPARE(faceAt(project, {-0.02, 0, 0.026}), topName);
    QCOMPARE(project.parts.size(), std::size_t(4));
    QCOMPARE(project.parts[0].material, std::string("steel"));
    QVERIFY(project.parts[3].material.empty()); // a part without a material is never solved
  }

  void namesDoNotChangeAResultButShapesDo()
  {
    const QTemporaryDir folder;
    const FoundGeometry found = readFrom(write(assembly(), folder, "assembly.step"));
    Project p = projectOf(found);
    const InputHashes before = inputHashes(p);
    p.files.front().name = "another";
    p.files.front().path = "elsewhere.step";
    QCOMPARE(inputHashes(p).geometry, before.geometry);
    std::swap(p.files.front().bodies[0].hash, p.files.front().bodies[1].hash);
    QVERIFY(inputHashes(p).geometry != before.geometry);
  }
};

QTEST_GUILESS_MAIN(TestImport)
#include "tst_import.moc"
