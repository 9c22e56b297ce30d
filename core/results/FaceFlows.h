// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <span>
#include <vector>

namespace kiln
{

/// Heat through one face of the model.
struct FaceFlow {
  FaceId face{};
  double area = 0;        ///< m², as meshed
  double ledger = 0;      ///< W into the solid by sources and boundaries on it; of a contact, from its first part on
  double besides = 0;     ///< of a contact: what enters at it by sources and boundaries all the same, W
  double byFlux = 0;      ///< the same from the heat flux of the elements at it, W: a check, coarser than the ledger
  bool insulated = false; ///< outside, and nothing enters or leaves: what `byFlux` shows is left over
};

/// Of every face of the model, but the two sides of a plane section.
/// \param faceHeat     by face, W into the solid
/// \param contactHeat  by face, W from parts[0] to parts[1]
/// \param flux         by tet, W/m²
[[nodiscard]] std::vector<FaceFlow> faceFlows(const Mesh& mesh, std::span<const double> faceHeat,
                                              std::span<const double> contactHeat, std::span<const Vec3> flux);

} // namespace kiln
