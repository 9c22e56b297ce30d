// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Conduction.h"

#include "base/At.h"
#include "base/InParallel.h"
#include "heat/elements/Element.h"
#include "heat/elements/QuadraticConductance.h"

#include <algorithm>

namespace kiln
{
namespace
{

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

/// The same of a whole matrix.
/// \param lower  lower half of the pattern, row by row: its diagonal ends each row
void moveWrongWay(const SparseMatrix& pattern, std::span<double> lower)
{
  std::vector<std::size_t> diagonal;
  const auto eachLower = [&](auto&& visit) {
    std::size_t next = 0;
    for (Index row = 0; row < pattern.rows(); ++row)
      for (Index i = pattern.rowStart[at(row)]; i < pattern.rowStart[at(row) + 1]; ++i)
        if (pattern.columns[at(i)] <= row)
          visit(row, pattern.columns[at(i)], next++);
  };
  eachLower([&](Index row, Index column, std::size_t entry) {
    if (row == column)
      diagonal.push_back(entry);
  });
  eachLower([&](Index row, Index column, std::size_t entry) {
    double& value = lower[entry];
    if (row == column || value <= 0)
      return;
    lower[diagonal[at(row)]] += value;
    lower[diagonal[at(column)]] += value;
    value = 0;
  });
}

} // namespace

Conduction::Conduction(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Conductivity>& conductivity,
                       bool monotone)
    : MovedHeat(FlowOwner{}), mesh_(mesh), unknowns_(unknowns), conductivity_(conductivity), monotone_(monotone)
{
  std::vector<std::size_t> constant, varying;
  for (std::size_t e = 0; e < tetElements(mesh); ++e)
    (conductivityOf(e).constant() ? constant : varying).push_back(e);
  VolumeNodes nodes;
  const auto unknownsOf = [&](std::size_t e) {
    nodes = volumeNodes(mesh, unknowns, e);
    return std::span<const UnknownId>(nodes.own.data(), nodes.count);
  };
  const auto count = static_cast<std::size_t>(unknowns.count);
  constant_ = ElementShares(constant, unknownsOf, count);
  varying_ = ElementShares(varying, unknownsOf, count);
  if (mesh.order == 2) {
    straight_.resize(tetElements(mesh));
    for (std::size_t e = 0; e < straight_.size(); ++e)
      straight_[e] = isStraight(mesh, e);
  }
}

std::optional<Bend> Conduction::bend() const
{
  constexpr Bend bends{"conductivity", "Look for a jump in the table of a conductivity, and give the table more points "
                                       "there or a smaller mesh size."};
  return varying_.empty() ? std::nullopt : std::optional(bends);
}

void Conduction::couple(const HeatGround&, PatternBuilder& builder) const
{
  for (std::size_t e = 0; e < tetElements(mesh_); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh_, unknowns_, e);
    builder.couple(std::span(nodes.own.data(), nodes.count));
  }
}

void Conduction::locate(const SparseMatrix& pattern)
{
  std::vector<Index> above(at(pattern.rows()) + 1); // entries of the upper half before a row
  for (Index row = 0; row < pattern.rows(); ++row)
    above[at(row) + 1] = above[at(row)] + pattern.rowStart[at(row) + 1] - 1 - pattern.position(row, row);
  const bool columns = !mesh_.column.empty();
  const auto fill = [&](std::size_t element, const auto& own, auto& positions) {
    const bool constant = conductivityOf(element).constant();
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
      twice_[element] = twice;
  };
  const std::size_t elements = tetElements(mesh_);
  twice_.resize(columns ? elements : 0);
  quadraticPositions_.resize(mesh_.order == 2 ? elements : 0);
  positions_.resize(mesh_.order == 2 ? 0 : elements);
  constexpr std::size_t block = 4096;
  inBlocks(elements, block, [&](std::size_t first, std::size_t end) {
    for (std::size_t e = first; e < end; ++e)
      if (mesh_.order == 2)
        fill(e, tenOf(unknowns_.ofTet, e), quadraticPositions_[e]);
      else
        fill(e, unknowns_.ofTet[e], positions_[e]);
  });
  lowerEntries_ = pattern.columns.size() - at(above.back());
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

void Conduction::addConstant(const HeatGround&, SparseMatrix& matrix, std::span<double>) const
{
  LargeVector<double> lower; // alone, row by row: half the memory to go through
  lower.resize(lowerEntries_);
  std::fill(lower.begin(), lower.end(), 0.0);
  addConstantTo(lower);
  if (monotone_)
    moveWrongWay(matrix, lower);
  auto next = lower.begin();
  for (Index row = 0; row < matrix.rows(); ++row)
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1] && matrix.columns[at(i)] <= row; ++i)
      matrix.values[at(i)] += *next++;
}

void Conduction::addConstantTo(std::span<double> lowerHalf) const
{
  const auto fetch = [&](std::span<const std::size_t> elements, std::size_t next) { // while others are worked on
    if (mesh_.order == 2 && next < elements.size())
      for (const Index p : quadraticPositions_[elements[next]])
        __builtin_prefetch(&lowerHalf[at(p)], 1);
  };
  constant_.forEach([&](std::span<const std::size_t> elements) {
    for (std::size_t i = 0; i < elements.size(); ++i) {
      const std::size_t e = elements[i];
      const Eigen::Matrix3d k = conductivityOf(e).at(0);
      fetch(elements, i + 3);
      if (mesh_.order == 2)
        add(e, quadraticPositions_[e], constantConductance(mesh_, e, k, straight_[e]), lowerHalf);
      else
        add(e, positions_[e], linearConductance(mesh_, mesh_.tets[e], k), lowerHalf);
    }
  });
}

void Conduction::addSlope(const HeatGround&, std::span<const double> temperature, SparseMatrix& matrix) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeVector own = valuesOf(volumeNodes(mesh_, unknowns_, e), temperature);
      const Conductivity& k = conductivityOf(e);
      if (mesh_.order == 2)
        add(e, quadraticPositions_[e], quadraticConductance(mesh_, e, k, own), matrix.values);
      else
        add(e, positions_[e], linearAt(e, own), matrix.values);
    }
  });
}

void Conduction::addFlow(const HeatGround&, std::span<const double> temperature, std::span<double> balance) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeNodes nodes = volumeNodes(mesh_, unknowns_, e);
      const VolumeVector values = valuesOf(nodes, temperature);
      const VolumeVector out =
          mesh_.order == 1 ? times(linearAt(e, values), values)
                           : VolumeVector(times(quadraticConductance(mesh_, e, conductivityOf(e), values), values));
      Eigen::Index i = 0;
      for (const UnknownId u : nodes)
        balance[at(u)] -= out[i++];
    }
  });
}

std::array<double, 10> Conduction::linearAt(std::size_t element, const VolumeVector& values) const
{
  const auto conductance = linearConductance(mesh_, mesh_.tets[element], conductivityOf(element).at(values.mean()));
  return monotone_ ? withoutWrongWay(conductance) : conductance;
}

VolumeVector Conduction::restOf(std::size_t e, const VolumeVector& values, const VolumeVector& along) const
{
  const Conductivity& k = conductivityOf(e);
  if (mesh_.order == 1)
    return along.mean() * times(linearConductance(mesh_, mesh_.tets[e], k.slopeAt(values.mean())), values);
  std::array<Eigen::Matrix3d, 4> slopes;
  for (std::size_t p = 0; p < 4; ++p) {
    const Ten shape = quadraticShape(tetPoints()[p]);
    slopes[p] = shape.dot(along) * k.slopeAt(shape.dot(values));
  }
  return times(bentConductance(tenPlaces(mesh_, e), slopes), values);
}

void Conduction::arrivals(const HeatGround&, const FlowState& state, std::span<const char> wanted,
                          const ArrivalVisit& visit) const
{
  for (std::size_t e = 0; e < tetElements(mesh_); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh_, unknowns_, e);
    if (!anyWanted(nodes, wanted))
      continue;
    const VolumeVector values = valuesOf(nodes, state.temperature);
    const Conductivity& k = conductivityOf(e);
    const VolumeVector watts =
        mesh_.order == 2 ? VolumeVector(-times(quadraticConductance(mesh_, e, k, values), values))
                         : VolumeVector(-times(linearConductance(mesh_, mesh_.tets[e], k.at(values.mean())), values));
    visit({elementPart(mesh_, e),
           {},
           {nodes.begin(), nodes.count},
           {watts.data(), static_cast<std::size_t>(watts.size())}});
  }
}

void Conduction::addRest(const HeatGround&, std::span<const double> temperature, std::span<const double> direction,
                         double, std::span<double> result) const
{
  varying_.forEach([&](std::span<const std::size_t> elements) {
    for (const std::size_t e : elements) {
      const VolumeNodes nodes = volumeNodes(mesh_, unknowns_, e);
      const VolumeVector rest = restOf(e, valuesOf(nodes, temperature), valuesOf(nodes, direction));
      Eigen::Index i = 0;
      for (const UnknownId u : nodes)
        result[at(u)] += rest[i++];
    }
  });
}

} // namespace kiln
