// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/Hdf5.h"

#include "base/InParallel.h"
#include "base/TextHash.h"

#include <algorithm>
#include <array>
#include <fstream>
#include <string_view>
#include <utility>
#include <vector>
#include <zlib.h>

namespace kiln
{
void prepareHdf5()
{
  static const bool done = H5dont_atexit() >= 0; // a file that a full disk left half written would crash it
  static_cast<void>(done);
  thread_local const bool quiet = H5Eset_auto2(H5E_DEFAULT, nullptr, nullptr) >= 0; // failures are reported by value
  static_cast<void>(quiet);
}

namespace
{

constexpr unsigned quick = 1; // of deflate's levels

/// A chunk as the library's own filters, shuffle and deflate, would pack it.
/// \param rows   of it that there are; the rest is zero
std::vector<Bytef> packedChunk(const unsigned char* data, std::size_t rows, std::size_t rowsInChunk,
                               std::size_t bytesOfRow, std::size_t bytesOfValue)
{
  const std::size_t values = rowsInChunk * bytesOfRow / bytesOfValue;
  std::vector<Bytef> shuffled(rowsInChunk * bytesOfRow, 0);
  for (std::size_t i = 0; i < rows * bytesOfRow / bytesOfValue; ++i)
    for (std::size_t b = 0; b < bytesOfValue; ++b)
      shuffled[b * values + i] = data[i * bytesOfValue + b];
  uLongf size = compressBound(shuffled.size());
  std::vector<Bytef> packed(size);
  if (compress2(packed.data(), &size, shuffled.data(), shuffled.size(), quick) != Z_OK)
    size = 0;
  packed.resize(size);
  return packed;
}

Hdf5Handle createIntermediateGroups()
{
  Hdf5Handle list(H5Pcreate(H5P_LINK_CREATE), H5Pclose);
  H5Pset_create_intermediate_group(list, 1);
  return list;
}

} // namespace

Hdf5Writer::Hdf5Writer()
{
  prepareHdf5();
  const Hdf5Handle access(H5Pcreate(H5P_FILE_ACCESS), H5Pclose);
  constexpr std::size_t growBy = std::size_t{1} << 22U;
  H5Pset_fapl_core(access, growBy, 0);
  file_ = Hdf5Handle(H5Fcreate("in-memory", H5F_ACC_TRUNC, H5P_DEFAULT, access), H5Fclose);
}

void Hdf5Writer::writeArray(const std::string& path, const void* data, std::size_t count, std::size_t columns,
                            hid_t type)
{
  const std::array<hsize_t, 2> size{count / columns, columns};
  const int rank = columns > 1 ? 2 : 1;
  const Hdf5Handle space(H5Screate_simple(rank, size.data(), nullptr), H5Sclose);
  const Hdf5Handle settings(H5Pcreate(H5P_DATASET_CREATE), H5Pclose);
  constexpr hsize_t rowsInChunk = 1U << 15U;
  const std::array<hsize_t, 2> chunk{std::min(size[0], rowsInChunk), columns};
  if (count > 0) {
    H5Pset_chunk(settings, rank, chunk.data());
    H5Pset_shuffle(settings);
    H5Pset_deflate(settings, quick);
  }
  const Hdf5Handle groups = createIntermediateGroups();
  const Hdf5Handle set(H5Dcreate2(file_, path.c_str(), type, space, groups, settings, H5P_DEFAULT), H5Dclose);
  if (count == 0)
    return;
  // The library packs with one processor: what is packed side by side is handed to it.
  const std::size_t bytesOfValue = H5Tget_size(type);
  const std::size_t bytesOfRow = columns * bytesOfValue;
  std::vector<std::vector<Bytef>> packed((size[0] + chunk[0] - 1) / chunk[0]);
  inParallel(packed.size(), [&](std::size_t i) {
    const std::size_t first = i * chunk[0];
    packed[i] = packedChunk(static_cast<const unsigned char*>(data) + first * bytesOfRow,
                            std::min<std::size_t>(chunk[0], size[0] - first), chunk[0], bytesOfRow, bytesOfValue);
  });
  for (std::size_t i = 0; i < packed.size(); ++i) {
    const std::array<hsize_t, 2> offset{i * chunk[0], 0};
    H5Dwrite_chunk(set, H5P_DEFAULT, 0, offset.data(), packed[i].size(), packed[i].data());
  }
}

void Hdf5Writer::write(const std::string& path, std::span<const double> values, std::size_t columns)
{
  writeArray(path, values.data(), values.size(), columns, H5T_NATIVE_DOUBLE);
}

void Hdf5Writer::write(const std::string& path, std::span<const float> values)
{
  writeArray(path, values.data(), values.size(), 1, H5T_NATIVE_FLOAT);
}

void Hdf5Writer::write(const std::string& path, std::span<const std::int32_t> values, std::size_t columns)
{
  writeArray(path, values.data(), values.size(), columns, H5T_NATIVE_INT32);
}

void Hdf5Writer::write(const std::string& path, std::span<const std::uint8_t> values)
{
  writeArray(path, values.data(), values.size(), 1, H5T_NATIVE_UINT8);
}

void Hdf5Writer::writeText(const std::string& path, const std::string& text)
{
  write(path, std::span(reinterpret_cast<const std::uint8_t*>(text.data()), text.size()));
}

namespace
{

/// What stands behind the library's own bytes: a mark and the hash of all before it. The library takes damaged heads on
/// trust, so it only gets to see files that are as they were written.
constexpr std::string_view trailerMark = "KILNHASH";
constexpr std::size_t hashDigits = 32;

bool isAsWritten(const std::filesystem::path& file)
{
  std::ifstream stream(file, std::ios::binary | std::ios::ate);
  const std::streamoff size = stream.tellg();
  constexpr auto trailer = static_cast<std::streamoff>(trailerMark.size() + hashDigits);
  if (!stream || size < trailer)
    return false;
  stream.seekg(0);
  TextHasher hasher;
  std::vector<char> piece(std::size_t{1} << 20U);
  for (std::streamoff left = size - trailer; left > 0 && stream;) {
    const auto part = std::min<std::streamoff>(left, static_cast<std::streamoff>(piece.size()));
    stream.read(piece.data(), part);
    hasher.add({piece.data(), static_cast<std::size_t>(part)});
    left -= part;
  }
  std::string end(static_cast<std::size_t>(trailer), '\0');
  stream.read(end.data(), trailer);
  return stream && end == std::string(trailerMark) + hasher.hash();
}

} // namespace

std::string Hdf5Writer::finish()
{
  H5Fflush(file_, H5F_SCOPE_GLOBAL);
  const ssize_t size = H5Fget_file_image(file_, nullptr, 0);
  std::string bytes(size > 0 ? static_cast<std::size_t>(size) : 0, '\0');
  H5Fget_file_image(file_, bytes.data(), bytes.size());
  file_.reset();
  bytes += std::string(trailerMark) + textHash(bytes);
  return bytes;
}

Expected<Hdf5Reader> Hdf5Reader::open(const std::filesystem::path& file)
{
  prepareHdf5();
  Hdf5Handle handle(isAsWritten(file) ? H5Fopen(file.c_str(), H5F_ACC_RDONLY, H5P_DEFAULT) : hid_t{-1}, H5Fclose);
  if (handle < 0)
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is damaged, or of another version.",
                   "Solve the case again.");
  return Hdf5Reader(std::move(handle));
}

template <class T>
std::vector<T> Hdf5Reader::array(const std::string& path, hid_t type)
{
  std::vector<T> values;
  const Hdf5Handle set(failed_ ? hid_t{-1} : H5Dopen2(file_, path.c_str(), H5P_DEFAULT), H5Dclose);
  if (set < 0) {
    failed_ = true;
    return values;
  }
  const Hdf5Handle space(H5Dget_space(set), H5Sclose);
  const auto count = static_cast<double>(H5Sget_simple_extent_npoints(space));
  // A damaged header may promise anything; deflate never packs tighter than about a thousand to one.
  constexpr double tightest = 1100, slack = 4096;
  if (count < 0 || count * sizeof(T) > tightest * static_cast<double>(H5Dget_storage_size(set)) + slack)
    failed_ = true;
  else
    values.resize(static_cast<std::size_t>(count));
  if (!values.empty() && H5Dread(set, type, H5S_ALL, H5S_ALL, H5P_DEFAULT, values.data()) < 0)
    failed_ = true;
  return values;
}

std::vector<double> Hdf5Reader::doubles(const std::string& path) { return array<double>(path, H5T_NATIVE_DOUBLE); }

std::vector<float> Hdf5Reader::floats(const std::string& path) { return array<float>(path, H5T_NATIVE_FLOAT); }

std::vector<std::int32_t> Hdf5Reader::integers(const std::string& path)
{
  return array<std::int32_t>(path, H5T_NATIVE_INT32);
}

std::vector<std::uint8_t> Hdf5Reader::bytes(const std::string& path)
{
  return array<std::uint8_t>(path, H5T_NATIVE_UINT8);
}

std::string Hdf5Reader::text(const std::string& path)
{
  const std::vector<std::uint8_t> raw = bytes(path);
  return {raw.begin(), raw.end()};
}

} // namespace kiln
