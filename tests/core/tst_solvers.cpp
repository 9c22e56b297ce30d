// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/DirectSolver.h"
#include "solve/MultigridSolver.h"

#include <QTest>
#include <cmath>
#include <random>
#include <set>

using namespace kiln;

namespace
{

/// Seven-point conduction on an n³ grid with a conductivity jump of 1000 in the upper half and a sink everywhere.
SparseMatrix gridMatrix(int n, double sink)
{
  const auto index = [n](int i, int j, int k) { return static_cast<Index>((k * n + j) * n + i); };
  PatternBuilder pattern(n * n * n);
  for (int k = 0; k < n; ++k)
    for (int j = 0; j < n; ++j)
      for (int i = 0; i < n; ++i)
        for (const auto& [di, dj, dk] : {std::array{1, 0, 0}, {0, 1, 0}, {0, 0, 1}})
          if (i + di < n && j + dj < n && k + dk < n)
            pattern.couple(std::array{UnknownId(index(i, j, k)), UnknownId(index(i + di, j + dj, k + dk))});
  SparseMatrix matrix = pattern.build();
  const auto add = [&](Index a, Index b, double value) {
    matrix.values[static_cast<std::size_t>(matrix.position(a, b))] += value;
  };
  for (int k = 0; k < n; ++k)
    for (int j = 0; j < n; ++j)
      for (int i = 0; i < n; ++i) {
        const Index a = index(i, j, k);
        add(a, a, sink);
        for (const auto& [di, dj, dk] : {std::array{1, 0, 0}, {0, 1, 0}, {0, 0, 1}})
          if (i + di < n && j + dj < n && k + dk < n) {
            const Index b = index(i + di, j + dj, k + dk);
            const double g = 2 * k > n ? 1000 : 1;
            add(a, a, g);
            add(b, b, g);
            add(a, b, -g);
            add(b, a, -g);
          }
      }
  return matrix;
}

std::vector<double> someRightSide(Index n)
{
  std::vector<double> b(static_cast<std::size_t>(n));
  for (std::size_t i = 0; i < b.size(); ++i)
    b[i] = std::sin(0.37 * static_cast<double>(i)) + 0.2;
  return b;
}

} // namespace

class SolversTest : public QObject
{
  Q_OBJECT

private slots:
  /// Against a set of pairs, for groups of all sizes that share members, some of them twice in one group.
  void aPatternHasEveryPairOfItsGroups()
  {
    std::mt19937 random(11);
    constexpr int rows = 20000; // more than a block
    PatternBuilder builder(rows);
    std::set<std::pair<int, int>> pairs;
    for (int g = 0; g < 6000; ++g) {
      std::vector<UnknownId> group;
      const int around = static_cast<int>(random() % rows);
      for (std::size_t i = 0; i < 1 + g % 11U; ++i)
        group.emplace_back((around + static_cast<int>(random() % 40)) % rows);
      builder.couple(group);
      for (const UnknownId a : group)
        for (const UnknownId b : group)
          pairs.emplace(static_cast<int>(a), static_cast<int>(b));
    }
    const SparseMatrix matrix = builder.build();
    QCOMPARE(matrix.rows(), rows);
    QCOMPARE(matrix.values.size(), pairs.size());
    auto expected = pairs.begin();
    for (Index row = 0; row < rows; ++row)
      for (Index k = matrix.rowStart[static_cast<std::size_t>(row)];
           k < matrix.rowStart[static_cast<std::size_t>(row) + 1]; ++k, ++expected)
        QVERIFY(*expected == std::pair(row, matrix.columns[static_cast<std::size_t>(k)]));
  }

  void bothBackendsAgree()
  {
    const SparseMatrix matrix = gridMatrix(18, 0.01);
    const std::vector<double> b = someRightSide(matrix.rows());
    DirectSolver direct;
    QVERIFY(direct.prepare(matrix));
    std::vector<double> x(b.size());
    QVERIFY(direct.solve(b, x, 1e-10));
    for (const MultigridSettings settings : {MultigridSettings::Fast, MultigridSettings::Safe}) {
      MultigridSolver multigrid(settings);
      QVERIFY(multigrid.prepare(matrix));
      std::vector<double> y(b.size());
      const auto report = multigrid.solve(b, y, 1e-9);
      QVERIFY2(report, report ? "" : report.error().sentence().c_str());
      QVERIFY(report->iterations < 40);
      QVERIFY(relativeResidual(matrix, b, y) <= 1e-9);
      double worst = 0, size = 0;
      for (std::size_t i = 0; i < x.size(); ++i) {
        worst = std::max(worst, std::abs(x[i] - y[i]));
        size = std::max(size, std::abs(x[i]));
      }
      QVERIFY2(worst < 1e-6 * size, qPrintable(QString::number(worst / size)));
    }
  }

  void aSecondMatrixReplacesTheFirst()
  {
    SparseMatrix matrix = gridMatrix(8, 1);
    const std::vector<double> b = someRightSide(matrix.rows());
    DirectSolver solver;
    QVERIFY(solver.prepare(matrix));
    for (double& value : matrix.values)
      value *= 2;
    QVERIFY(solver.prepare(matrix));
    std::vector<double> x(b.size());
    QVERIFY(solver.solve(b, x, 1e-10));
  }

  void aMatrixWithoutSolutionIsRefused()
  {
    SparseMatrix matrix = gridMatrix(6, 0);
    matrix.values[static_cast<std::size_t>(matrix.position(0, 0))] -= 5; // indefinite
    DirectSolver direct;
    const auto prepared = direct.prepare(matrix);
    QVERIFY(!prepared && prepared.error().problem.find("no unique solution") != std::string::npos);
    // Heat with no way out has no steady answer: the automatic choice tries all it has and says so.
    const SparseMatrix floating = gridMatrix(6, 0);
    const auto automatic = makeLinearSolver(LinearBackend::Automatic, multigridFrom);
    const std::vector<double> b = someRightSide(floating.rows());
    std::vector<double> x(b.size());
    const auto ready = automatic->prepare(floating);
    QVERIFY(!ready || !automatic->solve(b, x, 1e-10));
  }

  void theSizeChoosesTheBackend()
  {
    const SparseMatrix matrix = gridMatrix(6, 1);
    const auto small = makeLinearSolver(LinearBackend::Automatic, multigridFrom - 1);
    const auto large = makeLinearSolver(LinearBackend::Automatic, multigridFrom);
    QVERIFY(small->prepare(matrix) && large->prepare(matrix));
    QVERIFY(small->name().starts_with("direct"));
    QVERIFY(large->name().starts_with("multigrid"));
  }

  void zeroHeatGivesZero()
  {
    const SparseMatrix matrix = gridMatrix(6, 1);
    MultigridSolver solver(MultigridSettings::Fast);
    QVERIFY(solver.prepare(matrix));
    const std::vector<double> b(static_cast<std::size_t>(matrix.rows()), 0.0);
    std::vector<double> x(b.size(), 3.0);
    QVERIFY(solver.solve(b, x, 1e-10));
    QVERIFY(std::all_of(x.begin(), x.end(), [](double v) { return v == 0; }));
  }
};

QTEST_APPLESS_MAIN(SolversTest)
#include "tst_solvers.moc"
