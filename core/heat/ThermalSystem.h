// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/Conduction.h"
#include "heat/SparseMatrix.h"
#include "heat/SurfaceFlow.h"

#include <span>
#include <vector>

namespace kiln
{

inline constexpr double stefanBoltzmann = 5.670374419e-8; // W/(m²·K⁴), CODATA 2018

/// The heat balance of every unknown: what flows in minus what flows out, W.
///
///   balance(T) = sources + boundaries(T) − conduction(T) − contacts(T)
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

  [[nodiscard]] Index unknowns() const { return conditions_.unknowns.count; }
  [[nodiscard]] const std::vector<char>& isFixed() const { return isFixed_; }

  /// Reads the values of the conditions again, after they were replaced in place by those of another instant.
  void conditionsChanged();

  /// Sets the fixed unknowns to their temperatures.
  void applyFixed(std::span<double> temperature) const;

  /// Balance of every unknown at the given temperatures, W.
  [[nodiscard]] std::vector<double> balance(std::span<const double> temperature) const;

  /// Minus the derivative of the balance, its symmetric part: positive definite where heat has a way out, W/K.
  /// k(T) enters with its value, not its slope. Rows and columns of fixed unknowns are replaced by their diagonal.
  [[nodiscard]] SparseMatrix tangent(std::span<const double> temperature) const;

  /// What the exact tangent has beyond tangent(): the slope of k(T) and of gap radiation, times a direction, W.
  /// \param tolerance  relative, of the radiation within enclosures
  [[nodiscard]] std::vector<double> restOfTangent(std::span<const double> temperature,
                                                  std::span<const double> direction, double tolerance = 1e-9) const;
  /// Is there any such rest?
  [[nodiscard]] bool hasRest() const;
  /// Is it as large as the symmetric part, so that it must be solved with it?
  [[nodiscard]] bool stronglyCoupled() const;

  /// Largest sum of heat flows that enter or leave at these temperatures, W: the measure for small imbalances.
  [[nodiscard]] double throughput(std::span<const double> temperature) const;

  /// Flows below this are rounding: a small share of Σ(diagonal · T), W.
  [[nodiscard]] double noiseFloor(std::span<const double> temperature) const;

  /// Recomputes the constant conductances of all elements; public for the benchmark.
  void assembleConduction();

  [[nodiscard]] bool linear() const;

  /// Which of what is solved inside the balance (light in enclosures, electric potential) was not found at the last
  /// temperatures; empty: all was.
  [[nodiscard]] std::string unsolvedInside() const;

private:
  void buildPattern();
  void moveWrongWay(); ///< to the diagonal
  void addConstantSurfaces();
  void addSources();
  void addTermSlopes(std::span<const double> temperature, SparseMatrix& matrix) const;
  void addBlock(const SurfaceNodes& rows, const SurfaceNodes& columns, const NodeMatrix& block,
                SparseMatrix& matrix) const;
  void mirror(SparseMatrix& matrix) const; // lower half onto the upper
  [[nodiscard]] SurfaceNodes nodes(std::size_t element, std::size_t side) const
  {
    return nodesOf(mesh_, conditions_.unknowns, element, side);
  }
  [[nodiscard]] NodeVector values(std::size_t element, std::size_t side, std::span<const double> temperature) const
  {
    return valuesAt(nodes(element, side), temperature);
  }
  /// Calls with every surface element whose flow is not linear in its temperatures.
  template <class Visit>
  void eachBentFlow(std::span<const double> temperature, Visit&& visit) const;
  template <class Visit>
  void eachGapRadiation(std::span<const double> temperature, Visit&& visit) const;

  const Mesh& mesh_;
  const Conditions& conditions_;
  bool monotone_;
  SparseMatrix constant_; ///< conduction, contacts, convection with constant coefficients; lower half while built
  LargeVector<double> conduction_; ///< constant conductances of the elements: the lower half, row by row
  std::vector<Index> mirror_;      ///< position of the transposed entry
  std::vector<double> load_;       ///< sources and h·ambient, W
  std::vector<char> isFixed_;
  std::vector<std::vector<std::int32_t>> elementsOfFace_;
  Conduction elements_;
};

} // namespace kiln
