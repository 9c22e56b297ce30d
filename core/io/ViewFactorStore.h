// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/radiation/ViewFactors.h"

#include <filesystem>

namespace kiln
{

/// View factors kept in a folder by a hash of everything they depend on: where the exposed triangles lie, how they
/// are grouped into patches, how many rays there are, whether there is an opening. All cases and all states of a
/// project with the same ones share them; a damaged file, or one of another version, is cast anew.
[[nodiscard]] ViewFactorSource storedViewFactors(const std::filesystem::path& folder, unsigned threads,
                                                 const Progress& progress);

/// The file that view factors of this hash are kept in.
[[nodiscard]] std::filesystem::path viewFactorFile(const std::filesystem::path& folder, const std::string& hash);

/// Hash of what view factors depend on.
[[nodiscard]] std::string viewFactorHash(const Mesh& mesh, const Patches& patches, int rays, bool open);

} // namespace kiln
