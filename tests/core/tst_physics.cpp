// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What no model can hold is an error that names its object, before anything is solved; and what would take too much is
// foretold.
#include "TransientProjects.h"
#include "readiness/Effort.h"
#include "readiness/PhysicsReadiness.h"

#include <QTest>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr auto Error = Finding::Severity::Error;

/// The model's and the faces' findings.
std::vector<Finding> all(const Project& p)
{
  auto found = checkProject(p);
  if (!found)
    throw std::runtime_error(found.error().sentence());
  return *found;
}

Project heated()
{
  Project p = lump(300, 100);
  p.sources = {source("heater", PartPower{{"lump"}, Property{10, ""}})};
  return p;
}

Property formula(const std::string& text)
{
  Property p{1, text};
  p.formula = true;
  return p;
}

} // namespace

class TestPhysics : public QObject
{
  Q_OBJECT

private slots:
  void aThermostatThatReadsWhatIsOff()
  {
    Project p = heated();
    p.parts.push_back(part("probe", "copper", block(0.01, 0.01, 0.01), Vec3(0.1, 0, 0)));
    p.watches.push_back(watch("probe t", PartFigure{PartFigure::Kind::Mean, {"probe"}}));
    p.sources.front().thermostat = Thermostat{"probe t", number(330), number(4), false, {}};
    QVERIFY(!mentions(checkModel(p), Error, {"switched off"}));
    p.parts.back().muted = true;
    QVERIFY(mentions(checkModel(p), Error, {"heater", "probe t", "switched off"}));
    p.sources.front().muted = true;
    QVERIFY(!mentions(checkModel(p), Error, {"switched off"}));
  }

  void aCoefficientThatASchedulesMakesNegative()
  {
    Project p = heated();
    p.parameters = {scheduled("film", Quantity::AreaConductance, {{0, 10}, {50, -2}, {100, 10}})};
    std::get<Convection>(p.boundaries.front().condition).coefficient = formula("film");
    QVERIFY(mentions(checkModel(p), Error, {"air", "at 50 s", "must not be negative"}));
    p.parameters = {scheduled("film", Quantity::AreaConductance, {{0, 10}, {50, 2}, {100, 10}})};
    QVERIFY(!hasErrors(checkModel(p)));
  }

  void aCoefficientThatPlacesMakeNegative()
  {
    Project p = heated();
    Parameter measured;
    measured.id = measured.name = "film";
    measured.quantity = Quantity::AreaConductance;
    measured.value = number(5);
    measured.points = {{{0, 0, 0}, 8}, {{0.01, 0, 0}, -3}};
    p.parameters = {measured};
    std::get<Convection>(p.boundaries.front().condition).coefficient = formula("film");
    QVERIFY(mentions(checkModel(p), Error, {"air", "by the points", "must not be negative"}));
    p.parameters.clear();
    std::get<Convection>(p.boundaries.front().condition).coefficient = formula("10 [W/(m²·K)] * (1 - z / 5 mm)");
    QVERIFY(mentions(all(p), Error, {"air", "at one of its faces", "must not be negative"})); // its top is at 20 mm
  }

  void rulesThatCannotBe_data()
  {
    QTest::addColumn<QString>("field");
    QTest::addColumn<double>("value");
    QTest::addColumn<QString>("said");
    QTest::addRow("below absolute zero") << "air.ambient" << -300.0 << "below absolute zero";
    QTest::addRow("a size") << "lump.sizeX" << 0.03 << "cannot change during a run";
    QTest::addRow("nothing") << "no.such" << 1.0 << "does not exist";
  }
  void rulesThatCannotBe()
  {
    QFETCH(QString, field);
    QFETCH(double, value);
    QFETCH(QString, said);
    Project p = heated();
    RunRule rule;
    rule.id = "rule";
    rule.watch = "t";
    rule.value = number(310);
    rule.set = {{field.toStdString(), number(value)}};
    p.cases.front().run->rules = {rule};
    QVERIFY(mentions(checkModel(p), Error, {said.toUtf8().constData()}));
    p.cases.front().run->rules.front().set = {{"air.ambient", number(310)}};
    QVERIFY(!hasErrors(checkModel(p)));
    p.cases.front().run->rules.front().mute = {"draught"};
    QVERIFY(mentions(checkModel(p), Error, {"draught", "names the source, boundary or link"}));
  }

  void runsThatCannotBe()
  {
    Project p = heated();
    TransientRun& run = *p.cases.front().run;
    std::get<StartUniform>(run.start).parts = {{"vase", number(400)}};
    QVERIFY(mentions(checkModel(p), Error, {"vase", "does not exist"}));
    std::get<StartUniform>(run.start).parts.clear();
    run.convergence = number(1e9);
    QVERIFY(mentions(checkModel(p), Error, {"any temperature is an answer"}));
    run.convergence.reset();
    run.ends = {{"end", EndAtTime{number(1e-12)}, {}}};
    QVERIFY(mentions(checkModel(p), Error, {"It would last"}));
    run.ends = {{"end", EndAtTime{number(10)}, {}}};
    run.longest = number(1e5);
    run.storeEvery = number(1e-9);
    QVERIFY(mentions(checkModel(p), Error, {"It would store", "more seldom"}));
    run.storeEvery.reset();
    QVERIFY(!hasErrors(checkModel(p)));
  }

  void startsInACircle()
  {
    Project p = heated();
    p.cases.push_back(p.cases.front());
    p.cases.back().id = "second";
    p.cases.back().name = "Second";
    StartFromCase from;
    from.of = "second";
    p.cases.front().run->start = from;
    QVERIFY(!mentions(checkModel(p), Error, {"circle"}));
    from.of = p.cases.front().id;
    p.cases.back().run->start = from;
    QVERIFY(mentions(checkModel(p), Error, {"circle", "Second"}));
  }

  void absoluteZeroIsABound()
  {
    Project p = heated();
    std::get<Convection>(p.boundaries.front().condition).ambient = Property{-5, ""};
    QVERIFY(mentions(checkModel(p), Error, {"air", "below absolute zero"}));
    p = heated();
    p.materials.front().conductivity = table({{-300, 1}, {300, 2}});
    QVERIFY(mentions(checkModel(p), Error, {"row 1", "below absolute zero"}));
    p = heated();
    p.watches.front().upper = number(-1);
    QVERIFY(mentions(checkModel(p), Error, {"below absolute zero"}));
  }

  void placesFarAway()
  {
    Project p = heated();
    p.sources = {source("spot", PointPower{{number(0), number(0), number(8.6)}, Property{10, ""}})};
    QVERIFY(mentions(all(p), Error, {"spot", "8.58 m away"}));
    p.sources = {source("spot", PointPower{{number(0), number(0), number(0.02)}, Property{10, ""}})};
    QVERIFY(!hasErrors(all(p)));
    p.boundaries.push_back(boundary("pin", FixedPoint{{number(17), number(0), number(0)}, number(300)}));
    QVERIFY(mentions(all(p), Error, {"pin", "away from the nearest part"}));
    p = heated();
    std::get<Block>(p.parts.front().shape.form).sizeX = number(1e308);
    QVERIFY(mentions(checkModel(p), Error, {"no part is farther"}));
  }

  void twoVoltagesOnOneFace()
  {
    Project p = heated();
    p.materials.front().electricConductivity = Property{1e6, ""};
    p.surfaces.push_back(surface("left", {"lump.left"}));
    p.surfaces.push_back(surface("both", {"lump.left", "lump.right"}));
    p.boundaries.push_back(boundary("live", FixedVoltage{"left", number(1)}));
    p.boundaries.push_back(boundary("earth", FixedVoltage{"both", number(0)}));
    QVERIFY(mentions(all(p), Error, {"earth", "live", "two voltages"}));
    std::get<FixedVoltage>(p.boundaries.back().condition).voltage = number(1);
    QVERIFY(!mentions(all(p), Error, {"two voltages"}));
  }

  void partsAndContacts()
  {
    Project p = heated();
    p.parts.push_back(part("other", "copper", block(0.02, 0.02, 0.02), Vec3(0.01, 0, 0)));
    p.parts[0].yieldsTo = {"other"};
    p.parts[1].yieldsTo = {"lump"};
    QVERIFY(mentions(checkModel(p), Error, {"yield to each other"}));
    p.parts[1].yieldsTo = {"other"};
    QVERIFY(mentions(checkModel(p), Error, {"yields to itself"}));
    p.parts[1].yieldsTo.clear();
    p.contacts = {contact("lump", "lump", PerfectContact{})};
    QVERIFY(mentions(checkModel(p), Error, {"joins a part with itself"}));
  }

  void stillFluidWithoutGravity()
  {
    Project p = heated();
    CorrelatedConvection still;
    still.surface = "skin";
    still.size = number(0.02);
    still.ambient = number(300);
    p.boundaries = {boundary("air", still)};
    p.environment = Environment{};
    QVERIFY(!mentions(checkModel(p), Error, {"no gravity"}));
    p.environment->gravity = {number(0), number(0), number(0)};
    QVERIFY(mentions(checkModel(p), Error, {"air", "no gravity"}));
  }

  void hotterThanAnythingSolid()
  {
    Project p = heated();
    p.cases.front().kind = Case::Kind::Steady;
    p.cases.front().run.reset();
    std::get<PartPower>(p.sources.front().heat).power = Property{1e12, ""};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"power station"}));
    const QTemporaryDir folder;
    const auto result = runCase(p, p.cases.front(), folder.path().toStdString(), noProgress);
    QVERIFY(result && !result->notes.empty());
    QVERIFY2(result->notes.front().find("nothing is solid") != std::string::npos, result->notes.front().c_str());
  }

  // --- effort --------------------------------------------------------------------------------------------------------

  void effortIsForetold()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const auto refusal = [&](const Project& p, const EffortLimits& limits = usualLimits()) {
      const auto solved = runCase(p, p.cases.front(), path, noProgress, false, limits);
      if (solved)
        return std::string();
      if (!solved.error().failure || solved.error().failure->kind != Failure::Kind::TooLarge)
        return "not as too large: " + wordsOf(solved.error());
      return solved.error().failure->sentence();
    };
    const auto says = [](const std::string& text, const char* part) { return text.find(part) != std::string::npos; };
    Project p = heated();
    p.mesh.size = number(1e-9);
    QVERIFY2(says(refusal(p), "elements") && says(refusal(p), "million") && says(refusal(p), "--allow-large"),
             refusal(p).c_str());
    p = heated();
    p.mesh.acrossWalls = number(1000);
    QVERIFY2(says(refusal(p), "elements"), refusal(p).c_str());
    p = heated();
    p.parts.front().repeat = Row{number(1000), {number(0.03), number(0), number(0)}};
    p.parts.front().steps = {cut("hole", Cylinder{number(0.001), number(0.03)}, Vec3::Zero(),
                                 Row{number(10), {number(0.002), number(0), number(0)}})};
    QVERIFY2(says(refusal(p), "11000 bodies") || says(refusal(p), "bodies"), refusal(p).c_str());
    p = heated();
    p.materials.front().emissivity = number(0.8);
    Enclosure space;
    space.id = space.name = "space";
    space.surfaces = {"skin"};
    space.opening = number(300);
    space.patchSize = number(1e-5); // 2.4e-3 m² in 2.4e7 patches
    space.rays = number(10);
    p.enclosures = {space};
    QVERIFY2(says(refusal(p), "24 million patches"), refusal(p).c_str());
    p.enclosures.front().rays = number(1e6);
    p.enclosures.front().patchSize = number(1e-3);
    QVERIFY2(says(refusal(p), "2400 million rays"), refusal(p).c_str());
    p = heated();
    EffortLimits few = usualLimits();
    few.elements = 10;
    QVERIFY(says(refusal(p, few), "may have 10"));
    few.allowed = true;
    QVERIFY2(refusal(p, few).empty(), refusal(p, few).c_str());
  }
};

QTEST_GUILESS_MAIN(TestPhysics)
#include "tst_physics.moc"
