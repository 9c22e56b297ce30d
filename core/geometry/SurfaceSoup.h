// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Vec3.h"

#include <array>
#include <filesystem>
#include <string>
#include <vector>

namespace kiln
{

/// One connected shell of triangles.
struct TriangleShell {
  std::string name;                          ///< that the file gives it, may be empty
  std::vector<Vec3> points;                  ///< in the file's unit
  std::vector<std::array<int, 3>> triangles; ///< normals outwards when it is closed
  std::vector<int> face; ///< by triangle: those that meet at less than the feature angle share a number from 0
  bool inward = false;   ///< the file meant it as the skin of a cavity; turned outwards here
  int openEdges = 0;
  int crossings = 0;           ///< pairs of triangles that cut each other
  Vec3 faultAt = Vec3::Zero(); ///< where the first of them is
};

/// Shells of a file of triangles (*.stl, *.obj, *.ply), its doubled points merged and its triangles turned alike.
/// \param featureAngle  rad
/// Fails when the file cannot be read.
[[nodiscard]] Expected<std::vector<TriangleShell>> readShells(const std::filesystem::path& path, double featureAngle);

} // namespace kiln
