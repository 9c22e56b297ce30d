// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Conduction.h"

#include "heat/Element.h"
#include "heat/QuadraticConductance.h"
#include "heat/SurfaceFlow.h"

#include <algorithm>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

/// Four points of a tetrahedron, exact to degree two, each with a quarter of the volume.
const std::array<Eigen::Vector4d, 4>& tetPoints()
{
  static const std::array<Eigen::Vector4d, 4> points = [] {
    constexpr double near = 0.13819660112501051518; // (5 − √5)/20
    constexpr double far = 0.58541019662496845446;  // (5 + 3√5)/20
    std::array<Eigen::Vector4d, 4> made;
    for (std::size_t p = 0; p < 4; ++p) {
      made[p].setConstant(near);
      made[p][static_cast<Eigen::Index>(p)] = far;
    }
    return made;
  }();
  return points;
}

std::array<Vec3, 10> tenPlaces(const Mesh& mesh, std::size_t element)
{
  const auto nodes = tenOf(mesh.tets, element);
  std::array<Vec3, 10> places;
  for (std::size_t i = 0; i < 10; ++i)
    places[i] = mesh.nodes[at(nodes[i])];
  return places;
}

/// Conductance of an element of second order with one conductivity.
TenLower constantConductance(const Mesh& mesh, std::size_t element, const Eigen::Matrix3d& k, bool straight)
{
  if (!straight)
    return bentConductance(tenPlaces(mesh, element), {k, k, k, k});
  Tet corners{};
  for (std::size_t i = 0; i < 4; ++i)
    corners[i] = mesh.tets[8 * element + i][i];
  return straightConductance(linearConductance(mesh, corners, k));
}

/// Conductance of an element of second order with k taken at each point's temperature.
TenLower quadraticConductance(const Mesh& mesh, std::size_t element, const Conductivity& conductivity,
                              const Ten& values)
{
  if (conductivity.constant())
    return constantConductance(mesh, element, conductivity.at(0), isStraight(mesh, element));
  std::array<Eigen::Matrix3d, 4> k;
  for (std::size_t p = 0; p < 4; ++p)
    k[p] = conductivity.at(quadraticShape(tetPoints()[p]).dot(values));
  return bentConductance(tenPlaces(mesh, element), k);
}

const Conductivity& conductivityOf(const Mesh& mesh, const Conditions& conditions, std::size_t element)
{
  return conditions.conductivity[at(elementPart(mesh, element))];
}

VolumeVector times(const std::array<double, 10>& c, const VolumeVector& v)
{
  VolumeVector result(4);
  result << c[0] * v[0] + c[1] * v[1] + c[3] * v[2] + c[6] * v[3],
      c[1] * v[0] + c[2] * v[1] + c[4] * v[2] + c[7] * v[3], c[3] * v[0] + c[4] * v[1] + c[5] * v[2] + c[8] * v[3],
      c[6] * v[0] + c[7] * v[1] + c[8] * v[2] + c[9] * v[3];
  return result;
}

} // namespace

std::array<double, 10> linearConductance(const Mesh& mesh, const Tet& tet, const Eigen::Matrix3d& k)
{
  const Vec3& a = mesh.nodes[at(tet[0])];
  const Vec3 e1 = mesh.nodes[at(tet[1])] - a;
  const Vec3 e2 = mesh.nodes[at(tet[2])] - a;
  const Vec3 e3 = mesh.nodes[at(tet[3])] - a;
  const Vec3 g1 = e2.cross(e3);
  const Vec3 g2 = e3.cross(e1);
  const Vec3 g3 = e1.cross(e2);
  const double sixVolumes = e1.dot(g1);
  const double scale = 1 / (6 * sixVolumes);
  const Vec3 k1 = k * g1 * scale;
  const Vec3 k2 = k * g2 * scale;
  const Vec3 k3 = k * g3 * scale;
  const double c11 = g1.dot(k1);
  const double c21 = g2.dot(k1);
  const double c22 = g2.dot(k2);
  const double c31 = g3.dot(k1);
  const double c32 = g3.dot(k2);
  const double c33 = g3.dot(k3);
  const double c10 = -(c11 + c21 + c31);
  const double c20 = -(c21 + c22 + c32);
  const double c30 = -(c31 + c32 + c33);
  return {-(c10 + c20 + c30), c10, c11, c20, c21, c22, c30, c31, c32, c33};
}

VolumeVector conducted(const Mesh& mesh, const Conditions& conditions, std::size_t element,
                       std::span<const double> temperature)
{
  const Conductivity& conductivity = conductivityOf(mesh, conditions, element);
  const VolumeVector values = valuesOf(volumeNodes(mesh, conditions.unknowns, element), temperature);
  if (mesh.order == 2)
    return times(quadraticConductance(mesh, element, conductivity, values), values);
  return times(linearConductance(mesh, mesh.tets[element], conductivity.at(values.mean())), values);
}

VolumeVector heatInto(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t element)
{
  if (mesh.order == 1)
    return VolumeVector::Constant(4, densityIn(heat, mesh, element) * tetVolume(mesh, element) / 4);
  VolumeVector watts = VolumeVector::Zero(10);
  for (const VolumePoint& point : volumePoints(mesh, element)) {
    const double density = heat.densityAt ? heat.scale * heat.densityAt(placeIn(mesh, element, point.l)) : heat.density;
    watts += density * point.volume * point.shape;
  }
  return watts;
}

namespace
{

/// Moves what conducts the wrong way (entries above zero beside the diagonal) to the diagonal: rows still sum to zero.
std::array<double, 10> withoutWrongWay(std::array<double, 10> c)
{
  constexpr std::array<std::size_t, 4> diagonal{0, 2, 5, 9};
  std::size_t k = 0;
  for (std::size_t i = 0; i < 4; ++i, ++k)
    for (std::size_t j = 0; j < i; ++j, ++k)
      if (c[k] > 0) {
        c[diagonal[i]] += c[k];
        c[diagonal[j]] += c[k];
        c[k] = 0;
      }
  return c;
}

} // namespace

Conduction::Conduction(const Mesh& mesh, const Conditions& conditions, bool monotone)
    : mesh_(mesh), conditions_(conditions), monotone_(monotone)
{
  std::vector<std::size_t> constant, varying;
  for (std::size_t e = 0; e < tetElements(mesh); ++e)
    (conductivityOf(mesh, conditions, e).constant() ? constant : varying).push_back(e);
  VolumeNodes nodes;
  const auto unknownsOf = [&](std::size_t e) {
    nodes = volumeNodes(mesh, conditions.unknowns, e);
    return std::span<const Index>(nodes.own.data(), nodes.count);
  };
  const auto unknowns = static_cast<std::size_t>(conditions.unknowns.count);
  constant_ = ElementShares(constant, unknownsOf, unknowns);
  varying_ = ElementShares(varying, unknownsOf, unknowns);
  if (mesh.order == 2) {
    straight_.resize(tetElements(mesh));
    for (std::size_t e = 0; e < straight_.size(); ++e)
      straight_[e] = isStraight(mesh, e);
  }
}

void Conduction::couple(PatternBuilder& builder) const
{
  for (std::size_t e = 0; e < tetElements(mesh_); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh_, conditions_.unknowns, e);
    builder.couple(std::span(nodes.own.data(), nodes.count));
  }
}

std::size_t Conduction::locate(const SparseMatrix& pattern)
{
  std::vector<Index> above(at(pattern.rows()) + 1); // entries of the upper half before a row
  for (Index row = 0; row < pattern.rows(); ++row)
    above[at(row) + 1] = above[at(row)] + pattern.rowStart[at(row) + 1] - 1 - pattern.position(row, row);
  const bool columns = !mesh_.column.empty();
  const auto fill = [&](std::size_t element, const auto& own, auto& positions) {
    const bool constant = conductivityOf(mesh_, conditions_, element).constant();
    std::size_t k = 0;
    std::uint64_t twice = 0;
    for (std::size_t i = 0; i < own.size(); ++i)
      for (std::size_t j = 0; j <= i; ++j) { // below the diagonal; the rest is mirrored
        if (i != j && own[i] == own[j])
          twice |= 1ULL << k;
        const Index row = std::max(own[i], own[j]);
        positions[k++] = pattern.position(row, std::min(own[i], own[j])) - (constant ? above[at(row)] : 0);
      }
    if (columns)
      twice_.push_back(twice);
  };
  if (mesh_.order == 2) {
    quadraticPositions_.resize(tetElements(mesh_));
    for (std::size_t e = 0; e < quadraticPositions_.size(); ++e)
      fill(e, tenOf(conditions_.unknowns.ofTet, e), quadraticPositions_[e]);
  } else {
    positions_.resize(mesh_.tets.size());
    for (std::size_t t = 0; t < positions_.size(); ++t)
      fill(t, conditions_.unknowns.ofTet[t], positions_[t]);
  }
  return pattern.columns.size() - at(above.back());
}

template <std::size_t Entries>
void Conduction::add(std::size_t element, const std::array<Index, Entries>& positions,
                     const std::array<double, Entries>& conductance, std::span<double> values) const
{
  for (std::size_t i = 0; i < Entries; ++i)
    values[at(positions[i])] += conductance[i];
  if (!twice_.empty())
    for (std::size_t i = 0; i < Entries; ++i)
      if ((twice_[element] >> i & 1U) != 0)
        values[at(positions[i])] += conductance[i];
}

void Conduction::addConstant(std::span<double> lowerHalf) const
{
  const auto fetch = [&](std::span<const std::size_t> elements, std::size_t next) { // while others are worked on
    if (mesh_.order == 2 && next < elements.size())
      for (const Index p : quadraticPositions_[elements[next]])
        __builtin_prefetch(&lowerHalf[at(p)], 1);
  };
  constant_.forEach([&](std::span<const std::size_t> elements) {
    for (std::size_t i = 0; i < elements.size(); ++i) {
      const std::size_t e = elements[i];
      const Eigen::Matrix3d k = conductivityOf(mesh_, conditions_, e).at(0);
      fetch(elements, i + 3);
      if (mesh_.order == 2)
        add(e, quadraticPositions_[e], constantConductance(mesh_, e, k, straight_[e]), lowerHalf);
      else
        add(e, positions_[e], linearConductance(mesh_, mesh_.tets[e], k), lowerHalf);
    }
  });
}

void Conduction::addVarying(std::span<const double> temperature, std::span<double> values) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeVector own = valuesOf(volumeNodes(mesh_, conditions_.unknowns, e), temperature);
      const Conductivity& k = conductivityOf(mesh_, conditions_, e);
      if (mesh_.order == 2)
        add(e, quadraticPositions_[e], quadraticConductance(mesh_, e, k, own), values);
      else
        add(e, positions_[e], linearAt(e, own), values);
    }
  });
}

void Conduction::takeVarying(std::span<const double> temperature, std::span<double> balance) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeNodes nodes = volumeNodes(mesh_, conditions_.unknowns, e);
      const VolumeVector values = valuesOf(nodes, temperature);
      const VolumeVector out =
          mesh_.order == 1 ? times(linearAt(e, values), values) : conducted(mesh_, conditions_, e, temperature);
      Eigen::Index i = 0;
      for (const Index u : nodes)
        balance[at(u)] -= out[i++];
    }
  });
}

std::array<double, 10> Conduction::linearAt(std::size_t element, const VolumeVector& values) const
{
  const auto conductance =
      linearConductance(mesh_, mesh_.tets[element], conductivityOf(mesh_, conditions_, element).at(values.mean()));
  return monotone_ ? withoutWrongWay(conductance) : conductance;
}

VolumeVector Conduction::restOf(std::size_t e, const VolumeVector& values, const VolumeVector& along) const
{
  const Conductivity& k = conductivityOf(mesh_, conditions_, e);
  if (mesh_.order == 1)
    return along.mean() * times(linearConductance(mesh_, mesh_.tets[e], k.slopeAt(values.mean())), values);
  std::array<Eigen::Matrix3d, 4> slopes;
  for (std::size_t p = 0; p < 4; ++p) {
    const Ten shape = quadraticShape(tetPoints()[p]);
    slopes[p] = shape.dot(along) * k.slopeAt(shape.dot(values));
  }
  return times(bentConductance(tenPlaces(mesh_, e), slopes), values);
}

void Conduction::addRest(std::span<const double> temperature, std::span<const double> direction,
                         std::span<double> result) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeNodes nodes = volumeNodes(mesh_, conditions_.unknowns, e);
      const VolumeVector rest = restOf(e, valuesOf(nodes, temperature), valuesOf(nodes, direction));
      Eigen::Index i = 0;
      for (const Index u : nodes)
        result[at(u)] += rest[i++];
    }
  });
}

} // namespace kiln
