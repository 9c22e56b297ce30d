// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Views.h"
#include "results/CaseResult.h"

#include <span>
#include <unordered_map>
#include <vector>

namespace kiln
{

/// Is it a field of a solution besides its temperature, with values at the nodes?
[[nodiscard]] bool isSolutionField(Shown shown);

/// Heat flux of every element at these temperatures, W/m².
/// \param temperature  by unknown of the result, K
[[nodiscard]] std::vector<Vec3> elementFlux(const Project& project, const CaseResult& result,
                                            std::span<const double> temperature);

/// A field that may differ between parts that share an unknown.
class PartwiseField
{
public:
  PartwiseField() = default;
  explicit PartwiseField(std::size_t unknowns) : value_(unknowns, 0.0), part_(unknowns, noPart) {}

  void set(UnknownId unknown, PartId part, double value);
  [[nodiscard]] double at(UnknownId unknown, PartId part) const;
  [[nodiscard]] bool empty() const { return value_.empty(); }

private:
  static std::uint64_t key(UnknownId unknown, PartId part)
  {
    return static_cast<std::uint64_t>(unknown) << 16U | static_cast<std::uint16_t>(part);
  }

  std::vector<double> value_; ///< of the first part at each unknown
  std::vector<PartId> part_;  ///< which that is
  std::unordered_map<std::uint64_t, double> others_;
};

/// Every part has its own values where parts meet.
/// \param field    one of those above
/// \param ownAxes  x, y and z are the axes of each part's material
[[nodiscard]] PartwiseField fieldValues(const Project& project, const CaseResult& result,
                                        std::span<const double> temperature, Shown field, bool ownAxes = false);

/// Of each element by itself, nothing recovered or taken the mean of: sizes and components of the heat flux, W/m², and
/// size of the gradient, K/m; empty for other fields.
[[nodiscard]] std::vector<double> elementValues(const Project& project, const CaseResult& result,
                                                std::span<const double> temperature, Shown field, bool ownAxes = false);

} // namespace kiln
