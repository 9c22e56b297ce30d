// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Fields of every kind are set by what is typed, cases have own values of every kind, and what a new object starts with
// is sound: all of it for whatever the schema knows.
#include "RandomProject.h"
#include "TestProjects.h"
#include "io/ProjectFile.h"
#include "model/Alternatives.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/WatchOffers.h"
#include "readiness/Readiness.h"
#include "run/InputHash.h"

#include <QTest>
#include <nlohmann/json.hpp>
#include <set>

using namespace kiln;
using namespace kiln::test;
using Json = nlohmann::ordered_json;

namespace
{

Project kilnWall()
{
  Project p = projectWith(0.02);
  p.materials = {material("brick", 1), material("fibre", 0.1)};
  p.materials[0].name = "Fire brick";
  p.parts = {part("wall", "brick", block(0.2, 0.2, 0.05)),
             part("lining", "fibre", block(0.2, 0.2, 0.02), Vec3(0, 0, 0.05))};
  p.surfaces = {surface("out", {"wall.bottom"}), surface("in", {"lining.top"})};
  p.sources = {source("coil", SurfacePower{"in", {100, "100 W"}})};
  p.boundaries = {boundary("air", Convection{"out", Property{10, "10 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  p.contacts = {contact("wall", "lining", PerfectContact{})};
  return p;
}

/// Another alternative: its fields are another test's.
bool bringsOtherFields(const Project& project, const Change& change)
{
  const auto paths = [](Project walked) {
    std::vector<std::string> all;
    for (const Field& field : settings(walked))
      all.push_back(field.path);
    return all;
  };
  return paths(project) != paths(withChoices(project, {change}));
}

std::string refusalOf(Project project, const std::string& path, const std::string& typed)
{
  const auto set = setField(project, path, typed);
  return set ? std::string() : set.error().sentence();
}

/// The place in the file where an own value of a path lies, found without any help of the model.
Json* placeOf(Json& file, const std::string& path)
{
  std::vector<std::string> steps;
  for (std::size_t begin = 0; begin != std::string::npos;) {
    const std::size_t dot = path.find('.', begin);
    steps.push_back(path.substr(begin, dot == std::string::npos ? dot : dot - begin));
    begin = dot == std::string::npos ? dot : dot + 1;
  }
  Json* at = nullptr;
  for (auto& [key, list] : file.items())
    if (list.is_array())
      for (Json& object : list)
        if (object.is_object() && object.value("id", "") == steps.front())
          at = &object;
  for (std::size_t i = 1; at != nullptr && i + 1 < steps.size(); ++i) {
    Json* inner = nullptr;
    if (at->contains(steps[i]) && (*at)[steps[i]].is_object())
      inner = &(*at)[steps[i]];
    for (auto& [key, list] : at->items()) // an entry of a list of the object
      if (list.is_array())
        for (Json& entry : list)
          if (entry.is_object() && entry.value("id", "") == steps[i])
            inner = &entry;
    at = inner;
  }
  return at;
}

} // namespace

class SettingsTest : public QObject
{
  Q_OBJECT
private slots:
  void everyKindOfFieldIsTyped()
  {
    Project p = kilnWall();
    const auto set = [&](const char* path, const char* typed) {
      const auto done = setField(p, path, typed);
      QVERIFY2(done, done ? "" : done.error().sentence().c_str());
    };
    set("coil.power", "1.3 kW");
    set("brick.conductivity", "20 °C: 0.5 W/(m·K); 500 °C: 0.8");
    set("air.muted", "yes");
    set("wall.material", "fibre");
    set("lining.material", "Fire brick");
    set("wall|lining.kind", "gap");
    set("wall|lining.thickness", "2 mm");
    set("wall.comment", "by hand");
    set("brick.density", "");
    set("air.name", "Room");
    QCOMPARE(std::get<SurfacePower>(p.sources[0].heat).power.si, 1300.0);
    QCOMPARE(p.materials[0].conductivity.table.size(), std::size_t(2));
    QVERIFY(std::abs(valueAt(p.materials[0].conductivity, 293.15 + 240).value - 0.65) < 1e-12);
    QVERIFY(p.boundaries[0].muted);
    QCOMPARE(p.parts[0].material, std::string("fibre"));
    QCOMPARE(p.parts[1].material, std::string("brick"));
    QCOMPARE(std::get<Gap>(p.contacts[0].exchange).thickness.si, 0.002);
    QCOMPARE(p.parts[0].comment, std::string("by hand"));
    QCOMPARE(p.boundaries[0].name, std::string("Room"));
    QVERIFY(readProject(writeProject(p), "typed"));
  }

  void whatDoesNotFitIsRefusedWithAReason_data()
  {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QString>("typed");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* path, const char* typed, const char* says) {
      QTest::newRow(qPrintable(QString(path) + "=" + typed)) << path << typed << says;
    };
    row("coil.power", "5 W/m2", "heat flux");
    row("coil.power", "fast", "fast");
    row("brick.conductivity", "-1", "greater than zero");
    row("brick.conductivity", "500 °C: 1; 20 °C: 2", "do not increase");
    row("brick.conductivity", "20 °C: 1; 500 °C: -2", "greater than zero");
    row("brick.conductivity", "20 °C: 1 W", "20 °C: 1 W");
    row("coil.workingFrom", "20 °C: 1", "cannot be a table");
    row("air.muted", "perhaps", "yes or no");
    row("wall.material", "Fire brik", "Did you mean “Fire brick”?");
    row("air.surface", "", "must name a surface");
    row("wall|lining.kind", "gapp", "Did you mean “gap”?");
    row("coil.powr", "5", "Did you mean coil.power?");
  }
  void whatDoesNotFitIsRefusedWithAReason()
  {
    QFETCH(QString, path);
    QFETCH(QString, typed);
    QFETCH(QString, says);
    Project p = kilnWall();
    const auto set = setField(p, path.toStdString(), typed.toStdString());
    QVERIFY(!set);
    QVERIFY2(QString::fromStdString(set.error().sentence()).contains(says), set.error().sentence().c_str());
    QVERIFY(p == kilnWall());
  }

  /// A name of two objects is no name.
  void aNameOfTwoIsRefused()
  {
    Project p = kilnWall();
    p.materials[1].name = "Fire brick";
    QVERIFY(QString::fromStdString(refusalOf(p, "wall.material", "Fire brick")).contains("brick, fibre"));
    QVERIFY(refusalOf(p, "wall.material", "fibre").empty());
  }

  /// Given random projects and own values of every kind, then the project as the case sees it is the one whose file was
  /// edited by hand at that place, and so are its fingerprints.
  void ownValuesAreEditsByHand()
  {
    std::set<Field::Kind> kinds;
    int checked = 0;
    for (unsigned seed = 1; seed <= 120; ++seed) {
      Project project = randomProject(seed, true);
      for (Material& material : project.materials) // who stands for whom: tst_cases
        material.standsFor.clear();
      for (Case& one : project.cases) {
        one.sets.clear();
        for (std::string* set : {&one.materialsOf, &one.finishesOf, &one.contactsOf})
          set->clear();
        std::erase_if(one.changes, [](const Change& change) { return change.field.ends_with(".standsFor"); });
      }
      for (const Case& one : project.cases) {
        Json file = Json::parse(writeProject(project));
        Case applied = one;
        applied.changes.clear();
        Project walked = project;
        const std::vector<Field> all = settings(walked);
        for (const Change& change : one.changes) {
          const Field* field = fieldAt(all, change.field);
          QVERIFY2(field != nullptr, change.field.c_str());
          const std::string key(field->path.substr(field->path.rfind('.') + 1));
          Json* at = placeOf(file, change.field);
          const bool whole = at != nullptr && key == field->key && !bringsOtherFields(project, change);
          if (!whole || !at->is_object())
            continue; // one of three numbers, or another alternative: below
          Case single;
          single.id = single.name = "c";
          single.changes = {change};
          Project holder;
          holder.cases = {single};
          const Json value = Json::parse(writeProject(holder))["cases"][0]["changes"].begin().value();
          const bool mayBeEmpty = field->reference && field->reference->need == Need::May;
          if (value.is_null() || (value == "" && mayBeEmpty))
            at->erase(key);
          else
            (*at)[key] = value;
          applied.changes.push_back(change);
          kinds.insert(field->kind);
        }
        if (applied.changes.empty())
          continue;
        const auto seen = projectForCase(project, applied);
        QVERIFY2(seen, seen ? "" : seen.error().sentence().c_str());
        const auto byHand = readProject(file.dump(), "by hand");
        QVERIFY2(byHand, byHand ? "" : byHand.error().sentence().c_str());
        QVERIFY2(writeProject(*seen) == writeProject(*byHand),
                 difference(writeProject(*seen), writeProject(*byHand)).c_str());
        QVERIFY(inputHashes(*seen) == inputHashes(*byHand));
        ++checked;
      }
    }
    QVERIFY2(checked > 20 && kinds.size() >= 5, qPrintable(QString("%1 %2").arg(checked).arg(kinds.size())));
  }

  /// An own choice brings fields with it that the project does not have, and they can have own values too.
  void anOwnChoiceBringsItsFields()
  {
    Project p = kilnWall();
    Case& cold = p.cases.front();
    cold.changes = {{"wall|lining.kind", std::string("gap")},
                    {"wall|lining.thickness", Property{0.003, "3 mm"}},
                    {"air.muted", true},
                    {"wall.material", std::string("fibre")},
                    {"brick.conductivity", Property{{0.5, {}}, {{{300, {}}, {0.5, {}}}, {{800, {}}, {0.9, {}}}}}}};
    const auto again = readProject(writeProject(p), "own");
    QVERIFY2(again, again ? "" : again.error().sentence().c_str());
    QVERIFY(*again == p);
    const auto seen = projectForCase(*again, again->cases.front());
    QVERIFY2(seen, seen ? "" : seen.error().sentence().c_str());
    QCOMPARE(std::get<Gap>(seen->contacts[0].exchange).thickness.si, 0.003);
    QVERIFY(seen->boundaries[0].muted && !p.boundaries[0].muted);
    QCOMPARE(seen->parts[0].material, std::string("fibre"));
    QCOMPARE(seen->materials[0].conductivity.table.size(), std::size_t(2));
    QVERIFY(!hasErrors(checkModel(p)));

    removeObject(p, "fibre"); // what names it goes too
    QVERIFY(std::none_of(p.cases[0].changes.begin(), p.cases[0].changes.end(),
                         [](const Change& change) { return change.field == "wall.material"; }));
    cold.changes[0].value = std::string("gappp");
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"of another kind"}));
    cold.changes = {{"nothing.at", true}};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"nothing.at"}));
  }

  /// What a case sets for itself is its own already: an own value of it would count for nothing, and is refused.
  void aCasesSettingsAreNoOwnValues()
  {
    Project p = kilnWall();
    p.cases[0].changes = {{p.cases[0].id + ".instant", Property{60, "60 s"}}};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"setting of a case"}));
    p.cases[0].changes = {{"coil.power", Property{60, "60 W"}}};
    QVERIFY(!hasErrors(checkModel(p)));
  }

  /// Whatever kind of source, boundary, link, contact, store or form is new, its numbers are such as may be.
  void newObjectsStartWithValuesThatMayBe()
  {
    Project p = kilnWall();
    int numbers = 0;
    const auto check = [&](auto& object, auto& choice, std::size_t index) {
      chooseAlternative(choice, (index + 1) % std::variant_size_v<std::decay_t<decltype(choice)>>);
      chooseAlternative(choice, index);
      for (const Field& field : fieldsOf(p, object.id))
        if (const Number* value = field.value(); value != nullptr) {
          const auto wrong = outsideRange(value->si, field.range, field.quantity);
          QVERIFY2(!wrong, (field.path + " " + wrong.value_or("")).c_str());
          ++numbers;
        }
    };
    p.links.resize(1);
    p.links[0].id = "link";
    p.nodes.resize(1);
    p.nodes[0].id = "node";
    for (std::size_t i = 0; i < describing::sourceKinds.size(); ++i)
      check(p.sources[0], p.sources[0].heat, i);
    for (std::size_t i = 0; i < describing::boundaryKinds.size(); ++i)
      check(p.boundaries[0], p.boundaries[0].condition, i);
    for (std::size_t i = 0; i < describing::exchangeKinds.size(); ++i)
      check(p.contacts[0], p.contacts[0].exchange, i);
    for (std::size_t i = 0; i < describing::linkKinds.size(); ++i)
      check(p.links[0], p.links[0].exchange, i);
    for (std::size_t i = 0; i < describing::storeKinds.size(); ++i)
      check(p.nodes[0], p.nodes[0].storage, i);
    for (std::size_t i = 0; i < describing::formKinds.size(); ++i)
      check(p.parts[0], p.parts[0].shape.form, i);
    QVERIFY2(numbers > 100, qPrintable(QString::number(numbers)));
  }

  /// Another kind keeps what both have: the surface, an ambient; not a temperature for a power.
  void anotherKindKeepsWhatBothHave()
  {
    Boundary own = boundary("air", Convection{"out", Property{25, "25 W/(m²·K)"}, Property{300, "300 K"}, {}, "sump"});
    chooseAlternative(own.condition, 1);
    const auto* correlated = std::get_if<CorrelatedConvection>(&own.condition);
    QVERIFY(correlated != nullptr && correlated->surface == "out" && correlated->node == "sump");
    QCOMPARE(correlated->ambient.text, std::string("300 K"));
    own.condition = Convection{"out", Property{25, "25 W/(m²·K)"}, Property{300, "300 K"}};
    for (std::size_t i = 0; i < describing::boundaryKinds.size(); ++i) {
      Boundary other = own;
      chooseAlternative(other.condition, i);
      QCOMPARE(other.condition.index(), i);
      const bool onSurface = !surfaceOf(other).empty() || i == 4 || i == 5; // a part, a point
      QVERIFY2(onSurface, std::string(describing::boundaryKinds[i].name).c_str());
    }
  }

  /// Every kind of figure can be watched of something, and is then named after it.
  void everyKindOfFigureIsOffered()
  {
    Project p = kilnWall();
    p.materials[0].latentHeat = number(1e5);
    std::set<std::size_t> offered;
    std::set<std::string> names;
    const auto take = [&](const std::vector<std::string>& ids, Refers kind, const std::string& name) {
      for (const Watch& watch : watchesOf(p, ids, kind, name)) {
        offered.insert(watch.figure.index());
        QVERIFY2(names.insert(watch.name).second && watch.name.find('{') == std::string::npos, watch.name.c_str());
      }
    };
    take({"wall"}, Refers::Part, "Wall");
    take({"out"}, Refers::Surface, "Outside");
    take({"wall", "lining"}, Refers::Part, "Wall → Lining");
    take({"n"}, Refers::Node, "Air");
    take({"l"}, Refers::Link, "Strap");
    take({"a", "b", "c"}, Refers::Watch, {});
    take({"a"}, Refers::Watch, "Peak");
    take({}, Refers{}, {});
    QCOMPARE(offered.size(), std::variant_size_v<decltype(Watch::figure)>);
    QVERIFY(names.contains("Wall, hottest") && names.contains("Heat Wall → Lining"));
    const auto lining = watchesOf(p, {"lining"}, Refers::Part, "Lining"); // of fibre, which does not melt
    QVERIFY(std::none_of(lining.begin(), lining.end(),
                         [](const Watch& watch) { return std::holds_alternative<MoltenShare>(watch.figure); }));
  }

  /// What a field holds reads back as what it holds.
  void wordsReadBack()
  {
    int read = 0;
    for (unsigned seed = 1; seed <= 30; ++seed) {
      Project project = randomProject(seed, true);
      const std::vector<Field> all = settings(project);
      for (const Field& field : all) {
        if (field.kind != Field::Kind::Switch && field.kind != Field::Kind::Choice)
          continue;
        const auto again = readSetting(project, field, settingText(project, field, field.held()));
        QVERIFY2(again && *again == field.held(),
                 (field.path + ": " + settingText(project, field, field.held())).c_str());
        ++read;
      }
    }
    QVERIFY(read > 200);
  }
};

QTEST_APPLESS_MAIN(SettingsTest)
#include "tst_settings.moc"
