// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/Conditions.h"
#include "heat/elements/Enthalpy.h"
#include "heat/elements/SparseMatrix.h"

#include <span>
#include <vector>

namespace kiln
{

/// Heat stored at every unknown as a function of the temperatures: H_i = Σ_j M_ij h(T_j), with h the enthalpy of a
/// kilogram and M the mass, scaled so that every part has its exact one. At first order M is lumped: a quarter of every
/// tetrahedron at each of its nodes. At second order it is consistent, ∫ρ N_i N_j dV, so that what is stored integrates
/// with the shape functions of conduction. Sheets likewise; lumped nodes and wires store at their own unknowns.
class HeatStore
{
public:
  /// Fails naming the part whose material has no density or specific heat.
  static Expected<HeatStore> make(const Project& project, const Mesh& mesh, const Conditions& conditions);

  /// J by unknown, from 0 K.
  [[nodiscard]] std::vector<double> stored(std::span<const double> temperature) const;
  /// J by part of the mesh, then by node of the project, from 0 K.
  [[nodiscard]] std::vector<double> storedByPart(std::span<const double> temperature) const;
  [[nodiscard]] bool stores(UnknownId unknown) const { return stores_[static_cast<std::size_t>(unknown)] != 0; }

  /// Adds \p factor times the slope of what is stored, J/K, to a matrix; its part that is symmetric. Rows and columns
  /// of fixed unknowns get their diagonal alone.
  void addSlope(std::span<const double> temperature, double factor, const std::vector<char>& fixed,
                SparseMatrix& matrix) const;
  /// Slope of the lumped ones, J/K by unknown; for what is consistent, a lumped likeness of it.
  [[nodiscard]] std::vector<double> slope(std::span<const double> temperature) const;

  /// Rates of temperature, K/s, that belong to rates of storing, W; zero where fixed or nothing is stored.
  [[nodiscard]] std::vector<double> ratesOf(std::span<const double> temperature, std::span<const double> storing,
                                            const std::vector<char>& fixed) const;
  /// The reverse, W.
  [[nodiscard]] std::vector<double> storingOf(std::span<const double> temperature, std::span<const double> rates) const;
  /// Does each unknown store by its own temperature alone?
  [[nodiscard]] bool lumped() const { return cells_.empty(); }

  [[nodiscard]] bool melts() const { return melts_; }
  /// Where every unknown stores by its own temperature: the temperature at which it holds so many joules.
  /// \param near  K, used where it stores nothing
  [[nodiscard]] double temperatureAt(UnknownId unknown, double joules, double near) const;

  [[nodiscard]] bool constant() const { return constant_; }
  [[nodiscard]] std::size_t owners() const { return owners_; }

private:
  struct Share {
    UnknownId unknown;
    std::int32_t enthalpy;
    std::int32_t owner; // part, or parts + node
    double amount;      // kg, or 1
  };
  /// An element of second order.
  struct Cell {
    std::array<UnknownId, 10> nodes{};
    std::int32_t count = 10;
    std::int32_t enthalpy = 0;
    std::int32_t owner = 0;
    std::int32_t own = -1; // its mass matrix among masses_; -1: that of a straight tetrahedron
    double amount = 0;     // kg, where it is
  };
  void addParts(const Mesh& mesh, const Conditions& conditions, const std::vector<double>& density);
  Expected<void> addOwnVolumes(const Project& project, const HeatGround& ground, const HeatFlow& flow);
  void addCell(std::span<const UnknownId> nodes, std::int32_t enthalpy, std::int32_t owner, const VolumeMatrix& mass);
  std::int32_t addEnthalpy(Enthalpy enthalpy);
  void finish();
  [[nodiscard]] double mass(const Cell& cell, std::size_t i, std::size_t j) const
  {
    return cell.own < 0 ? cell.amount * straightMass()(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j))
                        : masses_[static_cast<std::size_t>(cell.own)](static_cast<Eigen::Index>(i),
                                                                      static_cast<Eigen::Index>(j));
  }
  /// Adds M times values at the nodes of every cell.
  template <class ValuesAt>
  void eachCell(ValuesAt&& valuesAt, std::span<double> sums) const;
  [[nodiscard]] double specificHeatIn(const Cell& cell, std::span<const double> temperature) const;

  std::vector<Enthalpy> enthalpies_;
  std::vector<Share> shares_;
  std::vector<std::size_t> firstShare_; // by unknown; one more at the end
  std::vector<Cell> cells_;
  std::vector<Eigen::Matrix<double, 10, 10>> masses_; // of bent elements and sheets
  std::vector<char> stores_;
  std::size_t unknowns_ = 0, owners_ = 0;
  bool melts_ = false, constant_ = true;
};

} // namespace kiln
