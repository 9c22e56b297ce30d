// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cassert>
#include <cstddef>
#include <cstdint>

namespace kiln
{

/// A number of a part, face, node or unknown as an index; it is not negative ("none") where it is used as one.
[[nodiscard]] constexpr std::size_t at(std::int64_t i)
{
  assert(i >= 0);
  return static_cast<std::size_t>(i);
}

} // namespace kiln
