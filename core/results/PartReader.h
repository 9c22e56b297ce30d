// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "results/Figures.h"

#include <span>
#include <vector>

namespace kiln
{

/// Reads the hottest and coldest places and the mean of every part from fields on one mesh, one after the other.
class PartReader
{
public:
  /// Both must outlive it.
  PartReader(const Mesh& mesh, const Unknowns& unknowns);

  /// \param temperature  by unknown, K
  [[nodiscard]] std::vector<PartFigures> read(std::span<const double> temperature) const;

private:
  struct Share {
    UnknownId unknown;
    double volume; ///< m³
  };
  const Mesh& mesh_;
  const Unknowns& unknowns_;
  std::vector<std::vector<Share>> shares_; ///< by part, in the order of its elements
};

} // namespace kiln
