// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"

#include <array>
#include <memory>
#include <optional>
#include <span>

namespace kiln
{

/// Where a ray first meets a triangle.
struct RayHit {
  std::size_t triangle = 0;
  double distance = 0;         ///< m
  Vec3 weights = Vec3::Zero(); ///< of the triangle's corners
};

/// Triangles of a mesh, ready to be hit by rays. May be asked from several threads. Those of a turned section stand all
/// around its axis, as polygons of many sides; rays start in its plane.
/// Places are kept in single precision: good to 1e-7 of the model's size.
class RayScene
{
public:
  /// \param triangles  indices of the mesh; the mesh may go afterwards
  RayScene(const Mesh& mesh, std::span<const std::size_t> triangles);
  ~RayScene();
  RayScene(const RayScene&) = delete;
  RayScene& operator=(const RayScene&) = delete;

  /// \param along     direction of length 1
  /// \param nearest   hits closer than this are not seen, m: leaves out where the ray starts
  /// \param farthest  nor are those farther than this, m
  [[nodiscard]] std::optional<RayHit> first(const Vec3& from, const Vec3& along, double nearest, double farthest) const;

private:
  struct Embree;
  /// The edge of a turned section that a triangle stands on.
  struct TurnedEdge {
    std::array<Vec3, 2> ends;  ///< m, in the plane
    std::array<int, 2> corner; ///< of the triangle, at each end
  };
  void addTriangles(const Mesh& mesh);
  void addTurned(const Mesh& mesh);

  std::unique_ptr<Embree> embree_;
  std::vector<std::size_t> triangles_; ///< of the mesh, by primitive
  std::vector<TurnedEdge> turned_;     ///< by primitive, of a turned section
  SectionFrame frame_;
};

/// Indices of the triangles on faces that no second part touches.
[[nodiscard]] std::vector<std::size_t> exposedTriangles(const Mesh& mesh);

/// Normal of a triangle out of its face's first part, length 1.
[[nodiscard]] Vec3 triangleNormal(const Mesh& mesh, std::size_t triangle);

} // namespace kiln
