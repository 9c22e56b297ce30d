// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <map>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

namespace kiln
{

using Json = nlohmann::ordered_json;

/// Line (from 1) at which each value of a JSON text starts, by its path ("/parts/0/name").
using LineMap = std::map<std::string, int>;

/// Reads where values stand; the text must be valid JSON.
[[nodiscard]] LineMap linesOf(std::string_view text);

/// JSON with two-space indent in which short objects and lists of plain values stand on one line.
[[nodiscard]] std::string prettyJson(const Json& json);

} // namespace kiln
