// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Thin conducting layers: against the fin formula, a meshed plate, Kirchhoff's transform and a lumped exponential.
#include "TransientProjects.h"
#include "geometry/SheetFromPart.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double length = 0.1, width = 0.01; // m
constexpr double thickness = 0.0005;         // m
constexpr double conductivity = 200;         // W/(m·K)

/// A strip of next to nothing under a sheet, held warm at its left end.
Project strip(Property sheetConductivity)
{
  Project p = projectWith(0.002);
  Material foil = material("foil", conductivity);
  foil.conductivity = std::move(sheetConductivity);
  p.materials = {material("nothing", 1e-4), foil};
  p.parts = {part("strip", "nothing", block(length, width, 0.002))};
  p.surfaces = {surface("left", {"strip.left"}), surface("right", {"strip.right"}), surface("top", {"strip.top"})};
  p.boundaries = {boundary("base", FixedSurface{"left", number(400)}),
                  boundary("layer", Sheet{"top", "foil", number(thickness)})};
  p.watches = {watch("tip", SurfaceFigure{PartFigure::Kind::Mean, "right"}),
               watch("middle", PointFigure{{{0, {}}, {0, {}}, {0.002, {}}}})};
  return p;
}

double read(const Project& p, const CaseResult& result, std::size_t index)
{
  return readWatches(p, result)[index].value.value();
}

} // namespace

class TestSheets : public QObject
{
  Q_OBJECT

private slots:
  /// T − T_a = 100 cosh(m (L − x))/cosh(m L), m² = h/(k δ); heat at the base k δ w m 100 tanh(m L).
  void sheetAsAFin()
  {
    Project p = strip(Property{conductivity, ""});
    constexpr double h = 20;
    p.boundaries.push_back(boundary("air", Convection{"top", Property{h, ""}, Property{300, ""}}));
    const CaseResult result = solve(p);
    const double m = std::sqrt(h / (conductivity * thickness));
    const double middle = 300 + 100 * std::cosh(m * length / 2) / std::cosh(m * length);
    QVERIFY2(std::abs(read(p, result, 1) - middle) < 0.05, qPrintable(QString::number(read(p, result, 1) - middle)));
    const double heat = conductivity * thickness * width * m * 100 * std::tanh(m * length);
    double base = 0;
    for (const LedgerFlow& flow : result.boundaries)
      base += flow.id == "base" ? flow.watts : 0;
    QVERIFY2(std::abs(base / heat - 1) < 2e-3, qPrintable(QString("%1, not %2 W").arg(base).arg(heat)));
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  /// Both ends held and k(T) = 100 (1 + 0.01 (T − 300)): the middle is where the integral of k is halved.
  void sheetWithKOfT()
  {
    Project p = strip(table({{250, 50}, {300, 100}, {400, 200}, {500, 300}}));
    p.boundaries.push_back(boundary("cold", FixedSurface{"right", number(300)}));
    const CaseResult result = solve(p);
    const double exact = 200 + std::sqrt((200.0 * 200 + 100 * 100) / 2); // T² about 200 K is linear in x
    QVERIFY2(std::abs(read(p, result, 1) - exact) < 0.1, qPrintable(QString::number(read(p, result, 1) - exact)));
  }

  /// A 2 mm plate on insulation with a warm spot: meshed with three elements through, and as a sheet.
  void sheetAgainstAMeshedPlate()
  {
    const auto made = [](bool asSheet) {
      Project p = projectWith(0.003);
      p.materials = {material("wool", 0.1), material("steel", 45)};
      p.parts = {part("wool", "wool", block(0.06, 0.06, 0.012)),
                 part("plate", "steel", block(0.06, 0.06, 0.002), Vec3(0, 0, 0.012)),
                 part("chip", "steel", block(0.01, 0.01, 0.004), Vec3(0, 0, asSheet ? 0.012 : 0.014))};
      p.parts[1].meshSize = number(0.0007);
      p.surfaces = {surface("under", {"wool.bottom"}), surface("over", {"plate.top"}), surface("skin", {"wool.top"})};
      p.sources = {source("heat", PartPower{{"chip"}, Property{4, ""}})};
      p.boundaries = {boundary("air", Convection{asSheet ? "skin" : "over", Property{15, ""}, Property{300, ""}}),
                      boundary("bench", Convection{"under", Property{10, ""}, Property{300, ""}})};
      if (asSheet) {
        p.parts.erase(p.parts.begin() + 1);
        p.surfaces.erase(p.surfaces.begin() + 1);
        p.boundaries.push_back(boundary("layer", Sheet{"skin", "steel", number(0.002)}));
      }
      p.watches = {watch("corner", PointFigure{{{0.029, {}}, {0.029, {}}, {0.0119, {}}}}),
                   watch("chip", PartFigure{PartFigure::Kind::Hottest, {"chip"}})};
      return p;
    };
    const Project solid = made(false);
    const Project thin = made(true);
    const CaseResult fine = solve(solid);
    const CaseResult sheet = solve(thin);
    for (std::size_t i = 0; i < 2; ++i) {
      const double a = read(solid, fine, i);
      const double b = read(thin, sheet, i);
      QVERIFY2(std::abs(b - a) < 0.02 * (a - 300), qPrintable(QString("%1, not %2").arg(b).arg(a)));
    }
  }

  /// One action: the plate goes, its sheet, air, heat and watch lie on the wool; the answer stays.
  void aThinPartBecomesASheet()
  {
    Project p = projectWith(0.003);
    p.materials = {material("wool", 0.1), material("steel", 45)};
    p.parts = {part("wool", "wool", block(0.06, 0.06, 0.012)),
               part("plate", "steel", block(0.06, 0.06, 0.001), Vec3(0, 0, 0.012))};
    p.parts[1].meshSize = number(0.0007);
    p.surfaces = {surface("under", {"wool.bottom"}), surface("skin", {"plate.top"})};
    p.sources = {source("heat", PartPower{{"plate"}, Property{4, ""}})};
    p.boundaries = {boundary("air", Convection{"skin", Property{15, ""}, Property{300, ""}}),
                    boundary("bench", Convection{"under", Property{10, ""}, Property{300, ""}})};
    p.watches = {watch("plate", PartFigure{PartFigure::Kind::Mean, {"plate"}})};
    const CaseResult solid = solve(p);
    const auto thin = sheetFromPart(p, solid.mesh.geometry, "plate");
    QVERIFY2(thin.has_value(), thin ? "" : thin.error().sentence().c_str());
    QCOMPARE(thin->parts.size(), 1UL);
    const Sheet& sheet = std::get<Sheet>(thin->boundaries.back().condition);
    QVERIFY(std::abs(sheet.thickness.si - 0.001) < 1e-9);
    QCOMPARE(sheet.material, std::string("steel"));
    const CaseResult result = solve(*thin);
    const double a = read(p, solid, 0);
    const double b = read(*thin, result, 0);
    QVERIFY2(std::abs(b - a) < 0.02 * (a - 300), qPrintable(QString("%1, not %2").arg(b).arg(a)));
    const auto thick = sheetFromPart(p, solid.mesh.geometry, "wool");
    QVERIFY(!thick && thick.error().sentence().find("not a thin layer") != std::string::npos);
  }

  /// A sheet over a resistance: a slab, the resistance beneath the sheet and the air in series, both orders; what is
  /// set on the surface acts on the sheet, whose temperature the surface has.
  void aSheetOverAResistance()
  {
    constexpr double k = 2, length = 0.02, through = 0.03, h = 12, flux = 150;
    Project p = projectWith(0.008);
    p.materials = {heavy("slab", k, 2000, 800), heavy("foil", 200, 2700, 900)};
    p.parts = {part("slab", "slab", block(0.03, 0.03, length))};
    p.surfaces = {surface("top", {"slab.top"}), surface("base", {"slab.bottom"})};
    Sheet sheet{"top", "foil", number(0.0005)};
    sheet.through = number(through);
    p.boundaries = {boundary("hot", FixedSurface{"base", number(400)}), boundary("foil", sheet),
                    boundary("air", Convection{"top", number(h), number(300)})};
    p.sources = {source("lamp", SurfaceFlux{"top", number(flux)})};
    p.watches = {watch("skin", SurfaceFigure{PartFigure::Kind::Mean, "top"}),
                 watch("cool", PartFigure{PartFigure::Kind::Coldest, {"slab"}})};
    // h (T − 300) = flux + (400 − T)/R
    const double resistance = length / k + through;
    const double skin = (h * 300 + flux + 400 / resistance) / (h + 1 / resistance);
    const double beneath = 400 - (400 - skin) * (length / k) / resistance;
    for (const bool quadratic : {false, true}) {
      p.mesh.secondOrder = quadratic;
      const CaseResult result = solve(p);
      QVERIFY2(std::abs(valueOf(p, result, "skin") - skin) < 1e-7,
               qPrintable(QString::number(valueOf(p, result, "skin"))));
      QVERIFY(std::abs(valueOf(p, result, "cool") - beneath) < 1e-7);
      QVERIFY(result.relativeImbalance() < 1e-9);
      QVERIFY(std::abs(wattsOf(result.boundaries, "hot") - (400 - skin) / resistance * 9e-4) < 1e-9);
    }
    // In time: the foil alone answers within seconds, R C = 0.03 · 2700 · 900 · 0.0005.
    p.mesh.secondOrder = false;
    p.sources.clear();
    std::get<Convection>(p.boundaries[2].condition).coefficient = Property{1e-6, {}};
    inTime(p, 400, 60);
    p.cases[0].run->tolerance = number(0.005);
    p.boundaries.erase(p.boundaries.begin());
    p.sources = {source("lamp", SurfaceFlux{"top", number(1000)})};
    const Ran ran = run(p);
    const double tau = through * 2700 * 900 * 0.0005;
    const double rise = 1000 * through * (1 - std::exp(-60 / tau));
    const double slabRise = 1000 * 60 / (2000 * 800 * length); // all of it, in the end
    QVERIFY2(std::abs(valueOf(p, ran.result, "skin") - 400 - rise) < slabRise + 0.5,
             qPrintable(QString::number(valueOf(p, ran.result, "skin"))));
    QVERIFY(ran.result.relativeImbalance() < 1e-6);
  }

  /// A sheet adds its own mass: the time constant of a lump grows by ρ c δ A.
  void sheetStoresHeat()
  {
    Project p = lump(400, 150);
    p.materials.push_back(heavy("coat", 400, 8000, 500));
    constexpr double coat = 0.001;
    p.boundaries.push_back(boundary("layer", Sheet{"skin", "coat", number(coat)}));
    p.cases.front().run->tolerance = number(0.01);
    const Ran ran = run(p);
    const double area = 6 * 4e-4;
    const double grown = 100 * (1 + 8000 * 500 * coat * area / (9000 * 400 * 8e-6));
    for (const double t : {50.0, 150.0}) {
      const double exact = 300 + 100 * std::exp(-t / grown);
      QVERIFY2(std::abs(valueAt(ran.record, "t", t) - exact) < 0.1,
               qPrintable(QString::number(valueAt(ran.record, "t", t) - exact)));
    }
    QVERIFY(ran.record.imbalance < 1e-6);
  }

  void whatASheetLacksIsSaid()
  {
    Project p = lump(400, 150);
    p.boundaries.push_back(boundary("layer", Sheet{"skin", "", number(0.001)}));
    using enum Finding::Severity;
    QVERIFY(mentions(*checkProject(p), Error, {"boundary layer", "material"}));
    std::get<Sheet>(p.boundaries.back().condition).material = "bare";
    p.materials.push_back(material("bare", 10));
    QVERIFY(mentions(*checkProject(p), Error, {"sheet layer", "lacks density"}));
    p.boundaries.back().from = number(10);
    QVERIFY(mentions(*checkProject(p), Error, {"sheet layer", "always"}));
    // Alone on a surface it lets nothing out: the faces still count as insulated.
    Project alone = lump(400, 150);
    alone.materials.push_back(heavy("coat", 400, 8000, 500));
    alone.boundaries = {boundary("layer", Sheet{"skin", "coat", number(0.001)})};
    QVERIFY(mentions(*checkProject(alone), Hint, {"part lump", "insulated only by default"}));
  }
};

QTEST_APPLESS_MAIN(TestSheets)
#include "tst_sheets.moc"
