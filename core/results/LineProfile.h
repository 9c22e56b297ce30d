// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "mesh/Mesh.h"

#include <optional>
#include <span>
#include <vector>

namespace kiln
{

/// The way of a line through one tetrahedron.
struct LinePiece {
  double from = 0, to = 0;                       ///< m along the line
  double temperatureFrom = 0, temperatureTo = 0; ///< K
  double flux = 0;                               ///< W/m² along the line; positive towards its end
  PartId part{};
};

/// Temperature and flux along a straight line, exactly as the mesh has them: linear within each tetrahedron. Sorted by
/// place; where the line runs through no part there is no piece. A line along a face or edge takes one of the
/// tetrahedra beside it.
/// \param flux  by tet, W/m²; may be empty
[[nodiscard]] std::vector<LinePiece> lineProfile(const Mesh& mesh, const Unknowns& unknowns,
                                                 std::span<const double> temperature, std::span<const Vec3> flux,
                                                 const Vec3& from, const Vec3& to);

/// What a profile says at a place along it: temperature, K; nothing where it passes no part.
[[nodiscard]] std::optional<double> temperatureAt(const std::vector<LinePiece>& pieces, double along);

/// One profile less another one along the same line, at the ends of the first one's pieces, K; where the other passes
/// no part there is no piece.
[[nodiscard]] std::vector<LinePiece> lessProfile(const std::vector<LinePiece>& pieces,
                                                 const std::vector<LinePiece>& other);

/// Where a profile passes a temperature, m along it.
[[nodiscard]] std::vector<double> crossingsOf(const std::vector<LinePiece>& pieces, double kelvin);

} // namespace kiln
