// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/LimitSearch.h"

namespace kiln
{

/// A point of the way to the best one.
struct BestStep {
  AskedPoint point;
  PointAnswer answer;
  std::optional<double> aim;    ///< SI, of the watch that counts
  std::optional<double> margin; ///< the smallest share by which a limit is kept; below zero: it is not
  bool best = false;            ///< so far
};

struct BestAnswer {
  std::vector<BestStep> steps; ///< all that was solved, in order
  std::optional<std::size_t> best;
  std::string words;
};

/// Told after every solve.
using BestProgress = std::function<void(const BestAnswer&)>;

/// The least (or most) of a watch that keeps the limits of all others. Numbers go downhill without slopes (COBYLA of
/// NLopt, M. J. D. Powell 1994), where it was asked for after a look all over their ranges (DIRECT-L, Gablonsky and
/// Kelley 2001); whole numbers are rounded on the way and their neighbours tried at the end; lists are tried each.
[[nodiscard]] BestAnswer searchBest(const Project& seen, const AskBest& ask, const std::vector<AskedAxis>& axes,
                                    const SolvePoints& solve, const BestProgress& progress);

} // namespace kiln
