// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <array>

namespace kiln
{

/// Gives every edge a node in its middle: each tetrahedron becomes eight and each triangle four, listed one after the
/// other, so that eight tets (four triangles) are the pieces of one element of second order. Whoever reads values at
/// nodes, areas and volumes goes on as before, on the pieces; conduction and boundaries are integrated over the
/// elements. Before connectTriangles().
void makeSecondOrder(Mesh& mesh);

/// The pieces of a mesh of second order as a mesh of first order with the same nodes and triangles. The octahedron in
/// the middle of each element is divided along the diagonal that leaves the least that conducts the wrong way (positive
/// entries beside the diagonal of the conductance), so that temperatures stay within their bounds.
[[nodiscard]] Mesh linearPieces(const Mesh& mesh);

/// Pieces of an element: 1, or 8 at second order.
[[nodiscard]] constexpr std::size_t tetPieces(int order) { return order == 2 ? 8 : 1; }
/// The same for triangles: 1, or 4.
[[nodiscard]] constexpr std::size_t trianglePieces(int order) { return order == 2 ? 4 : 1; }

[[nodiscard]] inline std::size_t tetElements(const Mesh& mesh) { return mesh.tets.size() / tetPieces(mesh.order); }
[[nodiscard]] inline std::size_t triangleElements(const Mesh& mesh)
{
  return mesh.triangles.size() / trianglePieces(mesh.order);
}

/// What belongs to the ten nodes of an element of second order, out of what belongs to the corners of its pieces:
/// corners first, then the edges 01 12 02 03 13 23.
template <class Corners>
[[nodiscard]] auto tenOf(const std::vector<Corners>& ofPiece, std::size_t element)
{
  const auto piece = [&](std::size_t i) -> const Corners& { return ofPiece[8 * element + i]; };
  return std::array{piece(0)[0], piece(1)[1], piece(2)[2], piece(3)[3], piece(0)[1],
                    piece(1)[2], piece(0)[2], piece(0)[3], piece(1)[3], piece(2)[3]};
}

/// The same for the six nodes of a triangle: corners, then the edges 01 12 02.
/// \param cornersOf  of a piece by its number
template <class CornersOf>
[[nodiscard]] auto sixOf(std::size_t element, CornersOf&& cornersOf)
{
  const auto& a = cornersOf(4 * element);
  const auto& b = cornersOf(4 * element + 1);
  const auto& c = cornersOf(4 * element + 2);
  return std::array{a[0], b[1], c[2], a[1], b[2], a[2]};
}

} // namespace kiln
