// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/PointCloud.h"

#include <Eigen/QR>
#include <algorithm>
#include <array>
#include <cstdint>
#include <nanoflann.hpp>

namespace kiln
{

struct PointCloud::Tree {
  explicit Tree(std::span<const PlacedPoint> given)
      : points(given.begin(), given.end()), index(3, *this, nanoflann::KDTreeSingleIndexAdaptorParams(10))
  {
    index.buildIndex();
  }

  // What the tree asks of its data.
  [[nodiscard]] std::size_t kdtree_get_point_count() const { return points.size(); }
  [[nodiscard]] double kdtree_get_pt(std::size_t i, std::size_t axis) const { return points[i].place[axis]; }
  template <class Box>
  bool kdtree_get_bbox(Box&) const
  {
    return false;
  }

  std::vector<PlacedPoint> points;
  nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Tree>, Tree, 3> index;
};

PointCloud::PointCloud(std::span<const PlacedPoint> points)
    : tree_(std::make_unique<Tree>(points)), low_(points.front().place.data()), high_(low_)
{
  for (const PlacedPoint& point : points) {
    low_ = low_.cwiseMin(Vec3(point.place.data()));
    high_ = high_.cwiseMax(Vec3(point.place.data()));
  }
}

PointCloud::~PointCloud() = default;

double PointCloud::at(const Vec3& place) const
{
  constexpr std::size_t mostNeighbours = 12;
  const Vec3 inside = place.cwiseMax(low_).cwiseMin(high_);
  std::array<std::uint32_t, mostNeighbours> nearest{};
  std::array<double, mostNeighbours> squared{};
  const auto count =
      static_cast<Eigen::Index>(tree_->index.knnSearch(inside.data(), mostNeighbours, nearest.data(), squared.data()));
  const double reach = std::max(squared[static_cast<std::size_t>(count - 1)], 1e-24); // m²
  Eigen::MatrixXd rows(count, 4);
  Eigen::VectorXd values(count);
  for (Eigen::Index i = 0; i < count; ++i) {
    const PlacedPoint& point = tree_->points[nearest[static_cast<std::size_t>(i)]];
    // The weight 1/d⁴, kept finite at a given point.
    const double weight = 1 / (squared[static_cast<std::size_t>(i)] / reach + 1e-9);
    const Vec3 away = (Vec3(point.place.data()) - inside) / std::sqrt(reach);
    rows.row(i) = weight * Eigen::RowVector4d(1, away.x(), away.y(), away.z());
    values[i] = weight * point.value;
  }
  Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> fit;
  fit.setThreshold(1e-7); // places in one plane fix no slope across it
  fit.compute(rows);
  return fit.solve(values)[0];
}

bool PointCloud::covers(const Vec3& place) const
{
  constexpr double slack = 0.05; // of the box's diagonal
  const Vec3 margin = Vec3::Constant(slack * (high_ - low_).norm());
  return ((place - low_ + margin).array() >= 0).all() && ((high_ + margin - place).array() >= 0).all();
}

} // namespace kiln
