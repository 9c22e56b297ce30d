// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

/// What a field holds, whatever its kind: nothing (of a number that may be missing), a number, formula or table, a
/// switch, a word (a text, the name of an alternative, what a reference names) or the names of a list.
using OwnValue = std::variant<std::monostate, Property, bool, std::string, std::vector<std::string>>;

/// A field that has another value in one case: "room.ambient" → 35 °C.
struct Change {
  std::string field;
  OwnValue value;
  bool operator==(const Change&) const = default;

  [[nodiscard]] const Property* number() const { return std::get_if<Property>(&value); }
  [[nodiscard]] Property* number() { return std::get_if<Property>(&value); }
};

/// Values that belong together, by the fields that have them: "Aged", "Winter". A case takes them by naming the set.
struct PropertySet : Object {
  std::vector<Change> changes;
  bool operator==(const PropertySet&) const = default;
};
template <class A>
void describe(A& a, PropertySet& s)
{
  describeObject(a, s);
  a.changes({"changes", "Values", "Fields that have another value where the set is taken, by path."}, s.changes);
  a.unknown(s.unknown);
}

struct PartStart {
  std::string id; ///< of the part
  Number temperature;
  bool operator==(const PartStart&) const = default;
};
template <class A>
void describe(A& a, PartStart& s)
{
  a.reference({"part", "Part", "", Refers::Part, Need::Whole}, s.id);
  a.number({"temperature", "Start temperature", "", Quantity::Temperature, Range::NonNegative, Usually{"20 °C"}},
           s.temperature);
}

/// Where a surface lies, of the part that it is meant of.
struct SurfaceStart {
  std::string id; ///< of the surface
  Number temperature;
  bool operator==(const SurfaceStart&) const = default;
};
template <class A>
void describe(A& a, SurfaceStart& s)
{
  a.reference({"surface", "Surface", "", Refers::Surface, Need::Whole}, s.id);
  a.number({"temperature", "Start temperature", "", Quantity::Temperature, Range::NonNegative, Usually{"20 °C"}},
           s.temperature);
}

/// What lies within a box whose sides are along the axes.
struct BoxStart {
  std::string id;
  Number3 low, high; // m
  Number temperature;
  bool operator==(const BoxStart&) const = default;
};
template <class A>
void describe(A& a, BoxStart& b)
{
  a.text({"id", "", "Of its own within the case."}, b.id);
  a.number3({"low", "Box from", "Its lowest corner.", Quantity::Length}, b.low);
  a.number3({"high", "Box to", "Its highest corner.", Quantity::Length}, b.high);
  a.number({"temperature", "Start temperature", "", Quantity::Temperature, Range::NonNegative, Usually{"20 °C"}},
           b.temperature);
}

struct StartUniform {
  Number temperature{293.15, "20 °C"}; // K
  std::vector<PartStart> parts;        ///< that start otherwise
  std::optional<Number> moltenShare;   // of what starts at its melting temperature, 0…1; nothing: molten
  std::vector<BoxStart> boxes{};       ///< whatever part lies in them
  std::vector<SurfaceStart> surfaces{};
  bool operator==(const StartUniform&) const = default;
};
template <class A>
void describe(A& a, StartUniform& s)
{
  a.number({"temperature", "Start temperature", "", Quantity::Temperature, Range::NonNegative, Usually{"20 °C"}},
           s.temperature);
  a.list({"parts", "Parts that start otherwise", ""}, s.parts);
  a.optionalNumber({"moltenShare", "Molten share where it starts at its melting temperature", "", Quantity::Plain,
                    Range::Share, Usually{"1"}},
                   s.moltenShare);
  a.list({"boxes", "Boxes in which it starts otherwise", "They count before the parts, a later one before an earlier."},
         s.boxes);
  a.list({"surfaces", "Surfaces that start otherwise", "They count before the boxes."}, s.surfaces);
}

/// The steady state of the same case, with schedules as they are at its start.
struct StartSteady {
  bool operator==(const StartSteady&) const = default;
};
template <class A>
void describe(A&, StartSteady&)
{
}

struct StartFromCase {
  std::string of;                ///< case id
  std::string project;           ///< file of another project it belongs to, as seen from this one; empty: this one
  std::optional<Number> instant; // s, nothing: its end
  bool operator==(const StartFromCase&) const = default;
};
template <class A>
void describe(A& a, StartFromCase& s)
{
  if (s.project.empty())
    a.reference({"case", "Case", "", Refers::Case, Need::Must}, s.of);
  else
    a.text({"case", "", "Its id."}, s.of);
  a.optionalText({"project", "", "The file of another project that has this case, as seen from this one."}, s.project);
  a.optionalNumber({"instant", "At its instant", "", Quantity::Time, Usually{"its end"}}, s.instant);
}

struct EndAtTime {
  Number time; // s
  bool operator==(const EndAtTime&) const = default;
};
template <class A>
void describe(A& a, EndAtTime& e)
{
  a.number({"time", "Ends at", "", Quantity::Time, Range::Positive, Usually{"1 h"}}, e.time);
}

/// What still has to change is small everywhere.
struct EndSettled {
  std::optional<Number> within; // K; nothing: 1 % of the change so far or 0.1 K, whichever is larger
  std::optional<Number> rate;   // K/s: no place changes faster, either
  bool operator==(const EndSettled&) const = default;
};
template <class A>
void describe(A& a, EndSettled& e)
{
  a.optionalNumber({"within", "Nothing has more to change than", "", Quantity::TemperatureStep, Range::Positive,
                    Usually{"1 % of the change so far or 0.1 K, whichever is larger"}},
                   e.within);
  a.optionalNumber(
      {"rate", "No place changes faster than", "", Quantity::TemperatureRate, Range::Positive, Usually{"not asked"}},
      e.rate);
}

struct EndAtValue {
  std::string watch;
  Number value; // K
  bool falling = false;
  bool operator==(const EndAtValue&) const = default;
};
template <class A>
void describe(A& a, EndAtValue& e)
{
  a.reference({"watch", "Watch", "", Refers::Watch, Need::Whole}, e.watch);
  a.number({"value", "Passes", "", Quantity::Temperature, Usually{"100 °C"}}, e.value);
  a.flag({"falling", "Falling", "It passes on its way down."}, e.falling);
}

struct EndRule {
  std::string id;
  std::variant<EndAtTime, EndSettled, EndAtValue> when;
  UnknownKeys unknown;
  bool operator==(const EndRule&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<3> endKinds{
    {{"time", "at a time"}, {"settled", "when settled"}, {"value", "when a watch passes a value"}}};
} // namespace describing
template <class A>
void describe(A& a, EndRule& e)
{
  a.text({"id", "", "Of its own within the case."}, e.id);
  a.choice({"when", "Ends", ""}, e.when, describing::endKinds);
  a.unknown(e.unknown);
}

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
namespace describing
{
inline constexpr Refers switched = Refers::Source | Refers::Boundary | Refers::Link;
} // namespace describing
template <class A>
void describe(A& a, RunRule& r)
{
  a.text({"id", "", "Of its own within the case."}, r.id);
  a.reference({"watch", "Watch", "", Refers::Watch, Need::Whole}, r.watch);
  a.number({"value", "Passes", "", Quantity::Temperature, Usually{"100 °C"}}, r.value);
  a.flag({"falling", "Falling", "It passes on its way down."}, r.falling);
  a.changes({"set", "Sets", "Numbers from then on."}, r.set);
  a.references({"mute", "Switches off", "", describing::switched}, r.mute);
  a.references({"unmute", "Switches on", "", describing::switched}, r.unmute);
  a.flag({"end", "Ends the run", ""}, r.end);
  a.unknown(r.unknown);
}

/// Temperatures are stored at one instant, or from one to another at an interval, besides those chosen by themselves.
struct StoredSpan {
  std::string id;
  Number from;                     // s
  std::optional<Number> to, every; // s, both or none
  UnknownKeys unknown;
  bool operator==(const StoredSpan&) const = default;
};
template <class A>
void describe(A& a, StoredSpan& s)
{
  a.text({"id", "", "Of its own within the case."}, s.id);
  a.number({"from", "Stored from", "", Quantity::Time}, s.from);
  a.optionalNumber({"to", "until", "Of a stretch.", Quantity::Time, Usually{"this instant alone"}}, s.to);
  a.optionalNumber({"every", "every", "Of a stretch.", Quantity::Time, Range::Positive}, s.every);
  a.unknown(s.unknown);
}

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
namespace describing
{
inline constexpr KindSpecs<3> startKinds{{{"steady", "the steady state of this case"},
                                          {"uniform", "everything at one temperature"},
                                          {"case", "the end of a case"}}};
} // namespace describing
template <class A>
void describe(A& a, TransientRun& t)
{
  constexpr Stage extent = Stage::Extent;
  a.nestedChoice({"start", "Starts from", ""}, t.start, describing::startKinds);
  a.optionalNumber({"startTime", "Starts at", "On the clock of schedules.", Quantity::Time, Usually{"0 s"}},
                   t.startTime);
  a.list({"ends", "Ends", "None: when settled.", extent}, t.ends);
  a.flag({"endWhenAll", "Ends when all are met", "Not with the first of them.", extent}, t.endWhenAll);
  a.optionalNumber({"longest", "Longest run", "It ends then, whatever else is asked.", Quantity::Time, Range::Positive,
                    extent, Usually{"30 d after the start"}},
                   t.longest);
  a.optionalNumber({"tolerance", "Time-step error", "That a step may make anywhere.", Quantity::TemperatureStep,
                    Range::Positive, extent, Usually{"0.1 K"}},
                   t.tolerance);
  a.optionalNumber({"largestStep", "Largest step", "", Quantity::Time, Range::Positive, extent, Usually{"no bound"}},
                   t.largestStep);
  a.optionalNumber({"convergence", "Balance tolerance", "Share of what flows that the balance of a step may miss.",
                    Quantity::Plain, Range::Positive, extent, Usually{"a millionth of what flows"}},
                   t.convergence);
  a.optionalNumber({"storeWithin", "Storage tolerance", "What lines between stored instants may miss.",
                    Quantity::TemperatureStep, Range::Positive, extent, Usually{"0.1 % of the span"}},
                   t.storeWithin);
  a.optionalNumber({"storeEvery", "Storage interval", "Instead of that.", Quantity::Time, Range::Positive, extent,
                    Usually{"as the temperatures ask"}},
                   t.storeEvery);
  a.list({"storeAlso", "Stored besides", "At these instants and stretches.", extent}, t.storeAlso);
  a.references(
      {"storeParts", "Stored parts", "Whose temperatures are kept; none: all.", Refers::Part | Refers::Group, extent},
      t.storeParts);
  a.optionalNumber({"settleBand", "Settled within", "Around the last value; read from the result only.",
                    Quantity::TemperatureStep, Range::Positive, Stage::Figures, Usually{"chosen"}},
                   t.settleBand);
  a.flag({"thenSteady", "Then the steady state", "The one it would have gone to is solved afterwards.", extent},
         t.thenSteady);
  a.list({"rules", "Rules", "What changes when a watch passes a value."}, t.rules);
  a.unknown(t.unknown);
}

struct Case : Object {
  enum class Kind { Steady, Transient };
  Kind kind = Kind::Steady;
  std::string group;                               ///< cases with the same word stand together
  std::vector<std::string> sets;                   ///< property sets it takes, a later one before an earlier one
  std::string materialsOf, finishesOf, contactsOf; ///< ids of sets: their values of these count before
  std::vector<Change> changes;                     ///< before all of them
  std::string comparedWith;                        ///< id of the case that it is shown beside
  std::string comparedProject; ///< file of another project that has that case, as seen from this one; empty: this one
  std::optional<Number> comparedInstant; ///< s, of that case's run; nothing: the instant shown
  std::optional<TransientRun> run;       ///< of a transient case
  std::optional<Number> instant;         // s: of a steady case, when schedules and time windows are read; nothing: at 0
  std::optional<Number> period;    // s: of a steady case, they count with their mean over this long from the instant
  std::optional<Number> balance;   // of a steady case: share of what flows that may be missing
  std::optional<Number> update;    // K: of a steady case, the last step changes no place by more
  std::optional<Number> mostSteps; // of a steady case
  bool operator==(const Case&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<2> caseKinds{{{"steady", "steady"}, {"transient", "transient"}}};
} // namespace describing
template <class A>
void describe(A& a, Case& c)
{
  describeObject(a, c);
  a.choice({"kind", "It is", ""}, c.kind, describing::caseKinds);
  a.optionalText({"group", "Group", "Cases with the same word here stand together and fold.", Stage::Nothing}, c.group);
  a.references({"sets", "Property sets", "Whose values it takes; a later one counts before an earlier one.",
                Refers::Set, Stage::Nothing},
               c.sets);
  a.reference({"materialsOf", "Materials of", "The set whose values of materials count before those of the others.",
               Refers::Set, Stage::Nothing},
              c.materialsOf);
  a.reference({"finishesOf", "Finishes of", "The set whose values of finishes count before those of the others.",
               Refers::Set, Stage::Nothing},
              c.finishesOf);
  a.reference({"contactsOf", "Contacts of", "The set whose values of contacts count before those of the others.",
               Refers::Set, Stage::Nothing},
              c.contactsOf);
  a.changes({"changes", "Of its own", "Fields that have another value in this case, by path."}, c.changes);
  if (c.comparedProject.empty())
    a.reference({"comparedWith", "Compared with", "The case that it is shown beside.", Refers::Case, Stage::Nothing,
                 Nothing{"another one"}},
                c.comparedWith);
  else
    a.text({"comparedWith", "", "Its id.", Stage::Nothing}, c.comparedWith);
  a.optionalText(
      {"comparedProject", "", "The file of another project that has this case, as seen from this one.", Stage::Nothing},
      c.comparedProject);
  a.optionalNumber(
      {"comparedInstant", "at its instant", "Of a run.", Quantity::Time, Stage::Nothing, Usually{"the instant shown"}},
      c.comparedInstant);
  a.nested({"run", "Run", "Of a transient case."}, c.run);
  a.optionalNumber({"instant", "Schedules are read at", "Of a steady case.", Quantity::Time, Usually{"0 s"}},
                   c.instant);
  a.optionalNumber({"period", "or as their mean over the next", "Of a steady case.", Quantity::Time, Range::Positive,
                    Usually{"that instant alone"}},
                   c.period);
  a.optionalNumber({"balance", "Solved until its balance misses less than", "Of a steady case: share of what flows.",
                    Quantity::Plain, Range::Positive, Stage::Extent, Usually{"1e-7"}},
                   c.balance);
  a.optionalNumber({"update", "and a step changes no place by more than", "Of a steady case.",
                    Quantity::TemperatureStep, Range::Positive, Stage::Extent, Usually{"0.0001 K"}},
                   c.update);
  a.optionalNumber({"mostSteps", "in at most", "Steps of the solver of a steady case.", Quantity::Plain, Range::Count,
                    Stage::Extent, Usually{"60"}},
                   c.mostSteps);
  a.unknown(c.unknown);
}

} // namespace kiln
