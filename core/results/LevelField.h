// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/At.h"
#include "heat/elements/Unknowns.h"
#include "mesh/Mesh.h"
#include "results/ResultFields.h"

#include <functional>
#include <memory>
#include <vector>

namespace kiln
{

/// Where a field has one value, inside the parts: triangles, each within one tetrahedron.
struct LevelSurface {
  std::vector<Vec3> points;                           ///< m
  std::vector<std::array<std::int32_t, 3>> triangles; ///< their normals point to where the field is lower
  std::vector<PartId> part;                           ///< by triangle
  std::vector<PartId> pointPart;                      ///< by point
  std::vector<double> area;                           ///< by part, m²

  [[nodiscard]] double wholeArea() const;
};

/// What lies above a level, or below it.
struct LevelRegion {
  std::vector<double> volume, share; ///< by part, m³ and of the part
  std::vector<char> reached;         ///< by face: some of it is reached
  double whole = 0;                  ///< m³

  [[nodiscard]] std::vector<PartId> parts() const; ///< that it lies in
};

/// A field over the tetrahedra of a mesh, linear in each, made ready to be asked for levels again and again.
class LevelField
{
public:
  /// \param byUnknown  kept
  LevelField(std::shared_ptr<const Mesh> mesh, std::shared_ptr<const Unknowns> unknowns,
             std::shared_ptr<const std::vector<double>> byUnknown);
  /// A field that differs between parts that share an unknown.
  LevelField(std::shared_ptr<const Mesh> mesh, std::shared_ptr<const Unknowns> unknowns,
             std::shared_ptr<const PartwiseField> field);

  /// \param parts  by part: zero where it is left out; empty: all
  [[nodiscard]] LevelSurface surfaceAt(double level, const std::vector<char>& parts = {}) const;
  [[nodiscard]] LevelRegion above(double level) const { return region(level, true); }
  [[nodiscard]] LevelRegion below(double level) const { return region(level, false); }
  [[nodiscard]] double low() const { return low_; }
  [[nodiscard]] double high() const { return high_; }

private:
  using ValueAt = std::function<double(UnknownId, PartId)>;
  void prepare();
  [[nodiscard]] LevelRegion region(double level, bool above) const;

  std::shared_ptr<const Mesh> mesh_;
  std::shared_ptr<const Unknowns> unknowns_;
  ValueAt valueAt_;
  std::vector<std::array<double, 4>> corners_; ///< by tet
  std::vector<std::array<double, 2>> span_;    ///< by tet: lowest and highest corner
  std::vector<double> volume_, partVolume_;    ///< by tet, by part, m³
  double low_ = 0, high_ = 0;
};

} // namespace kiln
