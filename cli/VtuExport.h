// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "results/CaseResult.h"
#include "results/DifferenceField.h"

#include <filesystem>
#include <string>

namespace kiln
{

/// What a VTU file has besides the mesh and its temperatures.
struct VtuContent {
  std::string of;       ///< what is shown, in words
  bool withFlux = true; ///< it is only known where the result was stored, not at other instants of a run
  const DifferenceField* difference = nullptr; ///< how much hotter another result is, K
};

/// Mesh, temperature (K, on points) and heat flux (W/m², on cells), part numbers; a contact with a jump has points on
/// both sides. Binary VTU that names what it shows.
[[nodiscard]] Expected<void> exportVtu(const CaseResult& result, const std::filesystem::path& file,
                                       const VtuContent& content);

} // namespace kiln
