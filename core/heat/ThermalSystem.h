// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/SparseMatrix.h"

#include <span>
#include <vector>

namespace kiln
{

inline constexpr double stefanBoltzmann = 5.670374419e-8; // W/(m²·K⁴), CODATA 2018

/// The heat balance of every unknown, first-order elements: what flows in minus what flows out, W.
///
///   balance(T) = sources + boundaries(T) − conduction(T) − contacts(T)
///
/// A solution has balance zero at every unknown that is not fixed; at a fixed one minus the balance is the heat that
/// the fixed temperature brings in. Keeps references to mesh and conditions: they must outlive it.
class ThermalSystem
{
public:
  ThermalSystem(const Mesh& mesh, const Conditions& conditions);

  [[nodiscard]] Index unknowns() const { return conditions_.unknowns.count; }
  [[nodiscard]] const std::vector<char>& isFixed() const { return isFixed_; }

  /// Sets the fixed unknowns to their temperatures.
  void applyFixed(std::span<double> temperature) const;

  /// Balance of every unknown at the given temperatures, W.
  [[nodiscard]] std::vector<double> balance(std::span<const double> temperature) const;

  /// Minus the derivative of the balance: symmetric, positive definite where heat has a way out, W/K.
  /// Rows and columns of fixed unknowns are replaced by their diagonal.
  [[nodiscard]] SparseMatrix tangent(std::span<const double> temperature) const;

  /// Largest sum of heat flows that enter or leave at these temperatures, W: the measure for small imbalances.
  [[nodiscard]] double throughput(std::span<const double> temperature) const;

  /// Flows below this are rounding: a small share of Σ(diagonal · T), W.
  [[nodiscard]] double noiseFloor(std::span<const double> temperature) const;

  /// Recomputes the conductances of all tetrahedra into the stored matrix; public for the benchmark.
  void assembleConduction();

  [[nodiscard]] bool linear() const { return conditions_.radiation.empty(); }

private:
  void buildPattern();
  void addContacts();
  void addConvection();
  void addSources();

  const Mesh& mesh_;
  const Conditions& conditions_;
  SparseMatrix constant_;                           ///< conduction, contacts, convection
  std::vector<std::array<Index, 10>> tetPositions_; ///< lower triangle of each tet's matrix in constant_.values
  std::vector<Index> mirror_;                       ///< position of the transposed entry
  std::vector<double> load_;                        ///< sources and h·ambient, W
  std::vector<char> isFixed_;
  std::vector<std::vector<std::int32_t>> trianglesOfFace_;
};

} // namespace kiln
