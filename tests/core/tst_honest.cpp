// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What a result says of itself: what it started from, at which instant it was read, whose heat crosses held parts, why
// a steady state was not found, and what is doubtful though it could be solved.
#include "TransientProjects.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/References.h"
#include "model/SteadyView.h"
#include "readiness/Readiness.h"
#include "run/InputHash.h"
#include "run/ResultIdentity.h"

#include <QTest>
#include <cmath>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

Property plain(double value) { return Property{value, ""}; }

/// A block heated from below with a steady case A and a run B that starts from it.
Project chained(double watts)
{
  Project p = projectWith(0.02);
  p.materials = {heavy("stuff", 5, 2000, 800)};
  p.parts = {part("block", "stuff", block(0.05, 0.05, 0.02))};
  p.surfaces = {surface("bottom", {"block.bottom"}), surface("top", {"block.top"})};
  p.sources = {source("heat", SurfacePower{"bottom", plain(watts)})};
  p.boundaries = {boundary("air", Convection{"top", plain(40), plain(300)})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"block"}})};
  Case run;
  run.id = run.name = "cooling";
  run.kind = Case::Kind::Transient;
  run.run = TransientRun{};
  run.run->start = StartFromCase{"steady", {}, {}};
  run.run->ends = {{"end", EndAtTime{number(20)}, {}}};
  p.cases.push_back(run);
  return p;
}

std::string sentenceOf(const Project& project)
{
  const QTemporaryDir folder;
  const auto result = runCase(project, project.cases.front(), folder.path().toStdString(), noProgress);
  return result ? std::string() : wordsOf(result.error());
}

std::vector<Finding> findingsOf(const Project& project)
{
  const auto findings = checkProject(project);
  return findings ? *findings : std::vector<Finding>{};
}

Parameter steps(const std::string& name, std::vector<std::pair<double, double>> points)
{
  return scheduled(name, Quantity::Power, std::move(points), Schedule::Between::Steps, Schedule::Beyond::Repeats);
}

} // namespace

class TestHonest : public QObject
{
  Q_OBJECT
private slots:
  // --- identity ------------------------------------------------------------------------------------------------------

  /// Given a run solved from what its origin was before a change, then it is not up to date, however
  /// the asking goes.
  void aRunIsAsOldAsTheResultItTook()
  {
    const QTemporaryDir folder;
    const std::string path = folder.path().toStdString();
    const Project before = chained(20);
    QVERIFY(runCase(before, before.cases[0], path, noProgress));
    const Project after = chained(40);
    const auto stale = runCase(after, after.cases[1], path, noProgress); // starts from what is stored: 20 W
    QVERIFY(stale);
    QVERIFY(!stale->startIdentity.empty());
    QVERIFY(std::any_of(stale->notes.begin(), stale->notes.end(),
                        [](const std::string& note) { return note.find("out of date") != std::string::npos; }));
    QVERIFY(!isUpToDate(after, after.cases[1], path));
    QVERIFY(runCase(after, after.cases[0], path, noProgress));
    QVERIFY(isUpToDate(after, after.cases[0], path));
    QVERIFY(!isUpToDate(after, after.cases[1], path)); // its origin is another one now
    const auto fresh = runCase(after, after.cases[1], path, noProgress);
    QVERIFY(fresh && fresh->notes.empty());
    QVERIFY(isUpToDate(after, after.cases[1], path));
  }
  void casesComeAfterWhatTheyStartFrom()
  {
    Project p = chained(20);
    Case last = p.cases[1];
    last.id = last.name = "last";
    std::get<StartFromCase>(last.run->start).of = "cooling";
    p.cases.insert(p.cases.begin(), last);
    const auto ordered = inOrder(p, {p.cases.front()});
    QVERIFY(ordered && ordered->size() == 3);
    QCOMPARE((*ordered)[0].id, std::string("steady"));
    QCOMPARE((*ordered)[1].id, std::string("cooling"));
    QCOMPARE((*ordered)[2].id, std::string("last"));
    std::get<StartFromCase>(p.cases[2].run->start).of = "last"; // a circle
    const auto circle = inOrder(p, p.cases);
    QVERIFY(!circle && circle.error().sentence().find("circle") != std::string::npos);
    QVERIFY(circle.error().sentence().find("cooling") != std::string::npos);
  }
  void anInstantAfterTheEndIsRefused()
  {
    const QTemporaryDir folder;
    const std::string path = folder.path().toStdString();
    Project p = chained(20);
    Case last = p.cases[1];
    last.id = last.name = "last";
    last.run->start = StartFromCase{"cooling", {}, number(50)}; // it ends at 20 s
    p.cases.push_back(last);
    QVERIFY(runCase(p, p.cases[0], path, noProgress));
    QVERIFY(runCase(p, p.cases[1], path, noProgress));
    const auto refused = runCase(p, p.cases[2], path, noProgress);
    QVERIFY(!refused);
    QVERIFY2(wordsOf(refused.error()).find("has no instant 50 s") != std::string::npos,
             wordsOf(refused.error()).c_str());
  }
  /// A surface that only a thermostat's watch reads decides when it switches.
  void aWatchedSurfaceCounts()
  {
    Project p = lump(300, 60);
    p.surfaces.push_back(surface("spot", {"lump.top"}));
    p.watches.push_back(watch("spot", SurfaceFigure{PartFigure::Kind::Hottest, "spot"}));
    p.sources = {source("heat", PartPower{{"lump"}, plain(5)})};
    p.sources.front().thermostat = Thermostat{"spot", number(310), number(1), false, {}};
    const std::string before = solutionHash(p, p.cases.front());
    p.surfaces.back().faces = {"lump.bottom"};
    QVERIFY(solutionHash(p, p.cases.front()) != before);
  }
  /// Surfaces that set a mesh size leave out what their exceptions leave out.
  void anExceptionOfAnExceptionCountsForTheMesh()
  {
    Project p = chained(20);
    Surface fine = exposedOf("fine", {"block"}, {"notThese"});
    fine.meshSize = number(0.004);
    Surface notThese = exposedOf("notThese", {"block"}, {"butThis"});
    p.surfaces.push_back(fine);
    p.surfaces.push_back(notThese);
    p.surfaces.push_back(surface("butThis", {"block.top"}));
    const std::string before = inputHashes(p).mesh;
    p.surfaces.back().faces = {"block.left"};
    QVERIFY(inputHashes(p).mesh != before);
  }
  void theFormulaCountsNotTheValueBesideIt()
  {
    Project p = chained(20);
    Parameter room;
    room.id = room.name = "room";
    room.quantity = Quantity::Temperature;
    room.value = number(310);
    p.parameters = {room};
    std::get<Convection>(p.boundaries[0].condition).ambient = Property{999, "room"};
    std::get<Convection>(p.boundaries[0].condition).ambient.formula = true;
    const QTemporaryDir folder;
    const std::string file = folder.filePath("p.kiln").toStdString();
    QVERIFY(saveProject(p, file));
    const auto loaded = loadProject(file);
    QVERIFY(loaded);
    QCOMPARE(std::get<Convection>(loaded->boundaries[0].condition).ambient.si, 310.0);
    QCOMPARE(std::get<Convection>(projectForCase(p, p.cases[0])->boundaries[0].condition).ambient.si, 310.0);
  }

  // --- steady with schedules -----------------------------------------------------------------------------------------

  void aSteadyCaseSaysWhenItReadsSchedules()
  {
    Project p = chained(20);
    p.parameters = {steps("pulse", {{0, 10}, {600, 40}, {1000, 40}})};
    std::get<SurfacePower>(p.sources[0].heat).power = Property{0, "pulse"};
    std::get<SurfacePower>(p.sources[0].heat).power.formula = true;
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"case Steady", "as at 0 s"}));
    const auto watts = [&](const Case& one) {
      Project asked = p;
      asked.cases = {one};
      const CaseResult result = solve(asked);
      if (result.notes.empty())
        throw std::runtime_error("no note");
      return wattsOf(result.sources, "heat");
    };
    Case one = p.cases[0];
    QVERIFY(std::abs(watts(one) - 10) < 1e-9);
    one.instant = number(700);
    QVERIFY(std::abs(watts(one) - 40) < 1e-9);
    one.instant = number(0);
    one.period = number(1000);
    QVERIFY(std::abs(watts(one) - (10 * 600 + 40 * 400) / 1000.0) < 1e-9);
    Project other = p;
    other.cases[0] = one;
    QVERIFY(solutionHash(other, one) != solutionHash(p, p.cases[0]));
  }
  /// A source that works for a quarter of the period counts with a quarter of its power; what is held has no mean.
  void windowsCountWithTheirShare()
  {
    Project p = chained(20);
    p.sources[0].from = number(100);
    p.sources[0].until = number(200);
    Case one = p.cases[0];
    one.period = number(400);
    const auto mean = steadyProject(p, one);
    QVERIFY(mean && std::abs(std::get<SurfacePower>(mean->sources[0].heat).power.si - 5) < 1e-9);
    QVERIFY(!mean->sources[0].muted);
    p.boundaries.push_back(boundary("held", FixedSurface{"bottom", number(350)}));
    p.boundaries.back().from = number(100);
    const auto refused = steadyProject(p, one);
    QVERIFY(!refused && refused.error().object == "held");
  }

  // --- held parts ----------------------------------------------------------------------------------------------------

  void heatOfAHeldPartCrossesTheFacesItCrosses_data()
  {
    QTest::addColumn<int>("order");
    QTest::addRow("first") << 1;
    QTest::addRow("second") << 2;
  }
  /// A held block, a bar on it and air at its side: each has its own flow, by its own law; insulated faces have none.
  void heatOfAHeldPartCrossesTheFacesItCrosses()
  {
    QFETCH(int, order);
    Project p = projectWith(0.01);
    p.mesh.secondOrder = order == 2;
    p.materials = {material("stuff", 2)};
    p.parts = {part("hot", "stuff", block(0.03, 0.03, 0.02)),
               part("bar", "stuff", block(0.03, 0.03, 0.05), Vec3(0, 0, 0.02))};
    p.surfaces = {surface("head", {"bar.top"}), surface("left", {"hot.left"}), surface("right", {"hot.right"})};
    p.boundaries = {boundary("held", FixedPart{"hot", number(400)}),
                    boundary("cold", FixedSurface{"head", number(300)}),
                    boundary("air", Convection{"left", plain(20), plain(310)})};
    p.watches = {watch("contact", ContactHeat{"hot", "bar"}), watch("left", SurfaceHeat{"left"}),
                 watch("right", SurfaceHeat{"right"}), watch("head", SurfaceHeat{"head"})};
    const CaseResult result = solve(p);
    const double through = 2 * 100 / 0.05 * 9e-4; // k ΔT / L · A
    const double away = -20 * 90 * 0.03 * 0.02;   // h (T_a − T) A
    QVERIFY2(std::abs(valueOf(p, result, "contact") - through) < 1e-6 * through,
             qPrintable(QString::number(valueOf(p, result, "contact"))));
    QVERIFY(std::abs(valueOf(p, result, "left") - away) < 1e-9);
    QVERIFY(std::abs(valueOf(p, result, "right")) < 1e-9);
    QVERIFY(std::abs(valueOf(p, result, "head") + through) < 1e-6 * through);
    QVERIFY(std::abs(wattsOf(result.boundaries, "held") - (through - away)) < 1e-6 * through);
  }

  // --- Newton --------------------------------------------------------------------------------------------------------

  /// A plate whose only way out is still air: at the air's temperature the coefficient is nothing.
  void stillAirIsAWayOut()
  {
    for (const FlowSituation situation :
         {FlowSituation::PlateFacingUp, FlowSituation::PlateFacingDown, FlowSituation::VerticalPlate}) {
      Project p = chained(2);
      p.environment = Environment{};
      CorrelatedConvection air;
      air.surface = "top";
      air.situation = situation;
      air.size = number(0.0125);
      air.ambient = number(300);
      p.boundaries = {boundary("air", air)};
      p.cases.resize(1);
      const CaseResult result = solve(p);
      QVERIFY(result.relativeImbalance() < 1e-6);
      QVERIFY(valueOf(p, result, "hot") > 310);
    }
  }
  /// k(T) that falls and rises steeply: the integral of k tells the heat (Kirchhoff), whatever the way there.
  void steepConductivityIsSolved()
  {
    Project p = projectWith(0.004);
    Material m = material("odd", 1);
    const std::vector<std::pair<double, double>> points{{300, 0.05}, {450, 0.4}, {600, 0.15}, {1000, 2.5}, {1400, 6}};
    m.conductivity = table(points);
    p.materials = {m};
    p.parts = {part("slab", "odd", block(0.02, 0.02, 0.03))};
    p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
    p.boundaries = {boundary("hot", FixedSurface{"top", number(1400)}),
                    boundary("cold", FixedSurface{"bottom", number(300)})};
    p.watches = {watch("heat", SurfaceHeat{"top"})};
    double integral = 0;
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
      integral += (points[i].second + points[i + 1].second) / 2 * (points[i + 1].first - points[i].first);
    const double exact = integral / 0.03 * 4e-4;
    const double heat = valueOf(p, solve(p), "heat");
    QVERIFY2(std::abs(heat / exact - 1) < 0.04, qPrintable(QString::number(heat / exact)));
  }
  void aSinkBelowZeroIsNamed()
  {
    Project p = chained(-2000);
    p.cases.resize(1);
    const std::string said = sentenceOf(p);
    QVERIFY2(said.find("source heat") != std::string::npos, said.c_str());
    QVERIFY2(said.find("no steady state above 0 K") != std::string::npos, said.c_str());
    QVERIFY2(said.find("2 kW") != std::string::npos, said.c_str());
  }

  // --- silence -------------------------------------------------------------------------------------------------------

  void whatContradictsIsHinted()
  {
    Project p = chained(20);
    p.boundaries.push_back(boundary("one", FixedSurface{"bottom", number(300)}));
    p.boundaries.push_back(boundary("two", FixedSurface{"bottom", number(350)}));
    QVERIFY(mentions(findingsOf(p), Finding::Severity::Hint, {"one and two", "block.bottom", "counts"}));
    p.surfaces.push_back(surface("side", {"block.left"}));
    p.boundaries.back() = boundary("two", FixedSurface{"side", number(350)});
    QVERIFY(!mentions(findingsOf(p), Finding::Severity::Hint, {"one and two"}));
    const std::vector<Finding> met = checkHeldMeeting(p, meshOf(p));
    QVERIFY(met.size() == 1 && met.front().place.has_value());
    QVERIFY(mentions(met, Finding::Severity::Hint, {"one and two", "meet along an edge"}));
  }
  void twoOfOneKindAreHinted()
  {
    Project p = chained(20);
    p.materials.front().emissivity = number(0.5);
    p.boundaries.push_back(boundary("glow", Radiation{"top", number(300)}));
    QVERIFY(!mentions(findingsOf(p), Finding::Severity::Hint, {"Both"}));
    p.boundaries.push_back(boundary("shine", Radiation{"top", number(280)}));
    QVERIFY(mentions(findingsOf(p), Finding::Severity::Hint, {"glow and shine", "Both radiate", "block.top"}));
    p.sources.push_back(source("more", SurfaceFlux{"bottom", plain(10)}));
    QVERIFY(mentions(findingsOf(p), Finding::Severity::Hint, {"heat and more", "Both heat"}));
  }
  void howMuchIsCoveredIsSaid()
  {
    Project p = chained(20);
    p.parts.push_back(part("lid", "stuff", block(0.025, 0.05, 0.01), Vec3(0.0125, 0, 0.02)));
    QVERIFY(mentions(findingsOf(p), Finding::Severity::Hint, {"boundary air", "touch another part", "50 %"}));
  }
  void aTemperatureInAnotherUnitIsHinted()
  {
    Project p = chained(20);
    std::get<Convection>(p.boundaries[0].condition).ambient = plain(20);
    p.boundaries.push_back(boundary("held", FixedSurface{"bottom", number(320)}));
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"boundary air", "20.0 K", "20.0 °C"}));
    std::get<Convection>(p.boundaries[0].condition).ambient = plain(293);
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"boundary air", "meant"}));
  }
  void aCorrelationWithoutItsSpeedIsNotReady()
  {
    Project p = chained(20);
    p.environment = Environment{};
    CorrelatedConvection wind;
    wind.surface = "top";
    wind.situation = FlowSituation::AlongPlate;
    wind.size = number(0.05);
    wind.ambient = number(300);
    p.boundaries = {boundary("wind", wind)};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"boundary wind", "speed"}));
  }
  void aSuddenStartOnACoarseMeshIsHinted()
  {
    Project p = chained(20);
    p.cases.resize(1);
    p.materials.front().conductivity = plain(0.3);
    p.boundaries = {boundary("bath", Convection{"top", plain(2000), plain(500)})};
    inTime(p, 300, 60);
    const std::vector<Finding> findings = findingsOf(p);
    QVERIFY(mentions(findings, Finding::Severity::Hint, {"case Steady", "starts suddenly", "bath"}));
    const auto found = std::find_if(findings.begin(), findings.end(),
                                    [](const Finding& f) { return f.problem.find("suddenly") != std::string::npos; });
    QVERIFY(!found->mends.empty());
    applyMend(p, found->mends.front());
    QVERIFY(findById(p.surfaces, "top")->meshSize.has_value());
    QVERIFY(!mentions(findingsOf(p), Finding::Severity::Hint, {"starts suddenly"}));
  }
  void aSecondContactIsAnError()
  {
    Project p = chained(20);
    p.parts.push_back(part("lid", "stuff", block(0.05, 0.05, 0.01), Vec3(0, 0, 0.02)));
    p.contacts = {contact("block", "lid", AreaConductance{number(100)}), contact("block", "lid", PerfectContact{})};
    p.contacts.back().id = "again";
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"already joins"}));
  }
  void resistancesOfASectionArePerMetre()
  {
    Project p = chained(20);
    p.watches.push_back(watch("r", BetweenWatches{"hot", "hot", "hot"}));
    QCOMPARE(quantityOf(p, p.watches.back()), Quantity::Resistance);
    Section section;
    section.cut = PlaneSection{};
    p.section = section;
    QCOMPARE(quantityOf(p, p.watches.back()), Quantity::LengthResistance);
    QVERIFY(formatQuantity(0.5, Quantity::LengthResistance).find("m·K/W") != std::string::npos);
  }

  // --- edits ---------------------------------------------------------------------------------------------------------

  void aRemovedWatchTakesItsRulesAlong()
  {
    Project p = lump(300, 60);
    TransientRun& run = *p.cases.front().run;
    run.ends = {{"hot", EndAtValue{"t", number(350), false}, {}}, {"late", EndAtTime{number(60)}, {}}};
    QVERIFY(removeObject(p, "t"));
    QCOMPARE(p.cases.front().run->ends.size(), std::size_t{1});
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Error, {"does not exist"}));
  }
  void aReplacedMaterialIsReplacedInWires()
  {
    Project p = chained(20);
    p.materials.push_back(material("other", 3));
    Link wire;
    wire.id = wire.name = "wire";
    wire.exchange = Wire{"block", "top", number(0.1), number(0.001), "stuff", {}, {}, {}};
    p.links = {wire};
    replaceObject(p, "stuff", "other", Refers::Material);
    QCOMPARE(std::get<Wire>(p.links.front().exchange).material, std::string("other"));
    QCOMPARE(p.parts.front().material, std::string("other"));
  }
  /// Heat that leaves is most when it is most negative.
  void aPeakOfHeatThatLeavesIsItsLargestMagnitude()
  {
    Project p = lump(400, 300);
    p.watches.push_back(watch("out", SurfaceHeat{"skin"}));
    p.watches.push_back(watch("flux", LargestFlux{{"lump"}}));
    const Ran ran = run(p);
    const auto answers = answersOf(ran.record, p.watches[1]);
    QVERIFY(answers && answers->peak.value < 0 && answers->peak.time == ran.record.times.front());
    const RunTrace* flux = ran.record.find(RunTrace::Kind::Watch, "flux"); // recorded at every step
    QVERIFY(flux != nullptr && flux->values.size() == ran.record.times.size());
    QVERIFY(std::abs(flux->values.back() - valueOf(p, ran.result, "flux")) < 1e-6 * flux->values.back());
  }
};

QTEST_GUILESS_MAIN(TestHonest)
#include "tst_honest.moc"
