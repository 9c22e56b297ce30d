// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Element.h"

#include <QTest>
#include <numeric>

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
