// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Properties that must hold for whatever comes: random projects survive saving, damaged files never crash the reader,
// every field can be set and read back.
#include "RandomProject.h"
#include "TestProjects.h"
#include "base/NearestWord.h"
#include "geometry/Geometry.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "model/Settings.h"

#include <QTest>
#include <map>
#include <random>
#include <set>

using namespace kiln;
using namespace kiln::test;

class RandomTest : public QObject
{
  Q_OBJECT

private slots:
  void shapesAreBuiltOrRefusedWithAName()
  {
    int built = 0;
    int refused = 0;
    for (unsigned seed = 1; seed <= 300; ++seed) {
      Project random = randomProject(seed);
      Project project = projectWith(0.02);
      project.materials = {material("m", 1)};
      project.parts = random.parts;
      for (Part& own : project.parts) {
        own.material = "m";
        if (seed % 2 == 0) // else hardly any is sound
          own.steps.clear();
      }
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
    std::map<std::string, Range> paths;
    for (const Field& field : fields(copy))
      QVERIFY2(paths.emplace(field.path, field.range).second, field.path.c_str()); // no two of one name
    QVERIFY(paths.size() > 250);
    for (const auto& [path, range] : paths) {
      Project changed = demo;
      QVERIFY2(setField(changed, path,
                        range == Range::Rays    ? "20"
                        : range == Range::Count ? "2"
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
