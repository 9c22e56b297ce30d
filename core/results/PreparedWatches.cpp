// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/PreparedWatches.h"

#include "base/InParallel.h"

#include <optional>

namespace kiln
{

/// Lumped nodes come after the unknowns of the mesh.
PreparedWatches::PreparedWatches(const Project& project, const CaseResult& first, std::span<const Watch> watches)
    : project_(project), watches_(watches), ground_{project, first.mesh, first.unknowns, {}}
{
  Index next = static_cast<Index>(first.temperature.size());
  for (const NodeState& node : first.nodes)
    ground_.lumped.emplace(node.id, next++);
  // To find what a watch reads takes as long as to look at all of the mesh.
  std::vector<std::optional<WatchReader>> made(watches.size());
  inParallel(watches.size(), [&](std::size_t i) { made[i].emplace(ground_, watches[i]); });
  for (std::optional<WatchReader>& reader : made)
    readers_.push_back(std::move(*reader));
}

std::vector<WatchFigure> PreparedWatches::read(const CaseResult& result) const
{
  std::vector<double> temperature = result.temperature;
  for (const NodeState& node : result.nodes)
    temperature.push_back(node.temperature);
  const HeatState heat{result.mesh.geometry, result.faceHeat, result.contactHeat, result.gaps, result.links};
  RecoveredFlux flux; // made when first asked for
  std::vector<WatchFigure> figures;
  for (std::size_t i = 0; i < readers_.size(); ++i) {
    if (readers_[i].needsFlux() && flux.slot.empty())
      flux = recoverFlux(result.mesh, result.unknowns, result.flux);
    figures.push_back(figureOf(project_, watches_[i], readers_[i], readers_[i].read({temperature, {}, &heat, &flux})));
  }
  return figures;
}

} // namespace kiln
