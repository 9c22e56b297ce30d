// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Index.h"
#include "heat/Receivers.h"
#include "heat/WatchProbe.h"
#include "model/Formula.h"
#include "model/Project.h"

#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace kiln
{

/// Which object of the project a term belongs to.
struct TermOwner {
  enum class Kind { Source, Boundary, Node, Link };
  Kind kind = Kind::Source;
  int index = 0; ///< in the project's list of this kind
};

/// A flow of heat between unknowns that no element matrix describes, or into them from outside.
/// Flows are W, positive into the unknown; the flows of a term that only moves heat sum to zero.
class HeatTerm
{
public:
  HeatTerm(TermOwner owner, Receivers receivers) : owner_(owner), receivers_(std::move(receivers)) {}
  virtual ~HeatTerm() = default;
  HeatTerm(const HeatTerm&) = delete;
  HeatTerm& operator=(const HeatTerm&) = delete;

  [[nodiscard]] const TermOwner& owner() const { return owner_; }
  [[nodiscard]] const Receivers& receivers() const { return receivers_; }

  /// W by receiver at these temperatures (by unknown, K).
  [[nodiscard]] virtual std::vector<double> flows(std::span<const double> temperature) const = 0;
  /// Adds the part of minus the derivative that lies within each place and is not negative to the lower half of a
  /// matrix, W/K.
  virtual void addSlope(std::span<const double> temperature, SparseMatrix& matrix) const = 0;
  /// Adds the rest of minus the derivative times a direction, W.
  virtual void addRest(std::span<const double> temperature, std::span<const double> direction,
                       std::span<double> rest) const = 0;
  /// Is there such a rest?
  [[nodiscard]] virtual bool coupled() const = 0;

  /// Where a term solves something of its own: was the last solution found?
  [[nodiscard]] virtual bool converged() const { return true; }

  /// The term's figure in the ledger, W: into the solids from a source or boundary, from end A to B of a link.
  [[nodiscard]] virtual double figure(std::span<const double> temperature) const;

private:
  TermOwner owner_;
  Receivers receivers_;
};

/// Heat that follows a temperature by a table: that of each place, the mean of its own places, or a watch.
class FollowingHeat : public HeatTerm
{
public:
  /// \param density  W per unit of the receivers' weight, against K
  /// \param follows  nothing: each place's own temperature
  FollowingHeat(TermOwner owner, Receivers receivers, Property density, std::optional<WatchProbe> follows);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(std::span<const double> temperature, std::span<const double> direction,
               std::span<double> rest) const override;
  [[nodiscard]] bool coupled() const override;

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
  NodeExchange(TermOwner owner, Receivers places, Index node, ExchangeLaw law, Shown shown = Shown::IntoPlaces);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(std::span<const double> temperature, std::span<const double> direction,
               std::span<double> rest) const override;
  [[nodiscard]] bool coupled() const override { return true; }
  [[nodiscard]] double figure(std::span<const double> temperature) const override;

private:
  template <class Visit>
  void eachPlace(std::span<const double> temperature, Visit&& visit) const;
  Index node_;
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
  PassageStretch(TermOwner owner, Receivers places, Index upstream, Index outlet, double capacityRate, double inlet,
                 Property coefficient);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(std::span<const double> temperature, std::span<const double> direction,
               std::span<double> rest) const override;
  [[nodiscard]] bool coupled() const override { return true; }
  [[nodiscard]] double figure(std::span<const double> temperature) const override;

private:
  struct Mean {
    double value = 0;    ///< K
    double ofOutlet = 0; ///< a
  };
  [[nodiscard]] Mean meanAt(std::span<const double> temperature) const;
  Index upstream_, outlet_;
  double rate_, inlet_; ///< W/K, K
  Property coefficient_;
};

/// A stream from one lumped node into the next: ṁ c_p (T_upstream − T) into the downstream one.
class StreamTerm : public HeatTerm
{
public:
  /// \param capacityRate  ṁ c_p, W/K
  /// \param inlet         K, the temperature upstream where that is no unknown
  StreamTerm(TermOwner owner, Index upstream, Index downstream, double capacityRate, double inlet = 0);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(std::span<const double> temperature, std::span<const double> direction,
               std::span<double> rest) const override;
  [[nodiscard]] bool coupled() const override { return upstream_ >= 0; }

private:
  Index upstream_, downstream_; ///< upstream -1: the inlet
  double rate_, inlet_;
};

} // namespace kiln
