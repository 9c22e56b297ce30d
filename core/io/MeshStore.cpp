// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/MeshStore.h"

#include "io/NewestFiles.h"

#include <string_view>

namespace kiln
{
namespace
{

constexpr std::string_view filePrefix = ".mesh-";
constexpr std::size_t mostKept = 6; // files

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
  keepNewest(folder_, filePrefix, mostKept);
}

Expected<void> MeshStore::keep(const StoredMesh& mesh)
{
  putAside();
  latest_ = mesh;
  read_ = true;
  return saveMesh(mesh, meshFile(folder_));
}

} // namespace kiln
