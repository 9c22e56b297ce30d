// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>
#include <string>

/// Materials and finishes to choose from. A library is a project file that holds nothing else.
namespace kiln
{

/// The generic materials and finishes that come with the program. A material's comment is its group ("metal").
[[nodiscard]] const Project& builtInLibrary();

/// The user's own, shared across projects; $XDG_DATA_HOME/usual-kiln/library.kiln. Empty when there is none yet.
[[nodiscard]] std::filesystem::path userLibraryFile();
[[nodiscard]] Expected<Project> loadUserLibrary();
/// Adds or replaces (by name) a material in the user's library.
[[nodiscard]] Expected<void> keepInUserLibrary(const Material& material);

/// The project's material of this name and values, added when it is not there yet. \return its id
std::string takeMaterial(Project& project, const Material& fromLibrary);
std::string takeFinish(Project& project, const Finish& fromLibrary);

} // namespace kiln
