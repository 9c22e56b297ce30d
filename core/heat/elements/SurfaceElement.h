// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "mesh/SecondOrder.h"

#include <Eigen/Core>
#include <span>

namespace kiln
{

/// By node of a surface element: three, or six at second order.
using NodeVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 6, 1>;
using NodeMatrix = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, 6, 6>;

/// Unknowns of one side of a surface element: a triangle of the mesh, or four of them at second order.
using SurfaceNodes = NumbersOf<UnknownId, 3, 6>;
[[nodiscard]] SurfaceNodes nodesOf(const Mesh& mesh, const Unknowns& unknowns, std::size_t element, std::size_t side);

/// Nodes of the mesh of a surface element.
[[nodiscard]] NumbersOf<NodeId, 3, 6> placesOf(const Mesh& mesh, std::size_t element);

/// Temperatures there, K.
[[nodiscard]] NodeVector valuesAt(const SurfaceNodes& nodes, std::span<const double> temperature);

/// Where something is integrated over a surface element.
struct SurfacePoint {
  Vec3 l = Vec3::Zero(); ///< barycentric
  NodeVector shape;      ///< shape functions there
  double area = 0;       ///< m² it stands for
};
struct SurfacePoints {
  std::array<SurfacePoint, 7> own;
  std::size_t count = 0;

  [[nodiscard]] const SurfacePoint* begin() const { return own.data(); }
  [[nodiscard]] const SurfacePoint* end() const { return own.data() + count; }
};
/// The points of an element, the one rule by which heat is exchanged through surfaces. First order: its three nodes, a
/// third of the area each, so that every node exchanges by its own temperature, as it stores by it. Second order: seven
/// points, exact to degree five, with the areas of the bent element.
[[nodiscard]] SurfacePoints pointsOf(const Mesh& mesh, std::size_t element);
/// The same for one triangle of the mesh: a whole element at first order, a quarter of one at second; three points,
/// exact to degree two.
[[nodiscard]] SurfacePoints pointsOfPiece(const Mesh& mesh, std::size_t triangle);
/// Barycentric place in its element of a place in a triangle of the mesh.
[[nodiscard]] Vec3 inElement(const Mesh& mesh, std::size_t triangle, const Vec3& l);

/// Shape functions at barycentric \p l of the element.
[[nodiscard]] NodeVector shapeAt(const Mesh& mesh, const Vec3& l);
[[nodiscard]] Vec3 placeAt(const Mesh& mesh, std::size_t element, const Vec3& l);
/// Area as integrated, m².
[[nodiscard]] double elementArea(const Mesh& mesh, std::size_t element);
/// Of every face, m².
[[nodiscard]] std::vector<double> integratedAreas(const Mesh& mesh);
[[nodiscard]] inline FaceId elementFace(const Mesh& mesh, std::size_t element)
{
  return mesh.triangleFace[element * trianglePieces(mesh.order)];
}

/// Surface elements of every face.
[[nodiscard]] std::vector<std::vector<std::int32_t>> elementsByFace(const Mesh& mesh);

/// ∫ N_i N_j dA, m².
[[nodiscard]] NodeMatrix elementMass(const Mesh& mesh, std::size_t element);
/// ∫ N_i dA, m².
[[nodiscard]] NodeVector elementLoad(const Mesh& mesh, std::size_t element);
/// ∫ f ∇N_i · ∇N_j dA along the element, of the unit of f.
/// \param factor  f at the points of \ref pointsOf
[[nodiscard]] NodeMatrix elementStiffness(const Mesh& mesh, std::size_t element, std::span<const double> factor);

} // namespace kiln
