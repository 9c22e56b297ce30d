// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>

namespace kiln
{

/// "0.1.0"
[[nodiscard]] std::string ownVersion();

/// "Open CASCADE 7.6.3, CGAL 5.5.1, …": of the libraries that geometry, meshes, solutions and results are made with.
[[nodiscard]] std::string libraryVersions();

} // namespace kiln
