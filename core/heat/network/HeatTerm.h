// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "heat/elements/Receivers.h"
#include "heat/watches/WatchProbe.h"
#include "model/Formula.h"
#include "model/Project.h"

#include <memory>

namespace kiln
{

/// A flow of heat between places that no element matrix describes, or into them from outside: a few numbers each, all
/// of it taken at the temperatures. The flows of one that only moves heat sum to zero.
class HeatTerm : public HeatFlow
{
public:
  HeatTerm(FlowOwner owner, Receivers receivers) : HeatFlow(owner), receivers_(std::move(receivers)) {}

  [[nodiscard]] const Receivers& receivers() const { return receivers_; }
  /// W by receiver at these temperatures (by unknown, K).
  [[nodiscard]] virtual std::vector<double> flows(std::span<const double> temperature) const = 0;

  [[nodiscard]] bool lasting() const override { return false; }
  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return Rest::Strong; }
  void addConstant(const HeatGround&, SparseMatrix&, std::span<double>) const override {}
  void addFlow(const HeatGround& ground, std::span<const double> temperature, std::span<double> balance) const override;
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  void outside(const HeatGround&, TemperatureSpan&) const override {}
  void ownHeat(const std::function<void(const OwnHeat&)>&) const override {}

private:
  Receivers receivers_;
};

/// Heat that follows a temperature by a table: that of each place, the mean of its own places, or a watch.
class FollowingHeat : public HeatTerm
{
public:
  /// \param density  W per unit of the receivers' weight, against K
  /// \param follows  nothing: each place's own temperature
  FollowingHeat(FlowOwner owner, Receivers receivers, Property density, std::optional<WatchProbe> follows);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  [[nodiscard]] Rest rest() const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;

private:
  Property density_;
  std::optional<WatchProbe> follows_;
};

/// How heat passes between a place and the lumped node it is tied to, per unit of the place's weight.
struct ExchangeLaw {
  double conductance = 0;                       // W/K per weight
  std::shared_ptr<const Property> curve;        // the same against the temperature of the place
  PlaceFunction conductanceAt;                  // the same by place
  double radiation = 0;                         // emissivity (or exchange area) per weight: σ r (T_node⁴ − T⁴)
  std::shared_ptr<const Property> emissivity{}; // what r is multiplied with, against the temperature of the place

  /// Flow into the place per weight, and minus its derivatives by the place's and plus by the node's temperature.
  struct Flow {
    double watts = 0, byPlace = 0, byNode = 0;
  };
  [[nodiscard]] Flow at(const Vec3& place, double temperature, double node) const;
};

/// Every place of a surface or part tied to one lumped node. The node is the last receiver.
class NodeExchange : public HeatTerm
{
public:
  /// What its figure is.
  enum class Shown { IntoPlaces, OutOfPlaces, Nothing };
  NodeExchange(FlowOwner owner, Receivers places, UnknownId node, ExchangeLaw law, Shown shown = Shown::IntoPlaces);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;

private:
  template <class Visit>
  void eachPlace(std::span<const double> temperature, Visit&& visit) const;
  UnknownId node_;
  ExchangeLaw law_;
  Shown shown_;
};

/// A stretch of a flow passage: the stream warms or cools along it towards the wall by an exponential. Its unknown is
/// the temperature with which the stream leaves. The wall exchanges with the mean of the stream,
///   T_m = a T_out + (1 − a) T_in,  a = (1 − φ)/(1 − e^−N),  φ = (1 − e^−N)/N,  N = Σ h A / (ṁ c_p),
/// which is exact where the wall has one temperature: T_out = T_w + (T_in − T_w) e^−N, however long the stretch.
/// Source: any heat-transfer text, "flow in a tube of constant wall temperature", with the logarithmic mean.
/// What the wall gives arrives at the outlet's unknown; a StreamTerm carries it on.
class PassageStretch : public HeatTerm
{
public:
  /// \param upstream     unknown of the stretch before, -1: \p inlet (K) is known
  /// \param coefficient  W/(m²·K), of the places' own temperature where it is a table
  PassageStretch(FlowOwner owner, Receivers places, UnknownId upstream, UnknownId outlet, double capacityRate,
                 double inlet, Property coefficient);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;

private:
  struct Mean {
    double value = 0;    ///< K
    double ofOutlet = 0; ///< a
  };
  [[nodiscard]] Mean meanAt(std::span<const double> temperature) const;
  UnknownId upstream_, outlet_;
  double rate_, inlet_; ///< W/K, K
  Property coefficient_;
};

/// A stream from one lumped node into the next: ṁ c_p (T_upstream − T) into the downstream one.
class StreamTerm : public HeatTerm
{
public:
  /// \param capacityRate  ṁ c_p, W/K
  /// \param inlet         K, the temperature upstream where that is no unknown
  StreamTerm(FlowOwner owner, UnknownId upstream, UnknownId downstream, double capacityRate, double inlet = 0);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  [[nodiscard]] Rest rest() const override { return upstream_ >= 0 ? Rest::Strong : Rest::None; }
  /// A stretch of a passage has no face: what it takes up came through the surface, which shows it.
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void outside(const HeatGround& ground, TemperatureSpan& span) const override;

private:
  UnknownId upstream_, downstream_; ///< upstream -1: the inlet
  double rate_, inlet_;
};

} // namespace kiln
