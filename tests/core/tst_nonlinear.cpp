// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Properties that depend on temperature, direction and place: exact answers, and tangents against differences.
#include "TangentCheck.h"
#include "TestProjects.h"
#include "model/Settings.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Root of the mean of (T − exact)² over the unknowns, K.
template <class Exact>
double rootMeanSquare(const CaseResult& result, Exact&& exact)
{
  double sum = 0;
  for (std::size_t i = 0; i < result.temperature.size(); ++i)
    sum += std::pow(result.temperature[i] - exact(result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[i])]),
                    2);
  return std::sqrt(sum / static_cast<double>(result.temperature.size()));
}

/// Two blocks on each other, the lower one held.
Project twoBlocks()
{
  Project p = projectWith(0.02);
  p.materials = {material("a", 1), material("b", 2)};
  p.parts = {part("low", "a", block(0.05, 0.05, 0.05)), part("high", "b", block(0.05, 0.05, 0.05), {0, 0, 0.05})};
  p.surfaces = {surface("foot", {"low.bottom"}), exposedOf("top", {"high"})};
  p.boundaries = {boundary("held", FixedSurface{"foot", number(400)}),
                  boundary("air", Convection{"top", Property{15, {}}, number(300)})};
  return p;
}

} // namespace

class NonlinearTest : public QObject
{
  Q_OBJECT

private slots:
  void aSlabWithLinearConductivityFollowsKirchhoff()
  {
    // k = k0 (1 + b (T − T0)): with θ = ∫ k dT linear in x, T − T0 = (√(1 + 2 b θ/k0) − 1)/b.
    const double k0 = 0.5;
    const double b = 0.002;
    const double cold = 300;
    const double hot = 1300;
    const double length = 0.1;
    Project p = projectWith(0.012);
    p.materials = {material("brick", k0)};
    p.materials[0].conductivity = table({{cold, k0}, {hot, k0 * (1 + b * (hot - cold))}});
    p.parts = {part("wall", "brick", block(length, 0.04, 0.04))};
    p.surfaces = {surface("left", {"wall.left"}), surface("right", {"wall.right"})};
    p.boundaries = {boundary("hot", FixedSurface{"left", number(hot)}),
                    boundary("cold", FixedSurface{"right", number(cold)})};
    const double whole = k0 * ((hot - cold) + b / 2 * (hot - cold) * (hot - cold)); // W/m
    const double watts = whole / length * 0.04 * 0.04;
    const auto exact = [&](const Vec3& place) {
      const double theta = whole * (0.5 - place.x() / length);
      return cold + (std::sqrt(1 + 2 * b * theta / k0) - 1) / b;
    };
    std::vector<double> errors;
    std::vector<double> sizes;
    for (const double size : {0.008, 0.004, 0.0025}) {
      p.mesh.size = number(size);
      const CaseResult result = solve(p);
      QVERIFY2(std::abs(wattsOf(result.boundaries, "hot") / watts - 1) < 5e-3,
               qPrintable(QString::number(wattsOf(result.boundaries, "hot") / watts - 1)));
      QVERIFY(result.relativeImbalance() < 1e-6);
      errors.push_back(rootMeanSquare(result, exact));
      sizes.push_back(std::cbrt(1.0 / static_cast<double>(result.mesh.tets.size())));
      qInfo("%zu tets, %d steps, root mean square error %.4g K, heat %.3g", result.mesh.tets.size(),
            result.info.newtonSteps, errors.back(), wattsOf(result.boundaries, "hot") / watts - 1);
    }
    const double order = std::log(errors[0] / errors[2]) / std::log(sizes[0] / sizes[2]);
    qInfo("order %.2f", order);
    QVERIFY2(order > 1.7, qPrintable(QString::number(order)));
  }

  void anOrthotropicBlockWithTurnedAxes_data()
  {
    QTest::addColumn<double>("size");
    QTest::newRow("coarse") << 0.01;
    QTest::newRow("middle") << 0.005;
    QTest::newRow("fine") << 0.003;
  }
  void anOrthotropicBlockWithTurnedAxes()
  {
    // Manufactured: T = 400 + 2e4 (x² + x y − z²/2); q = −K : ∇∇T, held exactly on all faces.
    QFETCH(double, size);
    Project p = projectWith(size);
    p.materials = {material("wood", 4)};
    p.materials[0].conductivityY = Property{1, {}};
    p.materials[0].conductivityZ = Property{0.25, {}};
    p.parts = {part("log", "wood", block(0.06, 0.05, 0.04), {0, 0, -0.02})};
    p.parts[0].materialAxes = {number(0.4), number(-0.3), number(0.9)};
    const Eigen::Matrix3d k = Conductivity(p.materials[0], p.parts[0]).at(300);
    Eigen::Matrix3d second;
    second << 2, 1, 0, 1, 0, 0, 0, 0, -1;
    second *= 2e4;
    p.sources = {source("q", PartDensity{{"log"}, number(-(k.cwiseProduct(second)).sum())})};
    p.surfaces = {exposedOf("all", {"log"})};
    p.boundaries = {boundary("held", FixedSurface{"all", number(0)})};
    QVERIFY(setField(p, "held.temperature", "400 K + 20000 K*((x/(1 m))^2 + x*y/(1 m)^2 - (z/(1 m))^2/2)"));
    const CaseResult result = solve(p);
    const double error = largestError(
        result, [](const Vec3& r) { return 400 + 2e4 * (r.x() * r.x() + r.x() * r.y() - r.z() * r.z() / 2); });
    qInfo("%zu tets", result.mesh.tets.size());
    errors_.push_back(
        {std::cbrt(1.0 / static_cast<double>(result.mesh.tets.size())), rootMeanSquare(result, [](const Vec3& r) {
           return 400 + 2e4 * (r.x() * r.x() + r.x() * r.y() - r.z() * r.z() / 2);
         })});
    QVERIFY2(error < 1.5, qPrintable(QString::number(error)));
    if (errors_.size() == 3) {
      const double order =
          std::log(errors_[0].second / errors_[2].second) / std::log(errors_[0].first / errors_[2].first);
      QVERIFY2(order > 1.5, qPrintable(QString::number(order)));
      qInfo("order %.2f, errors %.3g %.3g %.3g K", order, errors_[0].second, errors_[1].second, errors_[2].second);
    }
  }

  void turningAxesWithThePartChangesNothing()
  {
    Project p = twoBlocks();
    p.materials[1].conductivityZ = Property{0.2, {}};
    p.watches = {watch("hot", PartFigure{PartFigure::Kind::Coldest, {"high"}})};
    p.surfaces[1] = surface("top", {"high.top"});
    const double upright = valueOf(p, solve(p), "hot");
    for (Part& one : p.parts) { // the whole stack laid on its side
      one.shape.placement.rotation.y = number(M_PI / 2);
      one.shape.placement.position = {one.shape.placement.position.z, number(0), number(0)};
    }
    QVERIFY(std::abs(valueOf(p, solve(p), "hot") - upright) < 0.05);
  }

  void tangentsMatchDifferences_data()
  {
    QTest::addColumn<int>("kind");
    QTest::newRow("k(T)") << 0;
    QTest::newRow("k(T), orthotropic") << 1;
    QTest::newRow("h(T)") << 2;
    QTest::newRow("correlation") << 3;
    QTest::newRow("gap radiation") << 4;
    QTest::newRow("everything") << 5;
  }
  void tangentsMatchDifferences()
  {
    QFETCH(int, kind);
    Project p = twoBlocks();
    const auto with = [&](int which) { return kind == which || kind == 5; };
    if (with(0))
      p.materials[0].conductivity = table({{300, 1}, {900, 3}});
    if (with(1)) {
      p.materials[1].conductivity = table({{300, 2}, {900, 1}});
      p.materials[1].conductivityY = table({{300, 0.5}, {900, 0.9}});
      p.parts[1].materialAxes = {number(0.3), number(0.5), number(0.1)};
    }
    if (with(2))
      std::get<Convection>(p.boundaries[1].condition).coefficient = table({{300, 5}, {900, 25}});
    if (kind == 3) {
      CorrelatedConvection air;
      air.surface = "top";
      air.size = number(0.05);
      air.ambient = number(300);
      p.boundaries[1].condition = air;
    }
    if (with(4))
      p.contacts = {contact("low", "high", Gap{number(0.001), number(0.03), number(0.8), number(0.6)})};
    const double error = tangentError(p);
    QVERIFY2(error < (kind == 3 ? 2e-3 : 1e-6), qPrintable(QString::number(error))); // a curve has corners
  }

  void aGapRadiatesBetweenItsSides()
  {
    // Two isothermal plates: q = k/d (Ta − Tb) + σ (Ta⁴ − Tb⁴)/(1/ε₁ + 1/ε₂ − 1).
    Project p = twoBlocks();
    p.surfaces[1] = surface("top", {"high.top"});
    p.materials = {material("a", 1e4), material("b", 1e4)};
    p.boundaries = {boundary("hot", FixedSurface{"foot", number(900)}),
                    boundary("cold", FixedSurface{"top", number(400)})};
    p.contacts = {contact("low", "high", Gap{number(0.002), number(0.04), number(0.8), number(0.5)})};
    const double flux =
        0.04 / 0.002 * 500 + 5.670374419e-8 * (std::pow(900, 4) - std::pow(400, 4)) / (1 / 0.8 + 1 / 0.5 - 1);
    const CaseResult result = solve(p);
    QVERIFY(std::abs(wattsOf(result.boundaries, "hot") / (flux * 0.05 * 0.05) - 1) < 1e-3);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void coefficientsAndFluxesVaryInPlace()
  {
    // A perfect conductor: one temperature from ∫h (T − Ta) = ∫q over the top.
    Project p = projectWith(0.01);
    p.materials = {material("copper", 1e6)};
    p.parts = {part("plate", "copper", block(0.1, 0.1, 0.01))};
    p.surfaces = {surface("top", {"plate.top"}), surface("bottom", {"plate.bottom"})};
    p.boundaries = {boundary("air", Convection{"top", Property{10, {}}, number(300)})};
    p.sources = {source("sun", SurfaceFlux{"bottom", number(1)})};
    QVERIFY(setField(p, "air.coefficient", "10 [W/(m²·K)] * (1 + x/(0.1 m))"));
    QVERIFY(setField(p, "air.ambient", "300 K + 100 K*x/(0.1 m)"));
    QVERIFY(setField(p, "sun.flux", "500 [W/m²] * (1 + (y/(0.05 m))^2)"));
    // ∫h = 10 A; ∫h Ta = 10 A (300 + 100/12); ∫q = 500 A (1 + 1/3).
    const double expected = (10 * (300 + 100.0 / 12) + 500 * 4.0 / 3) / 10;
    p.watches = {watch("mean", PartFigure{PartFigure::Kind::Mean, {"plate"}})};
    const CaseResult result = solve(p);
    QVERIFY2(std::abs(valueOf(p, result, "mean") - expected) <
                 0.15, // nodes of first order exchange by themselves: O(h²)

             qPrintable(QString::number(valueOf(p, result, "mean") - expected)));
    QVERIFY(std::abs(wattsOf(result.sources, "sun") - 500 * 4.0 / 3 * 0.01) < 1e-9);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  /// Given a plate that conducts a million times better than it gives away, when solved, then it has the one
  /// temperature at which what comes in leaves.
  void aPerfectConductorHasOneTemperature_data()
  {
    QTest::addColumn<double>("conductivity");
    QTest::newRow("very good") << 1e6;
    QTest::newRow("perfect, as it were") << 1e7;
  }
  void aPerfectConductorHasOneTemperature()
  {
    QFETCH(double, conductivity);
    Project p = projectWith(0.01);
    p.materials = {material("copper", conductivity)};
    p.parts = {part("plate", "copper", block(0.1, 0.1, 0.01))};
    p.surfaces = {surface("top", {"plate.top"}), surface("bottom", {"plate.bottom"})};
    p.boundaries = {boundary("air", Convection{"top", Property{10, {}}, number(300)})};
    p.sources = {source("sun", SurfaceFlux{"bottom", number(500)})};
    const CaseResult result = solve(p);
    QVERIFY(largestError(result, [](const Vec3&) { return 350.0; }) < 1e-3);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void aBodyThatIsNotModelledTakesHeat()
  {
    Project p = projectWith(0.02);
    p.materials = {material("a", 1)};
    p.parts = {part("bar", "a", block(0.1, 0.02, 0.02))};
    p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
    p.boundaries = {boundary("hot", FixedSurface{"left", number(400)}),
                    boundary("table", BodyContact{"right", number(50), number(300)})};
    const double watts = 100 / (0.1 / 1 + 1.0 / 50) * 0.02 * 0.02;
    QVERIFY(std::abs(wattsOf(solve(p).boundaries, "table") + watts) < 1e-6 * watts);
  }

  void aFinBankAgreesWithTheFinFormula()
  {
    // 12 fins on a base, heated from below through a contact: θ = Q (R_fins + R_base + R_contact + R_heater).
    const double k = 180;
    const double h = 25;
    const double height = 0.03;
    const double thick = 0.001;
    const double depth = 0.05;
    const double width = 0.12;
    const double baseThick = 0.005;
    Project p = projectWith(0.004);
    p.materials = {material("alloy", k), material("heater", 1000)};
    p.parts = {part("sink", "alloy", block(width, depth, baseThick)),
               part("heater", "heater", block(width, depth, 0.002), {0, 0, -0.002})};
    p.parts[0].steps = {join("fins", block(thick, depth, height), {-0.055, 0, baseThick},
                             Row{number(12), {number(0.01), number(0), number(0)}})};
    p.surfaces = {exposedOf("wet", {"sink"}), surface("rim", {"sink.left", "sink.right", "sink.front", "sink.back"})};
    p.surfaces[0].except = {"rim"};
    p.sources = {source("heat", PartPower{{"heater"}, number(60)})};
    p.boundaries = {boundary("air", Convection{"wet", Property{h, {}}, number(300)})};
    p.contacts = {contact("sink", "heater", AreaConductance{number(3000)})};
    p.watches = {watch("mean", PartFigure{PartFigure::Kind::Mean, {"heater"}})};
    const double m = std::sqrt(h * 2 * (thick + depth) / (k * thick * depth));
    // The tip convects: height and half the thickness more.
    const double corrected = height + thick * depth / (2 * (thick + depth));
    const double fin = std::sqrt(h * 2 * (thick + depth) * k * thick * depth) * std::tanh(m * corrected);
    const double conductance = 12 * fin + h * (width - 12 * thick) * depth;
    const double area = width * depth;
    const double theta = 60 * (1 / conductance + baseThick / (k * area) + 1 / (3000 * area) + 0.001 / (1000 * area));
    const CaseResult result = solve(p);
    const double found = valueOf(p, result, "mean") - 300;
    qInfo("fin bank: formula %.3f K, mesh %.3f K", theta, found);
    QVERIFY2(std::abs(found / theta - 1) < 0.02, qPrintable(QString::number(found / theta - 1)));
  }

private:
  std::vector<std::pair<double, double>> errors_;
};

QTEST_APPLESS_MAIN(NonlinearTest)
#include "tst_nonlinear.moc"
