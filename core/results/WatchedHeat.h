// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "results/CaseResult.h"

#include <optional>
#include <span>

namespace kiln
{

/// What watches of heat need of a solution.
struct HeatState {
  const FaceTable& geometry;
  std::span<const double> faceHeat;    ///< by face, W into the solid
  std::span<const double> contactHeat; ///< by face, from parts[0] to parts[1], W
  std::span<const ContactFigure> gaps;
  std::span<const LedgerFlow> links;
};

/// Of all parts that touch and of those across gaps, W.
[[nodiscard]] std::vector<ContactFigure> contactFigures(const HeatState& heat);

/// Heat through a surface, a contact or a link, W; thermal transmittance, W/(m²·K). Nothing for other watches and where
/// what is watched is not in the solution.
[[nodiscard]] std::optional<double> watchedHeat(const Project& project, const HeatState& heat, const Watch& watch);

/// Molten share of some parts; nothing when none of them can melt.
/// \param temperature  by unknown, K
[[nodiscard]] std::optional<double> moltenShareOf(const Project& project, const Mesh& mesh, const Unknowns& unknowns,
                                                  std::span<const double> temperature, const MoltenShare& watched);

} // namespace kiln
