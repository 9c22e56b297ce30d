// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Element.h"
#include "heat/elements/ElementShares.h"
#include "heat/elements/QuadraticConductance.h"

#include <QTest>
#include <atomic>
#include <mutex>
#include <numeric>
#include <random>

using namespace kiln;

namespace
{

TetPlaces<1> corners()
{
  TetPlaces<1> x;
  x << 0.1, 0.2, 0.0, 1.1, 0.1, 0.2, 0.3, 0.9, 0.1, 0.2, 0.3, 1.2;
  return x;
}

TetPlaces<2> withMids()
{
  TetPlaces<2> x;
  x.topRows<4>() = corners();
  for (int e = 0; e < 6; ++e)
    x.row(4 + e) =
        (x.row(tetEdges[static_cast<std::size_t>(e)][0]) + x.row(tetEdges[static_cast<std::size_t>(e)][1])) / 2;
  return x;
}

Eigen::Matrix3d someConductivity()
{
  Eigen::Matrix3d k;
  k << 3, 0.5, 0.2, 0.5, 2, -0.3, 0.2, -0.3, 1;
  return k;
}

double volume(const TetPlaces<1>& x)
{
  Eigen::Matrix3d edges;
  edges << (x.row(1) - x.row(0)).transpose(), (x.row(2) - x.row(0)).transpose(), (x.row(3) - x.row(0)).transpose();
  return edges.determinant() / 6;
}

} // namespace

class ElementTest : public QObject
{
  Q_OBJECT

  template <int Order>
  static void checkMatrix(const TetPlaces<Order>& x)
  {
    const auto k = tetConductance<Order>(x, someConductivity());
    QVERIFY((k - k.transpose()).norm() < 1e-12);
    QVERIFY(k.rowwise().sum().norm() < 1e-12);
    // A linear field T = g·x: nodal flows weighted by another linear field give the exact energy product.
    const Vec3 g(1.5, -2, 0.7);
    const Vec3 other(0.3, 1, -1);
    const double product = (x * other).transpose() * k * (x * g);
    QVERIFY(std::abs(product - volume(corners()) * other.dot(someConductivity() * g)) < 1e-12);
  }

  static void checkLower(const TenLower& lower, const TetMatrix<2>& matrix)
  {
    std::size_t entry = 0;
    for (int i = 0; i < 10; ++i)
      for (int j = 0; j <= i; ++j)
        QVERIFY(std::abs(lower[entry++] - matrix(i, j)) < 1e-13 * matrix.norm());
  }

private slots:
  void rowsSumToZeroAndLinearFieldsAreExact()
  {
    checkMatrix<1>(corners());
    checkMatrix<2>(withMids());
  }

  void secondOrderIsExactForQuadraticFields()
  {
    // T = x²: with k = 1 the energy is ∫ (2x)² dV; ∫ x² over a tet = V/20 (Σx_i² + (Σx_i)²).
    const TetPlaces<2> x = withMids();
    const Eigen::Matrix<double, 10, 1> field = x.col(0).cwiseProduct(x.col(0));
    const double energy = field.transpose() * tetConductance<2>(x, Eigen::Matrix3d::Identity()) * field;
    const Eigen::Vector4d c = corners().col(0);
    QVERIFY(std::abs(energy - 4 * volume(corners()) / 20 * (c.squaredNorm() + c.sum() * c.sum())) < 1e-12);
  }

  /// What the hot loop computes is what the plain formula gives, bent or straight, with one tensor or four.
  void theWrittenOutMatricesAreThoseOfTheFormula()
  {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> bend(-0.1, 0.1);
    for (int round = 0; round < 20; ++round) {
      TetPlaces<2> x = withMids();
      for (int i = 4; i < 10; ++i)
        for (int d = 0; d < 3; ++d)
          x(i, d) += bend(random);
      std::array<Vec3, 10> places;
      for (std::size_t i = 0; i < 10; ++i)
        places[i] = x.row(static_cast<Eigen::Index>(i)).transpose();
      const Eigen::Matrix3d k = someConductivity();
      checkLower(bentConductance(places, {k, k, k, k}), tetConductance<2>(x, k));
      // With k at one point alone, the four matrices add up to that with k everywhere.
      const Eigen::Matrix3d none = Eigen::Matrix3d::Zero();
      TenLower sum{};
      for (std::size_t p = 0; p < 4; ++p) {
        std::array<Eigen::Matrix3d, 4> one{none, none, none, none};
        one[p] = k;
        const TenLower own = bentConductance(places, one);
        for (std::size_t i = 0; i < own.size(); ++i)
          sum[i] += own[i];
      }
      checkLower(sum, tetConductance<2>(x, k));
    }
    const auto linear = tetConductance<1>(corners(), someConductivity());
    std::array<double, 10> packed{};
    std::size_t entry = 0;
    for (int i = 0; i < 4; ++i)
      for (int j = 0; j <= i; ++j)
        packed[entry++] = linear(i, j);
    const TenLower straight = straightConductance(packed);
    checkLower(straight, tetConductance<2>(withMids(), someConductivity()));
    const Eigen::Matrix<double, 10, 1> field = withMids().col(0) + 2 * withMids().col(1).cwiseAbs2();
    QVERIFY((times(straight, field) - tetConductance<2>(withMids(), someConductivity()) * field).norm() < 1e-12);
  }

  /// Every element is visited once; no two that are visited at the same time share an unknown.
  void elementsAreSharedOutWithoutConflict()
  {
    constexpr std::size_t many = 30'000;
    const auto unknownsOf = [](std::size_t e) { // a strip whose neighbours share two unknowns
      static std::array<UnknownId, 3> own;
      for (std::size_t i = 0; i < 3; ++i)
        own[i] = UnknownId(e + i);
      return std::span<const UnknownId>(own);
    };
    std::vector<std::size_t> elements(many);
    std::iota(elements.begin(), elements.end(), 0U);
    const ElementShares shares(elements, unknownsOf, many + 2);
    std::vector<std::atomic<int>> visits(many);
    std::mutex guard;
    std::vector<std::vector<std::size_t>> groups;
    shares.forEach([&](std::span<const std::size_t> group) {
      for (const std::size_t e : group)
        ++visits[e];
      const std::scoped_lock lock(guard);
      groups.emplace_back(group.begin(), group.end());
    });
    for (const auto& count : visits)
      QCOMPARE(count.load(), 1);
    QVERIFY(groups.size() > 2);
    std::vector<int> owner(many + 2, -1);
    for (std::size_t g = 0; g + 1 < groups.size(); ++g) // the last comes alone, after the others
      for (const std::size_t e : groups[g])
        for (std::size_t i = 0; i < 3; ++i) {
          QVERIFY(owner[e + i] == -1 || owner[e + i] == static_cast<int>(g));
          owner[e + i] = static_cast<int>(g);
        }
    QVERIFY(groups.back().size() < 20);
  }

  void triangleIntegralsAreExact()
  {
    constexpr double area = 0.37;
    const auto mass = triangleMass<1>(area);
    for (int i = 0; i < 3; ++i)
      for (int j = 0; j < 3; ++j)
        QVERIFY(std::abs(mass(i, j) - area / (i == j ? 6 : 12)) < 1e-15);
    for (int i = 0; i < 3; ++i)
      QVERIFY(std::abs(triangleLoad<1>(area)[i] - area / 3) < 1e-15);
    // Second order: corners carry nothing, mids a third each.
    for (int i = 0; i < 6; ++i)
      QVERIFY(std::abs(triangleLoad<2>(area)[i] - (i < 3 ? 0 : area / 3)) < 1e-15);
    QVERIFY(std::abs(triangleMass<2>(area).sum() - area) < 1e-15);
  }

  void theRuleIsExactToDegreeFive()
  {
    // ∫ a^p b^q c^r dA = 2 A p! q! r! / (p + q + r + 2)!
    const auto factorial = [](int n) { return std::tgamma(n + 1.0); };
    for (int p = 0; p <= 5; ++p)
      for (int q = 0; p + q <= 5; ++q) {
        const int r = 5 - p - q;
        double sum = 0;
        for (const TrianglePoint& point : trianglePoints())
          sum += point.weight * std::pow(point.l[0], p) * std::pow(point.l[1], q) * std::pow(point.l[2], r);
        QVERIFY(std::abs(sum - 2 * factorial(p) * factorial(q) * factorial(r) / factorial(7)) < 1e-14);
      }
  }
};

QTEST_APPLESS_MAIN(ElementTest)
#include "tst_element.moc"
