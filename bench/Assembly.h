// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/ThermalSystem.h"

#include <algorithm>

namespace kiln
{

/// Conduction of all parts, from nothing.
inline void assembleConduction(const ThermalSystem& system)
{
  static LargeVector<double> lower;
  lower.resize(system.conduction().lowerEntries());
  std::fill(lower.begin(), lower.end(), 0.0);
  system.conduction().addConstantTo(lower);
}

} // namespace kiln
