// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace kiln
{

inline constexpr int projectFileVersion = 1;

/// Project from the text of a *.kiln file (docs/file-format.md).
/// \param shownName  how errors name the file
/// Fails, naming line, object and remedy, on damaged JSON, a missing or misspelt required key, a value of the
/// wrong kind, two objects with one id, or a file of a newer version.
[[nodiscard]] Expected<Project> readProject(std::string_view text, const std::string& shownName);

/// The same from a file.
[[nodiscard]] Expected<Project> loadProject(const std::filesystem::path& file);

/// Text of the file: stable key order, one number a line, unknown keys kept.
[[nodiscard]] std::string writeProject(const Project& project);

/// Saves atomically: the old file stays until the new one is complete on disk.
[[nodiscard]] Expected<void> saveProject(const Project& project, const std::filesystem::path& file);

} // namespace kiln
