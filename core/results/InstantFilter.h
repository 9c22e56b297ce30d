// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

namespace kiln
{

/// Decides which instants of a run are kept: as few as let lines between the kept ones reproduce every offered one
/// within a tolerance. One pass with a narrowing fan of slopes for each value ("swinging door").
class InstantFilter
{
public:
  struct Kept {
    double time = 0;
    std::vector<double> values;
  };

  /// Offers the next instant. \return the instant before it when that one must be kept
  [[nodiscard]] std::optional<Kept> offer(double time, std::span<const double> values, double tolerance);
  /// Keeps this instant whatever the fans say; \return the pending one before it, if there is one
  [[nodiscard]] std::optional<Kept> keep(double time, std::span<const double> values);

private:
  void startFrom(double time, std::span<const double> values);
  [[nodiscard]] bool narrow(double time, std::span<const double> values, double tolerance);

  bool begun_ = false;
  double from_ = 0;
  std::vector<double> origin_, low_, high_;
  std::optional<Kept> last_; ///< offered after the origin and not kept yet
};

} // namespace kiln
