// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "results/CaseResult.h"

#include <filesystem>

namespace kiln
{

/// Mesh, temperature (K, on points) and heat flux (W/m², on cells), part numbers; a contact with a jump has points on
/// both sides. Binary VTU.
/// \param withFlux  the flux is only known where the result was stored, not at other instants of a run
[[nodiscard]] Expected<void> exportVtu(const CaseResult& result, const std::filesystem::path& file,
                                       bool withFlux = true);

} // namespace kiln
