// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/network/HeatTerm.h"

namespace kiln
{

/// What a wire is made of and what happens at its side.
struct WireLaw {
  double length = 0, section = 0; ///< m, m²
  Property conductivity;          ///< W/(m·K)
  std::string material;           ///< id
  double power = 0;               ///< W, evenly over its length
  double sideConductance = 0;     ///< W/K, of its whole side to what is around
  double ambient = 293.15;        ///< K
};

/// A conductor of one dimension between two ends, each a lumped node, a part or a surface. Finite volumes: equal cells
/// with a temperature each, the ends half a cell away; second order in the length of a cell.
/// Its figure is what arrives at end B.
class WireTerm : public HeatTerm
{
public:
  static constexpr int cells = 24;

  /// \param endA, endB  receivers whose weights sum to 1
  /// \param first       unknown of the first of its cells; the others follow
  WireTerm(FlowOwner owner, const Receivers& endA, const Receivers& endB, UnknownId first, WireLaw law);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void outside(const HeatGround& ground, TemperatureSpan& span) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;
  void ownVolumes(const HeatGround& ground, const std::function<void(const OwnVolume&)>& visit) const override;

private:
  /// Heat passes from one receiver to another: conductance at the mean of both is reach · k.
  struct Passage {
    std::size_t from, to;
    double reach; ///< m: section over distance
  };
  [[nodiscard]] double temperatureAt(std::size_t receiver, std::span<const double> temperature) const
  {
    return receivers().valueAt(receivers()[receiver], temperature);
  }
  [[nodiscard]] PropertyValue conductivityOf(const Passage& passage, std::span<const double> temperature) const;

  UnknownId first_;
  WireLaw law_;
  std::vector<Passage> passages_;
  std::size_t firstCell_, firstOfB_; ///< among the receivers
};

} // namespace kiln
