// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Progress.h"
#include "heat/radiation/SymmetricProduct.h"
#include "mesh/Patches.h"

#include <functional>
#include <vector>

namespace kiln
{

/// How much each patch of an enclosure sees of each other one.
struct ViewFactors {
  UpperHalf exchange;          ///< areas A_i·F_ij of pairs of patches, m²
  Eigen::VectorXd self;        ///< A_i·F_ii by patch, m²
  Eigen::VectorXd area;        ///< by patch, m²
  Eigen::VectorXd opening;     ///< A_i·F_i,opening by patch, m²; zero where the enclosure is closed
  int rays = 0;                ///< from each patch
  double escaped = 0;          ///< share of all rays, by area, that met none of the patches
  std::size_t mostEscaped = 0; ///< the patch that loses the largest share of its rays
  double reciprocityError = 0; ///< Σ|A_i F_ij − A_j F_ji| ÷ Σ A_i F_ij before it was enforced
  double correction = 0;       ///< Σ|change| ÷ Σ A_i F_ij made to enforce reciprocity and closure
};

/// Counts rays: each patch sends \p rays of them from places spread over its area in directions spread by the cosine
/// of the angle to the normal (an additive quasi-random sequence, shifted for every patch). Whatever other exposed face
/// stands in the way casts its shadow. Then reciprocity is enforced by the mean of both directions and closure by a
/// symmetric scaling D·G·D of the exchange areas; what is left of the row sums goes to the patch itself.
/// Source: Howell, Menguc, Siegel, Thermal Radiation Heat Transfer (view factors by Monte Carlo); Sinkhorn, Knopp
/// (1967).
/// \param areas  of the patches, m²
/// \param open   rays that meet no patch see an opening; if not, they must be few
/// Fails, naming what is wrong: a patch that sees nothing, a closed enclosure that loses more than 1 % of its view.
[[nodiscard]] Expected<ViewFactors> castViewFactors(const Mesh& mesh, const Patches& patches,
                                                    const Eigen::VectorXd& areas, int rays, bool open, unsigned threads,
                                                    const Progress& progress);

/// Where view factors come from: cast anew, or read from a store.
using ViewFactorSource = std::function<Expected<ViewFactors>(const Mesh&, const Patches&, const Eigen::VectorXd& areas,
                                                             int rays, bool open)>;

} // namespace kiln
