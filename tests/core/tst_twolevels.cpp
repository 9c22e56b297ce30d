// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Second order divided by way of its corners: what hangs on what, the corners' system, and answers that depend neither
// on the mesh's fineness nor on how many processors there are.
#include "TestProjects.h"
#include "base/Processors.h"
#include "heat/Conditions.h"
#include "heat/ThermalSystem.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/elements/VolumeElement.h"
#include "solve/DirectSolver.h"
#include "solve/TwoLevelSolver.h"

#include <QTest>
#include <numeric>
#include <random>
#include <set>
#include <thread>

using namespace kiln;
using namespace kiln::test;

namespace
{

using Values = std::vector<double>;

/// Three parts: a contact with a jump, a perfect one, a round face, a held face, air, a sheet with a temperature of its
/// own and a lumped node.
Project stack(double size, int order)
{
  Project p = projectWith(size);
  p.mesh.secondOrder = order == 2;
  p.materials = {material("metal", 40), material("brick", 0.5)};
  p.parts = {part("low", "metal", block(0.06, 0.06, 0.02), Vec3(0, 0, -0.02)),
             part("high", "brick", Cylinder{number(0.02), number(0.02)}, Vec3(0, 0, 0)),
             part("lid", "metal", block(0.06, 0.06, 0.01), Vec3(0, 0, 0.02))};
  p.contacts = {contact("low", "high", AreaConductance{number(500)})};
  p.surfaces = {surface("bottom", {"low.bottom"}), surface("side", {"high.side"}), surface("top", {"lid.top"})};
  Sheet foil{"top", "metal", number(0.0005)};
  foil.through = number(0.01);
  p.boundaries = {boundary("held", FixedSurface{"bottom", number(300)}),
                  boundary("air", Convection{"side", Property{20, ""}, Property{290, ""}}), boundary("foil", foil)};
  p.sources = {source("heater", PartPower{{"lid"}, Property{5, ""}})};
  return p;
}

struct Model {
  Mesh mesh;
  Conditions conditions;
  std::unique_ptr<ThermalSystem> system;
  SparseMatrix matrix;
  CornerParents parents;

  explicit Model(const Project& project) : mesh(meshOf(project))
  {
    auto resolved = resolveConditions(project, mesh);
    if (!resolved)
      throw std::runtime_error(resolved.error().sentence());
    conditions = std::move(*resolved);
    system = std::make_unique<ThermalSystem>(mesh, conditions);
    matrix = system->tangent(Values(static_cast<std::size_t>(system->unknowns()), 300.0));
    parents = cornerParents(mesh, conditions.unknowns);
  }
  [[nodiscard]] bool held(std::size_t u) const { return system->isFixed()[u] != 0; }
  [[nodiscard]] Vec3 place(std::size_t u) const { return mesh.placeOf(conditions.unknowns.node[u]); }
};

Values noise(std::size_t size, unsigned seed)
{
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> around(-1, 1);
  Values values(size);
  for (double& value : values)
    value = around(random);
  return values;
}

double dot(const Values& a, const Values& b) { return std::inner_product(a.begin(), a.end(), b.begin(), 0.0); }

} // namespace

class TwoLevelsTest : public QObject
{
  Q_OBJECT

private slots:
  void nothingHangsAtFirstOrder() { QVERIFY(Model(stack(0.02, 1)).parents.empty()); }

  /// Given all unknowns, then corners are those of elements and hang on themselves, and all else lies halfway between
  /// two of them (on the chord: round edges bulge).
  void whatHangsOnWhat()
  {
    const Model model(stack(0.01, 2));
    std::size_t corners = 0;
    for (std::size_t u = 0; u < model.parents.size(); ++u) {
      const auto a = static_cast<std::size_t>(model.parents[u][0]);
      const auto b = static_cast<std::size_t>(model.parents[u][1]);
      QVERIFY(model.parents[a][0] == model.parents[u][0] && model.parents[b][0] == model.parents[u][1]);
      corners += a == u ? 1 : 0;
      if (a == u) {
        QCOMPARE(b, u);
        continue;
      }
      const Vec3 chord = model.place(b) - model.place(a);
      const double off = (model.place(u) - (model.place(a) + model.place(b)) / 2).norm();
      QVERIFY2(off < 0.13 * chord.norm(), qPrintable(QString::number(off / chord.norm())));
    }
    const Unknowns& unknowns = model.conditions.unknowns;
    std::set<UnknownId> ofElements;
    for (std::size_t e = 0; e < tetElements(model.mesh); ++e) {
      const VolumeNodes nodes = volumeNodes(model.mesh, unknowns, e);
      ofElements.insert(nodes.begin(), nodes.begin() + 4);
    }
    for (std::size_t e = 0; e < triangleElements(model.mesh); ++e)
      for (const std::size_t side : {0, 1}) {
        const SurfaceNodes nodes = nodesOf(model.mesh, unknowns, e, side);
        std::copy_if(nodes.begin(), nodes.begin() + 3, std::inserter(ofElements, ofElements.end()),
                     [](UnknownId u) { return u >= 0; });
      }
    QCOMPARE(corners, ofElements.size());
  }

  /// The corners' matrix is that of the whole for fields that are straight between corners, and it is symmetric.
  void theCornersSystem()
  {
    const Model model(stack(0.015, 2));
    CornerCoarsening coarsening(model.parents);
    coarsening.take(model.matrix);
    const std::size_t count = coarsening.corners();
    const auto fineOf = [&](const Values& coarse) {
      Values fine(model.parents.size(), 0.0);
      coarsening.addProlonged(coarse, fine);
      return fine;
    };
    Values a = noise(count, 1), b = noise(count, 2);
    std::size_t corner = 0;
    for (std::size_t u = 0; u < model.parents.size(); ++u)
      if (static_cast<std::size_t>(model.parents[u][0]) == u) {
        if (model.held(u))
          a[corner] = b[corner] = 0;
        ++corner;
      }
    Values coarseProduct(count), fineProduct(model.parents.size());
    multiply(coarsening.matrix(), a, coarseProduct);
    multiply(model.matrix, fineOf(a), fineProduct);
    const double whole = dot(fineOf(b), fineProduct);
    QVERIFY2(std::abs(dot(b, coarseProduct) - whole) < 1e-10 * std::abs(dot(fineOf(a), fineProduct)),
             qPrintable(QString("%1 and %2").arg(dot(b, coarseProduct)).arg(whole)));
    Values other(count);
    multiply(coarsening.matrix(), b, other);
    QVERIFY(std::abs(dot(a, other) - dot(b, coarseProduct)) < 1e-10 * std::abs(dot(a, coarseProduct)));
    Values restricted(count);
    coarsening.restrict(fineProduct, restricted);
    QVERIFY(std::abs(dot(b, restricted) - whole) < 1e-10 * std::abs(dot(fineOf(a), fineProduct)));
  }

  /// As the factorisation answers, in as many iterations on a fine mesh as on a coarse one.
  void itAnswersAsTheFactorisationDoes()
  {
    std::vector<int> iterations;
    for (const double size : {0.012, 0.006}) {
      const Model model(stack(size, 2));
      Values b = noise(model.parents.size(), 3);
      for (std::size_t u = 0; u < b.size(); ++u)
        b[u] = model.held(u) ? 0 : b[u];
      DirectSolver direct;
      Values x(b.size()), y(b.size());
      QVERIFY(direct.prepare(model.matrix) && direct.solve(b, x, 1e-10));
      TwoLevelSolver solver(model.parents, std::make_unique<DirectSolver>());
      QVERIFY(solver.prepare(model.matrix));
      const auto report = solver.solve(b, y, 1e-10);
      QVERIFY2(report, report ? "" : report.error().sentence().c_str());
      iterations.push_back(report->iterations);
      double worst = 0, most = 0;
      for (std::size_t u = 0; u < b.size(); ++u) {
        worst = std::max(worst, std::abs(x[u] - y[u]));
        most = std::max(most, std::abs(x[u]));
        QVERIFY(!model.held(u) || y[u] == 0);
      }
      QVERIFY2(worst < 1e-7 * most, qPrintable(QString::number(worst / most)));
    }
    QVERIFY2(iterations[1] <= iterations[0] + 6 && iterations[1] < 45,
             qPrintable(QString("%1, %2").arg(iterations[0]).arg(iterations[1])));
  }

  /// What divides inside another iteration is a fixed, symmetric, positive map.
  void oneCycleIsSymmetric()
  {
    const Model model(stack(0.008, 2));
    TwoLevelSolver solver(model.parents, std::make_unique<DirectSolver>());
    QVERIFY(solver.prepare(model.matrix));
    const Values a = noise(model.parents.size(), 4), b = noise(model.parents.size(), 5);
    Values ofA(a.size()), ofB(a.size());
    solver.approximate(a, ofA);
    solver.approximate(b, ofB);
    QVERIFY(std::abs(dot(b, ofA) - dot(a, ofB)) < 1e-6 * std::sqrt(dot(a, ofA) * dot(b, ofB)));
    QVERIFY(dot(a, ofA) > 0 && dot(b, ofB) > 0);
  }

  /// Bit by bit, on a mesh of several blocks.
  void anyNumberOfProcessorsGivesTheSame()
  {
    const Model model(stack(0.0028, 2));
    QVERIFY2(model.parents.size() > 40'000, qPrintable(QString::number(model.parents.size())));
    std::vector<Values> answers;
    for (const int processors : {1, 2}) {
      limitProcessors(processors);
      TwoLevelSolver solver(model.parents, std::make_unique<DirectSolver>());
      QVERIFY(solver.prepare(model.matrix));
      Values& y = answers.emplace_back(model.parents.size());
      QVERIFY(solver.solve(noise(y.size(), 6), y, 1e-8));
    }
    limitProcessors(static_cast<int>(std::thread::hardware_concurrency()));
    QVERIFY(answers[0] == answers[1]);
  }

  /// A second matrix of the same pattern replaces the first; zero heat gives zero; what has no way out is refused.
  void itIsUsedAgain()
  {
    Model model(stack(0.012, 2));
    TwoLevelSolver solver(model.parents, std::make_unique<DirectSolver>());
    QVERIFY(solver.prepare(model.matrix));
    const Values b = noise(model.parents.size(), 7);
    Values x(b.size()), y(b.size());
    QVERIFY(solver.solve(b, x, 1e-10));
    for (double& value : model.matrix.values)
      value *= 2;
    QVERIFY(solver.prepare(model.matrix) && solver.solve(b, y, 1e-10));
    for (std::size_t u = 0; u < b.size(); ++u)
      QVERIFY(std::abs(x[u] - 2 * y[u]) < 1e-6 * (1 + std::abs(x[u])));
    QVERIFY(solver.solve(Values(b.size(), 0.0), y, 1e-10));
    QVERIFY(std::all_of(y.begin(), y.end(), [](double value) { return value == 0; }));
    model.matrix.values[static_cast<std::size_t>(model.matrix.position(0, 0))] = -1;
    QVERIFY(!solver.prepare(model.matrix));
  }

  /// The automatic choice begins with it where there is something between corners.
  void itIsChosen()
  {
    const Model model(stack(0.012, 2));
    const auto chosen = makeLinearSolver(LinearBackend::Automatic, multigridFrom, model.parents);
    QVERIFY(chosen->prepare(model.matrix));
    QVERIFY(chosen->name().starts_with("multigrid of the corners"));
  }
};

QTEST_APPLESS_MAIN(TwoLevelsTest)
#include "tst_twolevels.moc"
