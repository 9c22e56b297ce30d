// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstdint>

namespace kiln
{

/// Number of an unknown temperature, and of an entry of their matrix.
using Index = std::int32_t;

} // namespace kiln
