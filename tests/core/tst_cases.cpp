// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What many cases share and exchange: property sets, materials that stand for others, cases on their way to another
// project, meshes of cases with shapes of their own.
#include "RandomProject.h"
#include "TestProjects.h"
#include "io/CasesFile.h"
#include "io/MeshStore.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "run/InputHash.h"

#include <QTest>
#include <atomic>
#include <random>
#include <set>
#include <thread>

using namespace kiln;
using namespace kiln::test;

namespace
{

Property celsius(double degrees) { return {{degrees + zeroCelsius, {}}, {}}; }

/// A wall of two layers that a coil heats and room air cools.
Project wall()
{
  Project p = projectWith(0.02);
  p.materials = {material("brick", 1), material("fibre", 0.1), material("worn", 3)};
  p.materials[0].name = "Fire brick";
  p.parts = {part("wall", "brick", block(0.2, 0.2, 0.05)),
             part("lining", "fibre", block(0.2, 0.2, 0.02), Vec3(0, 0, 0.05))};
  p.surfaces = {surface("out", {"wall.bottom"}), surface("in", {"lining.top"})};
  p.sources = {source("coil", SurfacePower{"in", {100, "100 W"}})};
  p.boundaries = {boundary("air", Convection{"out", Property{10, ""}, celsius(20)})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"lining"}})};
  return p;
}

PropertySet& addSet(Project& p, const std::string& id, std::vector<Change> changes)
{
  PropertySet set;
  set.id = id;
  set.name = id + " set";
  set.changes = std::move(changes);
  p.sets.push_back(std::move(set));
  return p.sets.back();
}

Property plainProperty(double si) { return {{si, {}}, {}}; }

double hottestOf(const Project& p, const std::filesystem::path& folder, std::size_t index = 0)
{
  const auto result = runCase(p, p.cases[index], folder, noProgress);
  if (!result)
    throw std::runtime_error(result.error().failure ? result.error().failure->sentence() : "not ready");
  return valueOf(p, *result, "hot");
}

} // namespace

class CasesTest : public QObject
{
  Q_OBJECT

private slots:
  /// Given sets by chance, then the project as the case sees it, and its hashes, are those of the project edited by
  /// hand: earlier sets first, own values last.
  void setsAreTheirValuesInOrder()
  {
    std::mt19937 random(11);
    int taken = 0;
    for (int round = 0; round < 40; ++round) {
      Project p = wall();
      Project byHand = p;
      const auto numberOf = [&](const char* path) {
        return Change{path, plainProperty(1 + static_cast<double>(random() % 1000) / 100)};
      };
      const std::vector<const char*> paths{"brick.conductivity", "fibre.conductivity", "air.coefficient", "coil.power"};
      std::vector<std::vector<Change>> all;
      for (const char* id : {"aged", "winter"}) {
        std::vector<Change> changes;
        for (const char* path : paths)
          if (random() % 2 == 0)
            changes.push_back(numberOf(path));
        addSet(p, id, changes);
        p.cases[0].sets.emplace_back(id);
        all.push_back(changes);
      }
      if (random() % 2 == 0)
        p.cases[0].changes = {numberOf(paths[random() % paths.size()])};
      all.push_back(p.cases[0].changes);
      for (const auto& changes : all)
        for (const Change& change : changes) {
          const std::vector<Field> fields = settings(byHand);
          QVERIFY(fieldAt(fields, change.field)->take(change.value));
          ++taken;
        }
      const auto seen = projectForCase(p, p.cases[0]);
      QVERIFY(seen.has_value());
      QCOMPARE(stageHash(*seen, Stage::Solution), stageHash(byHand, Stage::Solution));
      QCOMPARE(solutionHash(*seen, p.cases[0]), solutionHash(byHand, byHand.cases[0]));
      QCOMPARE(changesOf(p, p.cases[0]).size(), all[0].size() + all[1].size() + all[2].size());
    }
    QVERIFY(taken > 100);
  }

  /// A set for each of materials, finishes and contacts: of it only their values are taken, and they count before those
  /// of sets that are taken whole; own values count before them.
  void aSetForEachKind()
  {
    Project p = wall();
    p.finishes.push_back({});
    p.finishes.back().id = p.finishes.back().name = "glaze";
    p.finishes.back().emissivity = plainProperty(0.9);
    Contact joint;
    joint.id = joint.name = "joint";
    joint.partA = p.parts.at(0).id;
    joint.partB = p.parts.at(1).id;
    joint.exchange = AreaConductance{number(100)};
    p.contacts = {joint};
    const auto all = [](double value) {
      return std::vector<Change>{{"brick.conductivity", plainProperty(value)},
                                 {"glaze.emissivity", plainProperty(value / 10)},
                                 {"joint.conductance", plainProperty(100 * value)},
                                 {"air.coefficient", plainProperty(value)}};
    };
    addSet(p, "whole", all(2));
    addSet(p, "aged", all(3));
    addSet(p, "hot", all(4));
    addSet(p, "new", all(5));
    Case& one = p.cases[0];
    one.sets = {"whole"};
    one.materialsOf = "aged";
    one.finishesOf = "hot";
    one.contactsOf = "new";
    QCOMPARE(setsOf(one), (std::vector<std::string>{"whole", "aged", "hot", "new"}));
    Project seen = *projectForCase(p, one);
    const auto valueAt = [&](const char* path) {
      const std::vector<Field> fields = settings(seen);
      return fieldAt(fields, path)->value()->si;
    };
    QCOMPARE(valueAt("brick.conductivity"), 3.0);
    QCOMPARE(valueAt("glaze.emissivity"), 0.4);
    QCOMPARE(valueAt("joint.conductance"), 500.0);
    QCOMPARE(valueAt("air.coefficient"), 2.0); // of the set that is taken whole alone
    one.changes = {{"brick.conductivity", plainProperty(7)}};
    seen = *projectForCase(p, one);
    QCOMPARE(valueAt("brick.conductivity"), 7.0);

    // A set that has none of the kind it is taken for is named, and removing it clears the choice.
    addSet(p, "windy", {{"air.coefficient", plainProperty(1)}});
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"there are none"}));
    p.cases[0].contactsOf = "windy";
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"windy", "contact", "there are none"}));
    QVERIFY(removeObject(p, "windy"));
    QVERIFY(p.cases[0].contactsOf.empty());
  }

  void aSetCountsInTheSolution()
  {
    Project p = wall();
    addSet(p, "aged", {{"brick.conductivity", plainProperty(0.5)}, {"air.ambient", celsius(40)}});
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const double before = hottestOf(p, path);
    p.cases[0].sets = {"aged"};
    // By hand: 100 W through 0.04 m² of brick of half the conductivity, in air warmer by 20 K.
    const double more = 20 + 100 * 0.05 / 0.04 * (1 / 0.5 - 1 / 1.0);
    QVERIFY(std::abs(hottestOf(p, path) - before - more) < 1e-4 * more);
  }

  void whatASetLacksIsNamed()
  {
    Project p = wall();
    addSet(p, "aged", {{"brick.conductivity", plainProperty(0.5)}, {"glaze.emissivity", plainProperty(0.5)}});
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"glaze.emissivity"}));
    p.cases[0].sets = {"aged"};
    const auto seen = projectForCase(p, p.cases[0]);
    QVERIFY(!seen);
    QVERIFY(seen.error().object.find("aged set") != std::string::npos);
    QVERIFY(seen.error().problem.find("glaze.emissivity") != std::string::npos);
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"glaze.emissivity"}));
    removeObject(p, "aged"); // the case does without
    QVERIFY(p.cases[0].sets.empty());
    QVERIFY(projectForCase(p, p.cases[0]).has_value());
  }

  void aParameterInASetIsRenamedWithIt()
  {
    Project p = wall();
    Parameter power;
    power.id = "p1";
    power.name = "full";
    power.quantity = Quantity::Power;
    power.value = {120, "120 W"};
    p.parameters = {power};
    addSet(p, "hot", {{"coil.power", Property{{0, "full/2", true}, {}}}});
    p.cases[0].sets = {"hot"};
    renameParameter(p, "p1", "most");
    QCOMPARE(p.sets[0].changes[0].number()->text, std::string("most/2"));
    QCOMPARE(std::get<SurfacePower>(projectForCase(p, p.cases[0])->sources[0].heat).power.si, 60.0);
  }

  /// Given a material that stands for another, then it has the other's values under its own name, in a case too.
  void aMaterialStandsForAnother()
  {
    Project p = wall();
    p.materials[0].standsFor = "worn";
    const auto seen = projectForCase(p, p.cases[0]);
    QVERIFY(seen.has_value());
    QCOMPARE(seen->materials[0].conductivity.si, 3.0);
    QCOMPARE(seen->materials[0].name, std::string("Fire brick"));
    p.materials[0].standsFor.clear();
    p.cases[0].changes = {{"brick.standsFor", std::string("fibre")}};
    QCOMPARE(projectForCase(p, p.cases[0])->materials[0].conductivity.si, 0.1);
    p.materials[1].standsFor = "worn"; // by way of it
    QCOMPARE(projectForCase(p, p.cases[0])->materials[0].conductivity.si, 3.0);
    Project byHand = wall();
    byHand.materials[0].conductivity = byHand.materials[1].conductivity = byHand.materials[2].conductivity;
    QCOMPARE(stageHash(*projectForCase(p, p.cases[0]), Stage::Solution), stageHash(byHand, Stage::Solution));
  }

  void aRingOfStandInsIsNamed()
  {
    Project p = wall();
    p.materials[0].standsFor = "fibre";
    p.materials[1].standsFor = "brick";
    const auto seen = projectForCase(p, p.cases[0]);
    QVERIFY(!seen);
    QVERIFY(seen.error().problem.find("Fire brick → fibre → Fire brick") != std::string::npos);
    removeObject(p, "fibre");
    QVERIFY(p.materials[0].standsFor.empty());
  }

  /// Given limits of a steady case of its own, then its result is another, as exact as asked; without, as it was.
  void aSteadyCaseHasLimitsOfItsOwn()
  {
    Project p = wall();
    p.boundaries.push_back(boundary("glow", Radiation{"out", celsius(20), number(1)}));
    for (Material& one : p.materials)
      one.emissivity = number(0.9);
    const std::string usual = solutionHash(p, p.cases[0]);
    p.cases[0].mostSteps = number(60);
    QCOMPARE(solutionHash(p, p.cases[0]), usual); // it changes no result
    p.cases[0].balance = number(1e-12);
    p.cases[0].update = number(1e-9);
    QVERIFY(solutionHash(p, p.cases[0]) != usual);
    const CaseResult result = solve(p);
    QVERIFY2(result.info.residual < 1e-12, qPrintable(QString::number(result.info.residual)));
    p.cases[0].mostSteps = number(1);
    const QTemporaryDir folder;
    QVERIFY(!runCase(p, p.cases[0], folder.path().toStdString(), noProgress));
  }

  void casesTravelByName()
  {
    Project p = wall();
    addSet(p, "aged", {{"brick.conductivity", plainProperty(0.5)}});
    Case one = p.cases[0];
    one.id = "warm";
    one.name = "Warm room";
    one.group = "Rooms";
    one.sets = {"aged"};
    one.changes = {{"air.ambient", celsius(35)}, {"wall.material", std::string("worn")}, {"lining.muted", true}};
    Case next = one;
    next.id = "next";
    next.name = "After it";
    next.kind = Case::Kind::Transient;
    next.run = TransientRun{};
    next.run->start = StartFromCase{"warm", {}, {}};
    p.cases = {p.cases[0], one, next};
    const std::string text = exportCases(p, {"warm", "next"});
    // Elsewhere the same things have other ids, and one of them is not there.
    Project other = wall();
    replaceObject(other, "brick", "material-7", Refers::Material);
    other.materials[0].id = "material-7";
    replaceObject(other, "air", "brick", Refers::Boundary); // an id that means something else there
    other.boundaries[0].id = "brick";
    other.boundaries[0].name = "air";
    removeObject(other, "lining");
    const auto taken = importCases(other, text, "cases");
    QVERIFY2(taken.has_value(), qPrintable(QString::fromStdString(taken ? "" : taken.error().sentence())));
    QCOMPARE(taken->cases.size(), 2U);
    QCOMPARE(taken->sets.size(), 1U);
    QCOMPARE(taken->unmatched.size(), 2U); // of either case
    QVERIFY(taken->unmatched[0].find("lining") != std::string::npos);
    const Case& warm = *findById(other.cases, taken->cases[0]);
    QCOMPARE(warm.name, std::string("Warm room"));
    QCOMPARE(warm.group, std::string("Rooms"));
    QCOMPARE(warm.changes,
             (std::vector<Change>{{"brick.ambient", celsius(35)}, {"wall.material", std::string("worn")}}));
    QCOMPARE(warm.sets, taken->sets);
    QCOMPARE(other.sets[0].changes[0].field, std::string("material-7.conductivity"));
    QCOMPARE(std::get<StartFromCase>(findById(other.cases, taken->cases[1])->run->start).of, warm.id);
    QVERIFY(projectForCase(other, warm).has_value());
    // Once more: names that are taken get a number, nothing is overwritten.
    const auto again = importCases(other, text, "cases");
    QVERIFY(again.has_value());
    QCOMPARE(other.cases.size(), 5U);
    QCOMPARE(findById(other.cases, again->cases[0])->name, std::string("Warm room 2"));
  }

  void casesOfAnotherWorldLoseTheirValuesAndSayIt()
  {
    Project p = wall();
    p.cases[0].changes = {{"air.ambient", celsius(35)}, {"brick.conductivity", plainProperty(2)}};
    Project other = projectWith(0.01);
    const auto taken = importCases(other, exportCases(p, {"steady"}), "cases");
    QVERIFY(taken.has_value());
    QCOMPARE(taken->unmatched.size(), 2U);
    QVERIFY(findById(other.cases, taken->cases[0])->changes.empty());
    for (const char* wrong : {"", "{}", "no JSON"})
      QVERIFY(!importCases(other, wrong, "wrong"));
    const auto plain = importCases(other, writeProject(p), "project");
    QVERIFY(!plain && plain.error().kind == Failure::Kind::Unreadable);
  }

  /// Given projects by chance, then whatever is written of their cases comes back to them with every value.
  void casesComeBackHome()
  {
    std::mt19937 random(3);
    int values = 0;
    for (int round = 0; round < 15; ++round) {
      Project p = wall();
      const std::vector<std::string> paths = [&] {
        Project walked = p;
        std::vector<std::string> all;
        for (const Field& field : settings(walked))
          if (field.objectId != "steady" && !field.objectId.empty() && field.kind != Field::Kind::Choice &&
              field.kind != Field::Kind::Text)
            all.push_back(field.path);
        return all;
      }();
      std::set<std::string> picked;
      while (picked.size() < 6)
        picked.insert(paths[random() % paths.size()]);
      for (const std::string& path : picked) {
        Project walked = p;
        const std::vector<Field> fields = settings(walked);
        p.cases[0].changes.push_back({path, fieldAt(fields, path)->held()});
      }
      Project same = p;
      const auto taken = importCases(same, exportCases(p, {"steady"}), "cases");
      QVERIFY(taken.has_value());
      QVERIFY2(taken->unmatched.empty(), taken->unmatched.empty() ? "" : taken->unmatched[0].c_str());
      for (std::size_t c = 0; c < p.cases[0].changes.size(); ++c) {
        const Change& was = p.cases[0].changes[c];
        const std::vector<Change>& now = findById(same.cases, taken->cases[0])->changes;
        QVERIFY2(c < now.size() && now[c] == was, was.field.c_str());
      }
      values += static_cast<int>(p.cases[0].changes.size());
    }
    QCOMPARE(values, 90);
  }

  /// Given two cases with shapes of their own, then each finds its mesh again after the other was solved.
  void shapesOfTheirOwnAreMeshedOnce()
  {
    Project p = wall();
    Case taller = p.cases[0];
    taller.id = "taller";
    taller.name = "Taller";
    taller.changes = {{"lining.sizeZ", plainProperty(0.03)}};
    p.cases.push_back(taller);
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const auto meshes = [&](std::size_t index) {
      const auto result = runCase(p, p.cases[index], path, noProgress);
      if (!result)
        throw std::runtime_error("not solved");
      const auto& times = result->info.times;
      return std::any_of(times.begin(), times.end(), [](const StageTime& t) { return t.stage == "mesh"; });
    };
    QVERIFY(meshes(0));
    QVERIFY(meshes(1));
    for (int round = 0; round < 2; ++round)
      QVERIFY(!meshes(0) && !meshes(1));
    for (int i = 0; i < 12; ++i) { // many shapes do not fill the disk
      p.cases[1].changes = {{"lining.sizeZ", plainProperty(0.03 + 0.001 * i)}};
      static_cast<void>(meshes(1));
    }
    int kept = 0;
    for (const auto& entry : std::filesystem::directory_iterator(path))
      kept += entry.path().filename().string().starts_with(".mesh-") ? 1 : 0;
    QVERIFY2(kept > 2 && kept <= 6, qPrintable(QString::number(kept)));
  }

  /// Given two at once that want one mesh, then one makes it while the other waits.
  void oneMeshIsMadeForAllWhoWaitForIt()
  {
    const Project p = wall();
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    std::atomic<int> made = 0;
    std::atomic<int> unchanged = 0;
    const auto prepare = [&] {
      const auto mesh = prepareMesh(p, path, [&](std::string_view stage, double, std::string_view message) {
        unchanged += stage == "mesh" && message == "unchanged" ? 1 : 0;
        made += stage == "geometry" ? 1 : 0;
      });
      if (!mesh)
        throw std::runtime_error("not meshed");
    };
    std::thread first(prepare);
    std::thread second(prepare);
    first.join();
    second.join();
    QCOMPARE(made.load(), 1);
    QCOMPARE(unchanged.load(), 1);
  }
};

QTEST_APPLESS_MAIN(CasesTest)
#include "tst_cases.moc"
