// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/MeshStore.h"

#include <algorithm>
#include <string_view>

namespace kiln
{
namespace
{

constexpr std::string_view filePrefix = ".mesh-";

/// Keeps the newest files only: each change of a shape leaves one behind.
void clearOld(const std::filesystem::path& folder)
{
  constexpr std::size_t mostKept = 6;
  std::error_code ignored;
  std::vector<std::pair<std::filesystem::file_time_type, std::filesystem::path>> files;
  for (const auto& entry : std::filesystem::directory_iterator(folder, ignored))
    if (entry.path().filename().string().starts_with(filePrefix))
      files.emplace_back(entry.last_write_time(ignored), entry.path());
  std::sort(files.rbegin(), files.rend());
  for (std::size_t i = mostKept; i < files.size(); ++i)
    std::filesystem::remove(files[i].second, ignored);
}

} // namespace

Expected<MeshStore> MeshStore::open(const std::filesystem::path& folder, const Progress& progress)
{
  auto lock = FileLock::await(folder / ".mesh.lock", "mesh", [&](const std::string& holder) {
    progress("mesh", 0.01, "waiting for a mesh that is made by " + holder);
  });
  if (!lock)
    return tl::unexpected(lock.error());
  return MeshStore(folder, std::move(*lock));
}

const std::optional<StoredMesh>& MeshStore::latest()
{
  std::error_code ignored;
  if (!read_ && std::filesystem::exists(meshFile(folder_), ignored))
    if (Expected<StoredMesh> stored = loadMesh(meshFile(folder_)))
      latest_ = std::move(*stored);
  read_ = true;
  return latest_;
}

std::filesystem::path MeshStore::asideFile(const std::string& hash) const
{
  constexpr std::size_t letters = 16;
  return folder_ / (std::string(filePrefix) + hash.substr(0, letters) + ".h5");
}

std::optional<Mesh> MeshStore::find(const std::string& hash)
{
  if (latest() && latest_->hash == hash)
    return latest_->mesh;
  const std::filesystem::path file = asideFile(hash);
  std::error_code ignored;
  if (!std::filesystem::exists(file, ignored))
    return std::nullopt;
  Expected<StoredMesh> stored = loadMesh(file);
  if (!stored || stored->hash != hash)
    return std::nullopt;
  putAside();
  std::filesystem::rename(file, meshFile(folder_), ignored);
  latest_ = std::move(*stored);
  return latest_->mesh;
}

void MeshStore::putAside()
{
  if (!latest())
    return;
  std::error_code ignored; // it can be made again
  std::filesystem::rename(meshFile(folder_), asideFile(latest_->hash), ignored);
  clearOld(folder_);
}

Expected<void> MeshStore::keep(const StoredMesh& mesh)
{
  putAside();
  latest_ = mesh;
  read_ = true;
  return saveMesh(mesh, meshFile(folder_));
}

} // namespace kiln
