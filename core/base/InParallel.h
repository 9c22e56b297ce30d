// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstddef>
#include <functional>

namespace kiln
{

/// Does pieces of work, numbered from 0, on as many processors as there are (\ref limitProcessors). In no order, and
/// none may wait for another.
void inParallel(std::size_t count, const std::function<void(std::size_t)>& work);

/// The same for items that are too small to be pieces by themselves: calls with (first, end) of blocks that do not
/// depend on how many processors there are.
void inBlocks(std::size_t count, std::size_t block, const std::function<void(std::size_t, std::size_t)>& work);

} // namespace kiln
