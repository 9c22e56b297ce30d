// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>

namespace kiln
{

/// Reads the shapes of linked files, which the project's own file does not hold.
/// \param folder  that relative paths start from
/// Fails naming the file when it is gone, unreadable, or not the one that was taken in.
[[nodiscard]] Expected<void> fillLinked(Project& project, const std::filesystem::path& folder);

} // namespace kiln
