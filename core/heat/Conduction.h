// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/ElementShares.h"
#include "heat/SparseMatrix.h"
#include "heat/VolumeElement.h"

#include <Eigen/Core>
#include <span>
#include <vector>

namespace kiln
{

/// Conductances of a linear tetrahedron, lower triangle row by row (00 10 11 20 21 22 30 31 32 33), W/K.
/// The same as tetConductance<1>, written out for the hot loop.
[[nodiscard]] std::array<double, 10> linearConductance(const Mesh& mesh, const Tet& tet, const Eigen::Matrix3d& k);

/// What an element conducts away from each of its nodes, W.
/// \param temperature  by unknown, K
[[nodiscard]] VolumeVector conducted(const Mesh& mesh, const Conditions& conditions, std::size_t element,
                                     std::span<const double> temperature);

/// What a source in a part puts into each node of an element, W.
[[nodiscard]] VolumeVector heatInto(const Conditions::PartHeat& heat, const Mesh& mesh, std::size_t element);

/// The conduction of all elements as a matrix: those of constant conductivity once, those of k(T) at temperatures.
/// Keeps references to mesh and conditions.
class Conduction
{
public:
  /// \param monotone  elements of k(T) conduct nothing the wrong way (\ref ThermalSystem); of first order
  Conduction(const Mesh& mesh, const Conditions& conditions, bool monotone = false);

  void couple(PatternBuilder& builder) const;
  /// Finds where every element's matrix lies in a pattern that couple() was part of; returns the entries of its lower
  /// half.
  std::size_t locate(const SparseMatrix& pattern);

  /// Adds the conductances that do not change, W/K, to the lower half of the pattern alone, row by row: half the memory
  /// to go through.
  void addConstant(std::span<double> lowerHalf) const;
  /// Adds those of k(T), W/K, to the lower half within the values of the whole pattern.
  void addVarying(std::span<const double> temperature, std::span<double> values) const;
  [[nodiscard]] bool varies() const { return !varying_.empty(); }
  /// Subtracts from the balance what elements of k(T) conduct away.
  void takeVarying(std::span<const double> temperature, std::span<double> balance) const;
  /// Adds the slope of k(T) times a direction.
  void addRest(std::span<const double> temperature, std::span<const double> direction, std::span<double> result) const;

private:
  template <std::size_t Entries>
  void add(std::size_t element, const std::array<Index, Entries>& positions,
           const std::array<double, Entries>& conductance, std::span<double> values) const;

  /// Of an element of first order with k(T), lower triangle.
  [[nodiscard]] std::array<double, 10> linearAt(std::size_t element, const VolumeVector& values) const;
  /// What the slope of an element's k(T) adds along a direction.
  [[nodiscard]] VolumeVector restOf(std::size_t element, const VolumeVector& values, const VolumeVector& along) const;

  const Mesh& mesh_;
  const Conditions& conditions_;
  bool monotone_;
  LargeVector<std::array<Index, 10>> positions_;          ///< lower triangle of each tet's matrix, first order
  LargeVector<std::array<Index, 55>> quadraticPositions_; ///< the same of each element of second order
  std::vector<bool> straight_;                            ///< elements of second order whose edges are straight
  std::vector<std::uint64_t> twice_; ///< of a section: entries between different nodes of one unknown, by element
  ElementShares constant_, varying_; ///< elements with one conductivity, with k(T)
};

} // namespace kiln
