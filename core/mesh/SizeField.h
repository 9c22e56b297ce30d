// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <vector>

namespace kiln
{

/// A wanted edge length at a place; it may grow away from there.
struct SizeSource {
  Vec3 place;
  double size = 0; ///< m
};

/// Graded size: h(x) = min over sources of (size + growth · distance). Queries by branch and bound in a k-d tree.
class SizeField
{
public:
  explicit SizeField(std::vector<SizeSource> sources);

  /// Wanted edge length at \p place, at most \p most, m.
  [[nodiscard]] double at(const Vec3& place, double most) const;

  static constexpr double growth = 0.5; // m of size a metre of distance

private:
  struct Node {
    Vec3 low, high;
    double smallest = 0;
    std::size_t begin = 0, end = 0;
    int left = -1, right = -1;
  };

  int build(std::size_t begin, std::size_t end);

  std::vector<SizeSource> sources_;
  std::vector<Node> nodes_;
};

} // namespace kiln
