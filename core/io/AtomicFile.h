// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace kiln
{

/// Writes the bytes beside \p file, syncs, and renames over it: readers see the old content or the new, never a half.
/// Fails with kind Unwritable, naming the file and the system's reason; then nothing is left behind.
[[nodiscard]] Expected<void> writeAtomically(const std::filesystem::path& file, std::string_view bytes);

/// Whole content of a file. Fails with kind Unreadable.
[[nodiscard]] Expected<std::string> readWhole(const std::filesystem::path& file);

/// Path of the unfinished file, for a signal handler to remove; empty string when none is being written.
[[nodiscard]] const char* unfinishedFile();

/// Case or project name as a safe file name: letters, digits, '-', '_' and '.' stay, everything else becomes '_',
/// and a short checksum is appended when anything was replaced, so that different names stay different.
[[nodiscard]] std::string safeFileName(const std::string& name);

} // namespace kiln
