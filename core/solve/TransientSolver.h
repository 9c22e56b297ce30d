// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "solve/LinearSolver.h"
#include "solve/RunLimits.h"
#include "solve/RunTriggers.h"
#include "solve/TemperatureBounds.h"
#include "solve/TwoStageStep.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// One accepted step, from \p from to \p time.
struct AcceptedStep {
  double from = 0, time = 0; ///< s; equal at the start and where conditions jump: rates and flows are those after it
  const TimedModel* model = nullptr;
  std::span<const double> temperature; ///< at the end, by unknown, K
  std::span<const double> rate;        ///< K/s at the end; 0 where nothing is stored
  std::span<const double> storing;     ///< W going into store at the end, by unknown
  double fastest = 0;                  ///< largest |rate|, K/s
  UnknownId fastestAt;
  std::span<const double> flows;    ///< as metered at the end, W
  std::span<const double> energies; ///< the same over the step, by the method's own weights, J
  double stored = 0;                ///< over the step, J
  /// Heat that temperatures held anew took at the step's start, all at once; part of `stored`.
  struct Jump {
    FlowOwner owner; ///< what holds them
    double joules = 0;
  };
  std::span<const Jump> jumps;
  std::span<const std::string> fired; ///< rules so far, in their order
};

/// What whoever watches a run wants after a step.
struct StepAnswer {
  bool goesOn = true;              ///< false: the run ends here and is kept
  std::optional<RunLimits> limits; ///< others from here on
};
/// Called at the start and after every accepted step.
using StepObserver = std::function<Expected<StepAnswer>(const AcceptedStep&)>;

struct TransientOptions {
  double startTime = 0; ///< s
  RunLimits limits;
  LinearBackend backend = LinearBackend::Automatic;
  std::optional<RunPast> past; ///< of a run that goes on
};
inline constexpr double usualTolerance = 0.1; // K
inline constexpr double usualConvergence = 8e-7;
inline constexpr double usualLongest = 30 * 86400.; // s

/// How a run ended.
struct TransientSolution {
  std::vector<double> temperature; ///< at the end, by unknown, K
  double time = 0;                 ///< s
  std::string reason;              ///< "settled: no place changes faster than 0.1 K/min"
  bool byCap = false;              ///< no end rule was met before the longest time
  int steps = 0, rejected = 0, newtonSteps = 0, linearIterations = 0, preparations = 0;
  double linearSeconds = 0;
  std::string linearSolver;
  BoundsReport bounds;
  std::optional<double> remaining; ///< K, how far the farthest place still is from where everything would settle
  std::vector<RunEvent> events;
};

/// Temperatures in time by steps of two implicit stages (TwoStageStep), held within their bounds
/// (StepLimiter). Stored heat is a function of temperature, so that what is stored
/// equals what came in, whatever the step. The step follows an estimate of the local error in kelvin; breakpoints,
/// switches and crossings are hit.
///
/// \param start  temperatures by unknown of \p model, K
/// \param run    its rules; what limits it is in the options
[[nodiscard]] Expected<TransientSolution> solveTransient(TimedModel& model, const TransientRun& run,
                                                         std::vector<double> start, const TransientOptions& options,
                                                         const FlowMeter& meter, const StepObserver& observer,
                                                         const Progress& progress);

} // namespace kiln
