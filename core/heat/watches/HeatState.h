// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"

#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// One row of the contacts band.
struct ContactFigure {
  std::string partA, partB; ///< ids
  double area = 0;          ///< m²
  double watts = 0;         ///< from A to B
};

/// One flow of the ledger as it was when the case was solved.
struct LedgerFlow {
  std::string id;
  double watts = 0;
};

/// What crosses faces, contacts and links at an instant.
struct HeatState {
  const FaceTable& geometry;
  std::span<const double> faceHeat;    ///< by face, W into the solid
  std::span<const double> contactHeat; ///< by face, from parts[0] to parts[1], W
  std::span<const ContactFigure> gaps;
  std::span<const LedgerFlow> links;
};

/// Heat and area of every touching pair, then of gaps.
[[nodiscard]] std::vector<ContactFigure> contactFigures(const HeatState& heat);

} // namespace kiln
