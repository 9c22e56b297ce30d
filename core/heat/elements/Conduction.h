// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Conductivity.h"
#include "heat/elements/ElementShares.h"
#include "heat/elements/HeatFlow.h"
#include "heat/elements/SparseMatrix.h"

#include <Eigen/Core>
#include <span>
#include <vector>

namespace kiln
{

/// Conductances of a linear tetrahedron, lower triangle row by row (00 10 11 20 21 22 30 31 32 33), W/K.
/// The same as tetConductance<1>, written out for the hot loop.
[[nodiscard]] std::array<double, 10> linearConductance(const Mesh& mesh, const Tet& tet, const Eigen::Matrix3d& k);

/// Conduction in all parts: the elements of constant conductivity once, those of k(T) at temperatures. k(T) enters its
/// slope with its value, not its own slope: that is the rest. Keeps references to mesh, unknowns and conductivities.
class Conduction final : public MovedHeat
{
public:
  /// \param conductivity  by part
  /// \param monotone      of first order: what conducts the wrong way through flat elements (entries above zero beside
  ///                      the diagonal) is moved to the diagonal
  Conduction(const Mesh& mesh, const Unknowns& unknowns, const std::vector<Conductivity>& conductivity,
             bool monotone = false);

  /// Finds where every element's matrix lies in a pattern that couple() was part of; before anything is added.
  void locate(const SparseMatrix& pattern);
  /// Entries of the lower half of the pattern.
  [[nodiscard]] std::size_t lowerEntries() const { return lowerEntries_; }
  /// Adds the conductances that do not change, W/K, to the lower half of the pattern alone, row by row: half the memory
  /// to go through.
  void addConstantTo(std::span<double> lowerHalf) const;

  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return varying_.empty() ? Rest::None : Rest::Weak; }
  void couple(const HeatGround& ground, PatternBuilder& builder) const override;
  void addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const override;
  void addFlow(const HeatGround& ground, std::span<const double> temperature, std::span<double> balance) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround&, const FlowState&) const override { return {}; }

private:
  [[nodiscard]] const Conductivity& conductivityOf(std::size_t element) const
  {
    return conductivity_[static_cast<std::size_t>(elementPart(mesh_, element))];
  }
  template <std::size_t Entries>
  void add(std::size_t element, const std::array<Index, Entries>& positions,
           const std::array<double, Entries>& conductance, std::span<double> values) const;

  /// Of an element of first order with k(T), lower triangle.
  [[nodiscard]] std::array<double, 10> linearAt(std::size_t element, const VolumeVector& values) const;
  /// What the slope of an element's k(T) adds along a direction.
  [[nodiscard]] VolumeVector restOf(std::size_t element, const VolumeVector& values, const VolumeVector& along) const;

  const Mesh& mesh_;
  const Unknowns& unknowns_;
  const std::vector<Conductivity>& conductivity_;
  bool monotone_;
  LargeVector<std::array<Index, 10>> positions_;          ///< lower triangle of each tet's matrix, first order
  LargeVector<std::array<Index, 55>> quadraticPositions_; ///< the same of each element of second order
  std::vector<bool> straight_;                            ///< elements of second order whose edges are straight
  std::vector<std::uint64_t> twice_; ///< of a section: entries between different nodes of one unknown, by element
  std::size_t lowerEntries_ = 0;     ///< of the pattern's lower half
  ElementShares constant_, varying_; ///< elements with one conductivity, with k(T)
};

} // namespace kiln
