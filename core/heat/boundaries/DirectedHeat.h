// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/SurfaceElement.h"
#include "mesh/Mesh.h"
#include "mesh/RayScene.h"

#include <map>
#include <vector>

namespace kiln
{

/// A triangle that parallel rays reach.
struct LitTriangle {
  std::size_t triangle = 0;
  NodeVector across; ///< m² of the rays' cross-section that arrive, by node of the element the triangle belongs to
};

/// Which triangles of some faces parallel rays reach past all exposed faces of the model. Each triangle is asked at a
/// grid of places inside it, a finer one where only some of them are lit; a place in the shadow of another triangle
/// gets nothing. Keeps the model's faces ready for rays, and its last answers.
class BeamCaster
{
public:
  explicit BeamCaster(const Mesh& mesh);

  /// \param from  direction the rays come from, any length
  [[nodiscard]] const std::vector<LitTriangle>& lit(const Mesh& mesh, const std::vector<FaceId>& faces,
                                                    const Vec3& from);

private:
  struct Answer {
    Vec3 from;
    std::vector<LitTriangle> lit;
  };
  /// Mean of the shape functions over the lit places; they sum to the share of the places that are lit.
  [[nodiscard]] NodeVector litShare(const Mesh& mesh, std::size_t triangle, const Vec3& towards,
                                    const std::vector<Vec3>& places) const;

  std::vector<std::size_t> exposed_;
  RayScene scene_;
  double reach_; ///< m, across the whole model
  std::map<std::vector<FaceId>, Answer> answers_;
};

/// Middles of the n² equal triangles a triangle is cut into, barycentric.
[[nodiscard]] std::vector<Vec3> evenPlaces(int n);

} // namespace kiln
