// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/Hdf5Tables.h"

#include "io/Hdf5.h"

#include <array>

namespace kiln
{

Hdf5Handle accessWhileWritten()
{
  Hdf5Handle access(H5Pcreate(H5P_FILE_ACCESS), H5Pclose);
  H5Pset_libver_bounds(access, H5F_LIBVER_LATEST, H5F_LIBVER_LATEST);
  H5Pset_file_locking(access, 0, 1);
  constexpr unsigned attempts = 5; // a damaged head is not read a hundred times over
  H5Pset_metadata_read_attempts(access, attempts);
  return access;
}

Hdf5Handle growingTable(hid_t file, const char* path, hid_t type, hsize_t columns, hsize_t rowsInChunk)
{
  const std::array<hsize_t, 2> none{0, columns};
  const std::array<hsize_t, 2> most{H5S_UNLIMITED, columns};
  const Hdf5Handle space(H5Screate_simple(2, none.data(), most.data()), H5Sclose);
  const Hdf5Handle settings(H5Pcreate(H5P_DATASET_CREATE), H5Pclose);
  const std::array<hsize_t, 2> chunk{rowsInChunk, columns};
  H5Pset_chunk(settings, 2, chunk.data());
  H5Pset_shuffle(settings);
  H5Pset_deflate(settings, 1);
  return {H5Dcreate2(file, path, type, space, H5P_DEFAULT, settings, H5P_DEFAULT), H5Dclose};
}

bool appendRow(hid_t set, hid_t type, const void* row, hsize_t columns)
{
  const Hdf5Handle before(H5Dget_space(set), H5Sclose);
  std::array<hsize_t, 2> size{};
  if (H5Sget_simple_extent_dims(before, size.data(), nullptr) != 2)
    return false;
  const std::array<hsize_t, 2> grown{size[0] + 1, columns};
  if (H5Dset_extent(set, grown.data()) < 0)
    return false;
  const Hdf5Handle file(H5Dget_space(set), H5Sclose);
  const std::array<hsize_t, 2> at{size[0], 0};
  const std::array<hsize_t, 2> one{1, columns};
  H5Sselect_hyperslab(file, H5S_SELECT_SET, at.data(), nullptr, one.data(), nullptr);
  const Hdf5Handle memory(H5Screate_simple(2, one.data(), nullptr), H5Sclose);
  return H5Dwrite(set, type, memory, file, H5P_DEFAULT, row) >= 0 && H5Dflush(set) >= 0;
}

bool writeText(hid_t file, const char* path, const std::string& text)
{
  const hsize_t size = text.size();
  const Hdf5Handle space(H5Screate_simple(1, &size, nullptr), H5Sclose);
  const Hdf5Handle set(H5Dcreate2(file, path, H5T_NATIVE_UINT8, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT),
                       H5Dclose);
  return set >= 0 && H5Dwrite(set, H5T_NATIVE_UINT8, H5S_ALL, H5S_ALL, H5P_DEFAULT, text.data()) >= 0;
}

std::optional<std::string> readText(hid_t file, const char* path)
{
  if (H5Lexists(file, path, H5P_DEFAULT) <= 0)
    return std::nullopt;
  const Hdf5Handle set(H5Dopen2(file, path, H5P_DEFAULT), H5Dclose);
  const Hdf5Handle space(H5Dget_space(set), H5Sclose);
  const hssize_t size = H5Sget_simple_extent_npoints(space);
  constexpr hssize_t most = 1 << 26;
  if (set < 0 || size < 0 || size > most)
    return std::nullopt;
  std::string text(static_cast<std::size_t>(size), '\0');
  if (size > 0 && H5Dread(set, H5T_NATIVE_UINT8, H5S_ALL, H5S_ALL, H5P_DEFAULT, text.data()) < 0)
    return std::nullopt;
  return text;
}

std::optional<Hdf5Rows> readRows(hid_t file, const char* path)
{
  const Hdf5Handle set(H5Dopen2(file, path, H5P_DEFAULT), H5Dclose);
  if (set < 0)
    return std::nullopt;
  const Hdf5Handle space(H5Dget_space(set), H5Sclose);
  std::array<hsize_t, 2> size{};
  constexpr hsize_t most = 1U << 28U;
  if (H5Sget_simple_extent_dims(space, size.data(), nullptr) != 2 || size[0] > most || size[1] > most ||
      size[0] * size[1] > most)
    return std::nullopt;
  Hdf5Rows rows{std::vector<double>(size[0] * size[1]), size[0], size[1]};
  if (!rows.values.empty() && H5Dread(set, H5T_NATIVE_DOUBLE, H5S_ALL, H5S_ALL, H5P_DEFAULT, rows.values.data()) < 0)
    return std::nullopt;
  return rows;
}

Hdf5Handle openWhileWritten(const std::filesystem::path& file)
{
  prepareHdf5();
  const Hdf5Handle access = accessWhileWritten();
  Hdf5Handle handle(H5Fopen(file.c_str(), H5F_ACC_RDONLY | H5F_ACC_SWMR_READ, access), H5Fclose);
  if (handle < 0)
    handle = Hdf5Handle(H5Fopen(file.c_str(), H5F_ACC_RDONLY, access), H5Fclose);
  return handle;
}

} // namespace kiln
