// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <vector>

namespace kiln
{

/// Has it a melting range with a latent heat?
[[nodiscard]] bool canMelt(const Material& material);

/// Does it melt at a single temperature, which then says nothing of how much of it is molten?
[[nodiscard]] bool meltsAtOnce(const Material& material);

/// Share of a material that is molten at a temperature, 0…1: rises by a line over its melting range.
[[nodiscard]] double moltenShare(const Material& material, double temperature);

/// Melting range, K. A single temperature counts as a hundredth of a kelvin around it, so that a temperature tells how
/// much is molten.
struct MeltingRange {
  double from = 0, to = 0;
};
[[nodiscard]] MeltingRange meltingRange(const Material& material);

/// Heat stored in a kilogram or node as a function of temperature: ∫ c dT plus the latent heat.
class Enthalpy
{
public:
  /// J/kg; needs a specific heat.
  explicit Enthalpy(const Material& material);
  /// c times T: a lumped capacity.
  explicit Enthalpy(double capacity);

  /// J per unit from 0 K.
  [[nodiscard]] double at(double temperature) const;
  /// Its slope, J/(unit·K).
  [[nodiscard]] double slopeAt(double temperature) const;
  /// The temperature at which it is so large, K.
  /// \param near  K, a guess
  [[nodiscard]] double temperatureAt(double heat, double near) const;
  [[nodiscard]] bool melts() const { return latent_ > 0; }
  [[nodiscard]] const MeltingRange& range() const { return range_; }
  [[nodiscard]] bool constant() const { return latent_ <= 0 && specific_.table.empty(); }

private:
  Property specific_;
  std::vector<double> sums_; // ∫ c dT from 0 K to each point of the table
  double latent_ = 0;
  MeltingRange range_;
};

} // namespace kiln
