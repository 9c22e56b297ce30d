// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Unknowns.h"
#include "mesh/SecondOrder.h"

#include <Eigen/Core>
#include <span>

namespace kiln
{

/// By node of a surface element: three, or six at second order.
using NodeVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 6, 1>;
using NodeMatrix = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, 6, 6>;

/// Unknowns of one side of a surface element: a triangle of the mesh, or four of them at second order.
struct SurfaceNodes {
  std::array<Index, 6> own{};
  std::size_t count = 3;

  [[nodiscard]] const Index* begin() const { return own.data(); }
  [[nodiscard]] const Index* end() const { return own.data() + count; }
};
[[nodiscard]] SurfaceNodes nodesOf(const Mesh& mesh, const Unknowns& unknowns, std::size_t element, std::size_t side);

/// Temperatures there, K.
[[nodiscard]] NodeVector valuesAt(const SurfaceNodes& nodes, std::span<const double> temperature);

/// Shape functions at barycentric \p l.
[[nodiscard]] NodeVector shapeAt(const Mesh& mesh, const Vec3& l);
[[nodiscard]] Vec3 placeAt(const Mesh& mesh, std::size_t element, const Vec3& l);
/// Corners of the element, m.
[[nodiscard]] std::array<Vec3, 3> cornersOf(const Mesh& mesh, std::size_t element);
/// Area as meshed, m².
[[nodiscard]] double elementArea(const Mesh& mesh, std::size_t element);
[[nodiscard]] inline std::int32_t elementFace(const Mesh& mesh, std::size_t element)
{
  return mesh.triangleFace[element * trianglePieces(mesh.order)];
}

/// Surface elements of every face.
[[nodiscard]] std::vector<std::vector<std::int32_t>> elementsByFace(const Mesh& mesh);

/// ∫ N_i N_j dA, m².
[[nodiscard]] NodeMatrix elementMass(const Mesh& mesh, std::size_t element);
/// ∫ N_i dA, m².
[[nodiscard]] NodeVector elementLoad(const Mesh& mesh, std::size_t element);
/// ∫ ∇N_i · ∇N_j dA within the element's plane, no unit.
[[nodiscard]] NodeMatrix elementStiffness(const Mesh& mesh, std::size_t element);

} // namespace kiln
