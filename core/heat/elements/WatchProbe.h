// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "model/Project.h"

#include <optional>
#include <span>
#include <utility>
#include <vector>

namespace kiln
{

/// A temperature watch as the solver sees it: a function of the unknown temperatures.
class WatchProbe
{
public:
  enum class Kind { Weighted, Hottest, Coldest, Spread };

  /// \param shares  unknowns with their weights; for extremes the weights do not matter
  WatchProbe(Kind kind, std::vector<std::pair<Index, double>> shares);

  /// K, from temperatures by unknown.
  [[nodiscard]] double value(std::span<const double> temperature) const;
  /// How the value changes along a direction; an extreme follows the unknown that is it now.
  [[nodiscard]] double change(std::span<const double> temperature, std::span<const double> direction) const;
  /// Unknown that is hottest, coldest, or (weighted) the heaviest.
  [[nodiscard]] Index where(std::span<const double> temperature) const;

private:
  [[nodiscard]] Index extreme(std::span<const double> temperature, bool hottest) const;
  Kind kind_;
  std::vector<std::pair<Index, double>> shares_;
};

/// The probe of a watch of temperatures; nothing for other figures and for what is not in the mesh.
/// \param nodeUnknowns  by index in Project::nodes
[[nodiscard]] std::optional<WatchProbe> probeOf(const Project& project, const Mesh& mesh, const Unknowns& unknowns,
                                                const std::vector<Index>& nodeUnknowns, const Watch& watch);

} // namespace kiln
