// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

/// Questions asked of a case: what varies in it, and what is wanted.
namespace kiln
{

/// Numbers from one to another, as typed with their units.
struct VariedRange {
  std::string from, to;
  std::optional<Number> count{}; // of values, the ends among them; nothing: 5
  bool logarithmic = false;      // equal ratios from one to the next
  bool whole = false;            // whole numbers only
  bool operator==(const VariedRange&) const = default;
};
template <class A>
void describe(A& a, VariedRange& r)
{
  a.text({"from", "From", "With its unit."}, r.from);
  a.text({"to", "To", "With its unit."}, r.to);
  a.optionalNumber({"count", "Values", "The ends among them.", Quantity::Plain, Range::Count, Usually{"5"}}, r.count);
  a.flag({"logarithmic", "Equal ratios", "From one value to the next."}, r.logarithmic);
  a.flag({"whole", "Whole numbers", "No others are tried."}, r.whole);
}

/// Whatever the field may hold, each as one would type it.
struct VariedList {
  std::vector<std::string> values;
  bool operator==(const VariedList&) const = default;
};
template <class A>
void describe(A& a, VariedList& l)
{
  a.texts({"values", "Values", "Each as one would type it."}, l.values);
}

/// Materials of the library, of a field that names one.
struct VariedMaterials {
  std::optional<Number> least, most; // W/(m·K), at 20 °C
  bool operator==(const VariedMaterials&) const = default;
};
template <class A>
void describe(A& a, VariedMaterials& m)
{
  a.optionalNumber(
      {"least", "Conductivity at least", "At 20 °C.", Quantity::Conductivity, Range::NonNegative, Usually{"any"}},
      m.least);
  a.optionalNumber(
      {"most", "Conductivity at most", "At 20 °C.", Quantity::Conductivity, Range::NonNegative, Usually{"any"}},
      m.most);
}

/// How a value is spread about what is set.
enum class SpreadLaw { Even, Normal };

/// A number that is not known better than this.
struct VariedTolerance {
  SpreadLaw law = SpreadLaw::Even;
  std::string by; ///< "10 %", "5 K": half of the width, or the standard deviation
  bool operator==(const VariedTolerance&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<2> spreadLaws{
    {{"even", "evenly", "All values as likely, none beyond."}, {"normal", "normally", "By a standard deviation."}}};
inline constexpr KindSpecs<4> variedKinds{{{"range", "from … to", "Numbers."},
                                           {"list", "a list", "Of values, materials, choices, on and off."},
                                           {"materials", "materials of the library", "By their conductivity."},
                                           {"tolerance", "not known better", "About the value that is set."}}};
} // namespace describing
template <class A>
void describe(A& a, VariedTolerance& t)
{
  a.choice({"law", "Spread", "How likely values are."}, t.law, describing::spreadLaws);
  a.text({"by", "By", "“10 %” or “5 K”: to either side, or the standard deviation."}, t.by);
}

/// A field that a question varies.
struct Varied {
  std::string id;
  std::string field; ///< its path
  std::variant<VariedRange, VariedList, VariedMaterials, VariedTolerance> over;
  UnknownKeys unknown;
  bool operator==(const Varied&) const = default;
};
template <class A>
void describe(A& a, Varied& v)
{
  a.text({"id", "", "Of its own within the question."}, v.id);
  a.reference({"field", "Varies", "A field by its path.", Refers::Field, Need::Whole}, v.field);
  a.choice({"over", "Over", ""}, v.over, describing::variedKinds);
  a.unknown(v.unknown);
}

/// Which points a sweep has.
enum class SweepWay { Grid, Together, Sobol, LatinHypercube };

struct AskSweep {
  SweepWay way = SweepWay::Grid;
  std::optional<Number> samples, seed;
  bool operator==(const AskSweep&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<4> sweepWays{
    {{"grid", "all with all", "Every value of one with every value of the others."},
     {"together", "side by side", "The first of each, the second of each, and so on."},
     {"sobol", "spread evenly", "A Sobol sequence."},
     {"latin", "one in each layer", "A Latin hypercube: every value's range is divided in as many layers as points."}}};
inline constexpr NumberSpec samplesSpec{"samples",       "Samples",    "Points that are drawn.",
                                        Quantity::Plain, Range::Count, Usually{"64"}};
inline constexpr NumberSpec seedSpec{
    "seed", "Seed", "The same one gives the same sample.", Quantity::Plain, Range::NonNegative, Usually{"1"}};
} // namespace describing
template <class A>
void describe(A& a, AskSweep& s)
{
  a.choice({"way", "Points", "How values are combined."}, s.way, describing::sweepWays);
  a.optionalNumber(describing::samplesSpec, s.samples);
  a.optionalNumber(describing::seedSpec, s.seed);
}

/// How much each watch moves with each value, and how sure it is by what is not known better.
struct AskSensitivity {
  std::optional<Number> step; // share of a value; nothing: 0.002
  std::optional<Number> samples, seed;
  bool operator==(const AskSensitivity&) const = default;
};
template <class A>
void describe(A& a, AskSensitivity& s)
{
  a.optionalNumber({"step", "Each value is moved by", "Up and down: a share of it.", Quantity::Plain, Range::Fraction,
                    Usually{"0.2 %"}},
                   s.step);
  a.optionalNumber(describing::samplesSpec, s.samples);
  a.optionalNumber(describing::seedSpec, s.seed);
}

/// The value at which a limit is just met.
struct AskLimit {
  std::vector<std::string> watches; ///< ids; none: all that have a limit, and the first of them met counts
  AskedFigure figure = AskedFigure::AtEnd;
  std::optional<Number> time{}; // s, that a time to limit has to be
  std::string level{};          ///< "100 °C": of the watches that are named, instead of their limits
  bool operator==(const AskLimit&) const = default;
};
template <class A>
void describe(A& a, AskLimit& l)
{
  a.references({"watches", "Limits of", "Watches; none: all that have a limit.", Refers::Watch}, l.watches);
  a.choice({"figure", "Which counts", ""}, l.figure, describing::askedFigures);
  a.optionalText({"level", "at", "“100 °C”: of the watches that are named, instead of their limits."}, l.level);
  a.optionalNumber({"time", "that time is", "Wanted.", Quantity::Time, Range::Positive, Usually{"none"}}, l.time);
}

/// The least or the most of a watch that keeps the limits of the others.
struct AskBest {
  std::string watch;
  bool most = false;
  AskedFigure figure = AskedFigure::AtEnd;
  bool everywhere = false;            // looks all over the ranges before it goes down
  std::optional<Number> budget, seed; // of solves
  bool operator==(const AskBest&) const = default;
};
template <class A>
void describe(A& a, AskBest& b)
{
  a.reference({"watch", "Wanted small", "A watch, or one that is a formula.", Refers::Watch, Need::Must}, b.watch);
  a.flag({"most", "Wanted large instead", ""}, b.most);
  a.choice({"figure", "Which counts", ""}, b.figure, describing::askedFigures);
  a.flag({"everywhere", "Look everywhere first", "Else it goes downhill from the values that are set."}, b.everywhere);
  a.optionalNumber({"budget", "Solves at most", "", Quantity::Plain, Range::Count, Usually{"60"}}, b.budget);
  a.optionalNumber(describing::seedSpec, b.seed);
}

struct Question : Object {
  std::string base; ///< id of a case
  std::vector<Varied> varies;
  bool keepsFields = false; ///< the temperatures of every point too
  std::variant<AskSweep, AskSensitivity, AskLimit, AskBest> asks;
  bool operator==(const Question&) const = default;
};
namespace describing
{
inline constexpr KindSpecs<4> askKinds{
    {{"sweep", "what if it varies", "A table and a chart of every watch."},
     {"sensitivity", "how sure, how sensitive", "How much every watch moves with each value."},
     {"limit", "how much is allowed", "The value at which a limit is just met."},
     {"best", "which is best", "The least or the most of a watch that keeps all limits."}}};
} // namespace describing
template <class A>
void describe(A& a, Question& q)
{
  describeObject(a, q);
  a.reference({"base", "Of case", "The one that is varied.", Refers::Case, Need::Must}, q.base);
  a.list({"varies", "Varies", "Fields that it varies."}, q.varies);
  a.choice({"asks", "Asks", ""}, q.asks, describing::askKinds);
  a.flag({"keepsFields", "Keep temperatures",
          "Of every point: one that is kept as a case is solved then. They take room on the disk."},
         q.keepsFields);
  a.unknown(q.unknown);
}

} // namespace kiln
