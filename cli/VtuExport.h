// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"
#include "results/CaseResult.h"
#include "results/DifferenceField.h"

#include <filesystem>
#include <string>

namespace kiln
{

/// What a VTU file has besides the mesh and its temperatures.
struct VtuContent {
  std::string of;                              ///< what is shown, in words
  const DifferenceField* difference = nullptr; ///< how much hotter another result is, K
};

/// The mesh with all fields of the solution: on points temperature, recovered heat flux, gradient, what the flux may be
/// off by and, where something melts, the molten share; on cells heat flux, part, material and smallest angle. Units
/// are in the names, names of parts and materials beside the fields. A contact with a jump has points on both sides.
[[nodiscard]] Expected<void> exportVtu(const Project& project, const CaseResult& result,
                                       const std::filesystem::path& file, const VtuContent& content);

/// The faces of the parts as triangles: on cells the face, its part, the first named surface that has it (−1: none),
/// what is left over for it: its heat (W, into the solid) and mean heat flux (W/m²), on points the temperature; with
/// the names of faces, parts and surfaces.
[[nodiscard]] Expected<void> exportFacesVtu(const Project& project, const CaseResult& result,
                                            const std::filesystem::path& file, const std::string& of);

} // namespace kiln
