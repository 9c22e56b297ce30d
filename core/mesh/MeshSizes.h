// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "mesh/SizeField.h"
#include "model/Project.h"

#include <span>
#include <vector>

namespace kiln
{

inline constexpr double usualChordAngle = 20 * 3.14159265358979323846 / 180; // rad; loses 2 % of a cylinder's volume

/// Wanted edge lengths of the parts, m.
struct MeshSizes {
  std::vector<double> part;            ///< by part index: largest edge inside the part
  std::vector<double> face;            ///< by face index: largest edge on the face
  std::vector<bool> exposed{};         ///< by face index: only one part lies on it
  double smallest = 0;                 ///< m: no curvature asks for less
  double chordAngle = usualChordAngle; ///< rad, of an edge on a curved face
  std::vector<SizeSource> finer{};     ///< places that a refinement asked for
};

/// The places of MeshSettings::finerAt; lines that cannot be read end the list.
[[nodiscard]] std::vector<SizeSource> finerSources(const MeshSettings& settings);

/// Sizes that the project asks for, or that follow from its parts.
/// \param thickness  by face: of the thinnest wall behind it, m
[[nodiscard]] MeshSizes chooseSizes(const Project& project, const FaceTable& table, std::span<const double> thickness);

} // namespace kiln
