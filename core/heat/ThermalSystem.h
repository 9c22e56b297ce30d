// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/elements/Conduction.h"
#include "heat/elements/Radiating.h"
#include "heat/elements/SparseMatrix.h"

#include <map>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// The heat balance of every unknown: what flows in minus what flows out, W. All it knows of flows are the answers of
/// \ref HeatFlow: every question here is a loop over them, conduction first.
///
/// A solution has balance zero at every unknown that is not fixed; at a fixed one minus the balance is the heat that
/// the fixed temperature brings in. Keeps references to mesh and conditions: they must outlive it.
class ThermalSystem
{
public:
  /// \param monotone  of first order: what conducts the wrong way through flat elements (entries above zero beside the
  ///                  diagonal) is moved to the diagonal. Conducts a little too well, but no temperature then leaves
  ///                  the range of those around it.
  ThermalSystem(const Mesh& mesh, const Conditions& conditions, bool monotone = false);
  ThermalSystem(const ThermalSystem&) = delete;
  ThermalSystem& operator=(const ThermalSystem&) = delete;

  [[nodiscard]] Index unknowns() const { return conditions_.unknowns.count; }
  [[nodiscard]] const std::vector<char>& isFixed() const { return isFixed_; }
  [[nodiscard]] const HeatGround& ground() const { return ground_; }
  [[nodiscard]] const Conduction& conduction() const { return conduction_; }
  /// Calls with every flow, conduction in the parts first.
  template <class Visit>
  void eachFlow(Visit&& visit) const
  {
    visit(static_cast<const HeatFlow&>(conduction_));
    for (const auto& flow : conditions_.flows)
      visit(*flow);
  }

  /// Reads the values of the conditions again, after they were replaced in place by those of another instant.
  void conditionsChanged();

  /// Sets the fixed unknowns to their temperatures.
  void applyFixed(std::span<double> temperature) const;

  /// Balance of every unknown at the given temperatures, W.
  [[nodiscard]] std::vector<double> balance(std::span<const double> temperature) const;
  /// What holds the fixed unknowns brings in, W; zero elsewhere.
  /// \param storing  what goes into store, by unknown, W: it need not be brought in; empty in a steady state
  [[nodiscard]] std::vector<double> reaction(std::span<const double> temperature,
                                             std::span<const double> storing = {}) const;

  /// Minus the derivative of the balance, its symmetric part: positive definite where heat has a way out, W/K.
  /// k(T) enters with its value, not its slope. Rows and columns of fixed unknowns are replaced by their diagonal.
  [[nodiscard]] SparseMatrix tangent(std::span<const double> temperature) const;

  /// What the exact tangent has beyond tangent(): the slope of k(T) and of gap radiation, times a direction, W.
  /// \param tolerance  relative, of the radiation within enclosures
  [[nodiscard]] std::vector<double> restOfTangent(std::span<const double> temperature,
                                                  std::span<const double> direction, double tolerance = 1e-9) const;
  /// The same, of each enclosure by itself.
  [[nodiscard]] std::vector<std::vector<double>>
  enclosedRests(std::span<const double> temperature, std::span<const double> direction, double tolerance = 1e-9) const;
  /// Is there any such rest?
  [[nodiscard]] bool hasRest() const;
  /// Is it as large as the symmetric part, so that it must be solved with it?
  [[nodiscard]] bool stronglyCoupled() const;

  /// Largest sum of heat flows that enter or leave at these temperatures, W: the measure for small imbalances.
  [[nodiscard]] double throughput(std::span<const double> temperature) const;
  /// W that sources put in at these temperatures, by source of the project.
  [[nodiscard]] std::map<int, double> bySource(std::span<const double> temperature) const;

  /// Flows below this are rounding: a small share of Σ(diagonal · T), W.
  [[nodiscard]] double noiseFloor(std::span<const double> temperature) const;

  [[nodiscard]] bool linear() const;

  /// Which of what is solved inside the balance (light in enclosures, electric potential) was not found at the last
  /// temperatures; empty: all was.
  [[nodiscard]] std::string unsolvedInside() const;

private:
  void buildPattern();
  void assembleLasting();                  ///< what stays the same at every instant
  void mirror(SparseMatrix& matrix) const; // lower half onto the upper

  const Mesh& mesh_;
  const Conditions& conditions_;
  HeatGround ground_;
  Conduction conduction_;
  SparseMatrix constant_;           ///< all constant shares
  std::vector<Index> diagonal_;     ///< its position, by row; what stands before it in the row is the lower half
  std::vector<Index> lower_;        ///< entries of the lower half in the rows before, by row
  LargeVector<double> lasting_;     ///< of those that stay: the lower half, row by row
  std::vector<double> lastingLoad_; ///< W
  std::vector<Index> mirror_;       ///< position of the transposed entry, of the upper half, row by row
  std::vector<double> load_;        ///< what flows at 0 K, W
  std::vector<char> isFixed_;
};

} // namespace kiln
