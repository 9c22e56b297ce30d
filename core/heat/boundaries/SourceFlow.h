// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "model/Formula.h"

namespace kiln
{

/// A flow that is given, whatever the temperatures are.
class GivenHeat : public HeatFlow
{
public:
  using HeatFlow::HeatFlow;

  [[nodiscard]] bool lasting() const override { return false; }
  [[nodiscard]] std::optional<Bend> bend() const override { return std::nullopt; }
  [[nodiscard]] Rest rest() const override { return Rest::None; }
  void addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const override;
  void addFlow(const HeatGround&, std::span<const double>, std::span<double>) const override {}
  void addSlope(const HeatGround&, std::span<const double>, SparseMatrix&) const override {}
  void addRest(const HeatGround&, std::span<const double>, std::span<const double>, double,
               std::span<double>) const override
  {
  }
  void outside(const HeatGround&, TemperatureSpan&) const override {}
};

/// Heat in the volume of parts.
class VolumeHeat final : public GivenHeat
{
public:
  struct InPart {
    PartId part;
    double density;            // W/m³, scaled from the exact to the meshed volume
    double scale = 1;          // exact over meshed volume, for densityAt
    double volume = 0;         // m³, as meshed
    PlaceFunction densityAt{}; // W/m³, where it varies in place
  };
  VolumeHeat(FlowOwner owner, std::vector<InPart> parts) : GivenHeat(owner), parts_(std::move(parts)) {}

  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;
  /// What each of its parts gets, W, as all arrivals in it sum to.
  [[nodiscard]] std::vector<std::pair<PartId, double>> intoParts(const HeatGround& ground) const;

private:
  std::vector<InPart> parts_;
};

/// Heat at one place within the solid.
class PointHeat final : public GivenHeat
{
public:
  PointHeat(FlowOwner owner, const Vec3& place, double power) : GivenHeat(owner), place_(place), power_(power) {}

  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;

private:
  Vec3 place_;
  double power_; // W
};

} // namespace kiln
