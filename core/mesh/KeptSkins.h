// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/TakenElements.h"
#include "mesh/PartMeshes.h"
#include "mesh/SurfaceMesh.h"

#include <map>
#include <optional>
#include <unordered_map>
#include <unordered_set>

namespace kiln
{

/// Finds points by their place, to a tolerance.
class PlaceIndex
{
public:
  void add(const Vec3& place, int number) { cells_.emplace(keyOf(cellOf(place)), std::pair(place, number)); }
  /// Number of the nearest point; -1: none is near.
  [[nodiscard]] int find(const Vec3& place) const;

private:
  using Cell = std::array<std::int64_t, 3>;
  static Cell cellOf(const Vec3& place);
  static std::uint64_t keyOf(const Cell& cell);

  std::unordered_multimap<std::uint64_t, std::pair<Vec3, int>> cells_;
};

/// The skins of parts that are meshed with elements of their own. The model's edges are divided where these skins have
/// nodes, its faces where they have triangles; what does not fit is left to the mesher, and the part with it.
class KeptSkins
{
public:
  explicit KeptSkins(std::vector<KeptElements> parts);

  [[nodiscard]] bool empty() const { return parts_.empty(); }

  /// How fine the skins are, so that what lies beside them is as fine there.
  [[nodiscard]] std::vector<SizeSource> sizes() const;

  /// Places of the nodes on a straight edge of the model, without its ends. Nothing when no skin has edges along it.
  [[nodiscard]] std::optional<std::vector<Vec3>> along(const Vec3& from, const Vec3& to) const;

  using Piece = std::pair<int, int>; ///< of an edge of the model: its nodes, the lower first
  /// Once all edges are divided.
  void tie(const std::vector<Vec3>& edgeNodes, const std::vector<Piece>& pieces);

  /// Adds a face as a skin divides it. \return false: none of the skins has just this border
  /// \param border  pieces of all its edges
  [[nodiscard]] bool addFace(const Face& face, FaceId index, std::vector<Piece> border, SurfaceMesh& mesh);

  /// The tetrahedra of a part, once the surface is complete. Nothing when its skin is not what its elements have.
  [[nodiscard]] std::optional<PartMesh> fill(PartId part, const SurfaceMesh& skin,
                                             const std::vector<std::size_t>& triangles) const;
  [[nodiscard]] bool has(PartId part) const;

private:
  struct Skin {
    PartId part{};
    TakenElements elements;
    std::vector<Triangle> triangles;                               ///< outwards
    std::vector<std::vector<int>> neighbours;                      ///< of nodes on the skin
    PlaceIndex places;                                             ///< of nodes on the skin
    std::vector<int> node;                                         ///< of the model's surface, -1: not there yet
    std::map<std::vector<Piece>, std::vector<std::size_t>> facets; ///< triangles within a border
  };
  static Skin skinOf(KeptElements part);
  static void findFacets(Skin& skin, const std::unordered_set<std::uint64_t>& borders);

  std::vector<Skin> parts_;
};

} // namespace kiln
