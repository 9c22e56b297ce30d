// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// What a placeholder stands for now; nothing where it is not known.
using PlaceholderValue = std::function<std::optional<std::string>(const std::string&)>;

struct FilledText {
  std::string text;
  std::vector<std::string> unknown; ///< placeholders that stand for nothing, as they are written
};

/// Own words with their placeholders, “{Shell, hottest}”, filled in. “{{” is a brace. One that is not known, or has no
/// end, stays as it is written, in brackets that say so.
[[nodiscard]] FilledText filledText(const std::string& text, const PlaceholderValue& valueOf);

} // namespace kiln
