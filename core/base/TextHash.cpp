// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/TextHash.h"

#include <array>
#include <cstdio>
#include <xxhash.h>

namespace kiln
{

std::string textHash(std::string_view text)
{
  const XXH128_hash_t hash = XXH3_128bits(text.data(), text.size());
  std::array<char, 40> hex{};
  std::snprintf(hex.data(), hex.size(), "%016llx%016llx", static_cast<unsigned long long>(hash.high64),
                static_cast<unsigned long long>(hash.low64));
  return hex.data();
}

} // namespace kiln
