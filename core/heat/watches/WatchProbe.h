// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "heat/elements/Unknowns.h"
#include "model/Project.h"

#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// What watches are prepared for. All of it must outlive what is prepared.
struct WatchGround {
  const Project& project;
  const Mesh& mesh;
  const Unknowns& unknowns;
  std::map<std::string, UnknownId> lumped; ///< unknowns of nodes and of outlets of flow passages, by id
};

/// A temperature watch as the solver sees it: a function of the unknown temperatures.
class WatchProbe
{
public:
  enum class Kind { Weighted, Hottest, Coldest, Spread };
  struct Share {
    UnknownId unknown;
    double weight; ///< they sum to 1; for extremes they do not matter
    PartId part{}; ///< that it is watched in
  };

  WatchProbe(Kind kind, std::vector<Share> shares);

  /// K, from temperatures by unknown.
  [[nodiscard]] double value(std::span<const double> temperature) const;
  /// How the value changes along a direction; an extreme follows the unknown that is it now.
  [[nodiscard]] double change(std::span<const double> temperature, std::span<const double> direction) const;
  /// Unknown that is hottest, coldest, or (weighted) the heaviest.
  [[nodiscard]] UnknownId where(std::span<const double> temperature) const;
  /// Part that an unknown is watched in.
  [[nodiscard]] PartId partAt(UnknownId unknown) const;

private:
  [[nodiscard]] UnknownId extreme(std::span<const double> temperature, bool hottest) const;
  Kind kind_;
  std::vector<Share> shares_;
};

/// The probe of a watch of temperatures; nothing for other figures and for what is not in the mesh.
[[nodiscard]] std::optional<WatchProbe> probeOf(const WatchGround& ground, const Watch& watch);

} // namespace kiln
