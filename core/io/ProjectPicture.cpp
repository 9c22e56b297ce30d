// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ProjectPicture.h"

#include "base/PackedText.h"

#include <algorithm>
#include <fstream>

namespace kiln
{

std::optional<std::string> storedPicture(const std::filesystem::path& file)
{
  constexpr std::streamoff most = 400'000; // B, its key stands at the end of the file
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in)
    return std::nullopt;
  const std::streamoff size = in.tellg();
  in.seekg(std::max<std::streamoff>(0, size - most));
  std::string text(static_cast<std::size_t>(std::min(size, most)), '\0');
  in.read(text.data(), static_cast<std::streamsize>(text.size()));
  const std::string key = "\"picture\":";
  const std::size_t at = text.rfind(key);
  const std::size_t begin = at == std::string::npos ? at : text.find('"', at + key.size());
  const std::size_t end = begin == std::string::npos ? begin : text.find('"', begin + 1);
  if (end == std::string::npos)
    return std::nullopt;
  const auto bytes = unpackedText(text.substr(begin + 1, end - begin - 1));
  return bytes && bytes->starts_with("\x89PNG") ? bytes : std::nullopt;
}

} // namespace kiln
