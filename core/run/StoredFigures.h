// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/Figures.h"

#include <filesystem>

namespace kiln
{

/// Figures of the project's cases as they are stored, each as it sees the project.
[[nodiscard]] FiguresOfCase storedFigures(const Project& project, const std::filesystem::path& folder);

} // namespace kiln
