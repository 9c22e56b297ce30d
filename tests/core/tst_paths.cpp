// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The ways of the heat close to the ledger: for every kind of flow, steady and at every instant of a run.
#include "FlowKinds.h"
#include "results/HeatPaths.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

HeatPaths pathsOf(const Project& project, const CaseResult& result, const std::vector<std::string>& folded = {})
{
  const std::vector<ContactFigure> contacts = contactFigures(result);
  return heatPaths(project, {result.paths, contacts, result.links, result.nodes, result.heatFloor}, folded);
}

const PathBlock* blockOf(const HeatPaths& paths, const std::string& id)
{
  for (const PathBlock& block : paths.blocks)
    if (block.id == id)
      return &block;
  return nullptr;
}

double bandBetween(const HeatPaths& paths, const std::string& from, const std::string& to)
{
  double watts = 0;
  for (const PathBand& band : paths.bands)
    if (paths.blocks[band.from].id == from && paths.blocks[band.to].id == to)
      watts += band.watts;
  return watts;
}

/// A heated slab on another one, over a contact, cooled beneath and at its sides; both in one group.
Project twoSlabs()
{
  Project p = projectWith(0.006);
  p.materials = {heavy("stuff", 2, 2000, 1000)};
  p.parts = {part("upper", "stuff", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.01)),
             part("lower", "stuff", block(0.04, 0.04, 0.01))};
  p.groups.emplace_back();
  p.groups.back().id = p.groups.back().name = "both";
  p.surfaces = {surface("top", {"upper.top"}), surface("bottom", {"lower.bottom"}),
                surface("sides", {"upper.left", "lower.left"})};
  p.contacts = {contact("upper", "lower", AreaConductance{number(500)})};
  p.sources = {source("heater", SurfacePower{"top", plain(12)})};
  p.boundaries = {boundary("under", Convection{"bottom", plain(40), plain(300)}),
                  boundary("aside", Convection{"sides", plain(15), plain(290)})};
  p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"upper"}})};
  return p;
}

} // namespace

class PathsTest : public QObject
{
  Q_OBJECT
private slots:
  void everyKind_data()
  {
    QTest::addColumn<int>("kind");
    const std::vector<Named> kinds = allKinds();
    for (std::size_t k = 0; k < kinds.size(); ++k)
      QTest::addRow("%s", qPrintable(kinds[k].name)) << static_cast<int>(k);
  }
  /// Given any way in which heat enters, leaves or crosses, then its bands sum to the ledger and nothing is left over.
  void everyKind()
  {
    QFETCH(const int, kind);
    const Body body{false};
    const Patch patch = allKinds()[static_cast<std::size_t>(kind)].make(slab(body, 1), body);
    const CaseResult result = solve(patch.project);
    const HeatPaths paths = pathsOf(patch.project, result);
    QVERIFY(!paths.bands.empty());
    const double size = std::max(result.heatIn, result.heatOut);
    QVERIFY2(std::abs(paths.in - paths.out - paths.stored) < 1e-6 * size, qPrintable(QString::number(paths.stored)));
    QVERIFY2(std::abs(paths.stored) < 1e-6 * size, qPrintable(QString::number(paths.stored)));
    for (const auto* flows : {&result.sources, &result.boundaries})
      for (const LedgerFlow& flow : *flows) {
        const PathBlock* block = blockOf(paths, flow.id);
        if (block == nullptr) // a boundary to a node: the band passes it
          continue;
        QVERIFY2(
            std::abs(block->out - block->in - flow.watts) < 1e-9 * size,
            qPrintable(QString("%1: %2, ledger %3").arg(flow.id.c_str()).arg(block->out - block->in).arg(flow.watts)));
      }
    for (const PathBlock& block : paths.blocks)
      if (block.kind == PathBlock::Kind::Part || block.kind == PathBlock::Kind::Node)
        QVERIFY2(std::abs(block.in - block.out) < 1e-6 * size, block.name.c_str());
    for (const PathBand& band : paths.bands)
      QVERIFY(band.watts > 0 && band.from != band.to);
  }

  /// Given two parts over a contact, then each band is what a hand calculation of the ledger gives.
  void partsContactsAndWhatIsOutside()
  {
    const Project p = twoSlabs();
    const CaseResult result = solve(p);
    const HeatPaths paths = pathsOf(p, result);
    const double contact = contactFigures(result).front().watts;
    QVERIFY(std::abs(bandBetween(paths, "heater", "upper") - 12) < 1e-9);
    QVERIFY(std::abs(bandBetween(paths, "upper", "lower") - contact) < 1e-9);
    QVERIFY(std::abs(bandBetween(paths, "lower", "under") + wattsOf(result.boundaries, "under")) < 1e-9);
    const double aside = bandBetween(paths, "upper", "aside") + bandBetween(paths, "lower", "aside");
    QVERIFY(std::abs(aside + wattsOf(result.boundaries, "aside")) < 1e-9);
    QVERIFY(bandBetween(paths, "upper", "aside") > bandBetween(paths, "lower", "aside")); // it is the warmer one
    // From the left to the right.
    for (const PathBand& band : paths.bands)
      QVERIFY(paths.blocks[band.from].column < paths.blocks[band.to].column);
    QCOMPARE(blockOf(paths, "heater")->column, 0U);
    QCOMPARE(blockOf(paths, "under")->column, paths.columns - 1);
    QCOMPARE(blockOf(paths, "aside")->column, paths.columns - 1);
  }

  /// Given a folded group, then its parts are one block and what passes between them is not seen.
  void groupsFold()
  {
    Project p = twoSlabs();
    p.parts[0].group = p.parts[1].group = "both";
    const CaseResult result = solve(p);
    const HeatPaths paths = pathsOf(p, result, {"both"});
    QCOMPARE(blockOf(paths, "both")->kind, PathBlock::Kind::Group);
    QVERIFY(blockOf(paths, "upper") == nullptr);
    QVERIFY(std::abs(bandBetween(paths, "both", "aside") + wattsOf(result.boundaries, "aside")) < 1e-9);
    QVERIFY(std::abs(blockOf(paths, "both")->in - blockOf(paths, "both")->out) < 1e-6);
  }

  /// Given a run, then at every step the bands were recorded, and what is stored is what the ledger says.
  void everyInstantOfARun()
  {
    Project p = twoSlabs();
    inTime(p, 295, 400);
    const Ran ran = run(p);
    const RunRecord& record = ran.record;
    QVERIFY(record.times.size() > 5);
    for (std::size_t i = 1; i < record.times.size(); ++i) {
      const double time = record.times[i];
      std::vector<HeatToPart> recorded;
      for (const HeatToPart& own : ran.result.paths)
        recorded.push_back({own.of, own.part, *record.at(RunTrace::Kind::Path, pairId(own.of, own.part), time)});
      const std::vector<ContactFigure> contacts{
          {"upper", "lower", 0, *record.at(RunTrace::Kind::Contact, pairId("upper", "lower"), time)}};
      const HeatPaths paths = heatPaths(p, {recorded, contacts, {}, {}, 0});
      const double in = *record.at(RunTrace::Kind::In, {}, time);
      QVERIFY2(std::abs(paths.in - in) < 1e-9 * in, qPrintable(QString::number(paths.in - in)));
      QVERIFY(std::abs(paths.out - *record.at(RunTrace::Kind::Out, {}, time)) < 1e-9 * in);
      const double storing = *record.at(RunTrace::Kind::Storing, {}, time);
      QVERIFY2(std::abs(paths.stored - storing) < 1e-5 * in, qPrintable(QString::number(paths.stored - storing)));
    }
  }

  /// Given a result that was stored before bands were, then there are none, and no harm.
  void nothingIsKnown()
  {
    const HeatPaths paths = heatPaths(twoSlabs(), {{}, {}, {}, {}, 0});
    QVERIFY(paths.blocks.empty() && paths.bands.empty());
    QCOMPARE(paths.in, 0.0);
  }
};

QTEST_APPLESS_MAIN(PathsTest)
#include "tst_paths.moc"
