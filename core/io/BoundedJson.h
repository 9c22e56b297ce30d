// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/JsonText.h"

#include <string>
#include <string_view>

namespace kiln
{

/// Text as JSON. What would take memory or the stack without end is refused before the library sees it.
/// \param file  as it is named to the user, "file a.kiln"
/// Fails with kind Unreadable, naming the line: not JSON, cut short, nested too deep, a number too large to be one.
[[nodiscard]] Expected<Json> parseJson(std::string_view text, const std::string& file);

} // namespace kiln
