// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/Conditions.h"
#include "heat/Enthalpy.h"

#include <span>
#include <vector>

namespace kiln
{

/// Heat stored at every unknown as a function of its temperature: lumped at the nodes, the exact mass of every part
/// shared by volume, and the capacities of lumped nodes.
class HeatStore
{
public:
  /// Fails naming the part whose material has no density or specific heat.
  static Expected<HeatStore> make(const Project& project, const Mesh& mesh, const Conditions& conditions);

  /// J by unknown, from 0 K.
  [[nodiscard]] std::vector<double> stored(std::span<const double> temperature) const;
  /// Its slope, J/K by unknown; 0 for what stores nothing.
  [[nodiscard]] std::vector<double> slope(std::span<const double> temperature) const;
  /// J by part of the mesh, then by node of the project, from 0 K.
  [[nodiscard]] std::vector<double> storedByPart(std::span<const double> temperature) const;

  /// Largest step from \p temperature along \p update that stops at the bends of melting materials, by unknown: changes
  /// the update of unknowns that would cross one.
  void stopAtBends(std::span<const double> temperature, std::span<double> update) const;
  [[nodiscard]] bool melts() const { return melts_; }
  [[nodiscard]] bool constant() const { return constant_; }
  [[nodiscard]] std::size_t owners() const { return owners_; }

private:
  struct Share {
    Index unknown;
    std::int32_t enthalpy;
    std::int32_t owner; // part, or parts + node
    double amount;      // kg, or 1
  };
  Expected<void> addWires(const Project& project, const Conditions& conditions);
  Expected<void> addSheets(const Project& project, const Mesh& mesh, const Conditions& conditions);

  std::vector<Enthalpy> enthalpies_;
  std::vector<Share> shares_;
  std::size_t unknowns_ = 0, owners_ = 0;
  bool melts_ = false, constant_ = true;
};

} // namespace kiln
