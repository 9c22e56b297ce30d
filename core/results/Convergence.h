// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>

namespace kiln
{

/// A figure on one mesh.
struct MeshedValue {
  double size = 0; ///< mean edge length, any unit
  double value = 0;
};

/// What three meshes say of a figure.
struct Convergence {
  enum class Verdict {
    Settles, ///< differences shrink as they should: extrapolated
    Equal,   ///< no difference beyond rounding
    Swings,  ///< differences change sign: the bar is their spread
    Diverges ///< differences do not shrink: singular corner or point source
  };
  Verdict verdict = Verdict::Equal;
  double order = 0;        ///< observed, of Settles; at most 2, what the elements have
  double extrapolated = 0; ///< value for a size of zero; of the finest mesh where it does not settle
  double bar = 0;          ///< how far the middle mesh may be from the truth
};

/// Richardson's extrapolation with the observed order; the bar is 1.25 times the distance of the middle mesh from the
/// extrapolated value (Roache 1994; Celik et al. 2008 for sizes that do not shrink by one factor).
/// \param meshes  from the coarsest to the finest, sizes strictly falling
[[nodiscard]] Convergence convergenceOf(const std::array<MeshedValue, 3>& meshes);

} // namespace kiln
