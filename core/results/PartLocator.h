// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Location.h"

#include <array>
#include <optional>
#include <vector>

namespace kiln
{

/// Finds places in the elements of one part of a mesh, quickly: a grid of cells with the elements that reach into each.
class PartLocator
{
public:
  PartLocator(const Mesh& mesh, PartId part);

  /// Has the part any element?
  [[nodiscard]] bool empty() const { return cells_.empty(); }
  /// As \ref locate, among the elements of the part. Not for an empty one.
  [[nodiscard]] Location find(const Vec3& place) const;

private:
  using Cell = std::array<int, 3>;
  [[nodiscard]] Cell cellOf(const Vec3& place) const;
  [[nodiscard]] std::size_t indexOf(const Cell& cell) const;
  [[nodiscard]] std::optional<Location> holding(const Vec3& place) const;
  void look(const Cell& cell, const Vec3& place, Location& best) const;

  const Mesh& mesh_;
  Vec3 low_ = Vec3::Zero(), size_ = Vec3::Ones(); ///< m, of the grid's corner and of a cell
  Cell count_{1, 1, 1};
  std::vector<std::vector<std::uint32_t>> cells_; ///< elements
};

} // namespace kiln
