// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/Hdf5Handle.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

/// Tables in a file that is read while it grows: no locks, single-writer mode keeps what is read whole.
namespace kiln
{

/// How such a file is opened.
[[nodiscard]] Hdf5Handle accessWhileWritten();
/// A file that is, or was when its writer was killed, open for writing can be read all the same; negative when not.
[[nodiscard]] Hdf5Handle openWhileWritten(const std::filesystem::path& file);

/// A table of rows that can grow.
[[nodiscard]] Hdf5Handle growingTable(hid_t file, const char* path, hid_t type, hsize_t columns, hsize_t rowsInChunk);
/// \return false where it could not be written
[[nodiscard]] bool appendRow(hid_t set, hid_t type, const void* row, hsize_t columns);

struct Hdf5Rows {
  std::vector<double> values; ///< row by row
  std::size_t rows = 0, columns = 0;
};
/// Nothing when it cannot be read.
[[nodiscard]] std::optional<Hdf5Rows> readRows(hid_t file, const char* path);

[[nodiscard]] bool writeText(hid_t file, const char* path, const std::string& text);
[[nodiscard]] std::optional<std::string> readText(hid_t file, const char* path);

} // namespace kiln
