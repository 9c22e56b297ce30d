// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Newton's steps where enclosures couple what they enclose: with slow modes apart and without, the same update; and a
// steady model that takes over from the project before.
#include "TestProjects.h"
#include "run/SteadyModel.h"
#include "solve/CoupledStep.h"
#include "solve/NewtonStep.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Two small kilns beside each other: a hollow of insulating walls around a brick that is heated, in still air.
Project twoKilns()
{
  Project p = projectWith(0.03);
  p.materials = {material("fibre", 0.15), material("brick", 1)};
  Enclosure space;
  for (const auto& [name, x] : {std::pair<std::string, double>{"one", 0}, {"two", 0.4}}) {
    Part walls = part(name, "fibre", block(0.14, 0.14, 0.14), Vec3(x, 0, 0));
    walls.steps = {cut("room", block(0.1, 0.1, 0.1), Vec3(0, 0, 0.02))};
    p.parts.push_back(walls);
    p.parts.push_back(part(name + "-ware", "brick", block(0.04, 0.04, 0.04), Vec3(x, 0, 0.05)));
    p.surfaces.push_back(surface(name + "-room", {name + ".room.*", name + "-ware.*"}));
    space.id = space.name = name + "-space";
    space.surfaces = {name + "-room"};
    p.enclosures.push_back(space);
    p.sources.push_back(source(name + "-heat", PartPower{{name + "-ware"}, Property{name == "one" ? 60.0 : 90.0, ""}}));
  }
  Finish grey;
  grey.id = grey.name = "grey";
  grey.emissivity = number(0.8);
  grey.surfaces = {"one-room", "two-room"};
  p.finishes = {grey};
  p.surfaces.push_back(exposedOf("outside", {"one", "two"}, {"one-room", "two-room"}));
  p.boundaries = {boundary("air", Convection{"outside", Property{8, ""}, Property{295, ""}})};
  p.watches = {watch("hot", PartFigure{Extreme::Hottest, {"one-ware", "two-ware"}})};
  return p;
}

double largest(const std::vector<double>& values)
{
  double most = 0;
  for (const double value : values)
    most = std::max(most, std::abs(value));
  return most;
}

std::vector<double> difference(std::vector<double> a, const std::vector<double>& b)
{
  for (std::size_t i = 0; i < a.size(); ++i)
    a[i] -= b[i];
  return a;
}

ViewFactorSource cast()
{
  return [](const Mesh& seen, const Patches& patches, const Eigen::VectorXd& areas, int rays, bool open) {
    return castViewFactors(seen, patches, areas, rays, open, 1, noProgress);
  };
}

} // namespace

class CoupledTest : public QObject
{
  Q_OBJECT

private slots:
  void modesChangeTheWayNotTheAnswer()
  {
    const Project p = twoKilns();
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    QVERIFY2(conditions, conditions ? "" : conditions.error().sentence().c_str());
    const ThermalSystem system(mesh, *conditions);
    std::vector<double> hot(static_cast<std::size_t>(system.unknowns()), 1200.0);
    const std::vector<double> right = system.balance(hot);
    const SparseMatrix symmetric = system.tangent(hot);
    const auto solver = makeLinearSolver(LinearBackend::Direct, system.unknowns());
    QVERIFY(solver->prepare(symmetric));
    constexpr double fine = 1e-11;
    std::vector<double> without(right.size()), with(right.size()), again(right.size());
    SlowModes modes;
    const auto plain = coupledStep(system, symmetric, *solver, hot, right, without, fine, nullptr);
    const auto apart = coupledStep(system, symmetric, *solver, hot, right, with, fine, &modes);
    QVERIFY(plain && apart);
    QCOMPARE(modes.size(), std::size_t{2}); // one of each
    QVERIFY2(largest(difference(with, without)) < 1e-3 * largest(without),
             qPrintable(QString::number(largest(difference(with, without)))));
    // It solves what was asked.
    std::vector<double> answer(right.size());
    multiply(symmetric, with, answer);
    const std::vector<double> rest = system.restOfTangent(hot, with);
    for (std::size_t i = 0; i < answer.size(); ++i)
      answer[i] += rest[i];
    QVERIFY2(largest(difference(answer, right)) < 5e-3 * largest(right), // what light is solved to
             qPrintable(QString::number(largest(difference(answer, right)) / largest(right))));
    // Roughly solved, what is slow is there already.
    constexpr double rough = 0.03;
    std::vector<double> roughly(right.size()), slowly(right.size());
    QVERIFY(coupledStep(system, symmetric, *solver, hot, right, roughly, rough, &modes));
    QVERIFY(coupledStep(system, symmetric, *solver, hot, right, slowly, rough, nullptr));
    const double off = largest(difference(roughly, with)) / largest(with);
    const double offWithout = largest(difference(slowly, with)) / largest(with);
    QVERIFY2(off < 0.05 && off < offWithout / 3, qPrintable(QString("%1, without %2").arg(off).arg(offWithout)));
    // Found once, they are used again.
    const SlowModes kept = modes;
    const auto reused = coupledStep(system, symmetric, *solver, hot, right, again, fine, &modes);
    QVERIFY(reused && *reused < *apart);
    QVERIFY(modes == kept);
  }

  /// A mode is how things warm within one enclosure: between nothing and one, next to one inside, nothing next door.
  void aModeIsOfOneEnclosure()
  {
    const Project p = twoKilns();
    const Mesh mesh = meshOf(p);
    const auto conditions = resolveConditions(p, mesh);
    const ThermalSystem system(mesh, *conditions);
    const std::vector<double> hot(static_cast<std::size_t>(system.unknowns()), 1200.0);
    const SparseMatrix symmetric = system.tangent(hot);
    const auto solver = makeLinearSolver(LinearBackend::Direct, system.unknowns());
    QVERIFY(solver->prepare(symmetric));
    std::vector<double> update(hot.size());
    SlowModes modes;
    QVERIFY(coupledStep(system, symmetric, *solver, hot, system.balance(hot), update, 0.1, &modes));
    for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
      const std::string& in = mesh.geometry.parts[static_cast<std::size_t>(mesh.tetPart[t])].id;
      for (const UnknownId unknown : conditions->unknowns.ofTet[t]) {
        const auto at = static_cast<std::size_t>(unknown);
        for (std::size_t m = 0; m < 2; ++m) {
          QVERIFY(modes[m][at] > -1e-9 && modes[m][at] < 1 + 1e-9);
          if (in.starts_with(m == 0 ? "two" : "one"))
            QVERIFY(std::abs(modes[m][at]) < 1e-9);
          if (in == (m == 0 ? "one-ware" : "two-ware"))
            QVERIFY(modes[m][at] > 0.9);
        }
      }
    }
  }

  /// From cold, with light to and fro, at either order: no step is spent on a tangent that is not the balance's own.
  void fewStepsFromCold()
  {
    Project p = twoKilns();
    for (const bool second : {false, true}) {
      p.mesh.secondOrder = second;
      const Mesh mesh = meshOf(p);
      const auto conditions = resolveConditions(p, mesh);
      SteadyOptions multigrid;
      multigrid.backend = LinearBackend::Multigrid;
      const auto solution = solveSteady(mesh, *conditions, multigrid, noProgress);
      QVERIFY(solution);
      QVERIFY2(solution->newtonSteps <= 8, qPrintable(QString::number(solution->newtonSteps)));
      QVERIFY(solution->residual <= SteadyOptions{}.residualTolerance);
      // As far as it says: another step from there moves nothing.
      const ThermalSystem system(mesh, *conditions);
      const SparseMatrix tangent = system.tangent(solution->temperature);
      const auto direct = makeLinearSolver(LinearBackend::Direct, system.unknowns());
      QVERIFY(direct->prepare(tangent));
      std::vector<double> update(solution->temperature.size());
      QVERIFY(coupledStep(system, tangent, *direct, solution->temperature, system.balance(solution->temperature),
                          update, 1e-8, nullptr));
      QVERIFY2(largest(update) < SteadyOptions{}.updateTolerance, qPrintable(QString::number(largest(update))));
    }
  }

  /// Steady states from one project to the next, each as if it were solved alone: numbers, then what couples.
  void aModelIsTakenOver()
  {
    Project p = twoKilns();
    SteadyModel model(meshOf(p), "mesh");
    SteadyShared shared;
    const auto solvedOnIt = [&] {
      auto taken = model.take(p, cast());
      if (!taken)
        throw std::runtime_error(taken.error().sentence());
      SteadyOptions options;
      options.shared = &shared;
      options.system = &model.system();
      auto solution = solveSteady(model.mesh(), model.conditions(), options, noProgress);
      if (!solution)
        throw std::runtime_error(solution.error().sentence());
      return solution->temperature;
    };
    const auto solvedAlone = [&] {
      const auto conditions = resolveConditions(p, model.mesh());
      return solveSteady(model.mesh(), *conditions, {}, noProgress)->temperature;
    };
    const auto agrees = [&](const char* what) {
      const double off = largest(difference(solvedOnIt(), solvedAlone()));
      QVERIFY2(off < 0.01, qPrintable(QString("%1: %2 K").arg(what).arg(off)));
    };
    agrees("first");
    const ThermalSystem* system = &model.system();
    std::get<PartPower>(p.sources[0].heat).power.si = 75;
    std::get<Convection>(p.boundaries[0].condition).coefficient.si = 12;
    agrees("numbers");
    QVERIFY(&model.system() == system); // kept
    p.materials[0].conductivity.si = 0.3;
    agrees("conductivity");
    p.sources[1].muted = true;
    agrees("switched off");
    p.boundaries.push_back(boundary("held", FixedPart{"two-ware", number(900)}));
    agrees("held");
    Surface side = surface("side", {"one.left"});
    p.surfaces.push_back(side);
    p.boundaries.push_back(boundary("cold", FixedSurface{"side", number(300)}));
    agrees("another surface");
    p.surfaces.back().faces = {"one.left", "two.left"};
    agrees("a surface of more faces");
    p.boundaries.push_back(boundary("spot", FixedPoint{{number(0), number(0.06), number(0.07)}, number(320)}));
    agrees("a place");
    std::get<FixedPoint>(p.boundaries.back().condition).place.x = number(0.4);
    agrees("another place");
  }

  /// A mesh that is lent to a result comes back; without it a new one is made.
  void aSharedSolveLendsItsMesh()
  {
    Project p = twoKilns();
    const QTemporaryDir folder;
    SharedSolve shared;
    auto first = shared.solve(p, p.cases[0], folder.path().toStdString(), noProgress);
    QVERIFY2(first, first ? ""
                          : (first.error().failure ? first.error().failure->sentence()
                                                   : first.error().notReady.front().sentence())
                                .c_str());
    const double before = valueOf(p, *first, "hot");
    shared.takeBack(std::move(*first));
    std::get<PartPower>(p.sources[1].heat).power.si = 100;
    const auto second = shared.solve(p, p.cases[0], folder.path().toStdString(), noProgress); // not given back
    QVERIFY(second && valueOf(p, *second, "hot") > before + 1);
    const auto third = shared.solve(p, p.cases[0], folder.path().toStdString(), noProgress);
    QVERIFY(third && std::abs(valueOf(p, *third, "hot") - valueOf(p, *second, "hot")) < 0.01);
    QCOMPARE(third->mesh.nodes.size(), second->mesh.nodes.size());
  }
};

QTEST_GUILESS_MAIN(CoupledTest)
#include "tst_coupled.moc"
