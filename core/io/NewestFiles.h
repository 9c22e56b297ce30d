// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstddef>
#include <filesystem>
#include <string_view>

namespace kiln
{

/// Removes all but the newest files of a folder whose names begin so: each change of a shape leaves one behind. What
/// cannot be removed stays.
void keepNewest(const std::filesystem::path& folder, std::string_view prefix, std::size_t most);

} // namespace kiln
