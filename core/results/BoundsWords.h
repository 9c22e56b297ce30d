// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "solve/TemperatureBounds.h"

#include <string>

namespace kiln
{

/// "Temperatures left what is possible: 3.4 K above, at 12 s in Ware (…)."; empty while they stayed within the step's
/// tolerance.
[[nodiscard]] std::string boundsWords(const BoundsReport& bounds, const FaceTable& geometry);

} // namespace kiln
