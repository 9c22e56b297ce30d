// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/StageSolver.h"
#include "solve/TimedModel.h"

#include <optional>
#include <vector>

namespace kiln
{

/// How far a run still has to go: the temperatures it would reach if everything stayed as it is now, after a time much
/// longer than it has run, less those it has. One long implicit step of the model itself, so that neither slow modes
/// nor places that the change has not reached yet are overlooked.
class Settling
{
public:
  Settling(const TimedModel& model, LinearBackend backend) : model_(model), stages_(model, backend) {}

  /// \param temperature  by unknown, K
  /// \param elapsed      s since the run began
  /// \return by unknown, K; nothing when the end of it cannot be found
  [[nodiscard]] std::optional<std::vector<double>> remaining(const std::vector<double>& temperature, double elapsed);

  /// The largest of what remains over what may: \p within, or, where it is 0, 1 % of the change since \p start or 0.1
  /// K, whichever is larger. Settled where it is at most 1.
  [[nodiscard]] static double excess(const std::vector<double>& remaining, const std::vector<double>& temperature,
                                     const std::vector<double>& start, double within);

private:
  const TimedModel& model_;
  StageSolver stages_;
};

} // namespace kiln
