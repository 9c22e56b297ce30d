// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstddef>
#include <functional>

namespace kiln
{

/// Does pieces of work, numbered from 0, on as many processors as there are (\ref limitProcessors). In no order, and
/// none may wait for another.
void inParallel(std::size_t count, const std::function<void(std::size_t)>& work);

} // namespace kiln
