// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "mesh/SurfaceMesh.h"

#include <map>
#include <optional>
#include <string>
#include <unordered_map>

namespace kiln
{

/// The tetrahedra inside one part, whose skin has the first nodes.
struct PartMesh {
  using Corners = std::array<std::int32_t, 4>;
  std::vector<Vec3> inner;   ///< nodes that are not on the skin, m
  std::vector<Corners> tets; ///< a node below the number of the model's skin nodes is one of these; others are inner
};

/// Gives back the tetrahedra of parts whose skin is the same as in an earlier mesh, to the last bit.
class PartMeshes
{
public:
  /// \param before  of either order; the corners of its elements count
  explicit PartMeshes(const Mesh& before);

  /// \param triangles  of the skin, those of this part
  [[nodiscard]] std::optional<PartMesh> find(const std::string& part, const SurfaceMesh& skin,
                                             const std::vector<std::size_t>& triangles) const;

private:
  struct PlaceHash {
    std::size_t operator()(const std::array<double, 3>& place) const;
  };
  static std::array<double, 3> keyOf(const Vec3& place) { return {place.x(), place.y(), place.z()}; }

  const Mesh& before_;
  std::vector<Tet> tets_;                                               ///< corners of elements
  std::unordered_map<std::array<double, 3>, NodeId, PlaceHash> nodeAt_; ///< nodes on the skin
  std::map<std::string, std::vector<std::size_t>> tetsOf_;              ///< by part id
  std::map<std::string, std::vector<NodeTriangle>> skinOf_;             ///< by part id, sorted corners, sorted
};

} // namespace kiln
