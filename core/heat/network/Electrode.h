// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// What passes through a surface with a voltage or a current.
struct ElectrodeFigure {
  int boundary = 0;   ///< index in the project
  double voltage = 0; ///< V, mean
  double current = 0; ///< A into the part
  double watts = 0;   ///< electric power put in, W; negative where it is taken out
};

} // namespace kiln
