// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/Hdf5Handle.h"

#include <cstdint>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// Settles how the library behaves; before its first use.
void prepareHdf5();

/// A HDF5 file built in memory, so that a full disk is met by one plain write and not inside the library.
class Hdf5Writer
{
public:
  Hdf5Writer();

  /// Compressed array of rows × columns; \p path like "/mesh/nodes", groups are made as needed.
  void write(const std::string& path, std::span<const double> values, std::size_t columns = 1);
  void write(const std::string& path, std::span<const float> values);
  void write(const std::string& path, std::span<const std::int32_t> values, std::size_t columns = 1);
  void write(const std::string& path, std::span<const std::uint8_t> values);
  void writeText(const std::string& path, const std::string& text);

  /// Bytes of the file. The writer is closed.
  [[nodiscard]] std::string finish();

private:
  void writeArray(const std::string& path, const void* data, std::size_t count, std::size_t columns, hid_t type);

  Hdf5Handle file_;
};

/// Reads what Hdf5Writer wrote. Reading something absent or of another size marks the reader as failed.
class Hdf5Reader
{
public:
  /// Fails with kind Unreadable when the file is missing, cut short or not HDF5.
  [[nodiscard]] static Expected<Hdf5Reader> open(const std::filesystem::path& file);

  [[nodiscard]] std::vector<double> doubles(const std::string& path);
  [[nodiscard]] std::vector<float> floats(const std::string& path);
  [[nodiscard]] std::vector<std::int32_t> integers(const std::string& path);
  [[nodiscard]] std::vector<std::uint8_t> bytes(const std::string& path);
  [[nodiscard]] std::string text(const std::string& path);
  [[nodiscard]] bool failed() const { return failed_; }

private:
  explicit Hdf5Reader(Hdf5Handle file) : file_(std::move(file)) {}
  template <class T>
  std::vector<T> array(const std::string& path, hid_t type);

  Hdf5Handle file_;
  bool failed_ = false;
};

} // namespace kiln
