// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// One reader per watch: whoever shows a watch shows the same number. Made from the list of kinds of watch: one that is
// added without an answer here does not compile.
#include "TransientProjects.h"
#include "heat/ThermalSystem.h"
#include "heat/watches/WatchReader.h"
#include "run/LaterWatches.h"

#include "heat/watches/ShareAbove.h"
#include "readiness/Readiness.h"

#include <QTest>
#include <array>
#include <cmath>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

template <class Kind>
struct Of {
};

// What each kind watches in the model below.
std::vector<Watch> watchesOf(Of<PartFigure>)
{
  using enum PartFigure::Kind;
  return {watch("hottest", PartFigure{Hottest, {"low"}}), watch("coldest", PartFigure{Coldest, {"low", "high"}}),
          watch("mean", PartFigure{Mean, {"high"}}), watch("spread", PartFigure{Spread, {"low"}})};
}
std::vector<Watch> watchesOf(Of<SurfaceFigure>)
{
  using enum PartFigure::Kind;
  return {watch("top hottest", SurfaceFigure{Hottest, "top"}), watch("top mean", SurfaceFigure{Mean, "top"}),
          watch("between coldest", SurfaceFigure{Coldest, "between"})};
}
std::vector<Watch> watchesOf(Of<PointFigure>)
{
  return {watch("point", PointFigure{{number(0.011), number(0.004), number(0.007)}})};
}
std::vector<Watch> watchesOf(Of<SurfaceHeat>)
{
  return {watch("top heat", SurfaceHeat{"top"}), watch("between heat", SurfaceHeat{"between"})};
}
std::vector<Watch> watchesOf(Of<ContactHeat>)
{
  return {watch("contact", ContactHeat{"low", "high"}), watch("contact back", ContactHeat{"high", "low"})};
}
std::vector<Watch> watchesOf(Of<NodeFigure>)
{
  return {watch("node", NodeFigure{"air"}), watch("outlet", NodeFigure{"stream"})};
}
std::vector<Watch> watchesOf(Of<LinkHeat>) { return {watch("link", LinkHeat{"strap"})}; }
std::vector<Watch> watchesOf(Of<MoltenShare>) { return {watch("molten", MoltenShare{{"high"}})}; }
std::vector<Watch> watchesOf(Of<BetweenWatches>)
{
  return {watch("resistance", BetweenWatches{"hottest", "coldest", "contact"})};
}
std::vector<Watch> watchesOf(Of<LargestFlux>) { return {watch("flux", LargestFlux{{"low", "high"}})}; }
std::vector<Watch> watchesOf(Of<Transmittance>)
{
  return {watch("transmittance", Transmittance{"top", number(400), number(300), {}})};
}

std::vector<Watch> watchesOf(Of<SurfaceFluxFigure>)
{
  using enum SurfaceFluxFigure::Of;
  return {watch("mean flux", SurfaceFluxFigure{Mean, "top"}), watch("most flux", SurfaceFluxFigure{Largest, "bottom"})};
}
std::vector<Watch> watchesOf(Of<HotVolume>) { return {watch("hot volume", HotVolume{{"low", "high"}, number(330)})}; }
std::vector<Watch> watchesOf(Of<FormulaFigure>)
{
  return {watch("rise per watt", FormulaFigure{Quantity::Resistance, {"hottest", "node", "contact"}, "(a - b) / c"}),
          watch("share", FormulaFigure{Quantity::Plain, {"top heat", "contact"}, "abs(a) / b"}),
          watch("middle", FormulaFigure{Quantity::Temperature, {"hottest", "coldest", "node"}, "(a + b + c) / 3"}),
          watch("of a formula", FormulaFigure{Quantity::TemperatureStep, {"middle"}, "a - 300 K"})};
}

template <class... Ts>
std::vector<Watch> allOf(const std::variant<Ts...>*)
{
  std::vector<Watch> all;
  const auto take = [&](std::vector<Watch> some) { all.insert(all.end(), some.begin(), some.end()); };
  (take(watchesOf(Of<Ts>{})), ...);
  return all;
}

/// Two blocks over each other, the upper one melting, a node at its side, a stream along the lower one.
Project model(int order)
{
  Project p = projectWith(0.01);
  p.mesh.secondOrder = order == 2;
  p.materials = {heavy("stuff", 1, 2000, 800), heavy("wax", 0.5, 900, 2000)};
  p.materials[1].latentHeat = number(50000);
  p.materials[1].meltsFrom = number(325);
  p.materials[1].meltsTo = number(335);
  p.parts = {part("low", "stuff", block(0.04, 0.03, 0.015)),
             part("high", "wax", block(0.04, 0.03, 0.01), Vec3(0, 0, 0.015))};
  p.contacts = {contact("low", "high", AreaConductance{number(200)})};
  Surface between = surface("between", {"high.bottom"});
  p.surfaces = {surface("top", {"high.top"}), surface("bottom", {"low.bottom"}), surface("left", {"low.left"}),
                surface("side", {"low.front"}), between};
  Node node;
  node.id = node.name = "air";
  node.storage = CapacityStore{number(20)};
  p.nodes = {node};
  Link strap;
  strap.id = strap.name = "strap";
  strap.exchange = Conductor{"left", "air", number(0.3)};
  p.links = {strap};
  p.sources = {source("heater", SurfaceFlux{"bottom", Property{6000, ""}})};
  p.boundaries = {boundary("room", Convection{"top", Property{25, ""}, Property{300, ""}}),
                  boundary("stream", FlowPassage{"side",
                                                 {number(1), number(0), number(0)},
                                                 number(290),
                                                 number(1e-3),
                                                 number(1000),
                                                 Property{60, ""},
                                                 number(3)})};
  p.watches = allOf(static_cast<const decltype(Watch::figure)*>(nullptr));
  return p;
}

double lastOf(const RunRecord& record, const std::string& id)
{
  const RunTrace* trace = record.find(RunTrace::Kind::Watch, id);
  if (trace == nullptr)
    throw std::runtime_error("nothing recorded of " + id);
  return trace->values.back();
}

} // namespace

class WatchesTest : public QObject
{
  Q_OBJECT

  static void orders()
  {
    QTest::addColumn<int>("order");
    QTest::newRow("first order") << 1;
    QTest::newRow("second order") << 2;
  }
  static Ran ranIn(const Project& p, const std::filesystem::path& folder)
  {
    Project timed = p;
    inTime(timed, 300, 400).storeWithin = number(0.02);
    return runIn(timed, folder);
  }

private slots:
  void figuresAndRunsAgree_data() { orders(); }
  /// Given a run, then every kind of watch has the same value in the figures at its end as in what was recorded last.
  void figuresAndRunsAgree()
  {
    QFETCH(int, order);
    const Project p = model(order);
    const QTemporaryDir folder;
    const Ran ran = ranIn(p, folder.path().toStdString());
    int seen = 0;
    for (const WatchFigure& figure : readWatches(p, ran.result)) {
      QVERIFY2(figure.value, qPrintable(QString::fromStdString(figure.id + ": " + figure.note)));
      const double recorded = lastOf(ran.record, figure.id);
      QVERIFY2(
          std::abs(*figure.value - recorded) <= 1e-9 * (1 + std::abs(recorded)),
          qPrintable(QString("%1: %2 and %3").arg(QString::fromStdString(figure.id)).arg(*figure.value).arg(recorded)));
      ++seen;
    }
    QCOMPARE(seen, static_cast<int>(p.watches.size()));
    QVERIFY(lastOf(ran.record, "molten") > 0.02 && lastOf(ran.record, "molten") < 0.98); // it tells something
    QVERIFY(lastOf(ran.record, "outlet") > 290.5);
  }

  /// Given a run that ends when a stream leaves at a temperature, then it ends there.
  void aRunWaitsForAnOutlet()
  {
    Project p = model(1);
    TransientRun& run = inTime(p, 300, 4000);
    run.ends.push_back({"warm enough", EndAtValue{"outlet", number(291), false}, {}});
    const QTemporaryDir folder;
    const Ran ran = runIn(p, folder.path().toStdString());
    QVERIFY(ran.record.times.back() < 3999);
    QVERIFY2(std::abs(lastOf(ran.record, "outlet") - 291) < 0.01,
             qPrintable(QString::number(lastOf(ran.record, "outlet"))));
  }

  void ratesAreDifferences_data() { orders(); }
  /// Given temperatures and rates, then the rate of every watch that has one is what its value changes by in a moment.
  void ratesAreDifferences()
  {
    QFETCH(int, order);
    const Project p = model(order);
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    QVERIFY(conditions.has_value());
    std::vector<double> kelvin, rate, later;
    for (UnknownId u(0); u < conditions->unknowns.count; ++u) {
      kelvin.push_back(300 + 0.05 * u);
      rate.push_back(std::cos(2.0 * u));
      later.push_back(kelvin.back() + 1e-4 * rate.back());
    }
    const WatchGround ground{p, mesh, conditions->unknowns, lumpedOf(p, *conditions)};
    int rated = 0;
    for (const Watch& own : p.watches) {
      const WatchReader reader(ground, own);
      QVERIFY(reader.readable());
      const auto now = reader.read({kelvin, rate});
      QCOMPARE(now && now->rate, reader.ofTemperatures());
      if (!reader.ofTemperatures())
        continue;
      QVERIFY2(std::abs((reader.read({later})->value - now->value) / 1e-4 - *now->rate) < 1e-6, own.id.c_str());
      ++rated;
    }
    QCOMPARE(rated, 10);
  }

  /// Given a hottest and a coldest place, then they are where the temperature is that, in a part that is watched.
  void placesAreWhereTheValueIs()
  {
    const Project p = model(1);
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    const auto field = [](const Vec3& place) { return 300 + 1000 * place.z() + 300 * place.x() + 200 * place.y(); };
    std::vector<double> kelvin(static_cast<std::size_t>(conditions->unknowns.count), 300);
    for (std::size_t i = 0; i < conditions->unknowns.node.size(); ++i)
      kelvin[i] = field(mesh.placeOf(conditions->unknowns.node[i]));
    const WatchGround ground{p, mesh, conditions->unknowns, lumpedOf(p, *conditions)};
    for (const char* id : {"hottest", "coldest", "top hottest", "between coldest", "point"}) {
      const auto reading = WatchReader(ground, *findById(p.watches, id)).read({kelvin});
      QVERIFY(reading && reading->place);
      QVERIFY2(std::abs(field(*reading->place) - reading->value) < 1e-9, id);
      const bool lower =
          std::string_view(id) == "hottest" || std::string_view(id) == "coldest" || std::string_view(id) == "point";
      const std::string& in = mesh.geometry.parts[static_cast<std::size_t>(reading->part)].id;
      QVERIFY2(in == (lower ? "low" : "high"), id);
    }
    const auto highest = WatchReader(ground, *findById(p.watches, "hottest")).read({kelvin});
    QVERIFY((*highest->place - Vec3(0.02, 0.015, 0.015)).norm() < 1e-9);
  }

  /// Given a watch added after a run, then what is read from the stored instants is what would have been recorded.
  void aLaterWatchReadsTheSame()
  {
    const Project p = model(1);
    Project without = p;
    without.watches.clear();
    const QTemporaryDir folder, other;
    const std::filesystem::path path = folder.path().toStdString();
    Ran ran = ranIn(without, path);
    const Ran asked = ranIn(p, other.path().toStdString());
    QCOMPARE(asked.record.times.size(), ran.record.times.size());
    const auto fields = InstantReader::open(runFile(path, "steady"));
    QVERIFY(fields.has_value());
    QVERIFY(lacksWatches(p, ran.record));
    addLaterWatches(p, ran.result.mesh, ran.result.unknowns, *fields, ran.record);
    int seen = 0;
    for (const Watch& own : p.watches)
      if (const RunTrace* trace = ran.record.find(RunTrace::Kind::Watch, own.id)) {
        const RunTrace* recorded = asked.record.find(RunTrace::Kind::Watch, own.id);
        for (std::size_t i = 0; i < trace->values.size(); ++i)
          QVERIFY2(std::abs(trace->values[i] - recorded->values[i]) < 0.05, own.id.c_str());
        ++seen;
      }
    QVERIFY(seen >= 11);
  }

  /// Given a run, then a formula has at every step the value by hand of what was recorded of its watches.
  void formulasAreRightAtEveryInstant()
  {
    Project p = model(1);
    Parameter ambient;
    ambient.id = ambient.name = "ambient";
    ambient.quantity = Quantity::Temperature;
    ambient.value = number(300);
    p.parameters = {ambient};
    p.watches.push_back(watch("rise", FormulaFigure{Quantity::TemperatureStep, {"hottest"}, "a - ambient"}));
    const QTemporaryDir folder;
    const RunRecord record = ranIn(p, folder.path().toStdString()).record;
    const auto traceOf = [&](const char* id) { return record.find(RunTrace::Kind::Watch, id)->values; };
    const auto hot = traceOf("hottest"), cold = traceOf("coldest"), node = traceOf("node"), heat = traceOf("contact");
    const auto ofFormula = traceOf("of a formula"), perWatt = traceOf("rise per watt"), rise = traceOf("rise");
    QVERIFY(record.times.size() > 5);
    for (std::size_t i = 0; i < record.times.size(); ++i) {
      QVERIFY(std::abs(ofFormula[i] - ((hot[i] + cold[i] + node[i]) / 3 - 300)) < 1e-9);
      QVERIFY(std::abs(rise[i] - (hot[i] - 300)) < 1e-9);
      if (std::abs(heat[i]) > 1e-6)
        QVERIFY(std::abs(perWatt[i] - (hot[i] - node[i]) / heat[i]) <= 1e-9 * std::abs(perWatt[i]));
    }
  }

  /// Given a field that is linear, then the volume above a level is that of the body cut by a plane.
  void theVolumeAboveIsThatOfTheCutBody()
  {
    Project p = model(1);
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    const auto readAt = [&](const Vec3& slope, double level, const std::vector<std::string>& parts) {
      std::vector<double> kelvin(static_cast<std::size_t>(conditions->unknowns.count), 300);
      for (std::size_t i = 0; i < conditions->unknowns.node.size(); ++i)
        kelvin[i] = 300 + slope.dot(mesh.placeOf(conditions->unknowns.node[i]));
      const WatchGround ground{p, mesh, conditions->unknowns, lumpedOf(p, *conditions)};
      const Watch own = watch("above", HotVolume{parts, number(level)});
      return *WatchReader(ground, own).read({kelvin});
    };
    const std::vector<std::string> both{"low", "high"};
    // Upwards: all above 0.01 m of a tower of 0.04 m × 0.03 m × 0.025 m.
    const WatchReading up = readAt({0, 0, 1000}, 310, both);
    QVERIFY(std::abs(up.value - 0.04 * 0.03 * 0.015) < 1e-12);
    QCOMPARE(up.parts, both);
    const WatchReading high = readAt({0, 0, 1000}, 320, both);
    QVERIFY(std::abs(high.value - 0.04 * 0.03 * 0.005) < 1e-12);
    QCOMPARE(high.parts, std::vector<std::string>{"high"});
    QCOMPARE(readAt({0, 0, 1000}, 330, both).value, 0.0);
    // Across a corner: a triangle prism.
    const WatchReading corner = readAt({1000, 1000, 0}, 300 + 30, {"low"}); // x + y > 0.03 of ±0.02, ±0.015
    QVERIFY(std::abs(corner.value - 0.005 * 0.005 / 2 * 0.015) < 1e-12);
  }

  /// Given one tetrahedron and levels by chance, then the share is what a fine subdivision counts, and what lies above
  /// and below is all of it.
  void sharesOfATetrahedron()
  {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> value(-1, 1);
    for (int round = 0; round < 60; ++round) {
      const std::array<double, 4> corners{value(random), value(random), value(random),
                                          round % 3 == 0 ? 0.25 : value(random)};
      const double level = round % 5 == 0 ? 0.25 : value(random);
      const double share = shareAbove(corners, level);
      std::array<double, 4> turned{};
      std::transform(corners.begin(), corners.end(), turned.begin(), [](double v) { return -v; });
      QVERIFY(std::abs(share + shareAbove(turned, -level) - 1) < 1e-12);
      int inside = 0;
      constexpr int samples = 20000;
      for (int i = 0; i < samples; ++i) {
        std::array<double, 4> weight{};
        double sum = 0;
        for (double& w : weight)
          sum += w = -std::log(std::uniform_real_distribution<double>(1e-12, 1)(random));
        double here = 0;
        for (std::size_t c = 0; c < 4; ++c)
          here += weight[c] / sum * corners[c];
        inside += here > level ? 1 : 0;
      }
      QVERIFY2(std::abs(share - static_cast<double>(inside) / samples) < 0.02, qPrintable(QString::number(share)));
    }
    QCOMPARE(shareAbove({1, 1, 1, 1}, 0), 1.0);
    QCOMPARE(shareAbove({0, 0, 0, 0}, 0), 0.0);
    QCOMPARE(shareAbove({0, 0, 0, 1}, 0.5), 0.125);
  }

  /// Given a slab that conducts 6000 W/m² in one direction, then that is the mean flux of its faces and the largest.
  void fluxesOfASurface()
  {
    Project p = projectWith(0.01);
    p.materials = {material("stuff", 2)};
    p.parts = {part("slab", "stuff", block(0.04, 0.04, 0.02))};
    p.surfaces = {surface("under", {"slab.bottom"}), surface("top", {"slab.top"})};
    p.sources = {source("heater", SurfaceFlux{"under", Property{6000, ""}})};
    p.boundaries = {boundary("held", FixedSurface{"top", {300, ""}})};
    using enum SurfaceFluxFigure::Of;
    for (const bool second : {false, true}) {
      p.mesh.secondOrder = second;
      p.watches = {watch("in", SurfaceFluxFigure{Mean, "under"}), watch("out", SurfaceFluxFigure{Mean, "top"}),
                   watch("most", SurfaceFluxFigure{Largest, "top"})};
      const CaseResult result = solve(p);
      QVERIFY(std::abs(valueOf(p, result, "in") - 6000) < 1e-4);
      QVERIFY(std::abs(valueOf(p, result, "out") + 6000) < 1e-3);
      QVERIFY(std::abs(valueOf(p, result, "most") - 6000) < 1e-2);
    }
  }

  /// Given a reference and a tolerance, then the figure passes or fails by them; another case's value comes first.
  void referencesPassOrFail()
  {
    Project p = model(1);
    Case other = p.cases[0];
    other.id = "other";
    other.name = "Other";
    p.cases.push_back(other);
    p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"low"}}),
                 watch("top heat", SurfaceHeat{"top"})};
    const CaseResult result = solve(p);
    const double value = valueOf(p, result, "hottest");
    Watch& own = p.watches[0];
    own.reference = number(value - 3);
    own.referenceFrom = "by hand";
    QVERIFY(!agrees(readWatch(p, result, own))); // no tolerance: neither
    own.tolerance = number(3.01);
    QCOMPARE(*agrees(readWatch(p, result, own)), true);
    own.tolerance = number(2.99);
    QCOMPARE(*agrees(readWatch(p, result, own)), false);
    const std::string words = referenceWords(readWatch(p, result, own));
    QVERIFY2(words.find("by hand") != std::string::npos && words.find("+3") != std::string::npos &&
                 words.find("beyond") != std::string::npos && words.find('%') == std::string::npos,
             words.c_str());
    p.watches[1].reference = number(valueOf(p, result, "top heat") / 1.25);
    QVERIFY(referenceWords(readWatch(p, result, p.watches[1])).find("25") != std::string::npos);
    own.referenceCase = "other";
    std::vector<WatchFigure> figures = readWatches(p, result);
    WatchFigure theirs = figures[0];
    theirs.value = value + 1;
    takeReferences(p, figures, [&](const std::string& id) {
      return id == "other" ? std::optional(std::vector<WatchFigure>{theirs}) : std::nullopt;
    });
    QCOMPARE(*figures[0].reference, value + 1);
    QCOMPARE(*agrees(figures[0]), true);
    takeReferences(p, figures, [](const std::string&) { return std::nullopt; }); // not solved
    QVERIFY(!figures[0].reference && referenceWords(figures[0]).empty());
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"the case counts"}));
  }

  void formulasAreCheckedBeforeTheSolve()
  {
    Project p = model(1);
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Error, {"Its formula"}));
    p.watches.push_back(watch("wrong", FormulaFigure{Quantity::Power, {"hottest"}, "a"}));
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"Its formula"}));
    p.watches.back().figure = FormulaFigure{Quantity::Temperature, {"hottest"}, "a +"};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"Its formula"}));
  }

  /// Given watches of what is not there, then they say why they have no value.
  void whatIsNotThereIsSaid()
  {
    Project p = model(1);
    const CaseResult result = solve([&] {
      Project steady = p;
      steady.watches.clear();
      steady.materials[1].latentHeat.reset();
      return steady;
    }());
    p.watches = {watch("no part", PartFigure{PartFigure::Kind::Hottest, {"gone"}}),
                 watch("no face", SurfaceHeat{"gone"}),
                 watch("no node", NodeFigure{"gone"}),
                 watch("no link", LinkHeat{"gone"}),
                 watch("no contact", ContactHeat{"low", "gone"}),
                 watch("not apart", Transmittance{"top", number(300), number(300), {}}),
                 watch("outside", PointFigure{{number(1), number(0), number(0)}}),
                 watch("of none", BetweenWatches{"no part", "no face", "no link"}),
                 watch("flux", LargestFlux{{"gone"}}),
                 watch("no mean flux", SurfaceFluxFigure{SurfaceFluxFigure::Of::Mean, "gone"}),
                 watch("no most flux", SurfaceFluxFigure{SurfaceFluxFigure::Of::Largest, "gone"}),
                 watch("no volume", HotVolume{{"gone"}, number(300)}),
                 watch("of nothing", FormulaFigure{Quantity::Temperature, {"gone"}, "a"}),
                 watch("wrong unit", FormulaFigure{Quantity::Power, {"outside"}, "a"}),
                 watch("unknown letter", FormulaFigure{Quantity::Temperature, {"outside"}, "a + d"}),
                 watch("ring", FormulaFigure{Quantity::Temperature, {"ring two"}, "a"}),
                 watch("ring two", FormulaFigure{Quantity::Temperature, {"ring"}, "a"})};
    p.materials[1].latentHeat.reset();
    p.watches.push_back(watch("solid", MoltenShare{{"high"}}));
    for (const WatchFigure& figure : readWatches(p, result)) {
      QCOMPARE(figure.value.has_value(), figure.id == "outside");
      QVERIFY2(!figure.note.empty(), figure.id.c_str());
    }
  }
};

QTEST_APPLESS_MAIN(WatchesTest)
#include "tst_watches.moc"
