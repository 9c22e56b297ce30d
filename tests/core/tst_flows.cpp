// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The contract of a heat flow, held by every kind there is: what its answers say of each other.
#include "FlowKinds.h"
#include "heat/ThermalSystem.h"
#include "heat/boundaries/HeldTemperature.h"
#include "model/Settings.h"
#include "solve/DirectSolver.h"
#include "solve/TwoLevelSolver.h"

#include <QTest>
#include <cmath>
#include <random>
#include <typeinfo>

using namespace kiln;
using namespace kiln::test;

namespace
{

using Values = std::vector<double>;

double largest(const Values& field)
{
  double most = 0;
  for (const double value : field)
    most = std::max(most, std::abs(value));
  return most;
}

double furthest(const Values& a, const Values& b)
{
  double most = 0;
  for (std::size_t i = 0; i < a.size(); ++i)
    most = std::max(most, std::abs(a[i] - b[i]));
  return most;
}

/// A symmetric matrix of which only the lower half is filled, times a vector.
Values lowerTimes(const SparseMatrix& matrix, const Values& x)
{
  Values y(x.size(), 0.0);
  for (Index row = 0; row < matrix.rows(); ++row)
    for (Index i = matrix.rowStart[static_cast<std::size_t>(row)];
         i < matrix.rowStart[static_cast<std::size_t>(row) + 1]; ++i) {
      const Index column = matrix.columns[static_cast<std::size_t>(i)];
      const double value = matrix.values[static_cast<std::size_t>(i)];
      if (column > row)
        continue;
      y[static_cast<std::size_t>(row)] += value * x[static_cast<std::size_t>(column)];
      if (column < row)
        y[static_cast<std::size_t>(column)] += value * x[static_cast<std::size_t>(row)];
    }
  return y;
}

/// A model with its system, and one flow's answers on it.
struct Model {
  Project project;
  Mesh mesh;
  Conditions conditions;
  std::unique_ptr<ThermalSystem> system;
  SparseMatrix empty; // its pattern

  explicit Model(const Project& from) : project(from), mesh(meshOf(from))
  {
    auto resolved = resolveConditions(project, mesh);
    if (!resolved)
      throw std::runtime_error(resolved.error().sentence());
    conditions = std::move(*resolved);
    system = std::make_unique<ThermalSystem>(mesh, conditions);
    empty = system->tangent(somewhere());
    std::fill(empty.values.begin(), empty.values.end(), 0.0);
  }
  /// Temperatures of no order.
  [[nodiscard]] Values somewhere(double mean = 350, double range = 60) const
  {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> around(-range, range);
    Values field(static_cast<std::size_t>(conditions.unknowns.count));
    for (double& value : field)
      value = mean + around(random);
    return field;
  }
  [[nodiscard]] Values arrived(const HeatFlow& flow, const Values& temperature) const
  {
    Values watts(temperature.size(), 0.0);
    const Values none(temperature.size(), 0.0);
    flow.arrivals(system->ground(), {temperature, none}, {}, [&](const Arrival& arrival) {
      for (std::size_t i = 0; i < arrival.unknowns.size(); ++i)
        watts[static_cast<std::size_t>(arrival.unknowns[i])] += arrival.watts[i];
    });
    return watts;
  }
  /// What the system takes of it: the constant share and what it adds to the balance.
  [[nodiscard]] Values taken(const HeatFlow& flow, const Values& temperature) const
  {
    SparseMatrix matrix = empty;
    Values watts(temperature.size(), 0.0);
    flow.addConstant(system->ground(), matrix, watts);
    const Values conducted = lowerTimes(matrix, temperature);
    flow.addFlow(system->ground(), temperature, watts);
    for (std::size_t i = 0; i < watts.size(); ++i)
      watts[i] -= conducted[i];
    return watts;
  }
  /// Minus its derivative along a direction, as it says.
  [[nodiscard]] Values slope(const HeatFlow& flow, const Values& temperature, const Values& direction) const
  {
    SparseMatrix matrix = empty;
    Values unused(temperature.size(), 0.0);
    flow.addConstant(system->ground(), matrix, unused);
    flow.addSlope(system->ground(), temperature, matrix);
    Values along = lowerTimes(matrix, direction);
    flow.addRest(system->ground(), temperature, direction, 1e-12, along);
    return along;
  }
};

/// Projects with every kind: those of the lists, and what is in none of them.
struct Kind {
  QString name;
  std::function<Project(int order, bool bent)> make;
};

Project closedBox(int order)
{
  Project p = projectWith(0.02);
  p.mesh.secondOrder = order == 2;
  p.materials = {heavy("stuff", 1, 2000, 1000)};
  p.materials.front().emissivity = number(0.7);
  p.parts = {part("low", "stuff", block(0.05, 0.05, 0.01)),
             part("high", "stuff", block(0.05, 0.05, 0.01), Vec3(0, 0, 0.03))};
  p.surfaces = {surface("under", {"high.bottom"}), surface("over", {"low.top"})};
  Enclosure enclosure;
  enclosure.id = enclosure.name = "between";
  enclosure.surfaces = {"under", "over"};
  enclosure.opening = number(300);
  enclosure.rays = number(200);
  p.enclosures = {enclosure};
  p.boundaries = {boundary("held", FixedPart{"low", number(400)})};
  return p;
}

Project acrossSpace(int order)
{
  Project p = closedBox(order);
  p.enclosures.clear();
  p.contacts = {contact("low", "high", Gap{number(0.02), number(0.03), number(0.8), number(0.6)})};
  return p;
}

Project curved(int order)
{
  Project p = acrossSpace(order);
  p.materials.front().conductivity = table({{250, 1.0}, {500, 3.0}});
  p.boundaries.push_back(boundary("air", Convection{"under", table({{250, 5.0}, {500, 20.0}}), plain(300)}));
  HeatSource falling = source("falling", PartPower{{"high"}, table({{250, 20.0}, {500, 5.0}})});
  falling.follows = "mean";
  p.sources = {falling};
  return p;
}

Project heldNode(int order)
{
  Project p = closedBox(order);
  Node node;
  node.id = node.name = "air";
  node.temperature = number(310);
  node.power = plain(3);
  p.nodes = {node};
  p.boundaries.push_back(boundary("to air", Convection{"over", plain(8), plain(0), "", "air"}));
  return p;
}

/// Coefficients, ambients, fluxes, densities and held temperatures that vary in place.
Project inPlace(int order)
{
  Project p = projectWith(0.01);
  p.mesh.secondOrder = order == 2;
  p.materials = {heavy("stuff", 1, 2000, 1000)};
  p.parts = {part("plate", "stuff", block(0.1, 0.1, 0.01))};
  p.surfaces = {surface("top", {"plate.top"}), surface("bottom", {"plate.bottom"}), surface("left", {"plate.left"})};
  p.boundaries = {boundary("air", Convection{"top", plain(10), plain(300)}),
                  boundary("held", FixedSurface{"left", number(300)})};
  p.sources = {source("sun", SurfaceFlux{"bottom", plain(1)}), source("inside", PartDensity{{"plate"}, plain(1)})};
  const bool set = setField(p, "air.coefficient", "10 [W/(m²·K)] * (1 + x/(0.1 m))") &&
                   setField(p, "air.ambient", "300 K + 100 K*x/(0.1 m)") &&
                   setField(p, "held.temperature", "300 K + 100 K*y/(0.1 m)") &&
                   setField(p, "sun.flux", "500 [W/m²] * (1 + (y/(0.05 m))^2)") &&
                   setField(p, "inside.density", "500 [W/m³] * (1 + (y/(0.05 m))^2)");
  if (!set)
    throw std::runtime_error("a field is not there");
  return p;
}

std::vector<Kind> kinds()
{
  std::vector<Kind> all;
  for (const Named& named : allKinds())
    all.push_back({named.name, [make = named.make](int order, bool bent) {
                     const Body body{bent};
                     return make(slab(body, order), body).project;
                   }});
  all.push_back({"enclosure", [](int order, bool) { return closedBox(order); }});
  all.push_back({"gap across space", [](int order, bool) { return acrossSpace(order); }});
  all.push_back({"place", [](int order, bool) { return inPlace(order); }});
  all.push_back({"tables", [](int order, bool) { return curved(order); }});
  all.push_back({"node", [](int order, bool) { return heldNode(order); }});
  return all;
}

} // namespace

class FlowsTest : public QObject
{
  Q_OBJECT

  void rows()
  {
    QTest::addColumn<int>("kind");
    QTest::addColumn<int>("order");
    QTest::addColumn<bool>("bent");
    const std::vector<Kind> all = kinds();
    for (std::size_t k = 0; k < all.size(); ++k)
      for (const int order : {1, 2})
        for (const bool bent : {false, true})
          QTest::addRow("%s, order %d, %s", qPrintable(all[k].name), order, bent ? "bent" : "flat")
              << static_cast<int>(k) << order << bent;
  }
  static Model fetched()
  {
    QFETCH(int, kind);
    QFETCH(int, order);
    QFETCH(bool, bent);
    return Model(kinds()[static_cast<std::size_t>(kind)].make(order, bent));
  }

private slots:
  void whatArrivesIsWhatTheSystemTakes_data() { rows(); }
  /// Given any temperatures, then the ledger's arrivals are the constant share and the rest of the balance; and all
  /// flows together are the balance of the system.
  void whatArrivesIsWhatTheSystemTakes()
  {
    const Model model = fetched();
    const Values t = model.somewhere();
    Values all(t.size(), 0.0);
    model.system->eachFlow([&](const HeatFlow& flow) {
      const Values taken = model.taken(flow, t);
      for (std::size_t i = 0; i < all.size(); ++i)
        all[i] += taken[i];
      if (dynamic_cast<const HeldTemperature*>(&flow) != nullptr) {
        QCOMPARE(largest(taken), 0.0);
        return;
      }
      const Values arrived = model.arrived(flow, t);
      QVERIFY2(furthest(arrived, taken) <= 1e-9 * (1 + largest(taken)), typeid(flow).name());
      if (!flow.bend()) {
        Values bent(t.size(), 0.0);
        flow.addFlow(model.system->ground(), t, bent);
        QVERIFY2(largest(bent) == 0, typeid(flow).name());
      }
    });
    QVERIFY(furthest(all, model.system->balance(t)) <= 1e-9 * (1 + largest(all)));
  }

  void theSlopeIsTheDerivative_data() { rows(); }
  /// Given a direction, then constant share, slope and rest together are minus the difference of what arrives; no rest
  /// where it says there is none.
  void theSlopeIsTheDerivative()
  {
    const Model model = fetched();
    const Values t = model.somewhere();
    const Values direction = model.somewhere(0, 1);
    constexpr double step = 1e-3; // K
    Values up = t;
    Values down = t;
    for (std::size_t i = 0; i < t.size(); ++i) {
      up[i] += step * direction[i];
      down[i] -= step * direction[i];
    }
    model.system->eachFlow([&](const HeatFlow& flow) {
      Values said = model.slope(flow, t, direction);
      const Values high = model.taken(flow, up);
      const Values low = model.taken(flow, down);
      double size = largest(said);
      for (std::size_t i = 0; i < said.size(); ++i)
        said[i] += (high[i] - low[i]) / (2 * step);
      QVERIFY2(largest(said) <= 2e-5 * size + 1e-7,
               qPrintable(QString("%1: %2 of %3").arg(typeid(flow).name()).arg(largest(said)).arg(size)));
      if (flow.rest() == HeatFlow::Rest::None) {
        Values rest(t.size(), 0.0);
        flow.addRest(model.system->ground(), t, direction, 1e-12, rest);
        QCOMPARE(largest(rest), 0.0);
      }
    });
  }

  void theLedgerAddsUp_data() { rows(); }
  /// Given temperatures that hold nothing in store, then what all lines of the ledger bring from outside is what
  /// arrives, flow by flow; and what enters less what leaves is the same.
  void theLedgerAddsUp()
  {
    const Model model = fetched();
    const Values t = model.somewhere();
    const Values reaction = model.system->reaction(t);
    const FlowState state{t, reaction};
    model.system->eachFlow([&](const HeatFlow& flow) {
      double outside = 0;
      for (const FlowFigure& figure : flow.figures(model.system->ground(), state))
        outside += figure.fromOutside;
      Passing passing;
      flow.addPassing(model.system->ground(), state, passing);
      const double size = passing.in + passing.out + largest(model.taken(flow, t)) + 1;
      QVERIFY2(std::abs(passing.in - passing.out - outside) < 1e-9 * size, typeid(flow).name());
      if (dynamic_cast<const HeldTemperature*>(&flow) == nullptr) {
        double arrived = 0;
        for (const double watts : model.arrived(flow, t))
          arrived += watts;
        QVERIFY2(std::abs(arrived - outside) < 1e-8 * size,
                 qPrintable(QString("%1: %2 and %3").arg(typeid(flow).name()).arg(arrived).arg(outside)));
      }
      TemperatureSpan span;
      flow.outside(model.system->ground(), span);
      QVERIFY2(span.low > span.high || (span.low > 200 && span.high < 2000), typeid(flow).name());
      QVERIFY(flow.unsolved().empty());
    });
  }

  void whatLastsIsKept_data() { rows(); }
  /// Given another instant, then what lasts is the same object, and there is one new of each of the others.
  void whatLastsIsKept()
  {
    Model model = fetched();
    const Index count = model.conditions.unknowns.count;
    const std::size_t tets = model.conditions.unknowns.ofTet.size();
    Project broken = model.project;
    broken.boundaries.push_back(boundary("nowhere", Sheet{"anywhere", "no such material", number(0.001)}));
    QVERIFY(!resolveAgain(broken, model.mesh, model.conditions)); // and what it borrowed is back
    QCOMPARE(model.conditions.unknowns.count, count);
    QCOMPARE(model.conditions.unknowns.ofTet.size(), tets);
    const auto again = resolveAgain(model.project, model.mesh, model.conditions);
    QVERIFY(again.has_value());
    QCOMPARE(again->flows.size(), model.conditions.flows.size());
    QCOMPARE(again->unknowns.count, count);
    std::multiset<std::string> before, after;
    for (const auto& flow : model.conditions.flows) {
      const bool kept = std::find(again->flows.begin(), again->flows.end(), flow) != again->flows.end();
      QCOMPARE(kept, flow->lasting());
      before.insert(typeid(*flow).name());
    }
    for (const auto& flow : again->flows)
      after.insert(typeid(*flow).name());
    QVERIFY(before == after);
  }

  void theCornersDivideIt_data() { rows(); }
  /// Given second order with any flow, then conjugate gradients by way of the corners answer as a factorisation does.
  void theCornersDivideIt()
  {
    const Model model = fetched();
    const CornerParents parents = cornerParents(model.mesh, model.conditions.unknowns);
    QCOMPARE(parents.empty(), model.mesh.order == 1);
    if (parents.empty())
      return;
    const SparseMatrix matrix = model.system->tangent(model.somewhere());
    const Values right = [&] {
      Values some = model.somewhere(0, 1);
      for (std::size_t u = 0; u < some.size(); ++u)
        some[u] = model.system->isFixed()[u] != 0 ? 0 : some[u];
      return some;
    }();
    Values x(right.size(), 0.0), y(right.size(), 0.0);
    DirectSolver direct;
    TwoLevelSolver corners(parents, std::make_unique<DirectSolver>());
    QVERIFY(direct.prepare(matrix) && direct.solve(right, x, 1e-9));
    QVERIFY(corners.prepare(matrix));
    const auto report = corners.solve(right, y, 1e-10);
    QVERIFY2(report, report ? "" : report.error().sentence().c_str());
    QVERIFY2(report->iterations < 60, qPrintable(QString::number(report->iterations)));
    double most = 0, worst = 0;
    for (std::size_t u = 0; u < x.size(); ++u) {
      most = std::max(most, std::abs(x[u]));
      worst = std::max(worst, std::abs(x[u] - y[u]));
    }
    QVERIFY2(worst < 1e-6 * most, qPrintable(QString::number(worst / most)));
  }

  void theProjectsHoldEveryKindOfFlow()
  {
    std::set<std::string> seen;
    for (const Kind& kind : kinds()) {
      const Model model(kind.make(1, false));
      model.system->eachFlow([&](const HeatFlow& flow) { seen.insert(typeid(flow).name()); });
    }
    // Conduction; heat in parts, on faces, at points; convection, radiation, sheets; contacts, gaps across space; held;
    // what follows, what is tied to nodes, stretches, streams, wires, currents; enclosures.
    QCOMPARE(seen.size(), 17U);
  }
};

QTEST_APPLESS_MAIN(FlowsTest)
#include "tst_flows.moc"
