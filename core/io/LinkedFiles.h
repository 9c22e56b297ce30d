// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "readiness/Readiness.h"

#include <filesystem>

namespace kiln
{

/// The same project with the paths of its linked files made absolute, so that a copy of it elsewhere finds them.
/// \param folder  of the project's file
[[nodiscard]] Project withAbsoluteLinks(Project project, const std::filesystem::path& folder);

/// Linked files that are gone or have changed since they were read: errors, with what to do.
[[nodiscard]] std::vector<Finding> checkLinked(const Project& project, const std::filesystem::path& folder);

} // namespace kiln
