// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Sudden cooling and heating: corners against products of slab series, bounds that hold at every step, what is told
// when they do not, and when a run counts as settled.
#include "TransientProjects.h"
#include "io/FiguresFile.h"
#include "mesh/SecondOrder.h"

#include <QTest>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

/// (T − T_a)/(T_0 − T_a) of a slab of half thickness L cooled on both sides, at x from its middle: Σ C_n cos(ζ_n x/L)
/// exp(−ζ_n² a t/L²), ζ tan ζ = h L/k, C = 4 sin ζ/(2 ζ + sin 2 ζ).
double slabShare(double x, double t, double half, double diffusivity, double biot)
{
  double sum = 0;
  for (int n = 0; n < 200; ++n) {
    double low = n * pi + 1e-12;
    double high = n * pi + pi / 2 - 1e-12;
    for (int i = 0; i < 100; ++i) {
      const double middle = (low + high) / 2;
      (middle * std::tan(middle) > biot ? high : low) = middle;
    }
    const double z = low;
    sum += 4 * std::sin(z) / (2 * z + std::sin(2 * z)) * std::cos(z * x / half) *
           std::exp(-z * z * diffusivity * t / (half * half));
  }
  return sum;
}

struct Cube {
  double side, k, rhoC, h, start, around, until;
  [[nodiscard]] double share(double x) const { return slabShare(x, until, side / 2, k / rhoC, h * side / 2 / k); }
  [[nodiscard]] double corner() const { return around + (start - around) * std::pow(share(side / 2), 3); }
  [[nodiscard]] double middle() const { return around + (start - around) * std::pow(share(0), 3); }
  [[nodiscard]] double face() const { return around + (start - around) * share(side / 2) * share(0) * share(0); }
};

Project projectOf(const Cube& cube, int order, double meshSize)
{
  Project p = projectWith(meshSize);
  p.mesh.secondOrder = order == 2;
  p.materials = {heavy("stuff", cube.k, cube.rhoC / 500, 500)};
  p.parts = {part("cube", "stuff", block(cube.side, cube.side, cube.side))};
  p.surfaces = {exposedOf("all", {"cube"})};
  p.boundaries = {boundary("bath", Convection{"all", Property{cube.h, ""}, Property{cube.around, ""}})};
  p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"cube"}}),
               watch("coldest", PartFigure{PartFigure::Kind::Coldest, {"cube"}}),
               watch("face", PointFigure{{number(cube.side / 2), number(0), number(cube.side / 2)}}),
               watch("middle", PointFigure{{number(0), number(0), number(cube.side / 2)}})};
  inTime(p, cube.start, cube.until);
  return p;
}

constexpr Cube strong{0.05, 40, 4e6, 6000, 1000, 300, 6};     // steel-like, quenched
constexpr Cube insulating{0.1, 0.4, 2e6, 400, 300, 600, 400}; // a plate of something light in a hot bath
constexpr Cube weak{0.05, 40, 4e6, 100, 1000, 300, 200};

} // namespace

class TestQuench : public QObject
{
  Q_OBJECT
private slots:
  void corners_data()
  {
    QTest::addColumn<int>("which");
    QTest::addColumn<int>("order");
    QTest::addColumn<double>("mesh"); // share of the side
    QTest::addColumn<double>("corner");
    QTest::addColumn<double>("inside"); // K
    QTest::addRow("strong, first") << 0 << 1 << 0.08 << 3.0 << 4.0;
    QTest::addRow("strong, second") << 0 << 2 << 0.15 << 1.0 << 1.5;
    QTest::addRow("insulating, first") << 1 << 1 << 0.08 << 0.5 << 2.0;
    QTest::addRow("insulating, second") << 1 << 2 << 0.12 << 0.5 << 1.0;
    QTest::addRow("weak, first") << 2 << 1 << 0.1 << 0.3 << 0.3;
    QTest::addRow("weak, second") << 2 << 2 << 0.16 << 0.2 << 0.2;
  }
  /// Given a cube in a bath, when it is quenched, then its corner, face and middle follow the product of three slabs
  /// and nothing ever leaves the range of start and bath.
  void corners()
  {
    QFETCH(int, which);
    QFETCH(int, order);
    QFETCH(double, mesh);
    QFETCH(double, corner);
    QFETCH(double, inside);
    const Cube& cube = which == 0 ? strong : which == 1 ? insulating : weak;
    const Project p = projectOf(cube, order, mesh * cube.side);
    const Ran ran = run(p);
    const bool cools = cube.start > cube.around;
    const double edge = valueOf(p, ran.result, cools ? "coldest" : "hottest");
    QVERIFY2(std::abs(edge - cube.corner()) < corner, qPrintable(QString::number(edge - cube.corner())));
    QVERIFY2(std::abs(valueOf(p, ran.result, "middle") - cube.middle()) < inside,
             qPrintable(QString::number(valueOf(p, ran.result, "middle") - cube.middle())));
    QVERIFY2(std::abs(valueOf(p, ran.result, "face") - cube.face()) < inside,
             qPrintable(QString::number(valueOf(p, ran.result, "face") - cube.face())));
    const double low = std::min(cube.start, cube.around);
    const double high = std::max(cube.start, cube.around);
    constexpr double tolerance = 0.1; // K, of a step
    for (const char* id : {"hottest", "coldest"})
      for (const double kelvin : ran.record.find(RunTrace::Kind::Watch, id)->values)
        QVERIFY2(kelvin > low - tolerance && kelvin < high + tolerance, qPrintable(QString::number(kelvin)));
    QVERIFY2(!ran.record.bounds.exceeded(), qPrintable(QString::number(ran.record.bounds.worst())));
    QVERIFY(ran.record.imbalance < 1e-6);
  }

  /// Orders in space of a smooth course: the first mode of a cube that starts in it.
  void ordersInSpace_data()
  {
    QTest::addColumn<int>("order");
    QTest::addColumn<double>("wanted");
    QTest::addRow("first") << 1 << 1.7;
    QTest::addRow("second") << 2 << 2.3;
  }
  void ordersInSpace()
  {
    QFETCH(int, order);
    QFETCH(double, wanted);
    // Weak cooling for long: one mode is left, smooth in space.
    std::vector<double> errors;
    std::vector<double> sizes;
    for (const double mesh : {0.3, 0.2, 0.13}) {
      Cube cube{0.05, 2, 4e6, 200, 400, 300, 600};
      Project p = projectOf(cube, order, mesh * cube.side);
      p.cases.front().run->tolerance = number(0.0005);
      const CaseResult result = run(p).result;
      double sum = 0;
      double volume = 0;
      const auto share = [&](double x) { return cube.share(x); };
      std::map<double, double> known;
      const auto shareAt = [&](double x) {
        const double key = std::round(std::abs(x) * 1e9);
        const auto [found, fresh] = known.try_emplace(key, 0);
        if (fresh)
          found->second = share(std::abs(x));
        return found->second;
      };
      for (std::size_t u = 0; u < result.temperature.size(); ++u) {
        const Vec3 place = result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[u])];
        const double exact = cube.around + (cube.start - cube.around) * shareAt(place.x()) * shareAt(place.y()) *
                                               shareAt(place.z() - cube.side / 2);
        sum += std::pow(result.temperature[u] - exact, 2);
      }
      for (const double own : meshedVolumes(result.mesh))
        volume += own;
      errors.push_back(std::sqrt(sum / static_cast<double>(result.temperature.size())));
      sizes.push_back(std::cbrt(volume / static_cast<double>(tetElements(result.mesh))));
    }
    const double observed = std::log(errors.front() / errors.back()) / std::log(sizes.front() / sizes.back());
    QVERIFY2(observed > wanted,
             qPrintable(QString("order %1, errors %2 … %3").arg(observed).arg(errors.front()).arg(errors.back())));
  }

  void ordersOfASmoothCourse_data()
  {
    QTest::addColumn<int>("order");
    QTest::addColumn<double>("wanted");
    QTest::addRow("first") << 1 << 1.8;
    QTest::addRow("second") << 2 << 2.8;
  }
  /// Given a slab that a flux warms which grows from nothing, when it is followed on three meshes, then the error falls
  /// with the square and, at second order, the cube of the element size.
  void ordersOfASmoothCourse()
  {
    QFETCH(int, order);
    QFETCH(double, wanted);
    constexpr double length = 0.1, k = 2, rhoC = 2e6, until = 2000, growth = 2.0; // W/(m²·s)
    constexpr double diffusivity = k / rhoC;
    // Duhamel's integral of the step response of a slab under a flux (Carslaw and Jaeger 1959, 3.8).
    const auto exact = [](double x) {
      const double fo = diffusivity * until / (length * length);
      double sum = fo * until / 2 + until * (3 * x * x / (length * length) - 1) / 6;
      for (int n = 1; n < 400; ++n) {
        const double rate = n * n * pi * pi * diffusivity / (length * length);
        sum -= 2 * (n % 2 == 0 ? 1 : -1) / (n * n * pi * pi) * (1 - std::exp(-rate * until)) / rate *
               std::cos(n * pi * x / length);
      }
      return 300 + growth * length / k * sum;
    };
    std::vector<double> errors;
    std::vector<double> sizes;
    for (const double size : {0.045, 0.03, 0.018}) {
      Project p = slab(length, size);
      p.parts.front() = part("slab", "stuff", block(length, length, length));
      p.mesh.secondOrder = order == 2;
      p.parameters = {scheduled("flux", Quantity::HeatFlux, {{0, 0}, {until, growth * until}})};
      Property follows{0, "flux"};
      follows.formula = true;
      p.sources = {source("lamp", SurfaceFlux{"right", follows})};
      inTime(p, 300, until).tolerance = number(0.0003);
      const CaseResult result = run(p).result;
      double sum = 0;
      for (std::size_t u = 0; u < result.temperature.size(); ++u) {
        const double x = result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[u])].x() + length / 2;
        sum += std::pow(result.temperature[u] - exact(x), 2);
      }
      errors.push_back(std::sqrt(sum / static_cast<double>(result.temperature.size())));
      sizes.push_back(std::cbrt(length * length * length / static_cast<double>(tetElements(result.mesh))));
    }
    const double observed = std::log(errors.front() / errors.back()) / std::log(sizes.front() / sizes.back());
    const QString said =
        QString("order %1, errors %2, %3, %4 K").arg(observed).arg(errors[0]).arg(errors[1]).arg(errors[2]);
    qInfo("%s", qPrintable(said));
    QVERIFY2(observed > wanted, qPrintable(said));
  }

  void boundsHoldAmongOthers_data()
  {
    QTest::addColumn<int>("order");
    QTest::addColumn<bool>("melts");
    for (const int order : {1, 2})
      for (const bool melts : {false, true})
        QTest::addRow("order %d, %s", order, melts ? "melting" : "solid") << order << melts;
  }
  /// Given a light block dipped in a hot bath that also sees a heater held by a thermostat, with or without wax on its
  /// side, when it warms, then nothing leaves the range of start and bath, the thermostat switches and no heat is lost.
  void boundsHoldAmongOthers()
  {
    QFETCH(int, order);
    QFETCH(bool, melts);
    constexpr double start = 300, bath = 600, side = 0.04, gap = 0.02;
    Project p = projectWith(order == 2 ? 0.01 : 0.006);
    p.mesh.secondOrder = order == 2;
    Material wax = heavy("wax", 0.5, 900, 2000);
    wax.latentHeat = number(1e5);
    wax.meltsFrom = number(330);
    wax.meltsTo = number(334);
    p.materials = {heavy("light", 0.4, 1000, 1000), heavy("metal", 40, 4000, 500), wax};
    p.parts = {part("ware", "light", block(side, side, side)),
               part("heater", "metal", block(side, side, 0.004), {0, 0, side + gap})};
    if (melts)
      p.parts.push_back(part("lump", "wax", block(0.01, side, side), {side / 2 + 0.005, 0, 0}));
    p.surfaces = {surface("under", {"ware.bottom"}), surface("over", {"ware.top"}),
                  surface("facing", {"heater.bottom"})};
    p.boundaries = {boundary("bath", Convection{"under", Property{4000, ""}, Property{bath, ""}})};
    Enclosure space;
    space.id = space.name = "space";
    space.surfaces = {"over", "facing"};
    space.opening = number(start);
    for (Material& m : p.materials)
      m.emissivity = number(0.8);
    p.enclosures = {space};
    p.watches = {watch("heater", PartFigure{PartFigure::Kind::Mean, {"heater"}}),
                 watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"ware"}}),
                 watch("coldest", PartFigure{PartFigure::Kind::Coldest, {"ware"}})};
    p.sources = {source("coil", PartPower{{"heater"}, Property{40, ""}})};
    p.sources.front().thermostat = Thermostat{"heater", number(420), number(10), false, {}};
    inTime(p, start, 120);
    const Ran ran = run(p);
    constexpr double allowed = 0.1; // K, a step's tolerance
    for (const char* id : {"hottest", "coldest", "heater"})
      for (const double kelvin : ran.record.find(RunTrace::Kind::Watch, id)->values)
        QVERIFY2(kelvin > start - allowed && kelvin < bath + allowed, qPrintable(QString::number(kelvin)));
    QVERIFY2(ran.record.bounds.worst() < allowed, qPrintable(QString::number(ran.record.bounds.worst())));
    const auto switched = [&](RunMark::Kind kind) {
      return std::count_if(ran.record.marks.begin(), ran.record.marks.end(),
                           [&](const RunMark& mark) { return mark.kind == kind; });
    };
    QVERIFY(switched(RunMark::Kind::SwitchedOff) >= 1);
    QVERIFY(ran.record.imbalance < 1e-6);
    QVERIFY(ran.record.bounds.limitedSteps > 0);
  }

  /// Given a run whose temperatures left their bounds, then the excess is in the figures and in the notes.
  void excessIsTold()
  {
    Project p = projectOf(weak, 1, 0.3 * weak.side);
    const Ran ran = run(p);
    CaseResult result = ran.result;
    result.bounds.tolerance = 0.1;
    result.bounds.above = {3.5, 12, Vec3(0, 0, 0.01), PartId(0)};
    const auto json = nlohmann::json::parse(figuresText(p, result));
    QCOMPARE(json["bounds"]["above"]["kelvin"].get<double>(), 3.5);
    QCOMPARE(json["bounds"]["above"]["part"].get<std::string>(), std::string("cube"));
    QVERIFY(json["bounds"]["exceeded"].get<bool>());
    QVERIFY(json["bounds"]["aboveMeasured"].get<bool>());
  }

  // --- settled -------------------------------------------------------------------------------------------------------

  /// Given a lump that warms through a link, then it is settled at 1 % of its change: t = τ ln 100.
  void aHeavyNodeSettles()
  {
    Project p;
    p.name = "nodes";
    Node node;
    node.id = node.name = "lump";
    node.storage = CapacityStore{number(5e4)};
    node.power = Property{80, ""};
    Node room;
    room.id = room.name = "room";
    room.temperature = number(290);
    p.nodes = {node, room};
    Link link;
    link.id = link.name = "link";
    link.exchange = Conductor{"lump", "room", number(2)};
    p.links = {link};
    Case one;
    one.id = one.name = "warm";
    p.cases = {one};
    inTime(p, 290, 1).ends.clear();
    const Ran ran = run(p);
    const double rise = 80 / 2.0;
    const double exact = 5e4 / 2.0 * std::log(rise / (rise * 0.01 / 1.01)); // remaining = 1 % of the change so far
    QVERIFY2(std::abs(ran.record.times.back() / exact - 1) < 0.02,
             qPrintable(QString::number(ran.record.times.back())));
    QVERIFY(ran.record.reason.starts_with("settled"));
    QVERIFY(ran.record.remaining.value() < 0.41);
  }
  /// Given a thick wall that is warmed on one side, then it does not count as settled before the other side has felt
  /// it.
  void aThickWallSettles()
  {
    Project p = slab(0.3, 0.01);
    p.boundaries = {boundary("hot", FixedSurface{"left", number(350)}),
                    boundary("cold", FixedSurface{"right", number(300)})};
    inTime(p, 300, 1).ends.clear();
    const Ran ran = run(p);
    QVERIFY2(std::abs(valueOf(p, ran.result, "middle") - 325) < 0.5,
             qPrintable(QString::number(valueOf(p, ran.result, "middle"))));
    QVERIFY(ran.record.reason.starts_with("settled"));
  }
  /// Given a body that only ever warms, then it never settles: it ends by the longest time.
  void whatHasNoWayOutNeverSettles()
  {
    Project p = lump(300, 1);
    p.boundaries.clear();
    p.sources = {source("heat", PartPower{{"lump"}, Property{1, ""}})};
    TransientRun& own = *p.cases.front().run;
    own.ends.clear();
    own.longest = number(3000);
    const Ran ran = run(p);
    QVERIFY(ran.record.byCap);
    QVERIFY(!ran.record.reason.starts_with("settled"));
  }
  /// Given a band of its own, then a run ends when nothing has more than it to change.
  void withinAGivenBand()
  {
    Project p = lump(400, 1);
    p.cases.front().run->ends = {{"end", EndSettled{number(5), {}}, {}}};
    const Ran ran = run(p);
    const double exact = 100 * std::log(100.0 / 5); // τ ln(ΔT/band)
    QVERIFY2(std::abs(ran.record.times.back() / exact - 1) < 0.03,
             qPrintable(QString::number(ran.record.times.back())));
  }

  // --- melting -------------------------------------------------------------------------------------------------------

  void freezing_data()
  {
    QTest::addColumn<double>("range"); // K
    QTest::addColumn<int>("order");
    for (const double range : {0.0, 0.15, 2.0})
      for (const int order : {1, 2})
        QTest::addRow("range %g K, order %d", range, order) << range << order;
  }
  /// One-phase freezing of a liquid at its melting point, front 2 λ √(a t) with √π λ e^{λ²} erf λ =
  /// St.
  void freezing()
  {
    QFETCH(double, range);
    QFETCH(int, order);
    constexpr double k = 0.6, rho = 1000, c = 2400, latent = 150000, melts = 320, wall = 300, until = 1800;
    const double stefan = c * (melts - wall) / latent;
    double low = 0, high = 2;
    for (int i = 0; i < 100; ++i) {
      const double x = (low + high) / 2;
      (std::sqrt(pi) * x * std::exp(x * x) * std::erf(x) > stefan ? high : low) = x;
    }
    const double front = 2 * low * std::sqrt(k / (rho * c) * until);
    Project p = projectWith(0.0015);
    p.mesh.secondOrder = order == 2;
    Material wax = heavy("wax", k, rho, c);
    wax.latentHeat = number(latent);
    wax.meltsFrom = number(melts - range);
    if (range > 0)
      wax.meltsTo = number(melts);
    p.materials = {wax};
    p.parts = {part("slab", "wax", block(0.04, 0.003, 0.003))};
    p.surfaces = {surface("left", {"slab.left"})};
    p.boundaries = {boundary("wall", FixedSurface{"left", number(wall)})};
    p.watches = {watch("share", MoltenShare{{"slab"}})};
    inTime(p, melts, until);
    const Ran ran = run(p);
    const double frozen = (1 - valueOf(p, ran.result, "share")) * 0.04;
    const double allowed = range > 1 ? 0.02 : 0.005; // a wide range has no sharp front to compare with
    QVERIFY2(std::abs(frozen / front - 1) < allowed, qPrintable(QString::number(frozen / front)));
    QVERIFY2(!ran.record.bounds.exceeded(), qPrintable(QString::number(ran.record.bounds.worst())));
    QVERIFY2(ran.record.newtonSteps < 25 * (ran.record.steps + ran.record.rejected),
             qPrintable(QString::number(ran.record.newtonSteps)));
  }
  /// Given a start at a single melting temperature, then its molten share is what was said of it.
  void theStartSaysHowMuchIsMolten()
  {
    Project p = projectWith(0.01);
    Material wax = heavy("wax", 0.5, 900, 2000);
    wax.latentHeat = number(1e5);
    wax.meltsFrom = number(330);
    p.materials = {wax};
    p.parts = {part("lump", "wax", block(0.02, 0.02, 0.02))};
    p.watches = {watch("share", MoltenShare{{"lump"}})};
    auto& answers = inTime(p, 330, 10);
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"molten", "lump"}));
    for (const double share : {0.0, 0.4, 1.0}) {
      std::get<StartUniform>(answers.start).moltenShare = number(share);
      QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"molten", "lump"}));
      QVERIFY(std::abs(run(p).record.find(RunTrace::Kind::Watch, "share")->values.front() - share) < 1e-3);
    }
  }
};

QTEST_GUILESS_MAIN(TestQuench)
#include "tst_quench.moc"
