// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"
#include "base/Vec3.h"
#include "model/Project.h"

#include <filesystem>
#include <string>
#include <vector>

namespace kiln
{

/// A body found in a file.
struct FoundBody {
  TakenBody body; ///< without a shape when there is a problem
  Vec3 low = Vec3::Zero(), high = Vec3::Zero();
  double volume = 0;   ///< m³
  std::string note;    ///< what was mended
  std::string problem; ///< why it cannot be taken; empty: it can
  std::string sameAs;  ///< id of an earlier body that is the same, elsewhere
  std::string colour;  ///< "#rrggbb", empty when the file gives none
};

/// What a file of geometry holds.
struct FoundGeometry {
  GeometryFile file; ///< with the bodies that can be taken
  std::vector<FoundBody> bodies;
};

struct ImportSettings {
  double unit = 1e-3; ///< m, length of one unit of a file that does not name its own
  double featureAngle = 30 * 3.14159265358979323846 / 180; ///< rad; triangles that meet at less make one face
  double removeBelow = 0;                                  ///< m; round faces of a smaller radius are removed, 0: none
};

/// Bodies of a STEP file (*.step, *.stp: its own units, names and placements) or of a closed surface of triangles
/// (*.stl, *.obj, *.ply: the unit of the settings; every closed shell is a body). A body that leaks or is invalid is
/// healed if it can be, else named with its problem while the rest comes in. Fails when the file cannot be read at all.
[[nodiscard]] Expected<FoundGeometry> readGeometry(const std::filesystem::path& path, const ImportSettings& settings,
                                                   const Progress& progress);

/// The file and a part for each of its bodies.
[[nodiscard]] Project projectOf(const FoundGeometry& found);

/// Writes the parts of a project as STEP (*.step, *.stp: names, millimetres) or STL (*.stl: one solid a part,
/// millimetres), as they stand in the model.
[[nodiscard]] Expected<void> writeGeometry(const Project& project, const std::filesystem::path& path);

} // namespace kiln
