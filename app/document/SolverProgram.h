// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>
#include <filesystem>

namespace kiln
{

/// The program `ukiln` that belongs to this one.
[[nodiscard]] QString solverProgram();

/// Whether `ukiln` reads an interrupted run within seconds. Such a file is not sealed by its hash, and the library that
/// reads it can crash or hang on a damaged one: that happens there and not in the window.
[[nodiscard]] bool isReadableRun(const std::filesystem::path& file);

} // namespace kiln
