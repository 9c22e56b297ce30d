// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace kiln
{

/// Whether a symbolic link in the place of a file is written through, or replaced by the file.
enum class Links { Replace, Follow };

/// Writes the bytes beside \p file, syncs, and renames over it: readers see the old content or the new, never a half.
/// Fails with kind Unwritable, naming the file and the system's reason; then nothing is left behind.
[[nodiscard]] Expected<void> writeAtomically(const std::filesystem::path& file, std::string_view bytes,
                                             Links links = Links::Replace);

/// What stands between the name of a file and the number of the process that is still writing it.
inline constexpr const char* partEnding = ".part";

/// Makes sure that a file is on the disk. Fails with kind Unwritable.
[[nodiscard]] Expected<void> syncFile(const std::filesystem::path& file);

/// Hash of a file's bytes, as of the same text. Fails with kind Unreadable.
[[nodiscard]] Expected<std::string> fileHash(const std::filesystem::path& file);

/// Whole content of a plain file. Fails with kind Unreadable where it is none (a pipe would keep the reader waiting),
/// or larger than anything that is written here.
[[nodiscard]] Expected<std::string> readWhole(const std::filesystem::path& file);

/// Path of the unfinished file, for a signal handler to remove; empty string when none is being written.
[[nodiscard]] const char* unfinishedFile();

/// Case or project name as a safe file name: letters, digits, '-', '_' and '.' stay, everything else becomes '_',
/// and a short checksum is appended when anything was replaced, so that different names stay different.
[[nodiscard]] std::string safeFileName(const std::string& name);

} // namespace kiln
