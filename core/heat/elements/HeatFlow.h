// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatGround.h"
#include "heat/elements/VolumeElement.h"

#include <functional>
#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

namespace kiln
{

class PatternBuilder;

/// Which object of the project a flow belongs to.
struct FlowOwner {
  enum class Kind { Parts, Source, Boundary, Node, Link, Contact, Enclosure };
  Kind kind = Kind::Parts;
  int index = -1; ///< in the project's list of this kind; -1: of none in particular

  auto operator<=>(const FlowOwner&) const = default;
};

/// Temperatures, and what is known besides them.
struct FlowState {
  std::span<const double> temperature; ///< by unknown, K
  std::span<const double> reaction;    ///< what holds an unknown brings in, W; read where one is held
};

/// What the ledger says of an owner, W.
struct FlowFigure {
  FlowOwner owner;
  double shown = 0;       ///< into the solids from a source or boundary, from end A to B of a link or contact
  double fromOutside = 0; ///< what the model gains by it; 0 where heat is only moved
};

/// Heat that arrives at some unknowns, W.
struct Arrival {
  PartId part{}; ///< that it arrives in
  FaceId face{}; ///< that it comes through
  std::span<const UnknownId> unknowns;
  std::span<const double> watts; ///< by unknown

  [[nodiscard]] double total() const;
};
using ArrivalVisit = std::function<void(const Arrival&)>;

/// What enters and what leaves.
struct Passing {
  double in = 0, out = 0; ///< W, both positive

  void take(double watts) { (watts > 0 ? in : out) += watts > 0 ? watts : -watts; }
};

/// Temperatures from the lowest to the highest; empty at first.
struct TemperatureSpan {
  double low = std::numeric_limits<double>::infinity();
  double high = -std::numeric_limits<double>::infinity();

  void take(double kelvin)
  {
    low = kelvin < low ? kelvin : low;
    high = kelvin > high ? kelvin : high;
  }
};

/// Heat that is brought whatever the temperatures are.
struct OwnHeat {
  PartId part{};              ///< nothing: at faces or places, where any amount warms without bound
  double least = 0, most = 0; ///< W/m³ in a part; else only the signs count
};

/// What a flow stores heat in by itself.
struct OwnVolume {
  std::string_view material; ///< id
  PartId part{};             ///< that it stores with
  std::span<const UnknownId> unknowns;
  VolumeMatrix volume; ///< ∫ N_i N_j dV, m³; a single column: by unknown, each for itself
};

/// What the answer bends with, and what helps where no solution is found.
struct Bend {
  std::string_view with, help;
};
inline constexpr Bend bendOfRadiation{"radiation", "Check that emissivities and powers are in the right unit."};

/// One flow of heat: between unknowns, or into them from outside. Whatever carries heat is one, and everything that
/// needs to know about heat asks all of them the same questions (\ref ThermalSystem): nobody else knows their kinds. A
/// flow answers for all its faces or elements at once. Flows are W, positive into the unknown.
///
/// A flow has a share that is linear in the temperatures and the same until it is resolved again: \ref addConstant.
/// What it carries besides depends on temperatures: \ref addFlow, with minus its derivative in two parts, the one
/// that is symmetric and not negative (\ref addSlope), and the rest of it (\ref addRest).
class HeatFlow
{
public:
  explicit HeatFlow(FlowOwner owner) : owner_(owner) {}
  virtual ~HeatFlow() = default;
  HeatFlow(const HeatFlow&) = delete;
  HeatFlow& operator=(const HeatFlow&) = delete;

  [[nodiscard]] const FlowOwner& owner() const { return owner_; }

  /// Is it the same at every instant of a run? Else it is resolved again.
  [[nodiscard]] virtual bool lasting() const = 0;
  /// What its temperatures bend it with; nothing: it is linear, all of it is constant.
  [[nodiscard]] virtual std::optional<Bend> bend() const = 0;
  /// What the slope leaves to the rest. Strong: as much as the symmetric part, to be solved with it; so Enclosed.
  enum class Rest { None, Weak, Strong, Enclosed };
  [[nodiscard]] virtual Rest rest() const = 0;
  /// Couples the unknowns that its slope needs, beyond those of elements and faces, which are.
  virtual void couple(const HeatGround&, PatternBuilder&) const {}

  /// Adds minus the derivative to the lower half of a matrix, W/K, and what flows at 0 K to \p load, W.
  virtual void addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const = 0;
  /// Adds what is not in the constant share, W by unknown.
  virtual void addFlow(const HeatGround& ground, std::span<const double> temperature,
                       std::span<double> balance) const = 0;
  /// Adds its symmetric part of minus the derivative to the lower half of a matrix, W/K.
  virtual void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const = 0;
  /// Adds the rest of minus the derivative times a direction, W.
  /// \param tolerance  relative, of what is solved inside
  virtual void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
                       double tolerance, std::span<double> rest) const = 0;

  /// Calls with all that arrives, the constant share too.
  /// \param wanted  by unknown, may be empty: what comes through no face may be left out where none is wanted
  virtual void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                        const ArrivalVisit& visit) const = 0;
  /// Lines of the ledger; unless it says otherwise one with all that arrives.
  [[nodiscard]] virtual std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const;
  /// The same where all arrivals have just been summed: who shows nothing else need not find them again.
  [[nodiscard]] virtual std::vector<FlowFigure> figuresFrom(const HeatGround& ground, const FlowState& state,
                                                            double /*arrived*/) const
  {
    return figures(ground, state);
  }
  /// The measure for small imbalances; unless it says otherwise what comes from outside.
  virtual void addPassing(const HeatGround& ground, const FlowState& state, Passing& passing) const;

  /// Calls with every temperature it exchanges heat with that is none of the unknowns.
  virtual void outside(const HeatGround& ground, TemperatureSpan& span) const = 0;
  virtual void ownHeat(const std::function<void(const OwnHeat&)>& visit) const = 0;
  virtual void ownVolumes(const HeatGround&, const std::function<void(const OwnVolume&)>&) const {}
  /// Calls with every unknown that it holds and the temperature there, K.
  virtual void held(const std::function<void(UnknownId, double)>&) const {}
  /// What is solved inside and was not found at the last temperatures; empty: all was.
  [[nodiscard]] virtual std::string_view unsolved() const { return {}; }

private:
  FlowOwner owner_;
};

/// A flow that only moves heat between unknowns, alike at every instant of a run.
class MovedHeat : public HeatFlow
{
public:
  using HeatFlow::HeatFlow;

  [[nodiscard]] bool lasting() const override { return true; }
  void addPassing(const HeatGround&, const FlowState&, Passing&) const override {}
  void outside(const HeatGround&, TemperatureSpan&) const override {}
  void ownHeat(const std::function<void(const OwnHeat&)>&) const override {}
};

using HeatFlows = std::vector<std::shared_ptr<const HeatFlow>>;

/// Those of one kind, for the few who show more of it than all flows have.
template <class Kind>
[[nodiscard]] std::vector<const Kind*> flowsOf(const HeatFlows& flows)
{
  std::vector<const Kind*> found;
  for (const auto& flow : flows)
    if (const auto* own = dynamic_cast<const Kind*>(flow.get()))
      found.push_back(own);
  return found;
}

/// Is any of these wanted? All are where nothing is said.
template <class Nodes>
[[nodiscard]] bool anyWanted(const Nodes& nodes, std::span<const char> wanted)
{
  if (wanted.empty())
    return true;
  for (const UnknownId u : nodes)
    if (wanted[static_cast<std::size_t>(u)] != 0)
      return true;
  return false;
}

} // namespace kiln
