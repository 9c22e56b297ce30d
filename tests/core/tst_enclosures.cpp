// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Radiation between surfaces that see each other: view factors and exchange against their formulas.
#include "TangentCheck.h"
#include "TestProjects.h"
#include "heat/radiation/EnclosureExchange.h"
#include "io/AtomicFile.h"
#include "io/Hdf5.h"
#include "io/ViewFactorStore.h"
#include "mesh/Patches.h"

#include <QTest>
#include <cmath>
#include <numbers>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double sigma = 5.670374419e-8; // W/(m²·K⁴)

Enclosure enclosure(std::vector<std::string> surfaces, std::optional<double> opening = std::nullopt)
{
  Enclosure e;
  e.id = e.name = "space";
  e.surfaces = std::move(surfaces);
  if (opening)
    e.opening = number(*opening);
  return e;
}

Finish finish(const std::string& id, double emissivity, std::vector<std::string> surfaces)
{
  Finish f;
  f.id = f.name = id;
  f.emissivity = number(emissivity);
  f.surfaces = std::move(surfaces);
  return f;
}

Boundary held(const std::string& part, double kelvin)
{
  return boundary("held-" + part, FixedPart{part, number(kelvin)});
}

/// A block of a small thickness whose one face looks at another's.
Project plates(double width, double depth, double gap, double opening)
{
  constexpr double thick = 0.01;
  Project p = projectWith(0.02);
  p.materials = {material("metal", 100)};
  p.parts = {part("low", "metal", block(width, depth, thick), {0, 0, -thick}),
             part("high", "metal", block(width, depth, thick), {0, 0, gap})};
  p.surfaces = {surface("a", {"low.top"}), surface("b", {"high.bottom"})};
  p.finishes = {finish("black", 1, {"a", "b"})};
  p.enclosures = {enclosure({"a", "b"}, opening)};
  p.boundaries = {held("low", 800), held("high", 400)};
  return p;
}

const EnclosureFigure& space(const CaseResult& result) { return result.enclosures.front(); }

/// View factor of two equal rectangles that face each other at a distance; any heat-transfer text.
double facingRectangles(double width, double depth, double gap)
{
  const double x = width / gap;
  const double y = depth / gap;
  const double x1 = std::sqrt(1 + x * x);
  const double y1 = std::sqrt(1 + y * y);
  return 2 / (std::numbers::pi * x * y) *
         (std::log(x1 * y1 / std::sqrt(1 + x * x + y * y)) + x * y1 * std::atan(x / y1) + y * x1 * std::atan(y / x1) -
          x * std::atan(x) - y * std::atan(y));
}

/// View factor of a floor (width × depth) to a wall (width × height) that meet along the width.
double floorToWall(double width, double depth, double height)
{
  const double h = height / width;
  const double w = depth / width;
  const double hw = std::sqrt(h * h + w * w);
  const double a = (1 + w * w) * (1 + h * h) / (1 + w * w + h * h);
  const double b = std::pow(w * w * (1 + w * w + h * h) / ((1 + w * w) * (w * w + h * h)), w * w);
  const double c = std::pow(h * h * (1 + h * h + w * w) / ((1 + h * h) * (h * h + w * w)), h * h);
  return 1 / (std::numbers::pi * w) *
         (w * std::atan(1 / w) + h * std::atan(1 / h) - hw * std::atan(1 / hw) + 0.25 * std::log(a * b * c));
}

/// A closed hollow: walls around a cube of side 0.1, its six sides 0.02 thick, one part.
Part hollow()
{
  Part box = part("box", "metal", block(0.14, 0.14, 0.14));
  box.steps = {cut("room", block(0.1, 0.1, 0.1), {0, 0, 0.02})};
  return box;
}

} // namespace

class EnclosureTest : public QObject
{
  Q_OBJECT

private slots:
  void facingPlatesExchangeByTheirFormula()
  {
    const double width = 0.2;
    const double depth = 0.3;
    const double gap = 0.15;
    const Project p = plates(width, depth, gap, 0);
    const CaseResult result = solve(p);
    const double area = width * depth;
    const double f = facingRectangles(width, depth, gap);
    const double exchanged = sigma * area * f * (std::pow(800, 4) - std::pow(400, 4));
    QCOMPARE(space(result).exchanges.size(), std::size_t{1});
    const double obtained = space(result).exchanges[0].watts;
    QVERIFY2(std::abs(obtained / exchanged - 1) < 2e-3, qPrintable(QString::number(obtained / exchanged - 1)));
    // What misses the other plate leaves through the opening at 0 K.
    const double lost = sigma * area * (1 - f) * (std::pow(800, 4) + std::pow(400, 4));
    QVERIFY(std::abs(-space(result).opening / lost - 1) < 2e-3);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  void aFloorSeesAWallByItsFormula()
  {
    const double width = 0.2;
    const double depth = 0.15;
    const double height = 0.25;
    constexpr double thick = 0.01;
    Project p = projectWith(0.02);
    p.materials = {material("metal", 100)};
    p.parts = {part("floor", "metal", block(width, depth, thick), {0, depth / 2, -thick}),
               part("wall", "metal", block(width, thick, height), {0, -thick / 2, 0})};
    p.surfaces = {surface("a", {"floor.top"}), surface("b", {"wall.back"})};
    p.finishes = {finish("black", 1, {"a", "b"})};
    p.enclosures = {enclosure({"a", "b"}, 0)};
    p.boundaries = {held("floor", 900), held("wall", 300)};
    const CaseResult result = solve(p);
    const double exact =
        sigma * width * depth * floorToWall(width, depth, height) * (std::pow(900, 4) - std::pow(300, 4));
    const double obtained = space(result).exchanges[0].watts; // from the floor, the first part
    QVERIFY2(std::abs(obtained / exact - 1) < 5e-3, qPrintable(QString::number(obtained / exact - 1)));
  }

  void concentricSpheresExchangeByTheirFormula()
  {
    const double inner = 0.03;
    const double outer = 0.06;
    const double e1 = 0.7;
    const double e2 = 0.4;
    Project p = projectWith(0.008);
    p.materials = {material("metal", 100)};
    Part shell = part("shell", "metal", Sphere{number(0.07)});
    shell.steps = {cut("room", Sphere{number(outer)})};
    p.parts = {part("ball", "metal", Sphere{number(inner)}), shell};
    p.surfaces = {exposedOf("a", {"ball"}), surface("b", {"shell.room.*"})};
    p.finishes = {finish("one", e1, {"a"}), finish("two", e2, {"b"})};
    p.enclosures = {enclosure({"a", "b"})};
    p.boundaries = {held("ball", 1000), held("shell", 500)};
    const CaseResult result = solve(p);
    const double area = 4 * std::numbers::pi * inner * inner;
    const double exact =
        sigma * area * (std::pow(1000, 4) - std::pow(500, 4)) / (1 / e1 + (1 - e2) / e2 * std::pow(inner / outer, 2));
    const double obtained = wattsOf(result.boundaries, "held-ball");
    QVERIFY2(std::abs(obtained / exact - 1) < 3e-3, qPrintable(QString::number(obtained / exact - 1)));
    QVERIFY(space(result).escaped < 1e-3);
    QVERIFY(result.relativeImbalance() < 1e-9);
  }

  void aClosedSpaceOfOneTemperatureExchangesNothing()
  {
    Project p = projectWith(0.02);
    p.materials = {material("metal", 100)};
    p.parts = {hollow()};
    p.surfaces = {surface("walls", {"box.room.*"})};
    p.finishes = {finish("grey", 0.6, {"walls"})};
    p.enclosures = {enclosure({"walls"})};
    p.boundaries = {held("box", 1200)};
    const CaseResult result = solve(p);
    const double blackWall = sigma * std::pow(1200, 4) * 0.01; // W, of one wall
    QCOMPARE(space(result).surfaces.size(), std::size_t{1});
    QVERIFY(std::abs(space(result).surfaces[0].watts) <= 1e-9 * blackWall);
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    QVERIFY(conditions.has_value());
    const EnclosureExchange& exchange = *flowsOf<EnclosureExchange>(conditions->flows).front();
    const std::vector<double> even(static_cast<std::size_t>(conditions->unknowns.count), 1200.0);
    const Eigen::VectorXd net = exchange.received(exchange.light(conditions->unknowns, even));
    for (Eigen::Index i = 0; i < net.size(); ++i)
      QVERIFY(std::abs(net[i]) <= 1e-9 * sigma * std::pow(1200, 4) * exchange.factors().area[i]);
  }

  void aShieldBetweenPlatesHalvesTheExchange()
  {
    // Plates 1 mm apart around a thin shield of the same emissivity: nearly all of their view.
    constexpr double e = 0.8;
    constexpr double side = 0.2;
    constexpr double gap = 0.001;
    Project p = plates(side, side, 2 * gap + 0.001, 0);
    p.finishes = {finish("grey", e, {"a", "b"})};
    const auto exchanged = [](const Project& project) {
      const CaseResult result = solve(project);
      return -wattsOf(result.boundaries, "held-high");
    };
    p.enclosures[0].opening = number(400); // what little passes the rim meets the cold side's temperature
    const double bare = exchanged(p);
    Project shielded = p;
    shielded.parts.push_back(part("shield", "metal", block(side, side, 0.001), {0, 0, gap}));
    shielded.surfaces.push_back(exposedOf("s", {"shield"}));
    shielded.finishes[0].surfaces.push_back("s");
    shielded.enclosures[0].surfaces.push_back("s");
    const double ratio = exchanged(shielded) / bare;
    QVERIFY2(std::abs(ratio - 0.5) < 0.015, qPrintable(QString::number(ratio)));
  }

  void theTangentIsThatOfTheBalance()
  {
    Project p = plates(0.1, 0.1, 0.04, 350);
    p.finishes = {finish("grey", 0.5, {"a"}), finish("dark", 0.9, {"b"})};
    p.boundaries = {boundary("air", Convection{"a", Property{5, {}}, number(300)})};
    QVERIFY(tangentError(p) < 1e-6);
  }

  void aHeatedBallInAChamberSettlesFromCold()
  {
    // A ball heated by 200 W hangs in a box whose outside is cooled: all its heat crosses by radiation.
    Project p = projectWith(0.02);
    p.materials = {material("metal", 30)};
    p.parts = {hollow(), part("ball", "metal", Sphere{number(0.02)}, {0, 0, 0.07})};
    p.surfaces = {surface("walls", {"box.room.*"}), exposedOf("ball", {"ball"}),
                  exposedOf("outside", {"box"}, {"walls"})};
    p.finishes = {finish("grey", 0.8, {"walls", "ball"})};
    p.enclosures = {enclosure({"walls", "ball"})};
    p.sources = {source("heat", PartPower{{"ball"}, number(200)})};
    p.boundaries = {boundary("air", Convection{"outside", Property{20, {}}, number(300)})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(space(result).surfaces[0].watts - 200) < 1e-4);
    QVERIFY(std::abs(space(result).surfaces[1].watts + 200) < 1e-4);
    QVERIFY(result.relativeImbalance() < 1e-7);
    // Small body in a large space: σ ε' A (T⁴ − T_w⁴) with the walls' reflections, walls nearly even.
    double wall = 0;
    double ball = 0;
    for (const PartFigures& figure : partFigures(result))
      (figure.id == "ball" ? ball : wall) = figure.mean;
    const double area = 4 * std::numbers::pi * 0.02 * 0.02;
    const double exact = std::pow(200 / (sigma * area) * (1 / 0.8 + 0.25 * area / 0.06) + std::pow(wall, 4), 0.25);
    QVERIFY2(std::abs(ball - exact) < 15, qPrintable(QString("%1 %2").arg(ball).arg(exact)));
    QVERIFY2(result.info.newtonSteps < 25, qPrintable(QString::number(result.info.newtonSteps)));
  }

  void viewFactorsAreKeptAndADamagedStoreIsCastAnew()
  {
    const Project p = plates(0.2, 0.2, 0.1, 300);
    const Mesh mesh = meshOf(p);
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    int casts = 0;
    const auto count = [&](std::string_view, double, std::string_view message) {
      casts += message == "casting rays for view factors" ? 1 : 0;
    };
    const auto exchangeOf = [&](const Project& project) {
      const auto conditions = resolveConditions(project, mesh, storedViewFactors(path, 1, count));
      if (!conditions)
        throw std::runtime_error(conditions.error().sentence());
      const ViewFactors& factors = flowsOf<EnclosureExchange>(conditions->flows).front()->factors();
      return std::pair(Eigen::MatrixXf(factors.exchange), factors.self);
    };
    const auto first = exchangeOf(p);
    QCOMPARE(casts, 1);
    Project changed = p; // neither an emissivity nor a temperature casts rays again
    changed.finishes[0].emissivity = number(0.3);
    changed.boundaries[0] = held("low", 700);
    QVERIFY(exchangeOf(changed) == first);
    QCOMPARE(casts, 1);
    for (const auto& entry : std::filesystem::directory_iterator(path))
      std::filesystem::resize_file(entry.path(), std::filesystem::file_size(entry.path()) / 2);
    QVERIFY(exchangeOf(p) == first);
    QCOMPARE(casts, 2);
    QVERIFY(exchangeOf(p) == first); // and it is whole again
    QCOMPARE(casts, 2);
    changed.enclosures[0].rays = number(500);
    (void)exchangeOf(changed);
    QCOMPARE(casts, 3);
  }

  void aStoreOfAnotherVersionIsCastAnewAndOldOnesAreCleared()
  {
    const Project p = plates(0.2, 0.2, 0.1, 300);
    const Mesh mesh = meshOf(p);
    const QTemporaryDir folder;
    const std::filesystem::path path = folder.path().toStdString();
    const auto casts = [&](const Project& project) {
      int count = 0;
      const auto conditions = resolveConditions(
          project, mesh, storedViewFactors(path, 1, [&](std::string_view, double, std::string_view message) {
            count += message == "casting rays for view factors" ? 1 : 0;
          }));
      return conditions ? count : -1;
    };
    QCOMPARE(casts(p), 1);
    std::filesystem::path file;
    for (const auto& entry : std::filesystem::directory_iterator(path))
      if (entry.path().extension() == ".h5")
        file = entry.path();
    {
      auto reader = Hdf5Reader::open(file);
      QVERIFY(reader.has_value());
      Hdf5Writer writer;
      for (const char* name : {"/exchange/rowStart", "/exchange/columns"})
        writer.write(name, reader->integers(name));
      for (const char* name : {"/self", "/area", "/opening"})
        writer.write(name, reader->doubles(name));
      writer.write("/exchange/values", reader->floats("/exchange/values"));
      std::string about = reader->text("/about");
      const std::string key = "\"layout\":";
      const std::size_t at = about.find(key);
      QVERIFY(at != std::string::npos);
      about[at + key.size()] = '9';
      writer.writeText("/about", about);
      QVERIFY(writeAtomically(file, writer.finish()).has_value());
    }
    QCOMPARE(casts(p), 1);
    QCOMPARE(casts(p), 0);
    for (int i = 0; i < 20; ++i) {
      Project other = p;
      other.enclosures[0].rays = number(100 + i);
      QCOMPARE(casts(other), 1);
    }
    int count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(path))
      count += entry.path().filename().string().starts_with("view-factors-") ? 1 : 0;
    QCOMPARE(count, 12);
  }

  /// Rings that face each other: what the outer one sees of the inner one, by its formula for equal lengths.
  void concentricCylindersSeeEachOtherByTheirFormula()
  {
    const double inner = 0.03;
    const double outer = 0.06;
    const double length = 0.12;
    Project p = projectWith(0.006);
    p.materials = {material("metal", 100)};
    p.parts = {part("rod", "metal", Cylinder{number(inner), number(length)}),
               part("pipe", "metal", Tube{number(0.07), number(outer), number(length)})};
    p.surfaces = {surface("a", {"rod.side"}), surface("b", {"pipe.inside"})};
    p.finishes = {finish("black", 1, {"a", "b"})};
    p.enclosures = {enclosure({"a", "b"}, 0)};
    p.boundaries = {held("rod", 900), held("pipe", 300)};
    const CaseResult result = solve(p);
    const double x = outer / inner;
    const double y = length / inner;
    const double a = x * x + y * y - 1;
    const double b = y * y - x * x + 1;
    const double pi = std::numbers::pi;
    const double toInner =
        1 / x - 1 / (pi * x) *
                    (std::acos(b / a) - 1 / (2 * y) *
                                            (std::sqrt((a + 2) * (a + 2) - 4 * x * x) * std::acos(b / (x * a)) +
                                             b * std::asin(1 / x) - pi * a / 2));
    const double area = 2 * pi * outer * length;
    const double exact = sigma * area * toInner * (std::pow(900, 4) - std::pow(300, 4));
    QCOMPARE(space(result).exchanges.size(), std::size_t{1});
    QVERIFY2(std::abs(space(result).exchanges[0].watts / exact - 1) < 5e-3,
             qPrintable(QString::number(space(result).exchanges[0].watts / exact - 1)));
    // Every part's share of the opening is there, and they make up the whole.
    double out = 0;
    for (const auto& share : space(result).throughOpening)
      out += share.watts;
    QVERIFY(std::abs(out + space(result).opening) < 1e-9 * std::abs(out));
  }

  /// A box that hangs off centre in a box, against rays of the test's own: no patches, no meshes, no ray library.
  void boxesExchangeAsByLongCounting()
  {
    const Vec3 half(0.05, 0.05, 0.05); // of the room
    const Vec3 low(-0.03, -0.02, -0.04);
    const Vec3 high(0.01, 0.03, 0.0);
    Project p = projectWith(0.008);
    p.materials = {material("metal", 100)};
    Part room = part("room", "metal", block(0.14, 0.14, 0.14), {0, 0, -0.07});
    room.steps = {cut("hollow", block(0.1, 0.1, 0.1), {0, 0, 0.02})};
    p.parts = {room, part("box", "metal", block(0.04, 0.05, 0.04), {-0.01, 0.005, -0.04})};
    p.surfaces = {surface("floor", {"room.hollow.bottom"}), surface("rest", {"room.hollow.*"}),
                  exposedOf("inner", {"box"})};
    p.finishes = {finish("black", 1, {"floor", "rest", "inner"})};
    p.enclosures = {enclosure({"floor", "rest", "inner"})};
    p.enclosures[0].patchSize = number(0.012);
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    QVERIFY(conditions.has_value());
    const EnclosureExchange& exchange = *flowsOf<EnclosureExchange>(conditions->flows).front();
    // Shares of what the floor sends out: to the box and to the ceiling, past the box.
    double toBox = 0;
    double toCeiling = 0;
    const auto sort = [&](std::size_t patch) {
      const Face& face = mesh.geometry.faces[static_cast<std::size_t>(exchange.patches().face[patch])];
      const std::string& name = face.names.front();
      return name == "room.hollow.bottom" ? 0 : name == "room.hollow.top" ? 1 : name.starts_with("box.") ? 2 : 3;
    };
    const auto& g = exchange.factors().exchange;
    for (Eigen::Index row = 0; row < g.outerSize(); ++row)
      for (UpperHalf::InnerIterator entry(g, row); entry; ++entry) {
        const int a = sort(static_cast<std::size_t>(row));
        const int b = sort(static_cast<std::size_t>(entry.col()));
        if (std::min(a, b) == 0 && std::max(a, b) == 2)
          toBox += entry.value() / 0.01;
        if (std::min(a, b) == 0 && std::max(a, b) == 1)
          toCeiling += entry.value() / 0.01;
      }
    std::mt19937_64 random(7);
    std::uniform_real_distribution<double> share(0, 1);
    constexpr int rays = 4'000'000;
    int onBox = 0;
    int onCeiling = 0;
    for (int i = 0; i < rays; ++i) {
      const Vec3 from((2 * share(random) - 1) * half.x(), (2 * share(random) - 1) * half.y(), -half.z());
      const double turn = 2 * std::numbers::pi * share(random);
      const double s = share(random);
      const Vec3 along(std::sqrt(s) * std::cos(turn), std::sqrt(s) * std::sin(turn), std::sqrt(1 - s));
      double enters = 0;
      double leaves = 1e300;
      for (Eigen::Index axis = 0; axis < 3; ++axis) {
        const double t1 = (low[axis] - from[axis]) / along[axis];
        const double t2 = (high[axis] - from[axis]) / along[axis];
        enters = std::max(enters, std::min(t1, t2));
        leaves = std::min(leaves, std::max(t1, t2));
      }
      const Vec3 above = from + 2 * half.z() / along.z() * along;
      if (enters < leaves)
        ++onBox;
      else if (std::abs(above.x()) < half.x() && std::abs(above.y()) < half.y())
        ++onCeiling;
    }
    const double countedBox = static_cast<double>(onBox) / rays; // ± 2.4e-4 at most
    const double countedCeiling = static_cast<double>(onCeiling) / rays;
    QVERIFY2(std::abs(toBox - countedBox) < 2e-3, qPrintable(QString("%1 %2").arg(toBox).arg(countedBox)));
    QVERIFY2(std::abs(toCeiling - countedCeiling) < 2e-3,
             qPrintable(QString("%1 %2").arg(toCeiling).arg(countedCeiling)));
  }

  /// Neither how patches are numbered nor how the model lies changes its temperatures.
  void numberingAndRotationDoNotMatter()
  {
    const auto spaceIn = [](double turn, bool backwards) {
      Project p = projectWith(0.015);
      p.materials = {material("metal", 2)};
      Part ball = part("ball", "metal", block(0.03, 0.04, 0.02), {0.01, 0, 0.06});
      Part box = hollow();
      for (Part* one : {&ball, &box}) {
        const Vec3 old(one->shape.placement.position.x.si, one->shape.placement.position.y.si,
                       one->shape.placement.position.z.si);
        const Vec3 turned = Eigen::AngleAxisd(turn, Vec3::UnitX()) * old;
        one->shape.placement.position = {number(turned.x()), number(turned.y()), number(turned.z())};
        one->shape.placement.rotation.x = number(turn);
      }
      p.parts = {box, ball};
      p.surfaces = {surface("walls", {"box.room.*"}), exposedOf("ball", {"ball"}),
                    exposedOf("outside", {"box"}, {"walls"})};
      p.finishes = {finish("grey", 0.7, {"walls", "ball"})};
      p.enclosures = {backwards ? enclosure({"ball", "walls"}) : enclosure({"walls", "ball"})};
      p.sources = {source("heat", PartPower{{"ball"}, number(100)})};
      p.boundaries = {boundary("air", Convection{"outside", Property{20, {}}, number(300)})};
      // The skin, which the enclosure decides: where nodes lie inside is another matter in a turned model.
      p.watches = {watch("hot", SurfaceFigure{PartFigure::Kind::Mean, "ball"})};
      return p;
    };
    const auto warmth = [&](double turn, bool backwards) {
      const Project p = spaceIn(turn, backwards);
      return valueOf(p, solve(p), "hot");
    };
    const double straight = warmth(0, false);
    QVERIFY2(std::abs(warmth(0, true) - straight) < 1e-6, qPrintable(QString::number(warmth(0, true) - straight)));
    for (const double turn : {0.3, 1.1})
      QVERIFY2(std::abs(warmth(turn, false) - straight) < 2e-3 * (straight - 300),
               qPrintable(QString::number(warmth(turn, false) - straight)));
  }

  /// The estimate of what the patches' size is worth is near what finer patches change.
  void theSizeOfPatchesHasAnEstimate()
  {
    // A floor that is hot at one end only, before a wall: large patches smear it.
    const auto netOf = [](double size) {
      Project p = plates(0.3, 0.1, 0.05, 300);
      p.materials[0].conductivity = Property{0.5, ""};
      p.enclosures[0].patchSize = number(size);
      p.enclosures[0].rays = number(4000);
      p.surfaces.push_back(surface("end", {"low.left"}));
      p.boundaries = {boundary("hot", FixedSurface{"end", number(1200)}), held("high", 400),
                      boundary("air", Convection{"a", Property{10, {}}, number(300)})};
      return space(solve(p));
    };
    const EnclosureFigure coarse = netOf(0.06);
    const EnclosureFigure fine = netOf(0.02);
    QVERIFY(coarse.patchError > 3 * fine.patchError);
    double change = 0;
    for (std::size_t i = 0; i < 2; ++i)
      change = std::max(change, std::abs(coarse.surfaces[i].watts - fine.surfaces[i].watts));
    QVERIFY2(coarse.patchError > change / 4 && coarse.patchError < 4 * change,
             qPrintable(QString("%1 %2").arg(coarse.patchError).arg(change)));
  }

  void whatCannotBeIsRefused()
  {
    Project leaking = plates(0.2, 0.2, 0.1, 0);
    leaking.enclosures[0].opening.reset();
    try {
      (void)solve(leaking);
      QFAIL("a leak was not noticed");
    } catch (const std::runtime_error& error) {
      QVERIFY(QString(error.what()).contains("% of its view meets none"));
      QVERIFY(QString(error.what()).contains("opening"));
    }
    Project blind = plates(0.2, 0.2, 0.1, 0);
    blind.enclosures[0].opening.reset();
    blind.surfaces[1].faces = {"high.top"};
    QVERIFY_THROWS_EXCEPTION(std::runtime_error, (void)solve(blind));
    Project dull = plates(0.2, 0.2, 0.1, 0);
    dull.finishes.clear();
    const auto findings = checkProject(dull);
    QVERIFY(findings.has_value());
    QVERIFY(mentions(*findings, Finding::Severity::Error, {"enclosure space", "no emissivity"}));
    Project empty = plates(0.2, 0.2, 0.1, 0);
    empty.enclosures[0].surfaces.clear();
    QVERIFY(mentions(checkModel(empty), Finding::Severity::Error, {"names no surface"}));
    Project bright = plates(0.2, 0.2, 0.1, 0);
    bright.finishes[0].emissivity = number(1.2);
    QVERIFY(hasErrors(checkModel(bright)));
    bright.finishes[0].emissivity = number(-0.1);
    QVERIFY(hasErrors(checkModel(bright)));
    bright.finishes[0].emissivity = table({{300, 0.4}, {900, 1.4}});
    QVERIFY(hasErrors(checkModel(bright)));
  }

  /// A perfect mirror takes part by reflecting only.
  void emissivityZeroReflectsAll()
  {
    Project p = plates(0.2, 0.2, 0.1, 0);
    p.finishes = {finish("black", 1, {"a"}), finish("mirror", 0, {"b"})};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(space(result).surfaces[1].watts) < 1e-9);
    QVERIFY(std::abs(space(result).surfaces[0].watts - space(result).opening) < 1e-9);
    QVERIFY(space(result).surfaces[0].watts < -1);
  }

  /// Plates held at 800 and 400 K with emissivities that follow the temperature exchange as with the numbers there.
  void emissivityFollowsTheTemperature()
  {
    Project numbers = plates(0.2, 0.2, 0.1, 0);
    numbers.finishes = {finish("hot", 0.7, {"a"}), finish("cold", 0.3, {"b"})};
    Project tables = numbers;
    for (Finish& one : tables.finishes)
      one.emissivity = table({{300, 0.2}, {900, 0.8}});
    const CaseResult expected = solve(numbers);
    const CaseResult given = solve(tables);
    for (std::size_t i = 0; i < 2; ++i)
      QVERIFY2(std::abs(space(given).surfaces[i].watts - space(expected).surfaces[i].watts) < 1e-9,
               qPrintable(QString::number(space(given).surfaces[i].watts)));
  }
};

QTEST_APPLESS_MAIN(EnclosureTest)
#include "tst_enclosures.moc"
