// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/TextHash.h"

#include <array>
#include <cstdio>
#include <xxhash.h>

namespace kiln
{

namespace
{

std::string hexOf(const XXH128_hash_t& hash)
{
  std::array<char, 40> hex{};
  std::snprintf(hex.data(), hex.size(), "%016llx%016llx", static_cast<unsigned long long>(hash.high64),
                static_cast<unsigned long long>(hash.low64));
  return hex.data();
}

} // namespace

std::string textHash(std::string_view text) { return hexOf(XXH3_128bits(text.data(), text.size())); }

struct TextHasher::State {
  XXH3_state_t* own = XXH3_createState();
  State() = default;
  State(const State&) = delete;
  State& operator=(const State&) = delete;
  ~State() { XXH3_freeState(own); }
};

TextHasher::TextHasher() : state_(std::make_unique<State>()) { XXH3_128bits_reset(state_->own); }
TextHasher::~TextHasher() = default;

void TextHasher::add(std::string_view piece) { XXH3_128bits_update(state_->own, piece.data(), piece.size()); }
std::string TextHasher::hash() const { return hexOf(XXH3_128bits_digest(state_->own)); }

} // namespace kiln
