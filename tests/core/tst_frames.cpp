// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The same model seen otherwise: in a mirror, and typed in other units.
#include "TransientProjects.h"
#include "model/Settings.h"

#include <QTest>
#include <cmath>
#include <map>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double side = 0.004; // m, where places are read

/// Two blocks that lie askew, a grain that runs askew, wind from one side, and places to read. Nothing in it is even in
/// x but what \p mirror, −1, turns over.
Project askew(double mirror, int order)
{
  Project p = projectWith(0.005);
  p.mesh.secondOrder = order == 2;
  Material wood = heavy("wood", 2, 700, 1500);
  wood.conductivityY = Property{0.5, ""};
  wood.conductivityZ = Property{0.8, ""};
  p.materials = {wood, heavy("brick", 5, 1900, 900)};
  p.parts = {part("low", "wood", block(0.04, 0.03, 0.01)),
             part("high", "brick", block(0.012, 0.02, 0.02), Vec3(mirror * 0.011, 0.002, 0.01))};
  p.parts[0].materialAxes = {number(0), number(0), number(mirror * 0.5)};
  p.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"}),
                surface("wind", {mirror > 0 ? "low.right" : "low.left"})};
  p.contacts = {contact("low", "high", AreaResistance{number(1e-3)})};
  p.sources = {source("q", SurfaceFlux{"top", Property{20000, ""}})};
  p.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)}),
                  boundary("air", Convection{"wind", Property{200, ""}, Property{290, ""}})};
  const auto place = [&](double x, double y, double z) {
    return PointFigure{{number(mirror * x), number(y), number(z)}};
  };
  p.watches = {watch("near", place(0.011, 0.002, 0.012)), watch("far", place(-0.015, -0.01, 0.008)),
               watch("wind", place(0.019, side, 0.009)), watch("heat", SurfaceHeat{"wind"}),
               watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"high"}})};
  return p;
}

/// A unit that engineers elsewhere type, by quantity.
const std::map<Quantity, std::string>& foreignUnits()
{
  static const std::map<Quantity, std::string> units{
      {Quantity::Length, "in"},
      {Quantity::Temperature, "degF"},
      {Quantity::Power, "kW"},
      {Quantity::HeatFlux, "W/cm2"},
      {Quantity::HeatDensity, "W/cm3"},
      {Quantity::Conductivity, "W/(in.K)"},
      {Quantity::AreaConductance, "W/(cm2.K)"},
      {Quantity::AreaResistance, "cm2.K/W"},
      {Quantity::Density, "g/cm3"},
      {Quantity::SpecificHeat, "kJ/(kg.K)"},
      {Quantity::Angle, "deg"},
      {Quantity::Time, "h"},
  };
  return units;
}

std::string typedIn(const std::string& unit, Quantity quantity, double si)
{
  if (quantity == Quantity::Temperature)
    return plainNumber(si * 9 / 5 - 459.67) + " " + unit;
  return plainNumber(si / parseQuantity("1 " + unit, quantity)->si) + " " + unit;
}

} // namespace

class FramesTest : public QObject
{
  Q_OBJECT

  static void orders()
  {
    QTest::addColumn<int>("order");
    QTest::newRow("first order") << 1;
    QTest::newRow("second order") << 2;
  }

private slots:
  void aMirroredModelHasTheMirroredAnswer_data() { orders(); }
  /// Given a model and its mirror image, grain and all, then places that mirror each other are as warm, within what the
  /// two meshes differ.
  void aMirroredModelHasTheMirroredAnswer()
  {
    QFETCH(int, order);
    const Project here = askew(1, order);
    const Project there = askew(-1, order);
    const CaseResult own = solve(here);
    const CaseResult mirrored = solve(there);
    const double rise = valueOf(here, own, "hottest") - 300;
    for (const char* id : {"near", "far", "wind", "hottest"})
      QVERIFY2(
          std::abs(valueOf(here, own, id) - valueOf(there, mirrored, id)) < 0.01 * rise,
          qPrintable(QString("%1: %2 and %3").arg(id).arg(valueOf(here, own, id)).arg(valueOf(there, mirrored, id))));
    QVERIFY(std::abs(valueOf(here, own, "heat") / valueOf(there, mirrored, "heat") - 1) < 0.01);
    // The model is askew: its own answer at the mirrored place is another.
    Project crossed = here;
    crossed.watches = {watch("wind", PointFigure{{number(-0.019), number(side), number(0.009)}})};
    QVERIFY(std::abs(valueOf(crossed, own, "wind") - valueOf(here, own, "wind")) > 0.02 * rise);
  }

  void aTurnedGrainThatIsNotMirroredTellsApart()
  {
    Project there = askew(-1, 1);
    there.parts[0].materialAxes = {number(0), number(0), number(0.5)}; // forgotten
    const Project here = askew(1, 1);
    const double rise = valueOf(here, solve(here), "hottest") - 300;
    QVERIFY(std::abs(valueOf(here, solve(here), "far") - valueOf(there, solve(there), "far")) > 1e-4 * rise);
  }

  void numbersTypedInOtherUnitsGiveTheSame_data() { orders(); }
  /// Given every number of the model typed anew in another unit, then the answer is the same to rounding.
  void numbersTypedInOtherUnitsGiveTheSame()
  {
    QFETCH(int, order);
    const Project metric = askew(1, order);
    Project foreign = metric;
    std::set<Quantity> used;
    std::vector<std::pair<std::string, std::string>> typed;
    for (const Field& field : fields(foreign))
      if (const auto unit = foreignUnits().find(field.quantity);
          unit != foreignUnits().end() && field.value() != nullptr && field.table() == nullptr) {
        typed.emplace_back(field.path, typedIn(unit->second, field.quantity, field.value()->si));
        used.insert(field.quantity);
      }
    for (const auto& [path, text] : typed) {
      const auto set = setField(foreign, path, text);
      QVERIFY2(set,
               qPrintable(QString::fromStdString(path + " = " + text + ": " + (set ? "" : set.error().sentence()))));
    }
    QVERIFY2(used.size() >= 8, qPrintable(QString::number(used.size())));
    QVERIFY(typed.size() > 40);
    const CaseResult own = solve(metric);
    const CaseResult other = solve(foreign);
    QCOMPARE(own.mesh.tets.size(), other.mesh.tets.size());
    for (const Watch& watched : metric.watches) {
      const double a = valueOf(metric, own, watched.id);
      const double b = valueOf(foreign, other, watched.id);
      QVERIFY2(std::abs(a - b) < 1e-7 * std::abs(a),
               qPrintable(QString("%1 and %2").arg(a, 0, 'g', 12).arg(b, 0, 'g', 12)));
    }
  }
};

QTEST_APPLESS_MAIN(FramesTest)
#include "tst_frames.moc"
