// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/StageSolver.h"
#include "solve/TimedModel.h"

#include <functional>
#include <optional>
#include <vector>

namespace kiln
{

/// Reads whatever flows the caller wants summed, W, at temperatures and rates of storing (by unknown, W) that belong to
/// the model's present conditions.
using FlowMeter = std::function<std::vector<double>(const TimedModel&, std::span<const double> temperature,
                                                    std::span<const double> storing)>;

/// Temperatures with the heat they store and how fast.
struct TimedState {
  double time = 0;
  std::vector<double> temperature; // K
  std::vector<double> stored;      // J
  std::vector<double> storing;     // W
  std::vector<double> rate;        // K/s, 0 where nothing is stored
};

/// A state on the way, beside those that are behind.
struct WayPoint {
  double time = 0; ///< s
  const std::vector<double>* temperature = nullptr;
};

/// Where Newton's method begins: temperatures a while ahead as the course so far suggests.
/// \param between  a state that is already known; nothing: none is
using StepGuess = std::function<std::vector<double>(double ahead, std::optional<WayPoint> between)>;

/// A try at one step; \p next is only filled when it converged.
struct StepAttempt {
  TimedState next;
  std::vector<double> firstStoring; // W at the first stage
  std::vector<double> energies;     // J, as metered, by the method's own weights
  std::vector<double> flows;        // W at the end
  double error = 0;                 // K
  bool converged = false;
  std::vector<char> limited; ///< unknowns held within bounds; empty: none
};

/// One step of a singly diagonally implicit Runge–Kutta method of two stages: second order, L-stable, stiffly accurate
/// (γ = 1 − 1/√2; Alexander 1977).
class TwoStageStep
{
public:
  static constexpr double gamma = 0.29289321881345247560;

  TwoStageStep(TimedModel& model, LinearBackend backend) : model_(model), stages_(model, backend) {}

  /// \param now  with `stored` of this model's store
  [[nodiscard]] Expected<StepAttempt> attempt(const TimedState& now, double step, const StageSolver::Accuracy& wanted,
                                              const StepGuess& guess, const FlowMeter& meter);

  /// Local error by unknown, K: γ-weighted second difference of the rates of storing, brought to temperatures by the
  /// step's own matrix so that what is stiff does not frighten. For T' = λT the difference is the leading error
  /// −0.0404 h³λ³T of the method. What melts or freezes within the step is judged by the heat it takes for a kelvin on
  /// the way, latent heat included: its temperature does not jump however fast its heat comes and goes.
  /// \param storing  W at the start of the step
  [[nodiscard]] std::vector<double> errorsOf(const TimedState& now, const std::vector<double>& storing,
                                             const StepAttempt& tried) const;

  /// Rates of temperature that belong to a state's storing, K/s.
  [[nodiscard]] std::vector<double> ratesOf(const TimedState& state) const
  {
    return model_.store().ratesOf(state.temperature, state.storing, model_.system().isFixed());
  }

  [[nodiscard]] StageSolver& stages() { return stages_; }

private:
  TimedModel& model_;
  StageSolver stages_;
};

} // namespace kiln
