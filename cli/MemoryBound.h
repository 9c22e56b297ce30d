// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>

namespace kiln
{

/// Reads a file with no more memory than it can be worth: a damaged count in a small file asks a library for many
/// gigabytes.
/// \return whether it was read
[[nodiscard]] bool readWithinReason(const std::filesystem::path& file, const std::function<void()>& read);

} // namespace kiln
