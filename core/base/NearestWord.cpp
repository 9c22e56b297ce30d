// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/NearestWord.h"

#include <algorithm>
#include <numeric>
#include <utility>

namespace kiln
{
namespace
{

std::size_t editDistance(const std::string& a, const std::string& b)
{
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), 0U);
  for (std::size_t i = 1; i <= a.size(); ++i) {
    std::size_t diagonal = std::exchange(row[0], i);
    for (std::size_t j = 1; j <= b.size(); ++j) {
      const std::size_t change = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
      diagonal = row[j];
      row[j] = std::min({row[j] + 1, row[j - 1] + 1, change});
    }
  }
  return row.back();
}

} // namespace

std::string nearestWord(const std::string& word, const std::vector<std::string>& candidates)
{
  constexpr std::size_t mostSlips = 3;
  std::string best;
  std::size_t bestDistance = std::min(mostSlips, word.size() / 2) + 1;
  for (const std::string& candidate : candidates) {
    const std::size_t distance = editDistance(word, candidate);
    if (distance < bestDistance) {
      bestDistance = distance;
      best = candidate;
    }
  }
  return best;
}

} // namespace kiln
