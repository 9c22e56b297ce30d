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
    Settles,  ///< differences shrink as they should: extrapolated
    Equal,    ///< no difference beyond rounding
    Swings,   ///< differences change sign: the bar is their spread
    Diverges, ///< differences do not shrink: singular corner or point source
    Twin      ///< two meshes only: the bar is some times their difference
  };
  Verdict verdict = Verdict::Equal;
  double order = 0;        ///< observed, of Settles; at most what the elements have
  double extrapolated = 0; ///< value for a size of zero; of the finest mesh where it does not settle
  double bar = 0;          ///< how far the middle mesh may be from the truth
};

/// Richardson's extrapolation with the observed order (Celik et al. 2008 for sizes that do not shrink by one factor).
/// The bar is a factor of safety times the distance of the middle mesh from the extrapolated value: 1.25 where the
/// observed order is near that of the elements, 3 elsewhere (Oberkampf, Roy 2010), and never less than what the coarser
/// two meshes foretell at the elements' order: on meshes that are not of one family the finer difference may be small
/// by chance.
/// \param meshes  from the coarsest to the finest, sizes strictly falling
/// \param noise   differences below this come from the solver, in the unit of the values
/// \param formal  order of the elements: 2, or 3 at second order
[[nodiscard]] Convergence convergenceOf(const std::array<MeshedValue, 3>& meshes, double noise = 0, double formal = 2);

/// What a figure and that of a coarser twin say: the bar is three times what their difference foretells at order one,
/// and what a step may miss, as the errors of mesh and steps may just cancel in the difference.
/// \param step  in the figure's unit
[[nodiscard]] Convergence convergenceOfTwin(const MeshedValue& coarse, const MeshedValue& own, double step);

} // namespace kiln
