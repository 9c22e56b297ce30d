// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "mesh/Mesh.h"

#include <span>
#include <vector>

namespace kiln
{

/// A place on one side of an empty gap and what lies straight across it.
struct GapPoint {
  std::size_t elementA = 0, elementB = 0; ///< surface elements
  NodeVector shapeA, shapeB;              ///< shape functions of their nodes at the place
  double area = 0;                        ///< m², exact areas shared by the points of a face
};

/// Places of part A that look straight at part B from no farther than \p reach, nothing between them.
/// The meshes of the two sides need not match.
/// \param reach  m
[[nodiscard]] std::vector<GapPoint> pointsAcross(const Mesh& mesh, PartId partA, PartId partB, double reach);

/// Faces of these gaps wider than the gap's own thickness by this factor are not taken for its sides.
inline constexpr double gapReach = 2;

/// Conduction and radiation across an empty gap between parts that share no faces, W.
///   flow from A to B = Σ area · (G (T_A − T_B) + σ ε (T_A⁴ − T_B⁴))
/// What one side loses the other gets, whatever the meshes: the energy balance is exact. Both sides are read and given
/// to with the shape functions of the field. Its figure is the heat from A to B.
class GapCrossing final : public MovedHeat
{
public:
  struct Law {
    double conductance = 0; ///< G, W/(m²·K)
    double radiation = 0;   ///< effective emissivity ε, 0 for none
  };
  GapCrossing(FlowOwner owner, PartId partA, PartId partB, Law law, std::vector<GapPoint> points)
      : MovedHeat(owner), partA_(partA), partB_(partB), law_(law), points_(std::move(points))
  {
  }

  [[nodiscard]] PartId partA() const { return partA_; }
  [[nodiscard]] PartId partB() const { return partB_; }
  /// m², of the places that look across.
  [[nodiscard]] double area() const;

  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return law_.radiation > 0 ? Rest::Weak : Rest::None; }
  void couple(const HeatGround& ground, PatternBuilder& builder) const override;
  void addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const override;
  void addFlow(const HeatGround& ground, std::span<const double> temperature, std::span<double> balance) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;

private:
  PartId partA_, partB_;
  Law law_;
  std::vector<GapPoint> points_;
};

} // namespace kiln
