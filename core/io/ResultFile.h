// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/CaseStore.h"
#include "model/Cases.h"
#include "results/CaseResult.h"

#include <filesystem>

namespace kiln
{

/// A mesh with the fingerprint of the inputs it was made from.
struct StoredMesh {
  std::string hash;
  Mesh mesh;
};

/// Bytes of DIR/<case>.h5 (layout: docs/file-format.md).
[[nodiscard]] std::string resultBytes(const CaseResult& result);
/// Writes them, atomically.
[[nodiscard]] Expected<void> saveResult(const CaseResult& result, const std::filesystem::path& file);

/// Fails with kind Unreadable when the file is absent, cut short or of another layout.
[[nodiscard]] Expected<CaseResult> loadResult(const std::filesystem::path& file);
/// The current result of a case, checked to be what was written (\ref storedCase).
/// Fails with kind Unreadable when there is none or it is not.
[[nodiscard]] Expected<CaseResult> loadStored(const std::filesystem::path& folder, const Case& oneCase);

[[nodiscard]] Expected<void> saveMesh(const StoredMesh& mesh, const std::filesystem::path& file);
[[nodiscard]] Expected<StoredMesh> loadMesh(const std::filesystem::path& file);

/// Files of a results folder.
[[nodiscard]] std::filesystem::path meshFile(const std::filesystem::path& folder);
/// Faces drawn while the model is edited: those of single parts, and those of the fused model.
[[nodiscard]] std::filesystem::path draftFile(const std::filesystem::path& folder, bool fused);

} // namespace kiln
