// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "solve/RunEvent.h"
#include "solve/RunLimits.h"
#include "solve/TemperatureBounds.h"
#include "solve/TwoStageStep.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace kiln
{

/// A run that goes on from where it stopped: what had happened by then.
struct RunPast {
  double beganAt = 0;                 ///< s
  std::vector<double> startedFrom;    ///< temperatures then, by unknown, K; empty where they are not known
  std::set<std::string> off;          ///< sources their thermostats had switched off
  std::vector<std::string> fired;     ///< rules, in the order in which they fired
  std::set<std::string> passed;       ///< end and run rules whose value a watch had passed
  std::optional<BoundsReport> bounds; ///< as measured until then; nothing after a kill
};

/// What waits for watches during a run: thermostats, rules, and end rules that ask for a value.
class RunTriggers
{
public:
  /// \param limits  whose end rules may change while the run goes
  RunTriggers(TimedModel& model, const TransientRun& run, const RunLimits& limits)
      : model_(model), run_(run), limits_(limits)
  {
  }

  /// Thermostats that start above their set point are off.
  void begin(const std::vector<double>& temperature);
  /// Thermostats and rules are as they were; what had been passed just before the run was interrupted takes effect.
  [[nodiscard]] Expected<void> recall(const RunPast& past, const TimedState& now, std::vector<RunEvent>& events);

  /// Length of the step to the first crossing inside it; nothing when there is none or it lies at the end.
  [[nodiscard]] std::optional<double> firstCrossing(const TimedState& from, const StepAttempt& tried, double length);

  /// Takes in what a step has passed.
  void note(const TimedState& before, const TimedState& now);
  /// Switches thermostats and carries out rules whose values were passed. \return whether anything changed
  [[nodiscard]] Expected<bool> apply(const TimedState& now, std::vector<RunEvent>& events);

  /// Why a rule that asks for a value ends the run; empty while it does not. A value once passed stays passed.
  [[nodiscard]] std::string reasonOf(const EndRule& rule) const;
  /// Why a rule that fired ends the run; empty while none does.
  [[nodiscard]] const std::string& endReason() const { return endReason_; }
  [[nodiscard]] const std::vector<std::string>& fired() const { return fired_; }

private:
  /// A watch value that something waits for.
  struct Threshold {
    std::string owner; ///< id of the rule or source
    std::string watch;
    double value = 0;
    bool falling = false;
  };
  [[nodiscard]] std::vector<Threshold> thresholds() const;
  [[nodiscard]] std::optional<double> valueOf(const std::string& watch, const std::vector<double>& temperature);
  [[nodiscard]] bool hasFired(const std::string& rule) const;
  [[nodiscard]] std::string words(const std::string& watch, double value, bool falling) const;
  void switchThermostats(double time, std::vector<RunEvent>& events);
  [[nodiscard]] Expected<void> fireRules(double time, std::vector<RunEvent>& events);

  TimedModel& model_;
  const TransientRun& run_;
  const RunLimits& limits_;
  std::map<std::string, std::optional<WatchReader>> readers_;
  std::vector<std::string> fired_; ///< in order
  std::set<std::string> passed_;   ///< owners whose value was passed and has not taken effect, or end rules
  std::string endReason_;
};

/// Did a value go past another between two instants, to the accuracy with which crossings are found?
[[nodiscard]] bool hasPassed(double before, double after, double length, double value, bool falling);

} // namespace kiln
