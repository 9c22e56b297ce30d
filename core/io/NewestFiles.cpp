// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/NewestFiles.h"

#include <algorithm>
#include <utility>
#include <vector>

namespace kiln
{

void keepNewest(const std::filesystem::path& folder, std::string_view prefix, std::size_t most)
{
  std::error_code ignored;
  std::vector<std::pair<std::filesystem::file_time_type, std::filesystem::path>> files;
  for (const auto& entry : std::filesystem::directory_iterator(folder, ignored))
    if (entry.path().filename().string().starts_with(prefix))
      files.emplace_back(entry.last_write_time(ignored), entry.path());
  std::sort(files.rbegin(), files.rend());
  for (std::size_t i = most; i < files.size(); ++i)
    std::filesystem::remove(files[i].second, ignored);
}

} // namespace kiln
