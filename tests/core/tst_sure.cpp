// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How sure is a figure: extrapolation from three meshes, recovered flux, values along a line, mesh sizes.
#include "TestProjects.h"
#include "heat/elements/RecoveredFlux.h"
#include "io/SureText.h"
#include "mesh/MeshSizes.h"
#include "results/LineProfile.h"
#include "run/InputHash.h"
#include "run/RefineRun.h"
#include "run/SureRun.h"

#include <QTest>
#include <cmath>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

std::array<MeshedValue, 3> onMeshes(const std::array<double, 3>& sizes, const std::function<double(double)>& value)
{
  return {MeshedValue{sizes[0], value(sizes[0])}, MeshedValue{sizes[1], value(sizes[1])},
          MeshedValue{sizes[2], value(sizes[2])}};
}

/// A bar along x with a heat density, both ends at 300 K: T = 300 + q x (L − x) / 2k.
Project heated(double meshSize)
{
  Project p = projectWith(meshSize);
  p.materials = {material("stuff", 2)};
  p.parts = {part("bar", "stuff", block(0.1, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.sources = {source("heat", PartDensity{{"bar"}, Property{1e5, ""}})};
  p.boundaries = {boundary("l", FixedSurface{"left", number(300)}), boundary("r", FixedSurface{"right", number(300)})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"bar"}}),
               watch("mean", PartFigure{PartFigure::Kind::Mean, {"bar"}}), watch("flux", LargestFlux{{"bar"}})};
  return p;
}

/// An L of two arms of 50 mm, heated at one end and held at the other.
Project cornerSection(double meshSize)
{
  Project p = projectWith(meshSize);
  p.section = Section{PlaneSection{}, {}};
  p.materials = {material("stuff", 1)};
  const auto point = [](double x, double z) { return OutlinePoint{number(x), number(z), {}}; };
  p.parts = {part(
      "ell", "stuff",
      FlatOutline{{point(0, 0), point(0.1, 0), point(0.1, 0.05), point(0.05, 0.05), point(0.05, 0.1), point(0, 0.1)}})};
  p.surfaces = {surface("right", {"ell.side2"}), surface("top", {"ell.side5"})};
  p.sources = {source("hot", SurfaceFlux{"right", number(1000)})};
  p.boundaries = {boundary("cold", FixedSurface{"top", number(300)})};
  p.watches = {watch("mean", SurfaceFigure{PartFigure::Kind::Mean, "right"})};
  return p;
}

} // namespace

class TestSure : public QObject
{
  Q_OBJECT

private slots:
  void extrapolatesWithAnyOrderAndRatio_data()
  {
    QTest::addColumn<double>("order");
    QTest::addColumn<double>("middle");
    QTest::newRow("second order, equal ratios") << 2.0 << 2.0;
    QTest::newRow("second order, unequal ratios") << 2.0 << 2.6;
    QTest::newRow("first order") << 1.0 << 1.7;
    QTest::newRow("order 1.4") << 1.4 << 2.2;
  }
  void extrapolatesWithAnyOrderAndRatio()
  {
    QFETCH(double, order);
    QFETCH(double, middle);
    const auto found =
        convergenceOf(onMeshes({4, middle, 1}, [&](double h) { return 350 + 0.3 * std::pow(h, order); }));
    QCOMPARE(found.verdict, Convergence::Verdict::Settles);
    QVERIFY(std::abs(found.order - order) < 1e-6);
    QVERIFY(std::abs(found.extrapolated - 350) < 1e-6);
    const double safety = order == 2 ? 1.25 : 3; // the order of the elements, or another
    QVERIFY(std::abs(found.bar - safety * 0.3 * std::pow(middle, order)) < 1e-6);
  }

  void saysWhenItCannot()
  {
    QCOMPARE(convergenceOf({{{4, 10}, {2, 10}, {1, 10}}}).verdict, Convergence::Verdict::Equal);
    const auto swings = convergenceOf({{{4, 10}, {2, 12}, {1, 11}}});
    QCOMPARE(swings.verdict, Convergence::Verdict::Swings);
    QCOMPARE(swings.bar, 3 * 2.0);
    // A point source: the logarithm never ends.
    const auto singular = convergenceOf(onMeshes({4, 2, 1}, [](double h) { return 100 - 5 * std::log(h); }));
    QCOMPARE(singular.verdict, Convergence::Verdict::Diverges);
    QVERIFY(singular.bar > 0);
  }

  void threeMeshesOfAProblemWithAKnownAnswer()
  {
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const Project p = heated(0.005);
    const auto record = runSure(p, p.cases.front(), path, noProgress);
    QVERIFY(record);
    QVERIFY(record->tets[0] < record->tets[1] && record->tets[1] < record->tets[2]);
    const auto* mean = record->find("mean");
    QVERIFY(mean != nullptr);
    const double exact = 300 + 1e5 * 0.1 * 0.1 / (12 * 2);
    const double before = std::abs(mean->values[1] - exact);
    QVERIFY2(before <= mean->convergence.bar, qPrintable(QString("%1 > %2").arg(before).arg(mean->convergence.bar)));
    QCOMPARE(mean->convergence.verdict, Convergence::Verdict::Settles);
    QVERIFY(mean->convergence.bar < 6 * before); // it says something
    QVERIFY(std::abs(mean->convergence.extrapolated - exact) < std::abs(mean->values[1] - exact));
    // It is kept, and belongs to the result of the case's own mesh.
    const auto stored = loadSure(sureFile(path, "steady"));
    QVERIFY(stored);
    QCOMPARE(stored->find("mean")->convergence.bar, mean->convergence.bar);
    const auto result = loadResult(resultFile(path, "steady"));
    QVERIFY(result);
    QCOMPARE(stored->solutionHash, result->solutionHash);
    QVERIFY(!std::filesystem::exists(path / ".sure"));
    QVERIFY(sureText(*mean, Quantity::Temperature).starts_with("±"));
    std::ofstream(sureFile(path, "steady")) << "{";
    QVERIFY(!loadSure(sureFile(path, "steady")));
  }

  void onlyWhatIsReadyAndHasAMesh()
  {
    const QTemporaryDir folder;
    Project p = heated(0.02);
    p.cases.front().kind = Case::Kind::Transient;
    const auto refused = runSure(p, p.cases.front(), folder.path().toStdString(), noProgress);
    QVERIFY(!refused && mentions(refused.error().notReady, Finding::Severity::Error, {"density"}));
    p.cases.front().kind = Case::Kind::Steady;
    p.parts.clear();
    QVERIFY(!runSure(p, p.cases.front(), folder.path().toStdString(), noProgress));
  }

  void recoveredFluxIsExactForAUniformOne()
  {
    Project p = heated(0.01);
    p.sources.clear();
    std::get<FixedSurface>(p.boundaries[1].condition).temperature = number(400);
    const CaseResult result = solve(p);
    const FluxError error = fluxError(result.mesh, result.unknowns, result.flux);
    QVERIFY(error.part.front() < 1e-9);
    QVERIFY(std::abs(valueOf(p, result, "flux") - 2 * 100 / 0.1) < 1e-6);
  }

  void recoveredFluxIsNearerThanTheElements()
  {
    std::array<double, 2> part{};
    std::array<double, 2> truth{};
    for (std::size_t i = 0; i < 2; ++i) {
      const CaseResult result = solve(heated(i == 0 ? 0.01 : 0.005));
      const RecoveredFlux recovered = recoverFlux(result.mesh, result.unknowns, result.flux);
      double own = 0;
      double better = 0;
      for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
        Vec3 middle = Vec3::Zero();
        Vec3 mean = Vec3::Zero();
        for (std::size_t k = 0; k < 4; ++k) {
          middle += result.mesh.nodes[static_cast<std::size_t>(result.mesh.tets[t][k])] / 4;
          mean += recovered.corner(t, k) / 4;
        }
        const Vec3 exact(1e5 * middle.x(), 0, 0);
        const double volume = tetVolume(result.mesh, t);
        own += volume * (result.flux[t] - exact).squaredNorm();
        better += volume * (mean - exact).squaredNorm();
      }
      QVERIFY(better < 0.5 * own);
      part[i] = fluxError(result.mesh, result.unknowns, result.flux).part.front();
      truth[i] = std::sqrt(own);
    }
    // The indicator falls with the mesh, at first order like the elements' flux itself.
    QVERIFY(part[1] < 0.7 * part[0]);
    QVERIFY(truth[1] < 0.7 * truth[0]);
  }

  void alongALine()
  {
    // Two bars with a resistance between them and a space after: T is known everywhere.
    Project p = projectWith(0.01);
    p.materials = {material("good", 10), material("poor", 1)};
    p.parts = {part("a", "good", block(0.04, 0.02, 0.02), {0.02, 0, 0}),
               part("b", "poor", block(0.04, 0.02, 0.02), {0.06, 0, 0}),
               part("far", "poor", block(0.02, 0.02, 0.02), {0.12, 0, 0})};
    p.contacts = {contact("a", "b", AreaConductance{number(100)})};
    p.surfaces = {surface("left", {"a.left"}), surface("right", {"b.right"}), surface("other", {"far.left"})};
    p.boundaries = {boundary("l", FixedSurface{"left", number(400)}), boundary("r", FixedSurface{"right", number(300)}),
                    boundary("f", FixedSurface{"other", number(290)})};
    const CaseResult result = solve(p);
    const double q = 100 / (0.04 / 10 + 1.0 / 100 + 0.04 / 1); // W/m²
    const auto pieces = lineProfile(result.mesh, result.unknowns, result.temperature, result.flux,
                                    {-0.01, 0.001, 0.012}, {0.15, 0.001, 0.012});
    QVERIFY(pieces.size() > 8);
    double covered = 0;
    double before = 0;
    for (const LinePiece& piece : pieces) {
      covered += piece.to - piece.from;
      QVERIFY(piece.from >= before - 1e-9);
      before = piece.to;
      const double x = (piece.from + piece.to) / 2 - 0.01;
      const double kelvin = (piece.temperatureFrom + piece.temperatureTo) / 2;
      const double exact = x < 0.04 ? 400 - q * x / 10 : x < 0.08 ? 300 + q * (0.08 - x) : 290;
      QVERIFY2(std::abs(kelvin - exact) < 1e-6, qPrintable(QString("at %1: %2, not %3").arg(x).arg(kelvin).arg(exact)));
      QVERIFY(std::abs(piece.flux - (x < 0.08 ? q : 0)) < 1e-4 * q);
    }
    QVERIFY(std::abs(covered - 0.10) < 1e-9); // nothing twice, nothing in the space between
    // Along an edge of the mesh: each stretch once.
    double alongEdge = 0;
    for (const LinePiece& piece :
         lineProfile(result.mesh, result.unknowns, result.temperature, {}, {0, -0.01, 0}, {0.08, -0.01, 0}))
      alongEdge += piece.to - piece.from;
    QVERIFY(std::abs(alongEdge - 0.08) < 1e-6);
    QVERIFY(lineProfile(result.mesh, result.unknowns, result.temperature, {}, {0, 1, 0}, {1, 1, 0}).empty());
    QVERIFY(lineProfile(result.mesh, result.unknowns, result.temperature, {}, {0, 0, 0}, {0, 0, 0}).empty());
  }

  void transmittance()
  {
    Project p = heated(0.01);
    p.sources.clear();
    std::get<FixedSurface>(p.boundaries[0].condition).temperature = number(320);
    p.watches = {watch("u", Transmittance{"right", number(320), number(300), {}}),
                 watch("half", Transmittance{"right", number(320), number(300), number(8e-4)}),
                 watch("none", Transmittance{"right", number(300), number(300), {}})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(valueOf(p, result, "u") - 2 / 0.1) < 1e-6);
    QVERIFY(std::abs(valueOf(p, result, "half") - 2 / 0.1 / 2) < 1e-6);
    QVERIFY(!readWatches(p, result)[2].value);
    QVERIFY(!readWatches(p, result)[2].note.empty());
  }

  void sizesAreWhatIsAsked()
  {
    Project p = heated(0.01);
    const std::size_t usual = meshOf(p).tets.size();
    p.mesh.fineness = number(2);
    const std::size_t fine = meshOf(p).tets.size();
    QVERIFY(fine > 4 * usual && fine < 16 * usual);
    p.mesh.fineness.reset();
    p.surfaces[0].meshSize = number(0.002);
    const Mesh local = meshOf(p);
    double atLeft = 0;
    double atRight = 0;
    for (std::size_t t = 0; t < local.triangles.size(); ++t)
      for (const std::string& name : local.geometry.faces[static_cast<std::size_t>(local.triangleFace[t])].names) {
        atLeft += name == "bar.left" ? 1 : 0;
        atRight += name == "bar.right" ? 1 : 0;
      }
    QVERIFY(atLeft > 5 * atRight);
    // A size of a surface belongs to the mesh, not to the geometry.
    Project q = heated(0.01);
    QVERIFY(inputHashes(p).mesh != inputHashes(q).mesh);
    QCOMPARE(inputHashes(p).geometry, inputHashes(q).geometry);
    p.surfaces[0].meshSize.reset();
    p.parts = {part("plate", "stuff", block(0.1, 0.1, 0.004))};
    const std::size_t thin = meshOf(p).tets.size();
    p.mesh.acrossWalls = number(3);
    QVERIFY(meshOf(p).tets.size() > 5 * thin);
  }

  /// An L with its re-entrant corner: refined where it matters, the corner's neighbourhood is better for the same
  /// number of unknowns than a uniform mesh. The rise of the heated end is the figure; the truth is from a fine mesh of
  /// second order.
  void refinementBeatsUniformMeshes()
  {
    const auto rise = [](const CaseResult& result) { return valueOf(cornerSection(1), result, "mean") - 300; };
    Project fine = cornerSection(0.002);
    fine.mesh.secondOrder = true;
    fine.mesh.finerAt = SharedText("0.05 0 0.05 0.00002\n");
    const double truth = rise(solve(fine));
    std::vector<std::pair<double, double>> uniform; // unknowns, error
    for (const double size : {0.008, 0.004, 0.002}) {
      const CaseResult result = solve(cornerSection(size));
      uniform.emplace_back(result.unknowns.count, std::abs(rise(result) / truth - 1));
    }
    const QTemporaryDir folder;
    const Project coarse = cornerSection(0.008);
    const auto record =
        runRefine(coarse, coarse.cases.front(), folder.path().toStdString(), RefineTarget{1e-9, 0}, noProgress);
    QVERIFY(record);
    QCOMPARE(record->rounds.size(), 6UL);
    QVERIFY(!record->reached);
    for (std::size_t i = 1; i < record->rounds.size(); ++i)
      QVERIFY(record->rounds[i].elements > record->rounds[i - 1].elements && record->rounds[i].moved > 0);
    QVERIFY(record->rounds.back().error < 0.5 * record->rounds.front().error);
    Project refined = coarse;
    refined.mesh.finerAt = SharedText(record->finerAt);
    const CaseResult result = solve(refined);
    const double error = std::abs(rise(result) / truth - 1);
    // A uniform mesh of as many unknowns, from the slope between the two finest ones.
    const double slope =
        std::log(uniform[1].second / uniform[2].second) / std::log(uniform[2].first / uniform[1].first);
    const double expected =
        uniform[2].second * std::pow(uniform[2].first / static_cast<double>(result.unknowns.count), slope);
    qInfo("%d unknowns: refined %.2e, uniform would be %.2e (uniform %.2e at %g, slope %.2f)", result.unknowns.count,
          error, expected, uniform[2].second, uniform[2].first, slope);
    QVERIFY(error < expected / 2);
    const auto loaded = loadRefine(refineFile(folder.path().toStdString(), "steady"));
    QVERIFY(loaded && loaded->finerAt == record->finerAt);
  }

  /// "Finer by" divides all sizes once, those of a refinement too: asked for twice as fine, the marked elements shrink
  /// by 1.8, not by 3.6.
  void refinementKnowsFineness()
  {
    const QTemporaryDir folder;
    Project plain = cornerSection(0.006);
    Project finer = cornerSection(0.012);
    finer.mesh.fineness = number(2);
    const auto finest = [&](const Project& p) {
      const auto record = runRefine(p, p.cases.front(), folder.path().toStdString(), RefineTarget{1e6, 0}, noProgress);
      MeshSettings settings = p.mesh;
      settings.finerAt = SharedText(record->finerAt);
      double size = 1;
      for (const SizeSource& one : finerSources(settings))
        size = std::min(size, one.size / (p.mesh.fineness ? p.mesh.fineness->si : 1));
      return size;
    };
    const double ratio = finest(finer) / finest(plain);
    QVERIFY2(ratio > 0.7 && ratio < 1.4, qPrintable(QString::number(ratio)));
  }

  /// A target that asks for nothing, and a run in time, are refused.
  void refinementSaysWhatItNeeds()
  {
    const QTemporaryDir folder;
    Project p = cornerSection(0.01);
    const auto none = runRefine(p, p.cases.front(), folder.path().toStdString(), RefineTarget{}, noProgress);
    QVERIFY(!none && none.error().failure->problem.find("neither") != std::string::npos);
    p.cases.front().kind = Case::Kind::Transient;
    const auto timed = runRefine(p, p.cases.front(), folder.path().toStdString(), RefineTarget{1, 0}, noProgress);
    QVERIFY(!timed && timed.error().failure->problem.find("steady") != std::string::npos);
  }
};

QTEST_GUILESS_MAIN(TestSure)
#include "tst_sure.moc"
