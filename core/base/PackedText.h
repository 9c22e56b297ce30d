// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

namespace kiln
{

/// Bytes compressed, led by their length, in base64.
[[nodiscard]] std::string packedText(const std::string& bytes);

/// Bytes in base64 alone.
[[nodiscard]] std::string base64Text(const std::string& bytes);

/// The bytes again; nothing when the text is damaged.
[[nodiscard]] std::optional<std::string> unpackedText(const std::string& text);

} // namespace kiln
