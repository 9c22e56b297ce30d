// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/VolumeElement.h"

#include "base/At.h"

#include <algorithm>

namespace kiln
{
namespace
{

struct TetPoint {
  Eigen::Vector4d l;
  double weight = 0; // share of the volume
};

constexpr double near = 0.13819660112501051518; // (5 − √5)/20
constexpr double far = 0.58541019662496845446;  // (5 + 3√5)/20

const std::array<TetPoint, 4>& fourPoints()
{
  static const std::array<TetPoint, 4> points = [] {
    std::array<TetPoint, 4> made;
    for (std::size_t p = 0; p < 4; ++p) {
      made[p] = {Eigen::Vector4d::Constant(near), 0.25};
      made[p].l[static_cast<Eigen::Index>(p)] = far;
    }
    return made;
  }();
  return points;
}

const std::array<TetPoint, 14>& fourteenPoints()
{
  static const std::array<TetPoint, 14> points = [] {
    std::array<TetPoint, 14> made;
    std::size_t next = 0;
    const auto corners = [&](double a, double weight) {
      for (Eigen::Index i = 0; i < 4; ++i) {
        Eigen::Vector4d l = Eigen::Vector4d::Constant(a);
        l[i] = 1 - 3 * a;
        made[next++] = {l, weight};
      }
    };
    corners(0.31088591926330060980, 0.11268792571801585080);
    corners(0.09273525031089122640, 0.07349304311636194954);
    constexpr double a = 0.04550370412564964949;
    constexpr double weight = 0.04254602077708146644;
    for (const auto& [i, j] : tetEdges) {
      Eigen::Vector4d l = Eigen::Vector4d::Constant(a);
      l[i] = 0.5 - a;
      l[j] = 0.5 - a;
      made[next++] = {l, weight};
    }
    return made;
  }();
  return points;
}

/// Volume of the element per share of the barycentric tetrahedron at \p l, m³.
double volumeAt(const TetPlaces<2>& places, const Eigen::Vector4d& l)
{
  const auto d = tetDerivatives<2>(l);
  const Eigen::Matrix<double, 10, 3> local = d.rightCols<3>().colwise() - d.col(0);
  return Eigen::Matrix3d(places.transpose() * local).determinant() / 6;
}

/// Of a straight element, by its corners.
double straightVolume(const Mesh& mesh, std::size_t element)
{
  const auto corner = [&](std::size_t i) -> const Vec3& { return mesh.nodes[at(mesh.tets[8 * element + i][i])]; };
  const Vec3& a = corner(0);
  return (corner(1) - a).cross(corner(2) - a).dot(corner(3) - a) / 6;
}

} // namespace

VolumeNodes volumeNodes(const Mesh& mesh, const Unknowns& unknowns, std::size_t element)
{
  VolumeNodes nodes;
  if (mesh.order == 2) {
    nodes.own = tenOf(unknowns.ofTet, element);
    nodes.count = 10;
  } else {
    std::copy_n(unknowns.ofTet[element].begin(), 4, nodes.own.begin());
  }
  return nodes;
}

NumbersOf<NodeId, 4, 10> placesIn(const Mesh& mesh, std::size_t element)
{
  NumbersOf<NodeId, 4, 10> nodes;
  if (mesh.order == 2) {
    nodes.own = tenOf(mesh.tets, element);
    nodes.count = 10;
  } else {
    std::copy_n(mesh.tets[element].begin(), 4, nodes.own.begin());
  }
  return nodes;
}

VolumeVector valuesOf(const VolumeNodes& nodes, std::span<const double> temperature)
{
  VolumeVector values(static_cast<Eigen::Index>(nodes.count));
  for (std::size_t i = 0; i < nodes.count; ++i)
    values[static_cast<Eigen::Index>(i)] = temperature[at(nodes.own[i])];
  return values;
}

Ten quadraticShape(const Eigen::Vector4d& l)
{
  Ten n;
  for (int i = 0; i < 4; ++i)
    n[i] = l[i] * (2 * l[i] - 1);
  for (int e = 0; e < 6; ++e) {
    const auto [a, b] = tetEdges[at(e)];
    n[4 + e] = 4 * l[a] * l[b];
  }
  return n;
}

TetPlaces<2> quadraticPlaces(const Mesh& mesh, std::size_t element)
{
  const auto nodes = tenOf(mesh.tets, element);
  TetPlaces<2> places;
  for (int i = 0; i < 10; ++i)
    places.row(i) = mesh.nodes[at(nodes[at(i)])].transpose();
  return places;
}

bool isStraight(const Mesh& mesh, std::size_t element)
{
  const auto nodes = tenOf(mesh.tets, element);
  const auto place = [&](std::size_t i) -> const Vec3& { return mesh.nodes[at(nodes[i])]; };
  for (std::size_t e = 0; e < 6; ++e) {
    const auto [a, b] = tetEdges[e];
    const Vec3 chord = place(at(b)) - place(at(a));
    constexpr double bend = 1e-9; // of the edge
    if ((place(4 + e) - place(at(a)) - chord / 2).squaredNorm() > bend * bend * chord.squaredNorm())
      return false;
  }
  return true;
}

VolumePoints volumePoints(const Mesh& mesh, std::size_t element)
{
  VolumePoints points;
  if (mesh.order == 1) {
    const double quarter = tetVolume(mesh, element) / 4;
    for (Eigen::Index i = 0; i < 4; ++i)
      points.own[points.count++] = {Eigen::Vector4d::Unit(i), Eigen::Vector4d::Unit(i), quarter};
  } else if (isStraight(mesh, element)) {
    const double volume = straightVolume(mesh, element);
    for (const TetPoint& point : fourPoints())
      points.own[points.count++] = {point.l, quadraticShape(point.l), point.weight * volume};
  } else {
    const TetPlaces<2> places = quadraticPlaces(mesh, element);
    for (const TetPoint& point : fourteenPoints())
      points.own[points.count++] = {point.l, quadraticShape(point.l), point.weight * volumeAt(places, point.l)};
  }
  return points;
}

Vec3 placeIn(const Mesh& mesh, std::size_t element, const Eigen::Vector4d& l)
{
  if (mesh.order == 2)
    return mesh.geometry.section.flat(quadraticPlaces(mesh, element).transpose() * quadraticShape(l));
  Vec3 place = Vec3::Zero();
  for (std::size_t i = 0; i < 4; ++i)
    place += l[static_cast<Eigen::Index>(i)] * mesh.nodes[at(mesh.tets[element][i])];
  return mesh.geometry.section.flat(place);
}

VolumeSlopes slopesAt(const Mesh& mesh, std::size_t element, const Eigen::Vector4d& l)
{
  const auto slopes = [](const auto& places, const auto& d) -> VolumeSlopes {
    // Barycentric coordinates 1, 2, 3 are independent; 0 is one minus their sum.
    const auto local = (d.template rightCols<3>().colwise() - d.col(0)).eval();
    return local * Eigen::Matrix3d(places.transpose() * local).inverse();
  };
  if (mesh.order == 2)
    return slopes(quadraticPlaces(mesh, element), tetDerivatives<2>(l));
  TetPlaces<1> places;
  for (int i = 0; i < 4; ++i)
    places.row(i) = mesh.nodes[at(mesh.tets[element][at(i)])].transpose();
  return slopes(places, tetDerivatives<1>(l));
}

VolumeVector volumeLoad(const Mesh& mesh, std::size_t element)
{
  if (mesh.order == 1)
    return VolumeVector::Constant(4, tetVolume(mesh, element) / 4);
  if (isStraight(mesh, element)) {
    constexpr double ofCorner = -1.0 / 20; // of the volume: integrals of the quadratic shape functions
    constexpr double ofEdge = 1.0 / 5;
    VolumeVector load = VolumeVector::Constant(10, ofEdge * straightVolume(mesh, element));
    load.head<4>().setConstant(ofCorner / ofEdge * load[4]);
    return load;
  }
  VolumeVector load = VolumeVector::Zero(mesh.order == 2 ? 10 : 4);
  for (const VolumePoint& point : volumePoints(mesh, element))
    load += point.volume * point.shape;
  return load;
}

const Eigen::Matrix<double, 10, 10>& straightMass()
{
  static const Eigen::Matrix<double, 10, 10> mass = [] {
    Eigen::Matrix<double, 10, 10> sum = Eigen::Matrix<double, 10, 10>::Zero();
    for (const TetPoint& point : fourteenPoints()) {
      const Ten n = quadraticShape(point.l);
      sum += point.weight * n * n.transpose();
    }
    return sum;
  }();
  return mass;
}

VolumeMatrix volumeMass(const Mesh& mesh, std::size_t element)
{
  if (isStraight(mesh, element))
    return straightVolume(mesh, element) * straightMass();
  VolumeMatrix mass = VolumeMatrix::Zero(10, 10);
  for (const VolumePoint& point : volumePoints(mesh, element))
    mass += point.volume * point.shape * point.shape.transpose();
  return mass;
}

std::vector<double> integratedVolumes(const Mesh& mesh)
{
  if (mesh.order == 1)
    return meshedVolumes(mesh);
  std::vector<double> volumes(mesh.geometry.parts.size());
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    double& own = volumes[at(elementPart(mesh, e))];
    for (const VolumePoint& point : volumePoints(mesh, e))
      own += point.volume;
  }
  return volumes;
}

namespace
{

/// Barycentric places of a piece's corners in its element, a column each.
Eigen::Matrix4d pieceCorners(const Mesh& mesh, std::size_t tet)
{
  const auto nodes = tenOf(mesh.tets, tet / 8);
  Eigen::Matrix4d corners = Eigen::Matrix4d::Zero();
  for (Eigen::Index i = 0; i < 4; ++i) {
    const auto node = std::find(nodes.begin(), nodes.end(), mesh.tets[tet][at(i)]) - nodes.begin();
    if (node < 4) {
      corners(node, i) = 1;
    } else {
      const auto [a, b] = tetEdges[at(node - 4)];
      corners(a, i) = corners(b, i) = 0.5;
    }
  }
  return corners;
}

std::vector<UnknownShare> withUnknowns(const VolumeNodes& nodes, const VolumeVector& shape)
{
  std::vector<UnknownShare> shares;
  for (std::size_t i = 0; i < nodes.count; ++i)
    shares.push_back({nodes.own[i], shape[static_cast<Eigen::Index>(i)]});
  return shares;
}

} // namespace

std::vector<UnknownShare> sharesAt(const Mesh& mesh, const Unknowns& unknowns, const Location& location)
{
  if (mesh.order == 1)
    return withUnknowns(volumeNodes(mesh, unknowns, location.tet), location.weights);
  return withUnknowns(volumeNodes(mesh, unknowns, location.tet / 8),
                      quadraticShape(pieceCorners(mesh, location.tet) * location.weights));
}

} // namespace kiln
