// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

/// A field that has another value in one case: "room.ambient" → 35 °C.
struct Change {
  std::string field;
  Number value;
  bool operator==(const Change&) const = default;
};

struct PartStart {
  std::string id; ///< of the part
  Number temperature;
  bool operator==(const PartStart&) const = default;
};
struct StartUniform {
  Number temperature{293.15, "20 °C"}; // K
  std::vector<PartStart> parts;        ///< that start otherwise
  std::optional<Number> moltenShare;   // of what starts at its melting temperature, 0…1; nothing: molten
  bool operator==(const StartUniform&) const = default;
};
/// The steady state of the same case, with schedules as they are at its start.
struct StartSteady {
  bool operator==(const StartSteady&) const = default;
};
struct StartFromCase {
  std::string of;                ///< case id
  std::string project;           ///< file of another project it belongs to, as seen from this one; empty: this one
  std::optional<Number> instant; // s, nothing: its end
  bool operator==(const StartFromCase&) const = default;
};

struct EndAtTime {
  Number time; // s
  bool operator==(const EndAtTime&) const = default;
};
/// What still has to change is small everywhere.
struct EndSettled {
  std::optional<Number> within; // K; nothing: 1 % of the change so far or 0.1 K, whichever is larger
  std::optional<Number> rate;   // K/s: no place changes faster, either
  bool operator==(const EndSettled&) const = default;
};
struct EndAtValue {
  std::string watch;
  Number value; // K
  bool falling = false;
  bool operator==(const EndAtValue&) const = default;
};
struct EndRule {
  std::string id;
  std::variant<EndAtTime, EndSettled, EndAtValue> when;
  UnknownKeys unknown;
  bool operator==(const EndRule&) const = default;
};

/// When a watch passes a value, something else changes.
struct RunRule {
  std::string id;
  std::string watch;
  Number value; // K
  bool falling = false;
  std::vector<Change> set;
  std::vector<std::string> mute, unmute; ///< ids
  bool end = false;
  UnknownKeys unknown;
  bool operator==(const RunRule&) const = default;
};

/// Temperatures are stored at one instant, or from one to another at an interval, besides those chosen by themselves.
struct StoredSpan {
  std::string id;
  Number from;                     // s
  std::optional<Number> to, every; // s, both or none
  UnknownKeys unknown;
  bool operator==(const StoredSpan&) const = default;
};

/// Stored fields of one case stay below this: they are kept at ever fewer instants as the file grows, and none beyond
/// it but the last. B.
inline constexpr double mostStored = 1e9;

/// How a transient case runs.
struct TransientRun {
  std::variant<StartSteady, StartUniform, StartFromCase> start;
  std::optional<Number> startTime;   // s
  std::vector<EndRule> ends;         ///< any of them; none: settled
  bool endWhenAll = false;           ///< all of them
  std::optional<Number> longest;     // s, it ends then at the latest
  std::optional<Number> tolerance;   // K, error of a step
  std::optional<Number> largestStep; // s
  std::optional<Number> convergence; // share of what flows that a step's balance may miss; nothing: usualConvergence
  std::optional<Number> storeWithin; // K, what lines between stored instants may miss
  std::optional<Number> storeEvery;  // s, instead of that
  std::vector<StoredSpan> storeAlso;
  std::vector<std::string> storeParts; ///< parts and groups whose temperatures are stored; none: all
  std::optional<Number> settleBand;    // K around the last value that counts as settled; nothing: chosen
  bool thenSteady = false;             ///< the steady state it would have gone to is solved, too
  std::vector<RunRule> rules;
  UnknownKeys unknown;
  bool operator==(const TransientRun&) const = default;
};

struct Case : Object {
  enum class Kind { Steady, Transient };
  Kind kind = Kind::Steady;
  std::vector<Change> changes;
  std::optional<TransientRun> run; ///< of a transient case
  std::optional<Number> instant;   // s: of a steady case, when schedules and time windows are read; nothing: at 0
  std::optional<Number> period;    // s: of a steady case, they count with their mean over this long from the instant
  bool operator==(const Case&) const = default;
};

} // namespace kiln
