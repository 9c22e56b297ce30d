// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"

namespace kiln
{

/// Unknowns that are held at temperatures. Its heat is what holding them takes.
class HeldTemperature final : public HeatFlow
{
public:
  struct One {
    UnknownId unknown;
    double kelvin;
  };
  /// What it is that is held: a part as a whole, faces, or neither (a place, a lumped node). What holds faces comes in
  /// through them, by area; what holds a part or a place arises within.
  struct What {
    PartId part{};
    std::vector<FaceId> faces{}; ///< increasing
  };
  HeldTemperature(FlowOwner owner, std::vector<One> held, What what)
      : HeatFlow(owner), held_(std::move(held)), what_(std::move(what))
  {
  }

  [[nodiscard]] const std::vector<One>& all() const { return held_; }
  [[nodiscard]] const What& what() const { return what_; }
  /// The same without the unknowns that a later one holds.
  [[nodiscard]] std::shared_ptr<const HeldTemperature> without(const std::vector<char>& taken) const;

  [[nodiscard]] bool lasting() const override { return false; }
  [[nodiscard]] std::optional<Bend> bend() const override { return std::nullopt; }
  [[nodiscard]] Rest rest() const override { return Rest::None; }
  void addConstant(const HeatGround&, SparseMatrix&, std::span<double>) const override {}
  void addFlow(const HeatGround&, std::span<const double>, std::span<double>) const override {}
  void addSlope(const HeatGround&, std::span<const double>, SparseMatrix&) const override {}
  void addRest(const HeatGround&, std::span<const double>, std::span<const double>, double,
               std::span<double>) const override
  {
  }
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void addPassing(const HeatGround& ground, const FlowState& state, Passing& passing) const override;
  void outside(const HeatGround& ground, TemperatureSpan& span) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>&) const override {}
  void held(const std::function<void(UnknownId, double)>& visit) const override;

private:
  std::vector<One> held_;
  What what_;
};

} // namespace kiln
