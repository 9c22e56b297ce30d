// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What follows from the model's schema for every kind of object: references are removed, replaced and missed, and a
// stored result depends on exactly the fields that the schema says.
#include "RandomProject.h"
#include "TestProjects.h"
#include "io/Clipboard.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "run/InputHash.h"

#include <QTest>
#include <set>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr std::array<Stage, 6> stages{Stage::Geometry, Stage::Mesh,   Stage::Exchange,
                                      Stage::Solution, Stage::Course, Stage::Extent};

/// Archive that changes one field of a project, the n-th, and notes what it was.
class OneChange : public StagedWalk<OneChange>
{
public:
  explicit OneChange(int wanted) : wanted_(wanted) {}

  bool done = false;
  Stage stage = Stage::Nothing;
  Stage listStage = Stage::Nothing; ///< of the list of objects it is in
  std::string object;               ///< id; empty: of the project itself
  std::string key;
  bool usesItself = false;

  void text(const KeySpec& spec, std::string& value)
  {
    if (spec.key != "id" && spec.key != "case" && hit(spec.key, spec.stage))
      value += "x";
  }
  void optionalText(const KeySpec& spec, std::string& value) { text(spec, value); }
  void appearance(const KeySpec& spec, std::string& value)
  {
    if (hit(spec.key, Stage::Nothing))
      value += "x";
  }
  void longText(const KeySpec& spec, SharedText& value)
  {
    if (hit(spec.key, spec.stage))
      value = SharedText(value.text() + "x");
  }
  void texts(const KeySpec& spec, std::vector<std::string>& values)
  {
    if (hit(spec.key, spec.stage))
      values.emplace_back("more");
  }
  void flag(const KeySpec& spec, bool& value)
  {
    if (hit(spec.key, spec.stage))
      value = !value;
  }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (hit(spec.key, spec.stage))
      value += "x";
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    if (hit(spec.key, spec.stage))
      values.emplace_back("another");
  }
  void changes(const KeySpec& spec, std::vector<Change>& values)
  {
    if (hit(spec.key, spec.stage))
      values.push_back({"some.field", Property{Number{1, {}}, {}}});
  }
  void number(const NumberSpec& spec, Number& value)
  {
    if (hit(spec.key, spec.stage))
      value = Number{value.si + 0.5 + std::abs(value.si), {}};
  }
  void optionalNumber(const NumberSpec& spec, std::optional<Number>& value)
  {
    if (!hit(spec.key, spec.stage))
      return;
    value = Number{value ? value->si + 0.5 + std::abs(value->si) : 0.5, {}};
    usesItself = spec.usesItself;
  }
  void property(const NumberSpec& spec, Property& value)
  {
    if (hit(spec.key, spec.stage))
      value = Property{Number{value.si + 0.5 + std::abs(value.si), {}}, {}};
  }
  void optionalProperty(const NumberSpec& spec, std::optional<Property>& value)
  {
    if (hit(spec.key, spec.stage))
      value = Property{Number{value ? value->si + 0.5 + std::abs(value->si) : 0.5, {}}, {}};
  }
  void number3(const NumberSpec& spec, Number3& value)
  {
    if (hit(spec.key, spec.stage))
      value.y = Number{value.y.si + 0.5 + std::abs(value.y.si), {}};
  }
  void outline(const KeySpec& spec, std::vector<OutlinePoint>& points)
  {
    if (hit(spec.key, spec.stage))
      points.push_back({Number{1, {}}, Number{2, {}}, {}});
  }
  void points(const KeySpec& spec, std::vector<PlacedPoint>& points)
  {
    if (hit(spec.key, spec.stage))
      points.push_back({{1, 2, 3}, 4});
  }
  void schedule(const KeySpec& spec, std::vector<TablePoint>& points)
  {
    if (hit(spec.key, spec.stage))
      points.push_back({{1000, {}}, {1, {}}});
  }
  template <class... Ts, std::size_t N>
  void choice(const KeySpec& spec, std::variant<Ts...>& value, const KindSpecs<N>& names)
  {
    if (N > 1 && hit(spec.key, spec.stage)) {
      emplaceAt(value, (value.index() + 1) % N);
      return;
    }
    StagedWalk::choice(spec, value, names);
  }
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec& spec, Enum& value, const KindSpecs<N>&)
  {
    if (hit(spec.key, spec.stage))
      value = static_cast<Enum>((static_cast<std::size_t>(value) + 1) % N);
  }
  template <class T>
  void list(const KeySpec& spec, std::vector<T>& items)
  {
    within(spec, [&] {
      for (T& item : items) {
        if constexpr (std::is_base_of_v<Object, T>) {
          holder_ = item.id;
          around_ = stageOf(Stage::Inherit);
        }
        describe(*this, item);
        if constexpr (std::is_base_of_v<Object, T>)
          holder_.clear();
      }
    });
  }

private:
  bool hit(std::string_view name, Stage own)
  {
    if (at_++ != wanted_)
      return false;
    done = true;
    stage = stageOf(own);
    listStage = around_;
    object = holder_;
    key = name;
    return true;
  }

  int wanted_, at_ = 0;
  std::string holder_;
  Stage around_ = Stage::Nothing;
};

/// Ids of the objects that are there to be used and that something which counts up to a stage names.
std::set<std::string> usedUpTo(const Project& project, Stage upTo)
{
  constexpr Refers toBeUsed = Refers::Parameter | Refers::Material | Refers::File | Refers::Surface | Refers::Watch;
  std::set<std::string> used;
  for (const Surface& surface : project.surfaces)
    if (surface.meshSize && upTo >= Stage::Mesh)
      used.insert(surface.id);
  for (std::size_t before = used.size() + 1; before != used.size();) {
    before = used.size();
    forEachReference(project, [&](const ReferenceUse& use) {
      if (use.text == nullptr)
        return;
      const bool waits = kindOfObject(project, use.holderId) & toBeUsed;
      const bool holderCounts = !waits || used.contains(use.holderId);
      if (holderCounts && (use.stage == Stage::AsUsed || use.stage <= upTo))
        used.insert(*use.text);
    });
  }
  return used;
}

/// Nothing switched off, so that every field can count.
void switchOn(Project& project)
{
  forEachObjectList(project, [](auto& list) {
    for (auto& object : list)
      if constexpr (requires { object.muted; })
        object.muted = false;
  });
  for (Part& part : project.parts)
    for (ShapeStep& step : part.steps)
      step.muted = false;
}

constexpr unsigned seeds = 40;

} // namespace

class SchemaTest : public QObject
{
  Q_OBJECT

private slots:
  void projectsOfAllKindsSurviveSaving()
  {
    for (unsigned seed = 1; seed <= 300; ++seed) {
      const Project project = randomProject(seed);
      const std::string text = writeProject(project);
      const auto again = readProject(text, "random");
      QVERIFY2(again, again ? "" : again.error().sentence().c_str());
      QVERIFY2(writeProject(*again) == text, difference(writeProject(*again), text).c_str());
      QVERIFY(inputHashes(*again) == inputHashes(project));
      for (const Finding& finding : checkModel(project))
        QVERIFY(!finding.object.empty() && !finding.problem.empty() && !finding.remedy.empty());
    }
  }

  /// All kinds are met: the random projects together hold every alternative of the schema.
  void randomProjectsHoldAllKinds()
  {
    std::string all;
    for (unsigned seed = 1; seed <= 300; ++seed)
      all += writeProject(randomProject(seed));
    const auto has = [&](std::string_view word) {
      return all.find("\"" + std::string(word) + "\"") != std::string::npos;
    };
    const auto check = [&](const auto& names) {
      for (const std::string_view name : names)
        QVERIFY2(has(name), std::string(name).c_str());
    };
    check(describing::sourceKinds);
    check(describing::boundaryKinds);
    check(describing::exchangeKinds);
    check(describing::linkKinds);
    check(describing::figureKinds);
    check(describing::formKinds);
    check(describing::stepActions);
    check(describing::endKinds);
    check(describing::startKinds);
  }

  /// Given an id that another object has, in whatever list, then the file is refused and both places are clear.
  void anIdTwiceIsRefusedInEveryList()
  {
    Project project = randomProject(7);
    std::size_t lists = 0;
    forEachObjectList(project, [&](auto&) { ++lists; });
    std::size_t refused = 0;
    for (std::size_t wanted = 0; wanted < lists; ++wanted) {
      Project doubled = project;
      std::size_t at = 0;
      std::string name;
      forEachObjectList(doubled, [&](auto& list) {
        if (at++ != wanted || list.empty())
          return;
        list.push_back(list.front());
        name = list.back().name;
      });
      if (name.empty())
        continue;
      const auto again = readProject(writeProject(doubled), "doubled");
      QVERIFY(!again);
      QVERIFY2(again.error().sentence().find("is used twice") != std::string::npos &&
                   again.error().sentence().find(name) != std::string::npos,
               again.error().sentence().c_str());
      ++refused;
    }
    QVERIFY2(refused >= 12, qPrintable(QString::number(refused)));
  }

  void aRemovedObjectIsNamedByNothing()
  {
    int named = 0;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
      const Project project = randomProject(seed, true);
      std::vector<std::string> ids;
      forEachObjectList(project, [&](const auto& list) {
        for (const auto& object : list)
          ids.push_back(object.id);
      });
      for (const std::string& id : ids) {
        Project without = project;
        forEachReference(project, [&](const ReferenceUse& use) {
          named += use.text != nullptr && names(*use.text, use.spec, id, kindOfObject(project, id)) ? 1 : 0;
        });
        QVERIFY(removeObject(without, id));
        QVERIFY(findObject(without, id) == nullptr);
        forEachReference(without, [&](const ReferenceUse& use) {
          QVERIFY2(use.text == nullptr || !names(*use.text, use.spec, id, kindOfObject(project, id)),
                   (use.holder + ": " + id).c_str());
        });
        const auto again = readProject(writeProject(without), "without");
        QVERIFY2(again, again ? "" : again.error().sentence().c_str());
      }
    }
    QVERIFY2(named > 500, qPrintable(QString::number(named)));
  }

  /// Given a file by hand in which a part and a surface have one id, then each is taken for what it is.
  void onesNameMayStandForObjectsOfSeveralKinds()
  {
    Project p = projectWith(0.02);
    p.materials = {material("m", 1)};
    p.parts = {part("ball", "m", block(1, 1, 1)), part("other", "m", block(1, 1, 1), Vec3(1, 0, 0))};
    p.surfaces = {surface("ball", {"ball.top"})};
    p.boundaries = {boundary("air", Convection{"ball", number(10), number(300)})};
    p.sources = {source("q", PartPower{{"ball", "other"}, number(1)})};
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Error, {"ball"}));
    replaceObject(p, "ball", "other", Refers::Part);
    QCOMPARE(surfaceOf(p.boundaries[0]), std::string("ball"));
    QCOMPARE(std::get<PartPower>(p.sources[0].heat).parts, (std::vector<std::string>{"other", "other"}));
    forgetObject(p, "ball", Refers::Surface);
    QCOMPARE(surfaceOf(p.boundaries[0]), std::string());
  }

  void whatNamedOneObjectNamesAnother()
  {
    for (unsigned seed = 1; seed <= seeds; ++seed) {
      const Project project = randomProject(seed, true);
      forEachObjectList(project, [&](const auto& list) {
        if (list.size() < 2)
          return;
        const std::string from = list[0].id;
        const std::string to = list[1].id;
        const Refers kind = kindOf(list.data()).kind;
        const auto count = [kind](const Project& p, const std::string& id) {
          int uses = 0;
          forEachReference(p, [&](const ReferenceUse& use) {
            uses += use.text != nullptr && names(*use.text, use.spec, id, kind) ? 1 : 0;
          });
          return uses;
        };
        Project before = project;
        const auto ofThem = [&](const Change& change) { // what another object cannot have of its own says nothing of it
          return change.field.find(from + ".") != std::string::npos || change.field.find(to + ".") != std::string::npos;
        };
        forEachOwnValues(before, [&](std::vector<Change>& changes) { std::erase_if(changes, ofThem); });
        Project replaced = before;
        replaceObject(replaced, from, to, kind);
        QCOMPARE(count(replaced, from), 0);
        const auto told = [kind](const Project& p, const std::string& id) {
          std::string all;
          forEachReference(p, [&](const ReferenceUse& use) {
            if (use.text != nullptr && names(*use.text, use.spec, id, kind))
              all += use.holder + "." + std::string(use.spec.key) + " = " + *use.text + "\n";
          });
          return all;
        };
        QVERIFY2(count(replaced, to) == count(before, from) + count(before, to),
                 (told(replaced, to) + "---\n" + told(before, from) + "+\n" + told(before, to)).c_str());
      });
    }
  }

  /// Given any reference that names nothing there, then readiness says of which object and what is missing.
  void whatIsNotThereIsMissed()
  {
    std::set<std::string> keys;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
      Project project = randomProject(seed, true);
      std::vector<std::string*> texts;
      std::vector<ReferenceUse> uses;
      forEachReference(project, [&](const ReferenceUse& use) {
        if (use.text != nullptr && !(use.spec.to & (Refers::Face | Refers::Field)))
          uses.push_back(use);
      });
      for (std::size_t i = seed % 7; i < uses.size(); i += 7) {
        const std::string before = std::exchange(*uses[i].text, "nobody-there");
        const std::vector<Finding> findings = checkModel(project);
        QVERIFY2(std::any_of(findings.begin(), findings.end(),
                             [&](const Finding& finding) {
                               return finding.object == uses[i].holder &&
                                      finding.problem.find("“nobody-there”, which does not exist") != std::string::npos;
                             }),
                 (uses[i].holder + ", " + std::string(uses[i].spec.key)).c_str());
        keys.insert(std::string(uses[i].spec.key));
        *uses[i].text = before;
      }
    }
    QVERIFY2(keys.size() > 18, qPrintable(QString::number(keys.size())));
  }

  /// Given any field of any object changed, then exactly those fingerprints change whose stage it counts for.
  void exactlyTheStagesThatTheSchemaNamesChange()
  {
    std::set<std::string> keys;
    int changed = 0;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
      Project project = randomProject(seed, true);
      switchOn(project);
      for (Part& part : project.parts) // a group stands for its parts: another test
        part.group.clear();
      std::array<std::string, stages.size()> before;
      std::array<std::set<std::string>, stages.size()> used;
      for (std::size_t s = 0; s < stages.size(); ++s) {
        before[s] = stageHash(project, stages[s]);
        used[s] = usedUpTo(project, stages[s]);
      }
      for (int field = static_cast<int>(seed % 3);; field += 3) {
        Project other = project;
        OneChange change(field);
        describe(change, other);
        if (!change.done)
          break;
        keys.insert(change.key);
        for (std::size_t s = 0; s < stages.size(); ++s) {
          const bool waits = change.listStage == Stage::AsUsed && !change.object.empty();
          const bool counts = change.stage == Stage::AsUsed ? waits : change.stage <= stages[s];
          const bool inUse = !waits || used[s].contains(change.object) || (change.usesItself && counts);
          const bool differs = stageHash(other, stages[s]) != before[s];
          QVERIFY2(differs == (counts && inUse),
                   qPrintable(QString("seed %1, %2.%3 at stage %4: %5")
                                  .arg(seed)
                                  .arg(QString::fromStdString(change.object), QString::fromStdString(change.key))
                                  .arg(s)
                                  .arg(differs ? "changes" : "does not")));
          changed += differs ? 1 : 0;
        }
      }
    }
    QVERIFY2(keys.size() > 120 && changed > 2000, qPrintable(QString("%1 %2").arg(keys.size()).arg(changed)));
  }

  /// A group counts by the parts in it, where it is named.
  void aGroupCountsWhereItIsNamed()
  {
    Project p = projectWith(0.02);
    p.materials = {material("m", 1)};
    p.parts = {part("a", "m", block(1, 1, 1)), part("b", "m", block(1, 1, 1), Vec3(1, 0, 0))};
    PartGroup group;
    group.id = group.name = "both";
    p.groups = {group};
    p.sources = {source("q", PartPower{{"both"}, number(1)})};
    const auto hashes = [&] { return inputHashes(p); };
    const InputHashes none = hashes();
    p.parts[0].group = "both";
    const InputHashes one = hashes();
    QVERIFY(one.solution != none.solution && one.mesh == none.mesh && one.geometry == none.geometry);
    p.surfaces = {exposedOf("s", {"both"})};
    p.surfaces[0].meshSize = number(0.1);
    const InputHashes sized = hashes();
    p.parts[1].group = "both";
    QVERIFY(hashes().mesh != sized.mesh && hashes().geometry == sized.geometry);
  }

  /// What a formula of the place uses counts, with the parameters of its parameters.
  void parametersCountWhereTheirFormulaDoes()
  {
    Project p = projectWith(0.02);
    p.materials = {material("m", 1)};
    p.parts = {part("a", "m", block(1, 1, 1))};
    const auto parameter = [](const std::string& name, Number value) {
      Parameter made;
      made.id = made.name = name;
      made.quantity = Quantity::HeatDensity;
      made.value = std::move(value);
      return made;
    };
    p.parameters = {parameter("base", {100, "100 W/m³"}), parameter("twice", {200, "2*base", true}),
                    parameter("idle", {5, "5 W/m³"})};
    p.sources = {source("q", PartDensity{{"a"}, Property{Number{200, "twice*(1+x/1[m])", true}, {}}})};
    const std::string before = inputHashes(p).solution;
    p.parameters[2].value = number(6);
    QCOMPARE(inputHashes(p).solution, before);
    Project points = p;
    points.parameters[0].points = {{{0, 0, 0}, 1}, {{1, 0, 0}, 2}};
    QVERIFY(inputHashes(points).solution != before);
    p.parameters[1].value = Number{300, "3*base", true};
    QVERIFY(inputHashes(p).solution != before);
  }

  /// Copies take along what they need, whatever kind they are, and find their way into another project.
  void anyObjectIsCopiedIntoAnotherProject()
  {
    int pasted = 0;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
      const Project from = randomProject(seed, true);
      std::vector<std::string> ids;
      forEachObjectList(from, [&](const auto& list) {
        for (const auto& object : list)
          ids.push_back(object.id);
      });
      for (std::size_t i = seed % 3; i < ids.size(); i += 3) {
        Project to;
        const auto made = pasteObjects(to, copyObjects(from, {ids[i]}));
        QVERIFY2(made && made->size() == 1, made ? ids[i].c_str() : made.error().sentence().c_str());
        QVERIFY(kindOfObject(to, made->front()) == kindOfObject(from, ids[i]));
        constexpr Refers along = Refers::Material | Refers::Group | Refers::Surface | Refers::File | Refers::Watch;
        forEachReference(to, [&](const ReferenceUse& use) {
          if (use.text != nullptr && use.spec.to & along && kindOfObject(from, *use.text) & along)
            QVERIFY2(findObject(to, *use.text) != nullptr, (use.holder + ": " + *use.text).c_str());
        });
        ++pasted;
      }
    }
    QVERIFY(pasted > 100);
  }
};

QTEST_APPLESS_MAIN(SchemaTest)
#include "tst_schema.moc"
