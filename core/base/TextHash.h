// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

namespace kiln
{

/// 32 hexadecimal digits that stand for a text (XXH3, 128 bits).
[[nodiscard]] std::string textHash(std::string_view text);

} // namespace kiln
