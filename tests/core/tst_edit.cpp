// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Edits that keep references whole: remove, duplicate, reorder, copy and paste, mend, the library.
#include "TestProjects.h"
#include "io/Clipboard.h"
#include "io/Library.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/References.h"
#include "model/Settings.h"
#include "readiness/Mend.h"

#include <QTemporaryDir>
#include <QTest>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two blocks on each other with everything that can refer to them.
Project sample()
{
  Project p = projectWith(0.02);
  p.materials = {material("steel", 50), material("brick", 1)};
  p.parts = {part("low", "steel", block(0.1, 0.1, 0.02)), part("high", "brick", block(0.1, 0.1, 0.02), {0, 0, 0.02})};
  PartGroup group;
  group.id = "both";
  group.name = "Both";
  p.groups = {group};
  p.parts[0].group = "both";
  p.parts[0].steps = {cut("hole", Cylinder{number(0.01), number(0.02)})};
  p.parts[0].steps.push_back({"soft", RoundEdges{{"low.top"}, number(0.001)}, {}});
  p.surfaces = {exposedOf("all", {"low", "high"}), surface("foot", {"low.bottom", "high.top"})};
  p.surfaces[0].except = {"foot"};
  p.sources = {source("heat", PartPower{{"low", "high"}, number(10)})};
  p.boundaries = {boundary("air", Convection{"all", number(10), number(300)}),
                  boundary("floor", FixedSurface{"foot", number(300)})};
  p.contacts = {contact("low", "high", AreaConductance{number(100)})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"low"}})};
  p.cases[0].changes = {{"low.sizeX", Property{number(0.1)}}, {"heat.power", Property{number(20)}}};
  return p;
}

} // namespace

class EditTest : public QObject
{
  Q_OBJECT

private slots:
  void removingAPartTakesItOutOfEverything()
  {
    Project p = sample();
    QVERIFY(removeObject(p, "low"));
    QVERIFY(!removeObject(p, "low"));
    forEachReference(p, [](const ReferenceUse& use) {
      QVERIFY2(use.text == nullptr || !names(*use.text, use.spec, "low", Refers::Part), use.holder.c_str());
    });
    QVERIFY(p.contacts.empty());
    QCOMPARE(p.cases[0].changes.size(), std::size_t{1});
    QCOMPARE(std::get<PartPower>(p.sources[0].heat).parts, std::vector<std::string>{"high"});
  }

  void removingASurfaceLeavesItsBoundaryToBeMended()
  {
    Project p = sample();
    QVERIFY(removeObject(p, "all"));
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"boundary air", "names no surface"}));
  }

  void aDuplicateNamesItsOwnFaces()
  {
    Project p = sample();
    const std::string id = duplicateObject(p, "low");
    QCOMPARE(p.parts.size(), std::size_t{3});
    QCOMPARE(p.parts[1].id, id); // right after the original
    QCOMPARE(std::get<RoundEdges>(p.parts[1].steps[1].action).faces, std::vector<std::string>{id + ".top"});
    QCOMPARE(std::get<RoundEdges>(p.parts[0].steps[1].action).faces, std::vector<std::string>{"low.top"});
  }

  void rowsMoveWithinTheirList()
  {
    Project p = sample();
    QVERIFY(moveObject(p, "high", "low"));
    QCOMPARE(p.parts[0].id, std::string("high"));
    QVERIFY(moveObject(p, "high", ""));
    QCOMPARE(p.parts[1].id, std::string("high"));
    QVERIFY(!moveObject(p, "nobody", "low"));
  }

  void aCopyBringsWhatItNeedsIntoAnotherProject()
  {
    const Project from = sample();
    Project to = projectWith(0.1);
    const auto pasted = pasteObjects(to, copyObjects(from, {"low"}));
    QVERIFY2(pasted, pasted ? "" : pasted.error().sentence().c_str());
    QCOMPARE(*pasted, std::vector<std::string>{"low"});
    QCOMPARE(to.parts[0].material, std::string("steel"));
    QCOMPARE(to.materials.size(), std::size_t{1}); // not the other material
    QCOMPARE(to.groups.size(), std::size_t{1});
    const auto again = pasteObjects(to, copyObjects(from, {"low"}));
    QVERIFY(again);
    QCOMPARE(to.parts.size(), std::size_t{2});
    QCOMPARE(to.materials.size(), std::size_t{1}); // it is there already
    QVERIFY(to.parts[1].id != "low");
    QCOMPARE(std::get<RoundEdges>(to.parts[1].steps[1].action).faces,
             std::vector<std::string>{to.parts[1].id + ".top"});
    QVERIFY(!pasteObjects(to, "not a project"));
    QVERIFY(!pasteObjects(to, writeProject(from))); // a project is no copy of rows
  }

  void surfacesCopiedTogetherKeepReferringToEachOther()
  {
    Project p = sample();
    const auto pasted = pasteObjects(p, copyObjects(p, {"all", "foot"}));
    QVERIFY(pasted && pasted->size() == 2);
    const Surface* copy = findById(p.surfaces, pasted->front());
    QCOMPARE(copy->except, std::vector<std::string>{pasted->back()});
    QCOMPARE(copy->exposedOf, (std::vector<std::string>{"low", "high"})); // the parts stay
  }

  void groupsAreMutedAndExpanded()
  {
    Project p = sample();
    QCOMPARE(expandGroups(p, {"both", "high"}), (std::vector<std::string>{"low", "high"}));
    QVERIFY(!isMuted(p, p.parts[0]));
    p.groups[0].muted = true;
    QVERIFY(isMuted(p, p.parts[0]) && !isMuted(p, p.parts[1]));
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    QCOMPARE(geometry->table.parts.size(), std::size_t{1});
  }

  void mendsDoWhatTheySay()
  {
    Project p = sample();
    p.contacts.clear();
    const Mesh mesh = meshOf(p);
    for (const Finding& finding : checkOnGeometry(p, mesh.geometry))
      for (const Mend& mend : finding.mends)
        applyMend(p, mend);
    QVERIFY(findContact(p, "low", "high") != nullptr);
    QVERIFY(!mentions(checkOnGeometry(p, mesh.geometry), Finding::Severity::Hint, {"perfect only because"}));
    p.surfaces[1].faces.push_back("low.gone");
    for (const Finding& finding : checkOnGeometry(p, mesh.geometry))
      for (const Mend& mend : finding.mends)
        applyMend(p, mend);
    QCOMPARE(p.surfaces[1].faces.size(), std::size_t{2});
    Material spare = material("spare", 3);
    p.materials.push_back(spare);
    for (const Finding& finding : checkModel(p))
      for (const Mend& mend : finding.mends)
        applyMend(p, mend);
    QVERIFY(findById(p.materials, "spare") == nullptr);
  }

  void anOverlapOffersWhoKeepsTheSpace()
  {
    Project p = sample();
    p.parts[0].steps.clear();
    p.parts[1].shape.placement.position.z = number(0.015);
    const auto overlap = buildGeometry(p);
    QVERIFY(!overlap);
    const Finding finding = findingOf(p, overlap.error());
    QCOMPARE(finding.mends.size(), std::size_t{2});
    QVERIFY(finding.place && std::abs(finding.place->z() - 0.0175) < 1e-6);
    applyMend(p, finding.mends[0]); // low keeps the space
    const auto mended = buildGeometry(p);
    QVERIFY2(mended, mended ? "" : mended.error().sentence().c_str());
    QVERIFY(std::abs(mended->table.parts[0].volume - 0.1 * 0.1 * 0.02) < 1e-12);
    QVERIFY(std::abs(mended->table.parts[1].volume - 0.1 * 0.1 * 0.015) < 1e-12);
  }

  void aNearMissIsClosedInOneClick()
  {
    Project p = sample();
    p.parts[1].shape.placement.position.z = number(0.0201);
    const Mesh mesh = meshOf(p);
    bool mended = false;
    for (const Finding& finding : checkOnGeometry(p, mesh.geometry))
      for (const Mend& mend : finding.mends)
        if (mend.action == Mend::Action::MovePart) {
          QVERIFY(finding.place);
          applyMend(p, mend);
          mended = true;
        }
    QVERIFY2(mended, qPrintable(QString("%1 near misses").arg(mesh.geometry.nearMisses.size())));
    const FaceTable table = buildGeometry(p)->table;
    QVERIFY(table.nearMisses.empty());
    QVERIFY(std::any_of(table.faces.begin(), table.faces.end(), [](const Face& face) { return face.contact(); }));
  }

  void aPartThinnerThanTheToleranceIsReported()
  {
    Project p = sample();
    p.parts[0].steps.clear();
    std::get<Block>(p.parts[0].shape.form).sizeZ = number(5e-6);
    p.parts[1].shape.placement.position.z = number(0.5);
    const auto geometry = buildGeometry(p);
    QVERIFY(geometry);
    QVERIFY(mentions(checkOnGeometry(p, geometry->table), Finding::Severity::Error, {"part low", "thin"}));
  }

  void theLibraryIsSoundAndSourced()
  {
    const Project& library = builtInLibrary();
    QVERIFY(library.materials.size() >= 40 && library.finishes.size() >= 20);
    Project copy = library;
    for (const Field& field : fields(copy))
      if (field.value() != nullptr) {
        const auto wrong = outsideRange(field.value()->si, field.range, field.quantity);
        QVERIFY2(!wrong, field.path.c_str());
        if (const auto* table = field.table())
          for (std::size_t i = 1; i < table->size(); ++i)
            QVERIFY2((*table)[i].at.si > (*table)[i - 1].at.si, field.path.c_str());
      }
    for (const Material& one : library.materials) {
      QVERIFY2(!one.source.empty() && one.density && one.specificHeat, one.name.c_str());
      QVERIFY2(!one.comment.empty(), one.name.c_str());
    }
  }

  void takingFromTheLibraryTwiceTakesOnce()
  {
    Project p = sample();
    const Material& copper = builtInLibrary().materials[3];
    const std::string id = takeMaterial(p, copper);
    QCOMPARE(takeMaterial(p, copper), id);
    QCOMPARE(p.materials.size(), std::size_t{3});
    findById(p.materials, id)->density = number(1);
    QVERIFY(takeMaterial(p, copper) != id); // it was changed here
  }

  void theUsersLibraryIsKeptInAFile()
  {
    const QTemporaryDir folder;
    qputenv("XDG_DATA_HOME", folder.path().toUtf8());
    QVERIFY(loadUserLibrary() && loadUserLibrary()->materials.empty());
    QVERIFY(keepInUserLibrary(material("mine", 2)));
    QVERIFY(keepInUserLibrary(material("mine", 3))); // replaced by name
    const auto library = loadUserLibrary();
    QVERIFY(library && library->materials.size() == 1);
    QCOMPARE(library->materials[0].conductivity.si, 3.0);
  }

  void anyEditsUndoneGiveTheSameProject()
  {
    std::mt19937 random(7);
    Project now = sample();
    std::vector<Project> history;
    const std::vector<std::string> names{"low", "high", "all", "foot", "heat", "air", "floor", "hot", "steel", "both"};
    for (int i = 0; i < 300; ++i) {
      history.push_back(now);
      const std::string& id = names[random() % names.size()];
      switch (random() % 5) {
      case 0:
        removeObject(now, id);
        break;
      case 1:
        static_cast<void>(duplicateObject(now, id));
        break;
      case 2:
        moveObject(now, id, names[random() % names.size()]);
        break;
      case 3:
        static_cast<void>(pasteObjects(now, copyObjects(now, {id})));
        break;
      default:
        static_cast<void>(setField(now, id + ".position.x", "3 mm"));
      }
      const auto again = readProject(writeProject(now), "edited");
      QVERIFY2(again && *again == now, again ? "differs" : again.error().sentence().c_str());
      static_cast<void>(checkModel(now)); // never crashes
      if (now.parts.size() > 30)
        now = history.front();
    }
    QVERIFY(history.front() == sample()); // values: an undo is the value before
  }
};

QTEST_APPLESS_MAIN(EditTest)
#include "tst_edit.moc"
