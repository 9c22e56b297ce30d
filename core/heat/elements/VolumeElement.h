// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Element.h"
#include "heat/elements/Location.h"
#include "heat/elements/Unknowns.h"
#include "mesh/SecondOrder.h"

#include <Eigen/Core>
#include <span>

namespace kiln
{

/// By node of a volume element: four, or ten at second order.
using VolumeVector = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 10, 1>;
using VolumeSlopes = Eigen::Matrix<double, Eigen::Dynamic, 3, 0, 10, 3>;
using VolumeMatrix = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, 10, 10>;
using Ten = Eigen::Matrix<double, 10, 1>;

using VolumeNodes = NumbersOf<UnknownId, 4, 10>;

/// Unknowns of a volume element: a tetrahedron of the mesh, or eight of them at second order.
[[nodiscard]] VolumeNodes volumeNodes(const Mesh& mesh, const Unknowns& unknowns, std::size_t element);
/// Nodes of the mesh of a volume element.
[[nodiscard]] NumbersOf<NodeId, 4, 10> placesIn(const Mesh& mesh, std::size_t element);
/// Temperatures there, K.
[[nodiscard]] VolumeVector valuesOf(const VolumeNodes& nodes, std::span<const double> temperature);

/// Part of an element.
[[nodiscard]] inline PartId elementPart(const Mesh& mesh, std::size_t element)
{
  return mesh.tetPart[element * tetPieces(mesh.order)];
}

/// The ten shape functions at barycentric \p l.
[[nodiscard]] Ten quadraticShape(const Eigen::Vector4d& l);
/// Places of the ten nodes, m.
[[nodiscard]] TetPlaces<2> quadraticPlaces(const Mesh& mesh, std::size_t element);
/// Are the nodes in the middle of the edges of an element there?
[[nodiscard]] bool isStraight(const Mesh& mesh, std::size_t element);

/// Where something is integrated over a volume element.
struct VolumePoint {
  Eigen::Vector4d l; ///< barycentric
  VolumeVector shape;
  double volume = 0; ///< m³ it stands for
};
struct VolumePoints {
  std::array<VolumePoint, 14> own;
  std::size_t count = 0;

  [[nodiscard]] const VolumePoint* begin() const { return own.data(); }
  [[nodiscard]] const VolumePoint* end() const { return own.data() + count; }
};
/// First order: the four nodes, a quarter of the volume each. Second order: four points, exact to degree two; fourteen,
/// exact to degree five (Walkington 2000), where the element is bent.
[[nodiscard]] VolumePoints volumePoints(const Mesh& mesh, std::size_t element);
[[nodiscard]] Vec3 placeIn(const Mesh& mesh, std::size_t element, const Eigen::Vector4d& l);
/// Gradients of the shape functions, nodes×3, 1/m, at barycentric \p l of the element, bent ones too.
[[nodiscard]] VolumeSlopes slopesAt(const Mesh& mesh, std::size_t element, const Eigen::Vector4d& l);

/// ∫ N_i dV, m³.
[[nodiscard]] VolumeVector volumeLoad(const Mesh& mesh, std::size_t element);
/// ∫ N_i N_j dV, m³, of an element of second order.
[[nodiscard]] VolumeMatrix volumeMass(const Mesh& mesh, std::size_t element);
/// The same of a straight one of volume 1.
[[nodiscard]] const Eigen::Matrix<double, 10, 10>& straightMass();

/// Volume of each part as its elements are integrated, m³: bent elements of second order differ from their pieces.
[[nodiscard]] std::vector<double> integratedVolumes(const Mesh& mesh);

/// How an unknown counts in the temperature at a place.
struct UnknownShare {
  UnknownId unknown;
  double share = 1;
};
/// The shares that make up the temperature at a place: of the four, or at second order the ten nodes around it.
[[nodiscard]] std::vector<UnknownShare> sharesAt(const Mesh& mesh, const Unknowns& unknowns, const Location& location);

} // namespace kiln
