// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/PlanarTriangulation.h"

#include <functional>
#include <set>
#include <vector>

namespace kiln
{

/// A corner of a patch: its parameters, its place, and the shared node it belongs to (newNode: not shared).
/// On a closed patch one node has several corners, one for each side of the seam.
struct PatchVertex {
  Vec2 uv;
  Vec3 place;
  int node = -1;
  bool fixed = false; ///< on a border; never moved
  bool pole = false;  ///< one of several corners that are the same place, such as the tip of a cone
};

inline constexpr int newNode = -1;

/// A parametrised patch of a surface with its border already divided.
struct PatchBorder {
  std::vector<PatchVertex> vertices;
  std::vector<std::array<int, 2>> segments;
  std::function<Vec3(const Vec2&)> placeAt;         ///< surface point, m
  std::function<double(const PatchVertex&)> sizeAt; ///< wanted edge length, m
  std::function<Vec2(const Vec2&)> scaleAt;         ///< |dS/du|, |dS/dv| at a place
  Vec2 scale{1, 1};                                 ///< the same, typical
};

/// Triangles of one patch, refined to the wanted size. The border is never split.
/// Method: constrained Delaunay triangles of the border in scaled parameters, then insertion of circumcentres where a
/// triangle is too large, with flips by the angle criterion, then smoothing. Angles are measured in the patch's own
/// metric (parameters scaled by |dS/du|, |dS/dv| at the place), so that coarse chords of a round face do not mislead.
class PatchMesh
{
public:
  explicit PatchMesh(PatchBorder border);

  /// False when the border crosses itself in parameters.
  [[nodiscard]] bool build();

  [[nodiscard]] const std::vector<PatchVertex>& vertices() const { return border_.vertices; }
  /// Counter-clockwise in parameters; triangles that collapse at a pole are left out.
  [[nodiscard]] std::vector<Triangle> triangles() const;

private:
  struct Cell {
    Triangle corners{};
    std::array<int, 3> neighbours{-1, -1, -1}; ///< opposite the corner; -1: border
  };

  [[nodiscard]] const PatchVertex& vertex(int v) const { return border_.vertices[static_cast<std::size_t>(v)]; }
  [[nodiscard]] Cell& cell(int c) { return cells_[static_cast<std::size_t>(c)]; }
  [[nodiscard]] const Cell& cell(int c) const { return cells_[static_cast<std::size_t>(c)]; }
  [[nodiscard]] bool collapsed(const Triangle& corners) const;
  [[nodiscard]] double turn(int a, int b, int c) const; ///< twice the area in scaled parameters
  [[nodiscard]] double turn(const Vec2& a, const Vec2& b, const Vec2& c) const;
  [[nodiscard]] bool constrained(int c, int side) const;
  /// Corners unrolled into the plane by the metric at their mean place.
  template <std::size_t N>
  [[nodiscard]] std::array<Vec2, N> unrolled(const std::array<int, N>& corners) const;
  [[nodiscard]] double badness(int c) const;
  [[nodiscard]] int locate(int start, const Vec2& uv) const;
  [[nodiscard]] bool tooClose(int c, const Vec3& place, double size) const;
  [[nodiscard]] double worstCosine(int v, const std::vector<int>& star, const Vec2& uv, const Vec3& place) const;

  void connect();
  void refine();
  bool insertCentre(int c, std::vector<int>& touched);
  void splitCell(int c, int v, std::vector<int>& touched);
  void splitSide(int c, int side, int v, std::vector<int>& touched);
  void replaceNeighbour(int c, int from, int to);
  bool flipIfBetter(int c, int side);
  void flip(int c, int side, int other, int otherSide);
  void legalise(std::vector<int> open, std::vector<int>& touched);
  void flipAll();
  void smooth();

  PatchBorder border_;
  std::vector<Cell> cells_;
  std::set<std::pair<int, int>> inner_; ///< constrained segments inside the patch
};

} // namespace kiln
