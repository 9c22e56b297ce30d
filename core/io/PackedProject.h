// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"

#include <filesystem>

/// A project with everything as one file (*.kilnpack): a zip archive of the project file and its folder of results.
namespace kiln
{

/// \param folder  of results; one that is not there is left out, as are files that are still being written
/// Fails with kind Unreadable or Unwritable, naming the file; then nothing is left behind.
[[nodiscard]] Expected<void> packProject(const std::filesystem::path& project, const std::filesystem::path& folder,
                                         const std::filesystem::path& to, const Progress& progress);

/// Unpacks it into a folder. Nothing that is there is replaced, and nothing is written outside of it.
/// \return the project file
/// Fails: it is no such file or damaged, a name in it leads out of the folder, something of this name is there already.
[[nodiscard]] Expected<std::filesystem::path>
unpackProject(const std::filesystem::path& file, const std::filesystem::path& folder, const Progress& progress);

} // namespace kiln
