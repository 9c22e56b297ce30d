// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/LimitSearch.h"

#include "model/ObjectKinds.h"

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace kiln
{
namespace
{

/// A solve that ends the search: it was stopped, or a point on the way cannot be solved.
struct Ended {
  std::string words;
};

bool isAllowed(double si, Range range)
{
  return (range != Range::Positive || si > 0) && (range == Range::Any || si >= 0) &&
         ((range != Range::Fraction && range != Range::Share) || si <= 1);
}

class LimitSearch
{
public:
  LimitSearch(const Project& seen, const AskLimit& ask, const AskedAxis& axis, const SolvePoints& solve)
      : axis_(axis), solve_(solve), scale_(limitsOf(seen, ask).value_or(std::vector<HeldLimit>()))
  {
    if (const auto limits = limitsOf(seen, ask); !limits)
      wrong_ = limits.error().problem;
  }

  LimitAnswer run()
  {
    if (!wrong_.empty())
      return said(wrong_);
    if (scale_.limits().empty())
      return said("No watch has a limit: give one to the watch that counts.");
    try {
      axis_.isOpen ? widen() : lookAtRange();
      found();
    } catch (const Ended& ended) {
      answer_.words = ended.words;
    }
    std::sort(answer_.tried.begin(), answer_.tried.end(),
              [](const TriedValue& a, const TriedValue& b) { return a.value < b.value; });
    return std::move(answer_);
  }

private:
  LimitAnswer said(const std::string& words)
  {
    answer_.words = words;
    return std::move(answer_);
  }

  [[nodiscard]] std::string shown(double si) const { return formatQuantity(si, axis_.quantity); }

  [[nodiscard]] std::optional<double> shareOf(const PointAnswer& answer)
  {
    const auto least = scale_.least(answer);
    return least ? std::optional(least->share) : std::nullopt;
  }

  void tryAll(const std::vector<double>& values)
  {
    std::vector<AskedPoint> points;
    for (const double value : values)
      points.push_back({plainValue(value)});
    const std::vector<PointAnswer> answers = solve_(points);
    for (std::size_t i = 0; i < answers.size(); ++i)
      answer_.tried.push_back({values[i], answers[i].solved() ? shareOf(answers[i]) : std::nullopt, answers[i]});
    if (answers.size() < values.size())
      throw Ended{"It was stopped before the value was found."};
  }

  double marginAt(double value)
  {
    tryAll({value});
    const TriedValue& tried = answer_.tried.back();
    if (!tried.answer.solved())
      throw Ended{"At " + shown(value) + " it cannot be solved: " + tried.answer.failure};
    if (!tried.margin)
      throw Ended{"At " + shown(value) + " the watch has no such figure."};
    return *tried.margin;
  }

  void lookAtRange()
  {
    std::vector<double> values;
    for (const OwnValue& value : axis_.values)
      values.push_back(std::get<Property>(value).si);
    if (values.size() < 3) {
      values.clear();
      for (const double share : {0.0, 0.25, 0.5, 0.75, 1.0})
        values.push_back(std::get<Property>(axis_.at(share)).si);
    }
    tryAll(values);
  }

  /// Up and down from what is set until limits are met on one side and not on the other.
  void widen()
  {
    constexpr int most = 12;
    tryAll({axis_.set});
    double reach = axis_.quantity == Quantity::Temperature ? 10 : 0.25 * std::abs(axis_.set);
    if (reach == 0)
      reach = 1;
    for (int i = 0; i < most && crossings().empty(); ++i, reach *= 2) {
      std::vector<double> values;
      const double down = axis_.set > 0 && axis_.allowed != Range::Any && axis_.quantity != Quantity::Temperature
                              ? axis_.set / (1 + reach / axis_.set)
                              : axis_.set - reach;
      for (const double value : {axis_.set + reach, down})
        if (isAllowed(value, axis_.allowed))
          values.push_back(value);
      tryAll(values);
    }
  }

  struct Crossing {
    TriedValue below, above;
  };
  [[nodiscard]] std::vector<Crossing> crossings() const
  {
    std::vector<TriedValue> known;
    for (const TriedValue& one : answer_.tried)
      if (one.margin)
        known.push_back(one);
    std::sort(known.begin(), known.end(), [](const auto& a, const auto& b) { return a.value < b.value; });
    std::vector<Crossing> all;
    for (std::size_t i = 0; i + 1 < known.size(); ++i)
      if ((*known[i].margin < 0) != (*known[i + 1].margin < 0))
        all.push_back({known[i], known[i + 1]});
    return all;
  }

  /// Why limits are met nowhere, or everywhere.
  [[nodiscard]] std::string whyNone() const
  {
    double least = 1e300;
    double most = -1e300;
    double low = 1e300;
    double high = -1e300;
    std::string reason;
    for (const TriedValue& one : answer_.tried) {
      low = std::min(low, one.value);
      high = std::max(high, one.value);
      if (!one.answer.solved())
        reason = one.answer.failure;
      if (!one.margin)
        continue;
      least = std::min(least, *one.margin);
      most = std::max(most, *one.margin);
    }
    const std::string where = " from " + shown(low) + " to " + shown(high);
    if (least > most)
      return reason.empty() ? "The watch has no such figure anywhere" + where + "."
                            : "It cannot be solved anywhere" + where + ": " + reason;
    constexpr double rounding = 1e-6;
    if (most - least < rounding * std::max(std::abs(most), std::abs(least)))
      return "The watch does not depend on " + axis_.label + where + ".";
    return least >= 0 ? "Every limit is kept" + where + "." : "The limits are kept nowhere" + where + ".";
  }

  void found()
  {
    std::vector<Crossing> all = crossings();
    if (all.empty())
      throw Ended{whyNone()};
    const auto off = [&](const Crossing& one) {
      return std::max({0.0, one.below.value - axis_.set, axis_.set - one.above.value});
    };
    std::sort(all.begin(), all.end(), [&](const auto& a, const auto& b) { return off(a) < off(b); });
    narrow(all.front());
    if (all.size() > 1) {
      answer_.words += " More than one crossing:";
      for (std::size_t i = 1; i < all.size(); ++i)
        answer_.words += (i > 1 ? ", " : " another one lies between ") + shown(all[i].below.value) + " and " +
                         shown(all[i].above.value);
      answer_.words += ".";
    }
  }

  void narrow(const Crossing& crossing)
  {
    constexpr double accuracy = 1e-8; // of the value
    std::uintmax_t most = 40;
    const auto close = [&](double a, double b) {
      return std::abs(b - a) <= accuracy * std::max(std::abs(a), std::abs(b));
    };
    const auto [a, b] = boost::math::tools::toms748_solve([&](double value) { return marginAt(value); },
                                                          crossing.below.value, crossing.above.value,
                                                          *crossing.below.margin, *crossing.above.margin, close, most);
    // Of what was tried, the value that is nearest to the limit.
    const TriedValue* best = nullptr;
    for (const TriedValue& one : answer_.tried)
      if (one.margin && one.value >= std::min(a, b) && one.value <= std::max(a, b) &&
          (best == nullptr || std::abs(*one.margin) < std::abs(*best->margin)))
        best = &one;
    const double value = best != nullptr ? best->value : a;
    const auto least = best != nullptr ? scale_.least(best->answer) : std::nullopt;
    const HeldLimit& met = scale_.limits()[least ? least->which : 0];
    answer_.value = value;
    answer_.watch = met.watch;
    answer_.words = axis_.label + " " + shown(value) + ": " + met.name + " is just at its limit" +
                    (*crossing.below.margin < 0 ? "; kept above." : "; kept below.");
  }

  const AskedAxis& axis_;
  const SolvePoints& solve_;
  std::string wrong_; ///< why it cannot be asked
  LimitScale scale_;
  LimitAnswer answer_;
};

} // namespace

std::optional<LimitScale::Least> LimitScale::least(const PointAnswer& answer)
{
  std::optional<Least> least;
  for (std::size_t i = 0; i < limits_.size(); ++i) {
    const auto margin = limits_[i].margin(answer);
    if (!margin)
      return std::nullopt;
    constexpr double near = 1e-3, nothing = 1e-12; // an answer may be at the limit at first sight
    if (measures_[i] == 0)
      measures_[i] = std::max({std::abs(*margin), near * std::abs(limits_[i].limit), nothing});
    if (const double share = *margin / measures_[i]; !least || share < least->share)
      least = Least{share, i};
  }
  return least;
}

std::optional<double> HeldLimit::margin(const PointAnswer& answer) const
{
  std::optional<double> value = answer.figure(watch, figure);
  constexpr double never = 1e9; // s
  if (!value && figure == AskedFigure::TimeToLimit && answer.figure(watch, AskedFigure::AtEnd))
    value = never;
  if (!value)
    return std::nullopt;
  return upper ? limit - *value : *value - limit;
}

std::vector<HeldLimit> limitsOf(const Project& seen, const std::vector<std::string>& watches, AskedFigure figure)
{
  std::vector<HeldLimit> limits;
  for (const Watch& watch : seen.watches) {
    if (!watches.empty() && std::find(watches.begin(), watches.end(), watch.id) == watches.end())
      continue;
    const Quantity quantity = quantityOf(seen, watch);
    const bool ofTime = figure == AskedFigure::TimeToLimit;
    if (watch.upper)
      limits.push_back({watch.id, watch.name, quantity, figure == AskedFigure::Trough ? AskedFigure::Peak : figure,
                        watch.upper->si, true});
    if (watch.lower && !(ofTime && watch.upper))
      limits.push_back({watch.id, watch.name, quantity, figure == AskedFigure::Peak ? AskedFigure::Trough : figure,
                        watch.lower->si, false});
  }
  return limits;
}

namespace
{

/// Instead of the limits of the watches that are named; an upper one, where they have no lower one alone.
Expected<std::vector<HeldLimit>> atLevel(const Project& seen, const AskLimit& ask)
{
  std::vector<HeldLimit> limits;
  for (const std::string& id : ask.watches) {
    const Watch* watch = findById(seen.watches, id);
    if (watch == nullptr)
      continue;
    const Quantity quantity = quantityOf(seen, *watch);
    const auto level = parseQuantity(ask.level, quantity);
    if (!level)
      return tl::unexpected(level.error());
    limits.push_back({id, watch->name, quantity, ask.figure, level->si, watch->upper || !watch->lower});
  }
  if (limits.empty())
    return failure(Failure::Kind::NotReady, "level " + ask.level, "A level is of a watch: say of which.",
                   "Name the watches.");
  return limits;
}

} // namespace

Expected<std::vector<HeldLimit>> limitsOf(const Project& seen, const AskLimit& ask)
{
  auto limits = ask.level.empty() ? Expected<std::vector<HeldLimit>>(limitsOf(seen, ask.watches, ask.figure))
                                  : atLevel(seen, ask);
  if (limits && ask.figure == AskedFigure::TimeToLimit)
    for (HeldLimit& limit : *limits) { // it has to take at least so long
      limit.upper = false;
      limit.limit = ask.time ? ask.time->si : 0;
      limit.quantity = Quantity::Time;
    }
  return limits;
}

LimitAnswer searchLimit(const Project& seen, const AskLimit& ask, const AskedAxis& axis, const SolvePoints& solve)
{
  return LimitSearch(seen, ask, axis, solve).run();
}

} // namespace kiln
