// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstddef>
#include <numeric>
#include <vector>

namespace kiln
{

/// Joins things, numbered from 0, into groups; a group is known by its smallest member.
class Joining
{
public:
  explicit Joining(std::size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0U); }

  /// The smallest member of the group that i is in.
  [[nodiscard]] std::size_t find(std::size_t i)
  {
    while (parent_[i] != i)
      i = parent_[i] = parent_[parent_[i]];
    return i;
  }
  void join(std::size_t a, std::size_t b)
  {
    a = find(a);
    b = find(b);
    parent_[std::max(a, b)] = std::min(a, b);
  }

private:
  std::vector<std::size_t> parent_; ///< a member of the same group that is not larger
};

} // namespace kiln
