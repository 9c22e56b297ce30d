// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Cases.h"
#include "model/DescribeParts.h"

namespace kiln
{

namespace describing
{
inline constexpr std::array<std::string_view, 2> caseKinds{"steady", "transient"};
inline constexpr Refers switched = Refers::Source | Refers::Boundary | Refers::Link;
inline constexpr std::array<std::string_view, 3> startKinds{"steady", "uniform", "case"};
inline constexpr std::array<std::string_view, 3> endKinds{"time", "settled", "value"};
} // namespace describing

template <class A>
void describe(A& a, PartStart& s)
{
  a.reference({"part", Refers::Part, describing::Whole}, s.id);
  a.number({"temperature", "Start temperature", Quantity::Temperature, Range::NonNegative}, s.temperature);
}
template <class A>
void describe(A& a, StartUniform& s)
{
  a.number({"temperature", "Start temperature", Quantity::Temperature, Range::NonNegative}, s.temperature);
  a.list("parts", s.parts);
  a.optionalNumber(
      {"moltenShare", "Molten share where it starts at its melting temperature", Quantity::Plain, Range::Share},
      s.moltenShare);
}
template <class A>
void describe(A&, StartSteady&)
{
}
template <class A>
void describe(A& a, StartFromCase& s)
{
  if (s.project.empty())
    a.reference({"case", Refers::Case, describing::Must}, s.of);
  else
    a.text("case", s.of);
  a.optionalText("project", s.project);
  a.optionalNumber({"instant", "At its instant", Quantity::Time}, s.instant);
}
template <class A>
void describe(A& a, EndAtTime& e)
{
  a.number({"time", "Ends at", Quantity::Time, Range::Positive}, e.time);
}
template <class A>
void describe(A& a, EndSettled& e)
{
  a.optionalNumber({"within", "Nothing has more to change than", Quantity::TemperatureStep, Range::Positive}, e.within);
  a.optionalNumber({"rate", "No place changes faster than", Quantity::TemperatureRate, Range::Positive}, e.rate);
}
template <class A>
void describe(A& a, EndAtValue& e)
{
  a.reference({"watch", Refers::Watch, describing::Whole}, e.watch);
  a.number({"value", "Passes", Quantity::Temperature}, e.value);
  a.flag("falling", e.falling);
}
template <class A>
void describe(A& a, EndRule& e)
{
  a.text("id", e.id);
  a.choice("when", e.when, describing::endKinds);
  a.unknown(e.unknown);
}
template <class A>
void describe(A& a, RunRule& r)
{
  a.text("id", r.id);
  a.reference({"watch", Refers::Watch, describing::Whole}, r.watch);
  a.number({"value", "Passes", Quantity::Temperature}, r.value);
  a.flag("falling", r.falling);
  a.changes("set", r.set);
  a.references({"mute", describing::switched}, r.mute);
  a.references({"unmute", describing::switched}, r.unmute);
  a.flag("end", r.end);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, StoredSpan& s)
{
  a.text("id", s.id);
  a.number({"from", "Stored from", Quantity::Time}, s.from);
  a.optionalNumber({"to", "until", Quantity::Time}, s.to);
  a.optionalNumber({"every", "every", Quantity::Time, Range::Positive}, s.every);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, TransientRun& t)
{
  a.nestedChoice("start", t.start, describing::startKinds);
  a.optionalNumber({"startTime", "Starts at", Quantity::Time}, t.startTime);
  a.list(KeySpec{"ends", Stage::Extent}, t.ends);
  a.flag(KeySpec{"endWhenAll", Stage::Extent}, t.endWhenAll);
  a.optionalNumber(NumberSpec{"longest", "At the latest", Quantity::Time, Range::Positive}.at(Stage::Extent),
                   t.longest);
  a.optionalNumber(
      NumberSpec{"tolerance", "Error of a step", Quantity::TemperatureStep, Range::Positive}.at(Stage::Extent),
      t.tolerance);
  a.optionalNumber(NumberSpec{"largestStep", "Largest step", Quantity::Time, Range::Positive}.at(Stage::Extent),
                   t.largestStep);
  a.optionalNumber(NumberSpec{"convergence", "A step balances to", Quantity::Plain, Range::Positive}.at(Stage::Extent),
                   t.convergence);
  a.optionalNumber(
      NumberSpec{"storeWithin", "Stored within", Quantity::TemperatureStep, Range::Positive}.at(Stage::Extent),
      t.storeWithin);
  a.optionalNumber(NumberSpec{"storeEvery", "Stored every", Quantity::Time, Range::Positive}.at(Stage::Extent),
                   t.storeEvery);
  a.list(KeySpec{"storeAlso", Stage::Extent}, t.storeAlso);
  a.references({.key = "storeParts", .to = Refers::Part | Refers::Group, .stage = Stage::Extent}, t.storeParts);
  a.optionalNumber(
      NumberSpec{"settleBand", "Settled within", Quantity::TemperatureStep, Range::Positive}.at(Stage::Figures),
      t.settleBand);
  a.flag(KeySpec{"thenSteady", Stage::Extent}, t.thenSteady);
  a.list("rules", t.rules);
  a.unknown(t.unknown);
}
template <class A>
void describe(A& a, Case& c)
{
  describeObject(a, c);
  a.choice("kind", c.kind, describing::caseKinds);
  a.changes("changes", c.changes);
  a.nested("run", c.run);
  a.optionalNumber({"instant", "Schedules are read at", Quantity::Time}, c.instant);
  a.optionalNumber({"period", "or as their mean over the next", Quantity::Time, Range::Positive}, c.period);
  a.unknown(c.unknown);
}

} // namespace kiln
