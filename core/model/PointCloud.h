// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "model/Project.h"

#include <memory>
#include <span>

namespace kiln
{

/// Values at scattered places, read between them: a plane (or, where the places lie in one, a line) is fitted to the
/// nearest of them with weights 1/d⁴, so that a field that is linear in place is met exactly and a given point is met
/// as it was given. Outside the box around the points the value of the nearest place in it holds.
/// Source: moving least squares of first order.
class PointCloud
{
public:
  /// \param points  at least one; places in m
  explicit PointCloud(std::span<const PlacedPoint> points);
  ~PointCloud();
  PointCloud(const PointCloud&) = delete;
  PointCloud& operator=(const PointCloud&) = delete;

  [[nodiscard]] double at(const Vec3& place) const;

  /// Is the place in the box around the points, widened by a little?
  [[nodiscard]] bool covers(const Vec3& place) const;

private:
  struct Tree;
  std::unique_ptr<Tree> tree_;
  Vec3 low_, high_;
};

} // namespace kiln
