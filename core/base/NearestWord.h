// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

namespace kiln
{

/// The entry of \p candidates that \p word is most likely a slip of; empty when none is near.
[[nodiscard]] std::string nearestWord(const std::string& word, const std::vector<std::string>& candidates);

} // namespace kiln
