// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "io/ProjectFile.h"

#include <functional>

#include <QTest>

using namespace kiln;
using namespace kiln::test;
using Severity = Finding::Severity;

namespace
{

/// Two touching blocks, heated and cooled: ready.
Project twoBlocks()
{
  Project project = projectWith(0.01);
  project.materials = {material("metal", 50)};
  project.parts = {part("low", "metal", block(0.02, 0.02, 0.01)),
                   part("high", "metal", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.01))};
  project.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"})};
  project.sources = {source("heater", SurfacePower{"top", number(5)})};
  project.boundaries = {boundary("air", Convection{"bottom", number(20), number(300)})};
  project.contacts = {contact("low", "high", PerfectContact{})};
  return project;
}

std::vector<Finding> check(const Project& project)
{
  const auto findings = checkProject(project);
  if (!findings)
    throw std::runtime_error(findings.error().sentence());
  return *findings;
}

} // namespace

class ReadinessTest : public QObject
{
  Q_OBJECT

private slots:
  void aReadyProjectHasNoErrors() { QVERIFY(!hasErrors(check(twoBlocks()))); }

  void namesWhatIsMissing_data()
  {
    QTest::addColumn<std::function<void(Project&)>>("spoil");
    QTest::addColumn<QStringList>("says");
    const auto row = [](const char* name, std::function<void(Project&)> spoil, const QStringList& says) {
      QTest::newRow(name) << std::move(spoil) << says;
    };
    row("no material", [](Project& p) { p.parts[0].material.clear(); }, {"part low", "no material"});
    row("unknown material", [](Project& p) { p.parts[0].material = "metl"; },
        {"part low", "“metl”, which does not exist", "Did you mean “metal”"});
    row("negative conductivity", [](Project& p) { p.materials[0].conductivity.si = -2; },
        {"material metal", "Conductivity k is −2 W/(m·K)", "greater than zero"});
    row("a ring of starts",
        [](Project& p) {
          for (const char* id : {"warm", "cool"}) {
            Case one = p.cases[0];
            one.id = id;
            one.name = std::string("To ") + id;
            one.kind = Case::Kind::Transient;
            one.run.emplace().start = StartFromCase{one.id == "warm" ? "cool" : "warm", {}, {}};
            p.cases.push_back(one);
          }
        },
        {"case To warm", "in a circle: “To warm”, “To cool”", "Let one of them start"});
    row("zero conductivity", [](Project& p) { p.materials[0].conductivity.si = 0; },
        {"material metal", "greater than zero"});
    row("zero size", [](Project& p) { std::get<Block>(p.parts[0].shape.form).sizeX.si = 0; },
        {"part low", "Size x is 0 mm"});
    row("negative coefficient", [](Project& p) { std::get<Convection>(p.boundaries[0].condition).coefficient.si = -1; },
        {"boundary air", "must not be negative"});
    row("unknown surface", [](Project& p) { std::get<Convection>(p.boundaries[0].condition).surface = "botom"; },
        {"boundary air", "“botom”", "Did you mean “bottom”"});
    row("empty surface", [](Project& p) { p.surfaces[0].faces = {"low.lid"}; }, {"surface bottom", "picks no face"});
    row("no way out", [](Project& p) { p.boundaries.clear(); }, {"parts low, high", "no path for heat out"});
    row("boundary muted", [](Project& p) { p.boundaries[0].muted = true; }, {"no path for heat out"});
    row("contact cut", [](Project& p) { p.contacts[0].exchange = NoContact{}; }, {"part high", "no path for heat out"});
    row("part apart",
        [](Project& p) { p.parts.push_back(part("far", "metal", block(0.01, 0.01, 0.01), Vec3(1, 0, 0))); },
        {"part far", "no path for heat out"});
    row("no emissivity",
        [](Project& p) {
          p.boundaries.push_back(boundary("room", Radiation{"bottom", number(300), number(1)}));
        },
        {"boundary room", "Part low has no emissivity"});
    row("everything muted", [](Project& p) { p.parts[0].muted = p.parts[1].muted = true; }, {"no part to solve"});
    row("no case", [](Project& p) { p.cases.clear(); }, {"no case"});
    row("case changes nothing known",
        [](Project& p) {
          p.cases[0].changes = {{"air.h", Property{number(1)}}};
        },
        {"case Steady", "air.h"});
    row("unknown part",
        [](Project& p) {
          p.sources[0].heat = PartPower{{"mid"}, number(1)};
        },
        {"source heater", "“mid”"});
  }
  void namesWhatIsMissing()
  {
    QFETCH(std::function<void(Project&)>, spoil);
    QFETCH(QStringList, says);
    Project project = twoBlocks();
    spoil(project);
    const std::vector<Finding> findings = check(project);
    QVERIFY(hasErrors(findings));
    bool found = false;
    QString all;
    for (const Finding& finding : findings) {
      const QString sentence = QString::fromStdString(finding.sentence());
      all += sentence + "\n";
      const bool mentionsAll =
          std::all_of(says.begin(), says.end(), [&](const QString& word) { return sentence.contains(word); });
      found = found || (mentionsAll && finding.severity == Severity::Error && !finding.remedy.empty());
    }
    QVERIFY2(found, qPrintable(all));
  }

  void listsWhatIsInsulatedOnlyByDefault()
  {
    const auto findings = check(twoBlocks());
    // Four sides of 20 × 10 mm: 0.0008 m².
    QVERIFY(mentions(findings, Severity::Hint,
                     {"part low", "4 face(s), 0.0008 m²", "insulated only by default", "low.front"}));
    QVERIFY(mentions(findings, Severity::Hint, {"part high", "4 face(s)"}));
  }

  void saysThatAnUnsetContactIsPerfect()
  {
    Project project = twoBlocks();
    project.contacts.clear();
    QVERIFY(mentions(check(project), Severity::Hint,
                     {"contact low | high", "perfect only because nothing was set", "0.0004 m²"}));
  }

  void seesPartsThatNearlyTouch()
  {
    Project project = twoBlocks();
    project.parts[1].shape.placement.position.z = number(0.0101);
    project.boundaries.push_back(boundary("hold", FixedPart{"high", number(350)}));
    QVERIFY(mentions(check(project), Severity::Hint, {"parts low and high", "0.1 mm apart", "no heat crosses"}));
  }

  void doubtsImplausibleNumbers()
  {
    Project project = twoBlocks();
    project.materials[0].conductivity.si = 5e5;
    std::get<Convection>(project.boundaries[0].condition).coefficient.si = 1e6;
    const auto findings = check(project);
    QVERIFY(mentions(findings, Severity::Hint, {"material metal", "higher than that of any solid"}));
    QVERIFY(mentions(findings, Severity::Hint, {"boundary air", "strong boiling"}));
  }

  void seesATextThatSaysSomethingElse()
  {
    Project project = twoBlocks();
    project.materials[0].conductivity = {50, "60 W/(m·K)"};
    QVERIFY(
        mentions(check(project), Severity::Hint, {"material metal", "“60 W/(m·K)” does not say the stored value 50"}));
  }

  /// A wrong number of a picture is told and stops no solve; the same of the model does.
  void aViewStopsNoSolve()
  {
    Project project = twoBlocks();
    View view;
    view.id = view.name = "wide";
    view.steps = Number{-3, {}};
    project.views = {view};
    QVERIFY(mentions(check(project), Severity::Hint, {"view wide", "Steps"}));
    QVERIFY(!hasErrors(check(project)));
    project.mesh.size = Number{-3, {}};
    QVERIFY(hasErrors(check(project)));
  }

  void warnsOfDoubledConvection()
  {
    Project project = twoBlocks();
    project.boundaries.push_back(boundary("fan", Convection{"bottom", number(5), number(300)}));
    QVERIFY(mentions(check(project), Severity::Hint, {"air and fan", "summed"}));
  }

  void theDemoIsReady()
  {
    const auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    QVERIFY(project);
    const auto findings = check(*project);
    QVERIFY2(findings.empty(), findings.empty() ? "" : findings.front().sentence().c_str());
  }
};

QTEST_APPLESS_MAIN(ReadinessTest)
#include "tst_readiness.moc"
