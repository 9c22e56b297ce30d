// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"

namespace kiln
{

/// A contact that keeps a jump in temperature: conduction, and radiation between two grey plates where it is a gap.
/// Meshes of the two sides share their faces. A sheet over a resistance is one too: its side 0 is the sheet.
/// Its figure is the heat from side 0 to side 1.
class JumpContact final : public MovedHeat
{
public:
  struct OnFace {
    FaceId face;
    double conductance;   // W/(m²·K), scaled from the exact to the meshed area
    double radiation = 0; // effective emissivity, likewise
  };
  JumpContact(FlowOwner owner, std::vector<OnFace> faces) : MovedHeat(owner), faces_(std::move(faces)) {}

  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return bend() ? Rest::Weak : Rest::None; }
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
  /// What radiation brings from side 1 to side 0, by node.
  struct Light {
    NodeVector watts;  // into side 0, W; side 1 loses the same
    NodeMatrix slope0; // minus the derivative by side 0, W/K
    NodeMatrix slope1; // the derivative by side 1, W/K
  };
  [[nodiscard]] static Light lightOf(const OnFace& own, const Mesh& mesh, std::size_t element, const NodeVector& side0,
                                     const NodeVector& side1);
  template <class Visit>
  void eachLight(const HeatGround& ground, std::span<const double> temperature, Visit&& visit) const;
  std::vector<OnFace> faces_;
};

} // namespace kiln
