// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "results/ResultFields.h"

#include <memory>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// How much hotter a second result is than a first, on the first one's mesh, K. Where meshes differ, the second one's
/// temperatures are interpolated within the part of the same id, else of the same name.
struct DifferenceField {
  std::shared_ptr<const PartwiseField> kelvin; ///< by unknown and part of the first; not a number where it alone exists
  bool interpolated = false;
  /// K: what the first one's own temperatures change by on their way to the second mesh and back. The difference is no
  /// better known.
  double misfit = 0;
  double low = 0, high = 0;          ///< K, where both exist
  double mean = 0;                   ///< K, by volume, where both exist
  double shared = 0, alone = 0;      ///< m³ of the first that both have, and that it has alone
  std::vector<std::string> onlyHere; ///< ids of parts that the first has alone
  std::vector<std::string> onlyThere;
};

/// \param ownKelvin, otherKelvin  temperatures by unknown of each result's mesh
/// Fails where they have no part in common, or one is a section and the other a solid.
[[nodiscard]] Expected<DifferenceField> differenceOf(const CaseResult& own, std::span<const double> ownKelvin,
                                                     const CaseResult& other, std::span<const double> otherKelvin);

} // namespace kiln
