// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/PackedText.h"

#include <boost/beast/core/detail/base64.hpp>
#include <cstdlib>
#include <zlib.h>

namespace kiln
{

namespace base64 = boost::beast::detail::base64;

std::string base64Text(const std::string& bytes)
{
  std::string text(base64::encoded_size(bytes.size()), '\0');
  text.resize(base64::encode(text.data(), bytes.data(), bytes.size()));
  return text;
}

std::string packedText(const std::string& bytes)
{
  uLongf size = compressBound(bytes.size());
  std::string compressed(size, '\0');
  compress2(reinterpret_cast<Bytef*>(compressed.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()),
            bytes.size(), Z_BEST_COMPRESSION);
  compressed.resize(size);
  return std::to_string(bytes.size()) + ":" + base64Text(compressed);
}

std::optional<std::string> unpackedText(const std::string& text)
{
  constexpr unsigned long long most = 1ULL << 31U; // bytes; more is no body but a damaged length
  const std::size_t colon = text.find(':');
  constexpr std::size_t group = 4; // letters; the decoder writes a whole group's bytes even of a part of one
  if (colon == std::string::npos || (text.size() - colon - 1) % group != 0)
    return std::nullopt;
  const unsigned long long length = std::strtoull(text.c_str(), nullptr, 10);
  if (length == 0 || length > most)
    return std::nullopt;
  std::string compressed(base64::decoded_size(text.size() - colon - 1), '\0');
  compressed.resize(base64::decode(compressed.data(), text.data() + colon + 1, text.size() - colon - 1).first);
  std::string bytes(length, '\0');
  uLongf size = length;
  const int result = uncompress(reinterpret_cast<Bytef*>(bytes.data()), &size,
                                reinterpret_cast<const Bytef*>(compressed.data()), compressed.size());
  return result == Z_OK && size == length ? std::optional(std::move(bytes)) : std::nullopt;
}

} // namespace kiln
