// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "mesh/Mesh.h"

#include <array>
#include <vector>

namespace kiln
{

/// Heat flux recovered at the nodes: the mean of the elements around each node by volume, part by part, as the flux may
/// jump between parts. Where the temperature is smooth it is one order more accurate than the elements' own.
struct RecoveredFlux {
  std::vector<std::array<Index, 4>> slot; ///< by tet: where the values of its corners stand
  std::vector<Vec3> value;                ///< W/m²

  [[nodiscard]] const Vec3& corner(std::size_t tet, std::size_t i) const
  {
    return value[static_cast<std::size_t>(slot[tet][i])];
  }
};

/// \param flux  by tet, W/m²
[[nodiscard]] RecoveredFlux recoverFlux(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Vec3>& flux);

/// How far the elements' own flux is from the recovered one: an indicator of the discretisation error (Zienkiewicz and
/// Zhu 1987).
struct FluxError {
  std::vector<double> tet;  ///< by tet: root mean square of the difference, W/m²
  std::vector<double> part; ///< by part: the same over the part, as a share of its recovered flux
};
[[nodiscard]] FluxError fluxError(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Vec3>& flux);

} // namespace kiln
