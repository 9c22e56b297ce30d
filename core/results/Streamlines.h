// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/RecoveredFlux.h"

#include <memory>
#include <vector>

namespace kiln
{

/// The way that heat takes through a place.
struct Streamline {
  std::vector<Vec3> points; ///< m, from where the heat comes to where it goes
  FaceId begins{}, ends{};  ///< face that it enters by and leaves by; none where it springs up or dies inside
};

/// A heat flux over a mesh, ready to be followed.
class FluxField
{
public:
  /// \param flux    by tet, W/m²
  /// \param passes  by face: heat enters or leaves there; elsewhere lines run along the outside
  /// \param raw     the elements' own flux; else the one recovered at the nodes, linear in each element
  FluxField(std::shared_ptr<const Mesh> mesh, const Unknowns& unknowns, std::vector<Vec3> flux,
            std::vector<char> passes, bool raw = false);

  /// Through a place, both ways. Empty where there is no flux.
  /// \param tet  that the place lies in
  [[nodiscard]] Streamline through(const Vec3& place, std::size_t tet) const;
  /// At a place of a tet, W/m².
  [[nodiscard]] Vec3 at(const Vec3& place, std::size_t tet) const;
  [[nodiscard]] double largest() const { return largest_; }
  [[nodiscard]] const Mesh& mesh() const { return *mesh_; }

private:
  struct Way;
  void findNeighbours();
  void follow(const Vec3& place, std::size_t tet, double sign, std::vector<Vec3>& points, FaceId& end) const;
  [[nodiscard]] std::array<double, 4> weights(const Vec3& place, std::size_t tet) const;

  std::shared_ptr<const Mesh> mesh_;
  std::vector<Vec3> flux_;
  RecoveredFlux recovered_; ///< empty when raw
  std::vector<char> passes_;
  std::vector<std::array<std::int32_t, 4>> next_; ///< by tet: the tet across the side opposite each corner; −1: none
  std::vector<std::array<FaceId, 4>> face_;       ///< by tet: the face of the model there, if it is one
  double largest_ = 0;                            ///< W/m²
};

} // namespace kiln
