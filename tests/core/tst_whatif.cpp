// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A solved state that is followed: superposition against full solves, estimates of errors against true ones.
#include "TestProjects.h"
#include "io/ProjectFile.h"
#include "model/Settings.h"
#include "results/PartReader.h"
#include "results/PreparedWatches.h"
#include "run/WhatIf.h"

#include <QTest>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two bars joined by a gap's conductance, heated in one, cooled by air and held at an end, with a lumped node.
Project joined()
{
  Project p = projectWith(0.008);
  p.materials = {material("metal", 15), material("brick", 0.8)};
  p.parts = {part("a", "metal", block(0.05, 0.02, 0.02), Vec3(-0.025, 0, 0)),
             part("b", "brick", block(0.05, 0.02, 0.02), Vec3(0.025, 0, 0))};
  p.contacts = {contact("a", "b", AreaConductance{number(400)})};
  p.surfaces = {surface("left", {"a.left"}), surface("top", {"a.top", "b.top"}), surface("right", {"b.right"})};
  p.boundaries = {boundary("cold", FixedSurface{"left", number(300)}),
                  boundary("air", Convection{"top", Property{12, ""}, Property{295, ""}})};
  p.sources = {source("heater", PartPower{{"b"}, Property{2, ""}}),
               source("spot", SurfacePower{"right", Property{0.5, ""}})};
  p.watches = {watch("hot", PartFigure{Extreme::Hottest, {"b"}}), watch("through", SurfaceHeat{"left"})};
  return p;
}

/// The same, that glows at its right end instead.
Project glowing()
{
  Project p = joined();
  p.materials[1].emissivity = number(0.8);
  p.boundaries.push_back(boundary("glow", Radiation{"right", number(295)}));
  std::get<PartPower>(p.sources[0].heat).power.si = 12;
  return p;
}

Project with(Project p, const std::vector<std::pair<std::string, double>>& values)
{
  std::vector<Field> all = fields(p);
  for (const auto& [path, si] : values)
    fieldAt(all, path)->assign(number(si));
  return p;
}

class Following
{
public:
  explicit Following(Project base) : base_(std::move(base)), solved_(solve(base_))
  {
    auto begun = WhatIf::begin(base_, base_.cases.front(), solved_, folder_.path().toStdString());
    if (!begun)
      throw std::runtime_error(begun.error().sentence());
    whatIf_ = std::move(*begun);
  }
  Expected<Estimate> at(const std::vector<std::pair<std::string, double>>& values)
  {
    const Project other = with(base_, values);
    return whatIf_->at(other, other.cases.front());
  }
  /// Largest difference to the full solve, K.
  double missed(const std::vector<std::pair<std::string, double>>& values, const Estimate& estimate)
  {
    const CaseResult full = solve(with(base_, values));
    double worst = 0;
    for (std::size_t i = 0; i < full.temperature.size(); ++i)
      worst = std::max(worst, std::abs(full.temperature[i] - estimate.result.temperature[i]));
    return worst;
  }
  WhatIf& whatIf() { return *whatIf_; }

private:
  Project base_;
  CaseResult solved_;
  QTemporaryDir folder_;
  std::unique_ptr<WhatIf> whatIf_;
};

} // namespace

class WhatIfTest : public QObject
{
  Q_OBJECT

private slots:
  /// Powers, ambients and held temperatures of a linear model: a response each, then sums of them.
  void superposition()
  {
    Following model(joined());
    const std::vector<std::vector<std::pair<std::string, double>>> asked{
        {{"heater.power", 3}},
        {{"heater.power", 5}},
        {{"spot.power", 1.5}},
        {{"air.ambient", 330}},
        {{"cold.temperature", 280}},
        {{"heater.power", 1}, {"spot.power", 0}, {"air.ambient", 250}, {"cold.temperature", 400}}};
    const std::vector<std::size_t> responses{1, 1, 2, 3, 4, 4};
    for (std::size_t i = 0; i < asked.size(); ++i) {
      const auto estimate = model.at(asked[i]);
      QVERIFY2(estimate, estimate ? "" : estimate.error().sentence().c_str());
      QVERIFY(estimate->exact);
      QCOMPARE(estimate->error, 0.0);
      QCOMPARE(model.whatIf().responses(), responses[i]);
      const double missed = model.missed(asked[i], *estimate);
      QVERIFY2(missed < 1e-9 * 400, std::to_string(missed).c_str());
    }
  }

  /// The ledger follows: what goes in comes out.
  void theLedgerFollows()
  {
    Following model(joined());
    const auto estimate = model.at({{"heater.power", 7}});
    QVERIFY(estimate);
    QVERIFY(std::abs(wattsOf(estimate->result.sources, "heater") - 7) < 1e-9);
    QVERIFY(estimate->result.relativeImbalance() < 1e-7);
  }

  /// Where the answer is not linear in what is dragged, no place is off by more than is said.
  void estimatesBoundTheError_data()
  {
    QTest::addColumn<QString>("field");
    QTest::addColumn<double>("from");
    QTest::newRow("coefficient") << "air.coefficient" << 12.0;
    QTest::newRow("conductivity") << "brick.conductivity" << 0.8;
    QTest::newRow("contact") << "a|b.conductance" << 400.0;
    QTest::newRow("power of what glows") << "heater.power" << 12.0;
    QTest::newRow("surroundings of what glows") << "glow.surroundings" << 295.0;
    QTest::newRow("emissivity") << "brick.emissivity" << 0.8;
  }
  void estimatesBoundTheError()
  {
    QFETCH(QString, field);
    QFETCH(double, from);
    Following model(glowing());
    for (const double share : {0.7, 0.9, 1.05, 1.2, 1.3}) {
      if (field.contains("emissivity") && share * from > 1)
        continue;
      const std::vector<std::pair<std::string, double>> values{{field.toStdString(), share * from}};
      const auto estimate = model.at(values);
      QVERIFY2(estimate, estimate ? "" : estimate.error().sentence().c_str());
      QVERIFY(!estimate->exact);
      const double missed = model.missed(values, *estimate);
      QVERIFY2(missed <= estimate->error + 1e-6,
               qPrintable(QString("%1: off by %2, said %3").arg(share).arg(missed).arg(estimate->error)));
      QVERIFY(estimate->error < 60); // and it says something
    }
  }

  void backAtTheStartItIsWhatWasSolved_data()
  {
    QTest::addColumn<bool>("glows");
    QTest::newRow("linear") << false;
    QTest::newRow("not linear") << true;
  }
  void backAtTheStartItIsWhatWasSolved()
  {
    QFETCH(bool, glows);
    Following model(glows ? glowing() : joined());
    const auto estimate = model.at({});
    QVERIFY(estimate);
    QCOMPARE(model.whatIf().responses(), std::size_t(0)); // nothing has changed: nothing is solved
    QVERIFY2(estimate->error < 1e-3 && model.missed({}, *estimate) < 1e-3, std::to_string(estimate->error).c_str());
  }

  /// A response is solved once for a slider, also where it only begins the estimate.
  void aResponseServesAgain()
  {
    Following model(glowing());
    for (const double watts : {13, 15, 17, 11}) {
      QVERIFY(model.at({{"heater.power", watts}}));
      QCOMPARE(model.whatIf().responses(), std::size_t(1));
    }
    QVERIFY(model.at({{"heater.power", 12}, {"spot.power", 0.9}}));
    QCOMPARE(model.whatIf().responses(), std::size_t(2));
  }

  /// What was prepared with one result reads the next as if it were read by itself.
  void preparedReadersReadOn()
  {
    Following model(glowing());
    const Project base = glowing();
    const CaseResult first = solve(base);
    const PreparedWatches watches(base, first, base.watches);
    const PartReader parts(first.mesh, first.unknowns);
    const auto estimate = model.at({{"heater.power", 15}});
    QVERIFY(estimate);
    const std::vector<WatchFigure> alone = readWatches(base, estimate->result);
    const std::vector<WatchFigure> read = watches.read(estimate->result);
    QCOMPARE(read.size(), base.watches.size());
    for (std::size_t i = 0; i < read.size(); ++i) {
      QCOMPARE(*read[i].value, *alone[i].value);
      QVERIFY(std::abs(*read[i].value - *readWatches(base, first)[i].value) > 0.1); // it is another state
    }
    const std::vector<PartFigures> figures = parts.read(estimate->result.temperature);
    for (std::size_t p = 0; p < figures.size(); ++p) {
      double hottest = 0;
      for (std::size_t t = 0; t < estimate->result.mesh.tets.size(); ++t)
        if (estimate->result.mesh.tetPart[t] == PartId(p))
          for (const UnknownId u : estimate->result.unknowns.ofTet[t])
            hottest = std::max(hottest, estimate->result.temperature[static_cast<std::size_t>(u)]);
      QCOMPARE(figures[p].hottest.value, hottest);
      QVERIFY(figures[p].coldest.value < figures[p].mean && figures[p].mean < figures[p].hottest.value);
    }
  }

  /// The demo's controller box with its nodes: the load.
  void theControllerBox()
  {
    auto box = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/controller-box.kiln");
    QVERIFY(box);
    Following model(*box);
    const auto estimate = model.at({{"switch.power", 18}});
    QVERIFY(estimate);
    const Project more = with(*box, {{"switch.power", 18}});
    const CaseResult full = solve(more);
    QVERIFY(std::abs(valueOf(more, full, "junction") - valueOf(more, estimate->result, "junction")) <
            estimate->error + 1e-3);
  }

  /// The demo's kiln, much coarser, with what glows within: conductivity, power and the air outside at ± 30 %, each
  /// from the estimate before.
  void theKiln()
  {
    auto kiln = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    QVERIFY(kiln);
    kiln->mesh.secondOrder = false;
    kiln->mesh.fineness = number(0.4);
    Following model(*kiln);
    for (const auto& [field, share] : {std::pair("ceramic-fibre.conductivity", 0.7),
                                       {"ceramic-fibre.conductivity", 1.3},
                                       {"coil-power.power", 1.3},
                                       {"outer-air.coefficient", 0.7}}) {
      const double from = fieldAt(fields(*kiln), field)->value()->si;
      const std::vector<std::pair<std::string, double>> values{{field, share * from}};
      const auto estimate = model.at(values);
      QVERIFY2(estimate, estimate ? "" : estimate.error().sentence().c_str());
      const double missed = model.missed(values, *estimate);
      QVERIFY2(missed <= estimate->error && estimate->error < 60,
               qPrintable(QString("%1 %2: off by %3, said %4").arg(field).arg(share).arg(missed).arg(estimate->error)));
    }
  }

  void whatCannotBeFollowed()
  {
    Following model(joined());
    Project wider = joined();
    std::get<Block>(wider.parts[0].shape.form).sizeY.si = 0.03;
    const auto shape = model.whatIf().at(wider, wider.cases.front());
    QVERIFY(!shape && shape.error().sentence().find("changes the mesh") != std::string::npos);
    Project timed = joined();
    timed.cases[0].kind = Case::Kind::Transient;
    timed.cases[0].run = TransientRun{};
    const auto run = WhatIf::begin(timed, timed.cases.front(), solve(joined()), {});
    QVERIFY(!run && run.error().sentence().find("in time") != std::string::npos);
  }
};

QTEST_GUILESS_MAIN(WhatIfTest)
#include "tst_whatif.moc"
