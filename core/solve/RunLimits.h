// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

namespace kiln
{

/// How far and how exactly a run goes. Handed over as a value; whoever watches the run may hand over others.
struct RunLimits {
  double tolerance = 0;   ///< K a step, 0: usualTolerance
  double largestStep = 0; ///< s, 0: no bound
  double convergence = 0; ///< share of what flows that a step's balance may miss; 0: usualConvergence
  double longest = 0;     ///< s after the start, 0: usualLongest
  std::vector<EndRule> ends;
  bool endWhenAll = false;
};

/// Those that a case asks for.
[[nodiscard]] inline RunLimits limitsOf(const TransientRun& run)
{
  const auto value = [](const std::optional<Number>& number) { return number ? number->si : 0.0; };
  return {value(run.tolerance), value(run.largestStep), value(run.convergence), value(run.longest), run.ends,
          run.endWhenAll};
}

} // namespace kiln
