// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"

#include <TopoDS_Shape.hxx>
#include <filesystem>
#include <string>
#include <vector>

namespace kiln
{

/// A solid on its way from or to a file, in metres.
struct NamedShape {
  std::string name;
  TopoDS_Shape shape;
  std::vector<std::string> faces{}; ///< names of its faces in the kernel's order, where they have some
  std::string problem{};            ///< why there is no shape
  std::string colour{};             ///< "#rrggbb", empty when the file gives none
};

/// All solids of a STEP file where they are placed, named by their component or else their product.
[[nodiscard]] Expected<std::vector<NamedShape>> readStep(const std::filesystem::path& path, const Progress& progress);
[[nodiscard]] Expected<void> writeStep(const std::vector<NamedShape>& shapes, const std::filesystem::path& path);

} // namespace kiln
