// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "mesh/PlanarTriangulation.h"

#include <optional>
#include <vector>

namespace kiln
{

/// A triangle of the skin of a solid, counter-clockwise seen from outside it.
struct SkinTriangle {
  Triangle corners{};
  FaceId face{};
};

/// A closed space that no solid fills.
struct Cavity {
  Vec3 place; ///< well inside
  double volume = 0;
  std::vector<FaceId> faces; ///< around it, increasing
};

/// The closed shells of a skin: outer ones, whose normals point away from what they enclose, and those of cavities.
class SkinShells
{
public:
  SkinShells(const std::vector<Vec3>& nodes, std::vector<SkinTriangle> triangles);

  /// A place inside the solid behind every shell, halfway to what lies opposite; none where no way is found.
  [[nodiscard]] std::vector<Vec3> seeds() const;

  /// The cavities, also between solids that touch along lines only. Nothing when no place inside one can be found.
  [[nodiscard]] std::optional<std::vector<Cavity>> cavities() const;

private:
  [[nodiscard]] const Vec3& node(int n) const { return nodes_[static_cast<std::size_t>(n)]; }
  [[nodiscard]] std::vector<std::pair<std::size_t, std::size_t>> facing(int a, int b,
                                                                        const std::vector<std::size_t>& around) const;
  [[nodiscard]] double enclosed(const std::vector<std::size_t>& shell) const;
  [[nodiscard]] bool encloses(const std::vector<std::size_t>& shell, const Vec3& place) const;
  [[nodiscard]] double firstHit(std::size_t from, const Vec3& start, const Vec3& direction) const;
  /// Middle of the longest of some ways from the shell along its normals, or against them.
  [[nodiscard]] std::optional<Vec3> middleBehind(const std::vector<std::size_t>& shell, double side) const;

  const std::vector<Vec3>& nodes_;
  std::vector<SkinTriangle> triangles_;
  std::vector<std::vector<std::size_t>> shells_;
};

} // namespace kiln
