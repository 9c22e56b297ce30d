// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <array>

/// Element integrals. The order of the shape functions is a parameter: 1 (corner nodes) or 2 (corner and mid nodes).
/// Source: Galerkin's method with the usual simplex shape functions; any finite-element text.
namespace kiln
{

template <int Order>
inline constexpr int tetNodes = (Order + 1) * (Order + 2) * (Order + 3) / 6;
template <int Order>
inline constexpr int triangleNodes = (Order + 1) * (Order + 2) / 2;

template <int Order>
using TetPlaces = Eigen::Matrix<double, tetNodes<Order>, 3>;
template <int Order>
using TetMatrix = Eigen::Matrix<double, tetNodes<Order>, tetNodes<Order>>;
template <int Order>
using TrianglePlaces = Eigen::Matrix<double, triangleNodes<Order>, 3>;
template <int Order>
using TriangleVector = Eigen::Matrix<double, triangleNodes<Order>, 1>;
template <int Order>
using TriangleMatrix = Eigen::Matrix<double, triangleNodes<Order>, triangleNodes<Order>>;

/// Corner pairs of the mid nodes 4…9 of a second-order tetrahedron.
inline constexpr std::array<std::array<int, 2>, 6> tetEdges{{{0, 1}, {1, 2}, {0, 2}, {0, 3}, {1, 3}, {2, 3}}};
/// Corner pairs of the mid nodes 3…5 of a second-order triangle.
inline constexpr std::array<std::array<int, 2>, 3> triangleEdges{{{0, 1}, {1, 2}, {0, 2}}};

/// Derivatives of the shape functions with respect to the barycentric coordinates, at barycentric \p l.
template <int Order>
Eigen::Matrix<double, tetNodes<Order>, 4> tetDerivatives(const Eigen::Vector4d& l)
{
  Eigen::Matrix<double, tetNodes<Order>, 4> d = Eigen::Matrix<double, tetNodes<Order>, 4>::Zero();
  for (int i = 0; i < 4; ++i)
    d(i, i) = Order == 1 ? 1 : 4 * l[i] - 1;
  if constexpr (Order == 2)
    for (int e = 0; e < 6; ++e) {
      const auto [a, b] = tetEdges[static_cast<std::size_t>(e)];
      d(4 + e, a) = 4 * l[b];
      d(4 + e, b) = 4 * l[a];
    }
  return d;
}

/// Shape functions of a triangle at barycentric \p l.
template <int Order>
TriangleVector<Order> triangleShape(const Vec3& l)
{
  TriangleVector<Order> n;
  for (int i = 0; i < 3; ++i)
    n[i] = Order == 1 ? l[i] : l[i] * (2 * l[i] - 1);
  if constexpr (Order == 2)
    for (int e = 0; e < 3; ++e) {
      const auto [a, b] = triangleEdges[static_cast<std::size_t>(e)];
      n[3 + e] = 4 * l[a] * l[b];
    }
  return n;
}

/// Conductance matrix of one tetrahedron.
///
/// \param x  node places, nodes×3, m, positively oriented
/// \param k  conductivity tensor, 3×3 symmetric positive definite, W/(m·K)
/// \return   nodes×nodes symmetric matrix, W/K; rows sum to zero (a uniform field carries no heat)
/// Order 1 is exact; order 2 integrates with four points, exact for straight edges.
template <int Order>
[[nodiscard]] TetMatrix<Order> tetConductance(const TetPlaces<Order>& x, const Eigen::Matrix3d& k)
{
  static constexpr double near = 0.13819660112501051518; // (5 − √5)/20
  static constexpr double far = 0.58541019662496845446;  // (5 + 3√5)/20
  constexpr int points = Order == 1 ? 1 : 4;
  using Slopes = Eigen::Matrix<double, tetNodes<Order>, 3>;
  static const std::array<Slopes, points> atPoints = [] {
    std::array<Slopes, points> made;
    for (int p = 0; p < points; ++p) {
      Eigen::Vector4d l = Eigen::Vector4d::Constant(Order == 1 ? 0.25 : near);
      if (Order != 1)
        l[p] = far;
      const auto d = tetDerivatives<Order>(l);
      // Barycentric coordinates 1, 2, 3 are independent; 0 is one minus their sum.
      made[static_cast<std::size_t>(p)] = d.template rightCols<3>().colwise() - d.col(0);
    }
    return made;
  }();
  TetMatrix<Order> result = TetMatrix<Order>::Zero();
  for (const Slopes& local : atPoints) {
    const Eigen::Matrix3d jacobian = x.transpose() * local;
    const double volume = jacobian.determinant() / 6;
    const Eigen::Matrix<double, tetNodes<Order>, 3> gradients = local * jacobian.inverse();
    const Eigen::Matrix<double, tetNodes<Order>, 3> flows = volume / points * gradients.lazyProduct(k);
    for (int j = 0; j < tetNodes<Order>; ++j) // the general product would copy so small a one into panels
      for (int i = j; i < tetNodes<Order>; ++i)
        result(i, j) += flows(i, 0) * gradients(j, 0) + flows(i, 1) * gradients(j, 1) + flows(i, 2) * gradients(j, 2);
  }
  for (int j = 0; j < tetNodes<Order>; ++j)
    for (int i = 0; i < j; ++i)
      result(i, j) = result(j, i);
  return result;
}

/// A point of a triangle rule: barycentric place and share of the area.
struct TrianglePoint {
  Vec3 l;
  double weight;
};

/// Seven points, exact to degree five: what T⁴ times a linear shape function needs.
/// Source: Radon (1948).
[[nodiscard]] inline const std::array<TrianglePoint, 7>& trianglePoints()
{
  static const std::array<TrianglePoint, 7> points = [] {
    constexpr double a = 0.10128650732345633880; // (6 − √15)/21
    constexpr double b = 0.47014206410511508977; // (6 + √15)/21
    constexpr double wa = 0.12593918054482715260;
    constexpr double wb = 0.13239415278850618074;
    return std::array<TrianglePoint, 7>{{{Vec3(1.0 / 3, 1.0 / 3, 1.0 / 3), 0.225},
                                         {Vec3(1 - 2 * a, a, a), wa},
                                         {Vec3(a, 1 - 2 * a, a), wa},
                                         {Vec3(a, a, 1 - 2 * a), wa},
                                         {Vec3(1 - 2 * b, b, b), wb},
                                         {Vec3(b, 1 - 2 * b, b), wb},
                                         {Vec3(b, b, 1 - 2 * b), wb}}};
  }();
  return points;
}

/// ∫ N_i N_j dA of a flat triangle of area \p area, m².
template <int Order>
[[nodiscard]] TriangleMatrix<Order> triangleMass(double area)
{
  TriangleMatrix<Order> mass = TriangleMatrix<Order>::Zero();
  for (const TrianglePoint& point : trianglePoints()) {
    const TriangleVector<Order> n = triangleShape<Order>(point.l);
    mass += point.weight * area * n * n.transpose();
  }
  return mass;
}

/// ∫ N_i dA of a flat triangle, m².
template <int Order>
[[nodiscard]] TriangleVector<Order> triangleLoad(double area)
{
  TriangleVector<Order> load = TriangleVector<Order>::Zero();
  for (const TrianglePoint& point : trianglePoints())
    load += point.weight * area * triangleShape<Order>(point.l);
  return load;
}

} // namespace kiln
