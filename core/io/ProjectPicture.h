// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>

namespace kiln
{

/// Bytes of the PNG picture that a project file was saved with, without reading all of the project; nothing where there
/// is none, or it is damaged.
[[nodiscard]] std::optional<std::string> storedPicture(const std::filesystem::path& file);

} // namespace kiln
