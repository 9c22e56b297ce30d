// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Properties that must hold for whatever comes: random projects survive saving, damaged files never crash the reader,
// every field can be set and read back.
#include "TestProjects.h"
#include "geometry/Geometry.h"
#include "io/AtomicFile.h"
#include "io/InputHash.h"
#include "io/ProjectFile.h"
#include "model/Fields.h"

#include <QTest>
#include <random>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Makes projects out of random numbers and references, sensible or not.
class RandomProject
{
public:
  explicit RandomProject(unsigned seed) : random_(seed) {}

  Project make()
  {
    Project p = projectWith(value());
    for (unsigned i = random_() % 4; i > 0; --i) {
      p.materials.push_back(material(id("m"), value()));
      if (coin())
        p.materials.back().density = num();
      if (coin())
        p.materials.back().unknown["odd key"] = R"({"a":[1,2,{"b":null}]})";
    }
    for (unsigned i = random_() % 5; i > 0; --i) {
      p.parts.push_back(part(id("p"), reference(p.materials), form()));
      p.parts.back().shape.placement = {{num(), num(), num()}, {num(), num(), num()}};
      p.parts.back().muted = coin();
      p.parts.back().comment = coin() ? "a \"comment\"\nover two lines °" : "";
      if (coin())
        p.parts.back().steps.push_back(step());
      if (coin())
        p.parts.back().repeat = repeat();
      if (coin())
        p.parts.back().meshSize = num();
    }
    for (unsigned i = random_() % 4; i > 0; --i) {
      p.surfaces.push_back(surface(id("f"), {"p1.top", "nothing.*"}));
      p.surfaces.back().exposedOf = {reference(p.parts)};
      p.surfaces.back().except = {reference(p.surfaces)};
      if (coin())
        p.surfaces.back().facing = Facing{{num(), num(), num()}, num()};
    }
    addConditions(p);
    return p;
  }

private:
  Repeat repeat()
  {
    if (coin())
      return Row{num(), {num(), num(), num()}};
    return Ring{num(), num(), {num(), num(), num()}, {num(), num(), num()}};
  }
  ShapeStep step()
  {
    switch (random_() % 9) {
    case 7:
      return {"s", ThickenFace{"p1.side", num()}, {}};
    case 6:
      return {"s", RemoveFaces{{"p1.top"}, num()}, {}};
    case 0:
      return {"s", Join{{form(), {}}, repeat()}, {}};
    case 1:
      return {"s", Cut{{form(), {}}, {}}, {}};
    case 2:
      return {"s", RoundEdges{{"p1.top", "p1.side"}, num()}, {}};
    case 3:
      return {"s", BevelEdges{{"p1.top"}, num()}, {}};
    case 4:
      return {"s", PushFace{"p1.top", num()}, {}};
    case 5:
      return {"s", TiltFace{"p1.side", num()}, {}};
    default:
      return {"s", SplitFace{"p1.top", SplitByCircle{num(), num(), num()}}, {}};
    }
  }
  void addConditions(Project& p)
  {
    const auto on = [&] { return reference(p.surfaces); };
    const auto of = [&] { return reference(p.parts); };
    for (unsigned i = random_() % 4; i > 0; --i) {
      HeatSource s = source(id("q"), PartPower{{of()}, num()});
      switch (random_() % 5) {
      case 0:
        s.heat = PartDensity{{of(), of()}, num()};
        break;
      case 1:
        s.heat = SurfacePower{on(), num()};
        break;
      case 2:
        s.heat = SurfaceFlux{on(), num()};
        break;
      case 3:
        s.heat = PointPower{{num(), num(), num()}, num()};
        break;
      default:
        break;
      }
      s.muted = coin();
      p.sources.push_back(s);
    }
    for (unsigned i = random_() % 4; i > 0; --i) {
      Boundary b = boundary(id("b"), Convection{on(), num(), num()});
      switch (random_() % 5) {
      case 0:
        b.condition = Radiation{on(), num(), num()};
        break;
      case 1:
        b.condition = FixedSurface{on(), num()};
        break;
      case 2:
        b.condition = FixedPart{of(), num()};
        break;
      case 3:
        b.condition = FixedPoint{{num(), num(), num()}, num()};
        break;
      default:
        break;
      }
      b.muted = coin();
      p.boundaries.push_back(b);
    }
    if (coin())
      p.contacts.push_back(contact(of(), of(), AreaResistance{num()}));
    if (coin())
      p.watches.push_back(watch(id("w"), SurfaceFigure{PartFigure::Kind::Mean, on()}));
    if (coin())
      p.finishes.push_back([&] {
        Finish f;
        f.id = f.name = id("c");
        f.emissivity = num();
        f.surfaces = {on()};
        return f;
      }());
  }

  bool coin() { return random_() % 2 == 0; }
  std::string id(const std::string& base) { return base + std::to_string(++count_); }
  double value()
  {
    switch (random_() % 8) {
    case 0:
      return 0;
    case 1:
      return -0.01;
    case 2:
      return 1e30;
    case 3:
      return 1e-30;
    default:
      return static_cast<double>(random_() % 10'000) / 1e5;
    }
  }
  Number num() { return coin() ? Number{value(), {}} : Number{value(), "some text"}; }
  template <class List>
  std::string reference(const List& list)
  {
    return list.empty() || random_() % 5 == 0 ? "missing" : list[random_() % list.size()].id;
  }
  Form form()
  {
    switch (random_() % 9) {
    case 7:
      return FileBody{"file-1", "b1", random_() % 2 == 0};
    case 0:
      return Cylinder{num(), num()};
    case 1:
      return Tube{num(), num(), num()};
    case 2:
      return Sphere{num()};
    case 3:
      return Cone{num(), num(), num()};
    case 4:
      return Torus{num(), num()};
    case 5:
      return Prism{{{num(), num()}, {num(), num()}, {num(), num()}}, num()};
    case 6:
      return TurnedProfile{{{num(), num()}, {num(), num()}, {num(), num()}, {num(), num()}}, num()};
    default:
      return Block{num(), num(), num()};
    }
  }

  std::mt19937 random_;
  int count_ = 0;
};

} // namespace

class RandomTest : public QObject
{
  Q_OBJECT

private slots:
  void saveLoadSaveIsTheSameFile()
  {
    for (unsigned seed = 1; seed <= 300; ++seed) {
      const Project project = RandomProject(seed).make();
      const std::string text = writeProject(project);
      const auto again = readProject(text, "random");
      QVERIFY2(again, again ? "" : again.error().sentence().c_str());
      QVERIFY(*again == project);
      QCOMPARE(writeProject(*again), text);
      QVERIFY(inputHashes(*again) == inputHashes(project));
    }
  }

  void readinessNeverCrashesAndAlwaysSaysHowToMend()
  {
    for (unsigned seed = 1; seed <= 300; ++seed)
      for (const Finding& finding : checkModel(RandomProject(seed).make())) {
        QVERIFY(!finding.object.empty() && !finding.problem.empty() && !finding.remedy.empty());
        QVERIFY2(finding.problem.back() == '.' || finding.problem.back() == '?', finding.problem.c_str());
      }
  }

  void shapesAreBuiltOrRefusedWithAName()
  {
    int built = 0;
    int refused = 0;
    for (unsigned seed = 1; seed <= 300; ++seed) {
      Project random = RandomProject(seed).make();
      Project project = projectWith(0.02);
      project.materials = {material("m", 1)};
      project.parts = random.parts;
      for (Part& own : project.parts)
        own.material = "m";
      for (const Field& field : fields(project)) // dimensions in range, the rest as it came
        if (const Number* value = field.value();
            value != nullptr && (value->si > 1 || outsideRange(value->si, field.range, field.quantity)))
          field.assign(number(0.05));
      const auto geometry = buildGeometry(project);
      if (geometry) {
        ++built;
        for (const GeometryPart& own : geometry->table.parts)
          QVERIFY(own.volume > 0);
        continue;
      }
      ++refused;
      QVERIFY(!geometry.error().object.empty() && !geometry.error().problem.empty() &&
              !geometry.error().remedy.empty());
    }
    QVERIFY2(built > 20 && refused > 20, qPrintable(QString("%1 built, %2 refused").arg(built).arg(refused)));
  }

  void damagedTextIsReadOrRefusedWithASentence()
  {
    const std::string good = *readWhole(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    std::mt19937 random(3);
    int refused = 0;
    for (int i = 0; i < 400; ++i) {
      std::string text = good;
      switch (random() % 4) {
      case 0: // cut
        text.resize(random() % text.size());
        break;
      case 1: // a byte changed
        text[random() % text.size()] = static_cast<char>(random());
        break;
      case 2: { // a piece taken out
        const std::size_t from = random() % text.size();
        text.erase(from, random() % 40);
        break;
      }
      default: { // a piece put in again elsewhere
        const std::size_t from = random() % (text.size() - 50);
        text.insert(random() % text.size(), text.substr(from, random() % 50));
      }
      }
      const auto project = readProject(text, "damaged.kiln");
      if (project) {
        static_cast<void>(checkModel(*project));
        continue;
      }
      ++refused;
      QVERIFY(project.error().object.find("damaged.kiln") != std::string::npos);
      QVERIFY(!project.error().problem.empty() && !project.error().remedy.empty());
    }
    QVERIFY(refused > 200);
  }

  void everyFieldOfTheDemoTakesAValueByItsName()
  {
    const Project demo = *loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    Project copy = demo;
    std::set<std::string> paths;
    for (const Field& field : fields(copy))
      QVERIFY2(paths.insert(field.path).second, field.path.c_str()); // no two of one name
    QVERIFY(paths.size() > 250);
    for (const std::string& path : paths) {
      Project changed = demo;
      QVERIFY2(setField(changed, path,
                        path.ends_with(".rays")                                      ? "20"
                        : path.ends_with(".count") || path.ends_with(".acrossWalls") ? "2"
                                                                                     : "0.5"),
               path.c_str()); // in range
      int different = 0;
      Project before = demo;
      const auto a = fields(before);
      const auto b = fields(changed);
      QCOMPARE(a.size(), b.size());
      for (std::size_t i = 0; i < a.size(); ++i) {
        const bool same = (a[i].value() == nullptr) == (b[i].value() == nullptr) &&
                          (a[i].value() == nullptr || *a[i].value() == *b[i].value());
        different += same ? 0 : 1;
      }
      // A parameter takes along what its formulas say elsewhere.
      const bool parameter = findById(demo.parameters, path.substr(0, path.find('.'))) != nullptr;
      QVERIFY(parameter ? different >= 1 : different == 1);
    }
  }

  void slipsFindTheirWord()
  {
    const std::vector<std::string> words{"conductivity", "density", "specificHeat", "emissivity"};
    QCOMPARE(nearestWord("conductivty", words), std::string("conductivity"));
    QCOMPARE(nearestWord("Density", words), std::string("density"));
    QCOMPARE(nearestWord("specificHaet", words), std::string("specificHeat"));
    QCOMPARE(nearestWord("colour", words), std::string());
    QCOMPARE(nearestWord("x", {}), std::string());
  }

  void freeIdsAreFree()
  {
    Project project = *loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    QCOMPARE(freeId(project, "watch"), std::string("watch-1"));
    project.parts[0].id = "watch-1"; // whatever kind of object has it
    QCOMPARE(freeId(project, "watch"), std::string("watch-2"));
  }
};

QTEST_APPLESS_MAIN(RandomTest)
#include "tst_random.moc"
