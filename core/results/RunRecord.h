// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "mesh/Mesh.h"
#include "model/Project.h"
#include "solve/TemperatureBounds.h"

#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// One recorded quantity of a run, at the start and after every step.
struct RunTrace {
  enum class Kind {
    Watch,          ///< value of a temperature watch, K
    WatchSlope,     ///< its rate, K/s
    WatchPlace,     ///< mesh node where it is, −1 for none
    Source,         ///< W
    Boundary,       ///< W into the solids
    Node,           ///< W into a lumped node from outside
    NodeState,      ///< K
    Hottest,        ///< of a part, K
    Mean,           ///< of a part, K
    Stored,         ///< heat of a part or node since the start, J
    SourceEnergy,   ///< J since the start
    BoundaryEnergy, ///< J since the start
    In,             ///< W
    Out,            ///< W
    Storing,        ///< W
    InEnergy,       ///< J since the start
    OutEnergy,      ///< J since the start
    Fastest,        ///< largest rate, K/s
    FastestPlace,   ///< mesh node
    StoredEnergy,   ///< of everything since the start, J
    Switch,         ///< of a source with a thermostat: 1 on, 0 off
    Fired,          ///< of a rule: 0, or as how many it fired
    Coldest,        ///< of a part, K
    Heating,        ///< largest rate within a part, K/s
    HeatingPlace,   ///< mesh node
    Cooling,        ///< smallest rate within a part, K/s
    CoolingPlace,   ///< mesh node
    Contact,        ///< through a contact, by its pair: W from the first part to the second
    Link,           ///< W from A to B
    Path            ///< heat into a part by an owner, by their pair, W
  };
  Kind kind = Kind::Watch;
  std::string id; ///< of the watch, source, boundary, part or node; empty for the whole
  std::vector<double> values;
};

/// Something that happened, for the marks of the strip.
struct RunMark {
  enum class Kind { Breakpoint, SwitchedOn, SwitchedOff, RuleFired, Ended };
  double time = 0;
  Kind kind = Kind::Breakpoint;
  std::string id, text;
};

/// The course of a transient case: every step's figures; the fields themselves stay in the file.
struct RunRecord {
  std::string caseId, solutionHash;
  std::string
      courseHash; ///< of all that decides the course but not its length and storing: runs with the same can go on
  double startTime = 0;
  std::vector<double> times;    ///< s, the start and every step
  std::vector<double> instants; ///< s, those with a stored field
  std::vector<RunTrace> traces;
  std::vector<RunMark> marks;
  bool finished = false;
  // Known when it has finished:
  std::string reason; ///< why it ended
  bool byCap = false;
  std::optional<double> remaining; ///< K, how far the farthest place still is from where everything would settle
  BoundsReport bounds;
  double worstImbalance = 0; ///< of any step, of the largest throughput
  double imbalance = 0;      ///< of the whole run, of the heat that entered or left
  int steps = 0, rejected = 0, newtonSteps = 0;
  double seconds = 0;
  std::string startNote;     ///< how well a start from another mesh fitted
  std::string startIdentity; ///< identity of the result it started from; empty: of none
  /// Watch values of the steady state it would have gone to, where that was asked for.
  std::vector<std::pair<std::string, double>> steadyAfter;

  [[nodiscard]] const RunTrace* find(RunTrace::Kind kind, const std::string& id = {}) const;
  /// Value of a trace at an instant, by a line between steps.
  [[nodiscard]] std::optional<double> at(RunTrace::Kind kind, const std::string& id, double time) const;
};

/// A value at an instant.
struct TimedValue {
  double time = 0, value = 0;
  NodeId place{}; ///< none: unknown
};

/// How long and how hot: what a run says about one watched temperature.
struct RunAnswers {
  double start = 0, end = 0; ///< K
  TimedValue peak, trough;   ///< between steps too
  bool peakPassed = false;   ///< it fell after the peak
  bool stillRising = false, stillFalling = false;
  std::optional<double> crossedUpper, crossedLower; ///< s, first
  double aboveUpper = 0, belowLower = 0;            ///< s in all
  std::optional<double> reached63, reached95;       ///< s after the start, of the change from start to end
  std::optional<double> settled;                    ///< s after the start: within the band of the end from then on
  TimedValue fastestHeating, fastestCooling;        ///< K/s
};

/// \param values  at \p times, with \p slopes (K/s) where they are known (else empty) and \p places (mesh nodes)
/// \param band    K around the last value for `settled`
[[nodiscard]] RunAnswers answersOf(const std::vector<double>& times, const std::vector<double>& values,
                                   const std::vector<double>& slopes, const std::vector<double>& places,
                                   std::optional<double> upper, std::optional<double> lower, double band);

/// The same for a watch of the record; nothing when it was not recorded.
/// \param band  nothing: usualBand
[[nodiscard]] std::optional<RunAnswers> answersOf(const RunRecord& record, const Watch& watch,
                                                  std::optional<double> band = std::nullopt);

/// How long and how hot one part was, over a run.
struct PartInTime {
  std::string id;
  RunAnswers hottest;                        ///< of its hottest place
  TimedValue spread;                         ///< largest difference within it, K, and when
  TimedValue fastestHeating, fastestCooling; ///< of any of its places, K/s
};
/// Of every part of the record that was recorded so.
/// \param band  K around the last value for `settled`; nothing: usualBand
[[nodiscard]] std::vector<PartInTime> partsInTime(const RunRecord& record, std::optional<double> band);

/// When all parts have settled, s after the start.
[[nodiscard]] std::optional<double> allSettled(const std::vector<PartInTime>& parts);

/// Marks of what the traces of an unfinished run show: switchings of thermostats and rules that fired.
[[nodiscard]] std::vector<RunMark> marksOfTraces(const RunRecord& record);

/// What a thermostat did over a run.
struct ThermostatReport {
  double on = 0;      ///< share of the time
  int switchings = 0; ///< from on to off and back
  double energy = 0;  ///< J
};
/// Nothing when the source has no thermostat that switches.
[[nodiscard]] std::optional<ThermostatReport> thermostatReport(const RunRecord& record, const std::string& source);

/// Heat over a part of a run.
struct WindowEnergy {
  double in = 0, out = 0, stored = 0; ///< J
};
[[nodiscard]] WindowEnergy energyBetween(const RunRecord& record, double from, double to);

/// One percent of the change, but not below a tenth of a kelvin.
[[nodiscard]] double usualBand(const std::vector<double>& values);

} // namespace kiln
