// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The slopes of the shape functions at the four points have only two values for a corner, ∓1/√5 and 3/√5, and two for
// an edge, 1 ∓ 1/√5 and 1 + 3/√5. So every conductance is a short sum of what the corners' shares conduct at the
// points; nothing of size 10 × 3 is ever multiplied.
#include "heat/elements/QuadraticConductance.h"

#include <utility>

namespace kiln
{
namespace
{

/// Where the pair of corners a, b lies in a lower triangle of four.
constexpr std::size_t pairOf(int a, int b)
{
  const int high = a > b ? a : b;
  const int low = a > b ? b : a;
  return static_cast<std::size_t>(high * (high + 1) / 2 + low);
}

constexpr double root5 = 2.23606797749978969641;
using FourPoints = std::array<double, 4>;
using PairsAtPoints = std::array<FourPoints, 10>; ///< by pair of corners, by point

using AxesAtPoints = std::array<FourPoints, 3>; ///< by axis, by point

/// Edges from corner 0 to the others as they are at the points: Σ x_i (dN_i/dl_a − dN_i/dl_0).
std::array<AxesAtPoints, 3> edgesAtPoints(const std::array<Vec3, 10>& x)
{
  // Σ x_i dN_i/dl_a at point p is base[a] + 4/√5 x(a, p), where x(a, p) is the node between a and p, or a itself.
  constexpr std::array<std::array<std::size_t, 4>, 4> between{{{0, 4, 6, 7}, {4, 1, 5, 8}, {6, 5, 2, 9}, {7, 8, 9, 3}}};
  std::array<AxesAtPoints, 4> along;
  for (std::size_t a = 0; a < 4; ++a)
    for (std::size_t d = 0; d < 3; ++d) {
      const auto axis = static_cast<Eigen::Index>(d);
      double base = -1 / root5 * x[a][axis];
      for (std::size_t p = 0; p < 4; ++p)
        if (p != a)
          base += (1 - 1 / root5) * x[between[a][p]][axis];
      for (std::size_t p = 0; p < 4; ++p)
        along[a][d][p] = base + 4 / root5 * x[between[a][p]][axis];
    }
  std::array<AxesAtPoints, 3> edges;
  for (std::size_t a = 0; a < 3; ++a)
    for (std::size_t d = 0; d < 3; ++d)
      for (std::size_t p = 0; p < 4; ++p)
        edges[a][d][p] = along[a + 1][d][p] - along[0][d][p];
  return edges;
}

/// Gradients of the shares of corners 1, 2, 3 times the determinant.
std::array<AxesAtPoints, 3> cofactors(const std::array<AxesAtPoints, 3>& edges)
{
  std::array<AxesAtPoints, 3> g;
  for (std::size_t a = 0; a < 3; ++a)
    for (std::size_t d = 0; d < 3; ++d)
      for (std::size_t p = 0; p < 4; ++p) {
        const AxesAtPoints& u = edges[(a + 1) % 3];
        const AxesAtPoints& v = edges[(a + 2) % 3];
        g[a][d][p] = u[(d + 1) % 3][p] * v[(d + 2) % 3][p] - u[(d + 2) % 3][p] * v[(d + 1) % 3][p];
      }
  return g;
}

/// Volume that each point stands for times ∇l_a · k ∇l_b.
PairsAtPoints sharesAtPoints(const std::array<Vec3, 10>& x, const std::array<Eigen::Matrix3d, 4>& k)
{
  const std::array<AxesAtPoints, 3> e = edgesAtPoints(x);
  const std::array<AxesAtPoints, 3> g = cofactors(e);
  FourPoints scale;
  for (std::size_t p = 0; p < 4; ++p)
    scale[p] = 1 / (24 * (e[0][0][p] * g[0][0][p] + e[0][1][p] * g[0][1][p] + e[0][2][p] * g[0][2][p]));
  std::array<AxesAtPoints, 3> flow;
  for (std::size_t a = 0; a < 3; ++a)
    for (std::size_t d = 0; d < 3; ++d)
      for (std::size_t p = 0; p < 4; ++p) {
        const auto row = static_cast<Eigen::Index>(d);
        flow[a][d][p] = scale[p] * (k[p](row, 0) * g[a][0][p] + k[p](row, 1) * g[a][1][p] + k[p](row, 2) * g[a][2][p]);
      }
  PairsAtPoints c;
  for (int a = 1; a < 4; ++a)
    for (int b = 1; b <= a; ++b)
      for (std::size_t p = 0; p < 4; ++p) {
        const AxesAtPoints& u = g[static_cast<std::size_t>(a - 1)];
        const AxesAtPoints& v = flow[static_cast<std::size_t>(b - 1)];
        c[pairOf(a, b)][p] = u[0][p] * v[0][p] + u[1][p] * v[1][p] + u[2][p] * v[2][p];
      }
  for (std::size_t p = 0; p < 4; ++p) { // a uniform field carries no heat
    c[1][p] = -(c[2][p] + c[4][p] + c[7][p]);
    c[3][p] = -(c[4][p] + c[5][p] + c[8][p]);
    c[6][p] = -(c[7][p] + c[8][p] + c[9][p]);
    c[0][p] = -(c[1][p] + c[3][p] + c[6][p]);
  }
  return c;
}

constexpr std::size_t point(int corner) { return static_cast<std::size_t>(corner); }

/// Products of the slopes of two shape functions, summed over the points. S is the sum of a pair, C its value at a
/// point. A half of an edge is steep along corner A and has its other end at U.
class BentProducts
{
public:
  explicit BentProducts(const PairsAtPoints& c) : c_(c)
  {
    for (std::size_t pair = 0; pair < 10; ++pair) {
      const FourPoints& own = c[pair];
      const double sum = own[0] + own[1] + own[2] + own[3];
      for (std::size_t p = 0; p < 4; ++p) {
        corner_[pair][p] = 0.1 * sum - 0.8 * own[p];
        cornerEdge_[pair][p] = (0.2 - 1 / root5) * sum + (4 / root5 - 0.8) * own[p];
        cornerSame_[pair][p] = (0.2 - 1 / root5) * sum + (4 / root5 + 1.6) * own[p];
        edges_[pair][p] = (0.6 - 1 / root5) * sum + (4 / root5 - 0.8) * own[p];
        edgesSame_[pair][p] = (1.2 - 2 / root5) * sum + (8 / root5 + 1.6) * own[p];
      }
    }
  }

  template <int I, int J>
  [[nodiscard]] double corners() const
  {
    constexpr std::size_t pair = pairOf(I, J);
    if constexpr (I == J)
      return 2 * corner_[pair][point(I)] + 3.2 * c_[pair][point(I)];
    else
      return corner_[pair][point(I)] + corner_[pair][point(J)];
  }
  template <int I, int A, int U>
  [[nodiscard]] double cornerHalf() const
  {
    constexpr std::size_t pair = pairOf(I, A);
    if constexpr (I == U)
      return cornerSame_[pair][point(U)];
    else
      return cornerEdge_[pair][point(I)] - 0.8 * c_[pair][point(U)];
  }
  template <int A, int U, int B, int V>
  [[nodiscard]] double halves() const
  {
    constexpr std::size_t pair = pairOf(A, B);
    if constexpr (U == V)
      return edgesSame_[pair][point(U)];
    else
      return edges_[pair][point(U)] + edges_[pair][point(V)];
  }

private:
  const PairsAtPoints& c_;
  PairsAtPoints corner_;     ///< S/10 − 4/5 C: half of two corners' product
  PairsAtPoints cornerEdge_; ///< what a corner's own point adds to its product with half an edge
  PairsAtPoints cornerSame_; ///< a corner's product with the half that ends there
  PairsAtPoints edges_;      ///< half of the product of two halves that end at different corners
  PairsAtPoints edgesSame_;  ///< the product of two that end at one
};

/// The same where the slopes of the corners' shares are the same everywhere.
class StraightProducts
{
public:
  explicit StraightProducts(const std::array<double, 10>& c)
  {
    for (std::size_t pair = 0; pair < 10; ++pair) {
      corner_[pair] = -0.2 * c[pair];
      same_[pair] = 0.6 * c[pair];
      edges_[pair] = 0.8 * c[pair];
    }
  }

  template <int I, int J>
  [[nodiscard]] double corners() const
  {
    return (I == J ? same_ : corner_)[pairOf(I, J)];
  }
  template <int I, int A, int U>
  [[nodiscard]] double cornerHalf() const
  {
    return (I == U ? same_ : corner_)[pairOf(I, A)];
  }
  template <int A, int U, int B, int V>
  [[nodiscard]] double halves() const
  {
    constexpr std::size_t pair = pairOf(A, B);
    return U == V ? edges_[pair] + edges_[pair] : edges_[pair];
  }

private:
  std::array<double, 10> corner_, same_, edges_;
};

template <std::size_t Row, std::size_t Column, class Products>
double entry(const Products& products)
{
  if constexpr (Row < 4) {
    return products.template corners<static_cast<int>(Row), static_cast<int>(Column)>();
  } else {
    constexpr int p = tetEdges[Row - 4][0];
    constexpr int q = tetEdges[Row - 4][1];
    if constexpr (Column < 4) {
      constexpr auto i = static_cast<int>(Column);
      return products.template cornerHalf<i, p, q>() + products.template cornerHalf<i, q, p>();
    } else {
      constexpr int r = tetEdges[Column - 4][0];
      constexpr int t = tetEdges[Column - 4][1];
      return products.template halves<p, q, r, t>() + products.template halves<p, q, t, r>() +
             products.template halves<q, p, r, t>() + products.template halves<q, p, t, r>();
    }
  }
}

template <std::size_t K>
constexpr std::size_t rowOf()
{
  std::size_t row = 0;
  while ((row + 1) * (row + 2) / 2 <= K)
    ++row;
  return row;
}

template <class Products, std::size_t... K>
TenLower entries(const Products& products, std::index_sequence<K...> /*all*/)
{
  return {entry<rowOf<K>(), K - rowOf<K>() * (rowOf<K>() + 1) / 2>(products)...};
}

} // namespace

TenLower bentConductance(const std::array<Vec3, 10>& x, const std::array<Eigen::Matrix3d, 4>& k)
{
  const PairsAtPoints shares = sharesAtPoints(x, k);
  return entries(BentProducts(shares), std::make_index_sequence<55>());
}

TenLower straightConductance(const std::array<double, 10>& linear)
{
  return entries(StraightProducts(linear), std::make_index_sequence<55>());
}

Eigen::Matrix<double, 10, 1> times(const TenLower& lower, const Eigen::Matrix<double, 10, 1>& vector)
{
  Eigen::Matrix<double, 10, 1> product = Eigen::Matrix<double, 10, 1>::Zero();
  std::size_t entry = 0;
  for (int i = 0; i < 10; ++i)
    for (int j = 0; j <= i; ++j, ++entry) {
      product[i] += lower[entry] * vector[j];
      if (i != j)
        product[j] += lower[entry] * vector[i];
    }
  return product;
}

} // namespace kiln
