// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/TemperatureBounds.h"

#include <nlohmann/json.hpp>

namespace kiln
{

[[nodiscard]] nlohmann::json boundsToJson(const BoundsReport& bounds);
/// \throws nlohmann::json::exception when a key is missing
[[nodiscard]] BoundsReport boundsFromJson(const nlohmann::json& json);

} // namespace kiln
