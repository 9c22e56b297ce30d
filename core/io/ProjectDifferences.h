// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <string>
#include <vector>

namespace kiln
{

/// What differs between two states of a project, a line each: "part Shell, sizeX: 0.5 m → 0.6 m", "only here: watch
/// Peak". Objects are matched by id.
[[nodiscard]] std::vector<std::string> differences(const Project& here, const Project& there);

} // namespace kiln
