// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "io/FileLock.h"
#include "io/ResultFile.h"

#include <optional>

namespace kiln
{

/// The meshes of a folder of results: the latest (\ref meshFile), and a few earlier ones by their hashes, so that cases
/// with shapes of their own do not make each other's again and again. While it is there no other process makes meshes
/// in this folder: who waits finds what was made meanwhile.
class MeshStore
{
public:
  /// Waits while another process makes one.
  [[nodiscard]] static Expected<MeshStore> open(const std::filesystem::path& folder, const Progress& progress);

  /// The mesh of this hash, which is the latest from then on; nothing when it is not kept.
  [[nodiscard]] std::optional<Mesh> find(const std::string& hash);
  /// The latest one, whatever it is of; nothing when there is none.
  [[nodiscard]] const std::optional<StoredMesh>& latest();
  /// Keeps a mesh as the latest.
  [[nodiscard]] Expected<void> keep(const StoredMesh& mesh);

private:
  MeshStore(std::filesystem::path folder, FileLock lock) : folder_(std::move(folder)), lock_(std::move(lock)) {}
  [[nodiscard]] std::filesystem::path asideFile(const std::string& hash) const;
  void putAside();

  std::filesystem::path folder_;
  FileLock lock_;
  std::optional<StoredMesh> latest_;
  bool read_ = false;
};

} // namespace kiln
