// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What differs between two cases: exactly the fields that were changed, and figures against those of a slab by hand.
#include "TransientProjects.h"
#include "model/OwnValues.h"
#include "run/Comparison.h"

#include <QTest>
#include <numeric>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double area = 0.05 * 0.04, height = 0.02, conductivity = 2;

/// A slab heated from above against air below: T(top) = T(air) + q (1/h + L/k).
Project slab()
{
  Project p = projectWith(0.01);
  p.materials = {material("brick", conductivity), material("fibre", 0.1)};
  p.parts = {part("slab", "brick", block(0.05, 0.04, height))};
  p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
  p.sources = {source("heat", SurfacePower{"top", {4, "4 W"}})};
  p.boundaries = {boundary("air", Convection{"bottom", Property{50, "50 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  p.watches = {watch("peak", SurfaceFigure{Extreme::Hottest, "top"}), watch("out", SurfaceHeat{"bottom"})};
  Case other = p.cases.front();
  other.id = other.name = "warm";
  other.changes = {{"heat.power", Property{6, "6 W"}}, {"air.ambient", Property{303.15, "30 °C"}}};
  p.cases.push_back(other);
  return p;
}

double topAt(double power, double ambient) { return ambient + power / area * (1 / 50. + height / conductivity); }

Compared side(const Project& project, std::size_t index, bool solved = true)
{
  Compared made;
  made.name = project.cases[index].name;
  made.caseId = project.cases[index].id;
  made.project = *projectForCase(project, project.cases[index]);
  if (solved) {
    Project alone = made.project;
    alone.cases = {Case{}};
    alone.cases.front().id = alone.cases.front().name = "c";
    made.result = std::make_shared<CaseResult>(solve(alone));
  }
  return made;
}

const ComparedFigure* figure(const std::vector<ComparedFigure>& all, const std::string& kind, const std::string& id)
{
  for (const ComparedFigure& one : all)
    if (one.kind == kind && one.id == id)
      return &one;
  return nullptr;
}

} // namespace

class ComparisonTest : public QObject
{
  Q_OBJECT
private slots:
  void exactlyWhatWasChangedDiffers()
  {
    const Project p = slab();
    std::vector<std::string> differing;
    for (const ComparedInput& input : compareInputs(side(p, 0, false), side(p, 1, false)))
      if (input.differs())
        differing.push_back(input.path + ": " + input.a + " | " + input.b);
    const auto all = QString::fromStdString(std::accumulate(differing.begin(), differing.end(), std::string()));
    QVERIFY2(differing.size() == 2, qPrintable(all));
    QCOMPARE(differing, (std::vector<std::string>{"heat.power: 4 W | 6 W", "air.ambient: 20.0 °C | 30.0 °C"}));
    for (const ComparedInput& input : compareInputs(side(p, 0, false), side(p, 0, false)))
      QVERIFY2(!input.differs(), input.path.c_str());
  }

  /// References, switches, tables and choices differ too, and what only one side has.
  void everyKindOfFieldDiffers()
  {
    Project p = slab();
    p.cases[1].changes = {{"slab.material", std::string("fibre")},
                          {"heat.muted", true},
                          {"brick.conductivity", Property{{2, {}}, {{{300, {}}, {2, {}}}, {{500, {}}, {3, {}}}}}},
                          {"air.kind", std::string("radiation")}};
    std::map<std::string, std::pair<std::string, std::string>> differing;
    for (const ComparedInput& input : compareInputs(side(p, 0, false), side(p, 1, false)))
      if (input.differs())
        differing[input.path] = {input.a, input.b};
    QCOMPARE(differing["slab.material"].second, std::string("fibre"));
    QCOMPARE(differing["heat.muted"], (std::pair<std::string, std::string>("no", "yes")));
    QCOMPARE(differing["brick.conductivity"].second, std::string("a table of 2 points"));
    QCOMPARE(differing["air.kind"].second, std::string("Radiation"));
    QVERIFY(differing["air.coefficient"].second.empty() && differing["air.surroundings"].first.empty());
  }

  void tablesOfAsManyPointsDiffer()
  {
    Project p = slab();
    const auto two = [](double end) { return Property{{2, {}}, {{{300, {}}, {2, {}}}, {{500, {}}, {end, {}}}}}; };
    p.materials[0].conductivity = two(3);
    p.cases[1].changes = {{"brick.conductivity", two(4)}};
    const auto inputs = compareInputs(side(p, 0, false), side(p, 1, false));
    QCOMPARE(std::count_if(inputs.begin(), inputs.end(), [](const ComparedInput& one) { return one.differs(); }), 1);
  }

  void figuresAreThoseByHand()
  {
    const Project p = slab();
    const Compared cool = side(p, 0);
    const Compared warm = side(p, 1);
    QVERIFY(comparable(cool, warm));
    const auto figures = compareFigures(cool, warm);
    const ComparedFigure* peak = figure(figures, "watch", "peak");
    QVERIFY(peak != nullptr);
    QVERIFY(std::abs(*peak->a - topAt(4, 293.15)) < 1e-6 && std::abs(*peak->b - topAt(6, 303.15)) < 1e-6);
    QVERIFY(std::abs(*peak->difference() - (topAt(6, 303.15) - topAt(4, 293.15))) < 1e-6);
    QVERIFY(!peak->share()); // kelvin have no share
    const ComparedFigure* in = figure(figures, "ledger", "in");
    QVERIFY(std::abs(*in->share() - 0.5) < 1e-9);
    const ComparedFigure* air = figure(figures, "boundary", "air");
    QVERIFY(std::abs(*air->a + 4) < 1e-6 && std::abs(*air->share() + 0.5) < 1e-6);
    QVERIFY(figure(figures, "part, mean", "slab") != nullptr && figure(figures, "work", "elements") != nullptr);
    const std::string csv = comparisonCsv(cool, warm);
    QVERIFY2(csv.find("\"heat.power\",\"source heat, Power\",\"4 W\",\"6 W\"") != std::string::npos, csv.c_str());
  }

  void whatCannotBeComparedIsRefused()
  {
    const Project p = slab();
    Compared cut = side(p, 1, false);
    cut.project.section = Section{};
    const auto refused = comparable(side(p, 0, false), cut);
    QVERIFY(!refused && refused.error().sentence().find("section") != std::string::npos);
    Project stranger = p;
    stranger.parts[0].id = stranger.parts[0].name = "other";
    stranger.surfaces = {surface("top", {"other.top"}), surface("bottom", {"other.bottom"})};
    const auto apart = comparable(side(p, 0), side(stranger, 0));
    QVERIFY(!apart && apart.error().sentence().find("no part in common") != std::string::npos);
  }

  void whatHasToBeKnownIsSaid()
  {
    const Project p = slab();
    Compared old = side(p, 1);
    old.current = false;
    const auto notes = comparisonNotes(side(p, 0, false), old);
    QCOMPARE(notes.size(), std::size_t(2));
    QVERIFY(notes[0].find("is not solved") != std::string::npos && notes[1].find("out of date") != std::string::npos);
    QVERIFY(compareFigures(side(p, 0, false), old).front().a == std::nullopt);
  }

  /// A slab that warms from one temperature everywhere, its face below insulated: all of it is as warm at any instant,
  /// T = T₀ + P t / (ρ c V).
  void anInstantOfARun()
  {
    Project p = slab();
    p.materials[0] = heavy("brick", 1e4, 2000, 800);
    p.boundaries.clear();
    p.cases.resize(1);
    inTime(p, 300, 1000);
    const QTemporaryDir folder;
    const Ran ran = runIn(p, folder.path().toStdString());
    const auto fields = InstantReader::open(runFile(folder.path().toStdString(), p.cases[0].id));
    QVERIFY(fields.has_value());
    const auto at = [&](double time) {
      Compared made{"run", p, p.cases[0].id, std::make_shared<CaseResult>(ran.result),
                    std::make_shared<RunRecord>(ran.record)};
      made.instant = withinRun(ran.record, time);
      made.kelvin = temperaturesAt(ran.result, ran.record, *fields, time);
      return made;
    };
    const double rate = 4 / (2000 * 800 * area * height); // K/s
    const auto figures = compareFigures(at(200), at(700));
    const ComparedFigure* peak = figure(figures, "watch", "peak");
    QVERIFY(peak != nullptr && peak->a && peak->b);
    QVERIFY2(std::abs(*peak->a - 300 - 200 * rate) < 0.02, qPrintable(QString::number(*peak->a)));
    QVERIFY(std::abs(*peak->difference() - 500 * rate) < 0.03);
    const ComparedFigure* mean = figure(figures, "part, mean", "slab");
    QVERIFY(mean != nullptr && std::abs(*mean->b - 300 - 700 * rate) < 0.02);
    const ComparedFigure* stored = figure(figures, "ledger", "stored");
    QVERIFY(stored != nullptr && std::abs(*stored->a - 4) < 0.01 && std::abs(*stored->b - 4) < 0.01);
    QVERIFY(figure(figures, "peak", "peak") == nullptr); // that is of the whole run
    // Beyond the run its end counts; before it its start.
    QCOMPARE(*at(1e9).instant, ran.record.times.back());
    QCOMPARE(*at(-1).instant, ran.record.times.front());
    QCOMPARE(*figure(compareFigures(at(1e9), at(1e9)), "watch", "peak")->a, valueOf(p, ran.result, "peak"));
  }

  /// Two cases' own settings meet, though their paths begin with other ids.
  void theCasesThemselvesAreCompared()
  {
    Project p = slab();
    for (Case& one : p.cases) {
      one.kind = Case::Kind::Transient;
      one.run = TransientRun{};
      one.run->tolerance = number(one.id == "warm" ? 0.5 : 0.1);
    }
    std::vector<std::string> differing;
    for (const ComparedInput& input : compareInputs(side(p, 0, false), side(p, 1, false)))
      if (input.differs() && input.path.starts_with("case."))
        differing.push_back(input.path);
    QCOMPARE(differing, (std::vector<std::string>{"case.run.tolerance"}));
  }
};

QTEST_APPLESS_MAIN(ComparisonTest)
#include "tst_comparison.moc"
