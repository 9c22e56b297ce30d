// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Id.h"

#include <cstdint>

namespace kiln
{

/// A row, a column or an entry of a matrix.
using Index = std::int32_t;

/// An unknown temperature: its row in the matrix, its place among temperatures.
using UnknownId = Id<struct UnknownKind>;
inline constexpr UnknownId noUnknown{};

} // namespace kiln
