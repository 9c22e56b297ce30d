// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Patches.h"
#include "model/Project.h"

namespace kiln
{

/// The exposed faces of an enclosure's surfaces, grouped into patches of its size; without one, of a size
/// that a thousand of them would have if they filled it; small and bent faces make more.
[[nodiscard]] Patches enclosurePatches(const Project& project, const Mesh& mesh, const Enclosure& enclosure);

} // namespace kiln
