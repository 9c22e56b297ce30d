// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/BestOf.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <nlopt.hpp>

namespace kiln
{
namespace
{

/// The budget is spent, or it was stopped.
struct Over : nlopt::forced_stop {
};

class BestSearch
{
public:
  BestSearch(const Project& seen, const AskBest& ask, const std::vector<AskedAxis>& axes, const SolvePoints& solve,
             const BestProgress& progress)
      : seen_(seen), ask_(ask), axes_(axes), solve_(solve), progress_(progress), scale_(limitsOf(seen, {}, ask.figure)),
        budget_(ask.budget ? static_cast<int>(ask.budget->si) : usualBudget)
  {
    for (std::size_t i = 0; i < axes.size(); ++i)
      (axes[i].isRange ? numbers_ : lists_).push_back(i);
  }

  BestAnswer run()
  {
    for (const std::size_t i : numbers_)
      if (axes_[i].isOpen || axes_[i].low >= axes_[i].high)
        return said(axes_[i].label + " has no range to look in: say from where to where.");
    try {
      tryLists();
    } catch (const Over&) {
      over_ = true;
    }
    conclude();
    return std::move(answer_);
  }

private:
  BestAnswer said(const std::string& words)
  {
    answer_.words = words;
    return std::move(answer_);
  }

  /// Every combination of what is listed; each has its share of the budget.
  void tryLists()
  {
    std::size_t combinations = 1;
    for (const std::size_t i : lists_)
      combinations *= axes_[i].values.size();
    for (std::size_t k = 0; k < combinations; ++k) {
      AskedPoint point(axes_.size());
      std::size_t rest = k;
      for (const std::size_t i : lists_) {
        point[i] = axes_[i].values[rest % axes_[i].values.size()];
        rest /= axes_[i].values.size();
      }
      const auto left = static_cast<int>(combinations - k);
      until_ = spent_ + std::max(1, (budget_ - spent_) / left);
      try {
        tryNumbers(point);
      } catch (const Over&) {
        if (stopped_ || spent_ >= budget_)
          throw;
      }
    }
  }

  void tryNumbers(const AskedPoint& listed)
  {
    listed_ = listed;
    lookUntil_ = until_;
    if (numbers_.empty()) {
      static_cast<void>(at({}));
      return;
    }
    std::vector<double> start;
    for (const std::size_t i : numbers_)
      start.push_back(shareOf(axes_[i], axes_[i].within(axes_[i].set)));
    bestShares_ = start;
    bestPenalty_.reset();
    if (ask_.everywhere) {
      constexpr int halves = 2;
      look(nlopt::GN_DIRECT_L, start, spent_ + (until_ - spent_) / halves);
      start = bestShares_;
    }
    look(nlopt::LN_COBYLA, start, until_);
    tryNeighbours();
  }

  [[nodiscard]] static double shareOf(const AskedAxis& axis, double si)
  {
    return axis.logarithmic ? std::log(si / axis.low) / std::log(axis.high / axis.low)
                            : (si - axis.low) / (axis.high - axis.low);
  }

  /// \param until  so many solves in all
  void look(nlopt::algorithm algorithm, std::vector<double> start, int until)
  {
    const bool local = algorithm == nlopt::LN_COBYLA;
    nlopt::opt search(algorithm, static_cast<unsigned>(numbers_.size()));
    search.set_lower_bounds(0);
    search.set_upper_bounds(1);
    constexpr double accuracy = 1e-4; // of the ranges
    search.set_xtol_abs(accuracy);
    constexpr double firstStep = 0.15;
    search.set_initial_step(firstStep);
    search.set_maxeval(20 * budget_); // those that are known cost nothing
    lookUntil_ = until;
    const auto aim = [](const std::vector<double>& shares, std::vector<double>&, void* self) {
      return static_cast<BestSearch*>(self)->aimAt(shares);
    };
    const auto penalised = [](const std::vector<double>& shares, std::vector<double>&, void* self) {
      return static_cast<BestSearch*>(self)->penalisedAt(shares);
    };
    const auto broken = [](const std::vector<double>& shares, std::vector<double>&, void* self) {
      return -static_cast<BestSearch*>(self)->marginAt(shares);
    };
    search.set_min_objective(local ? +aim : +penalised, this);
    if (local && !scale_.limits().empty())
      search.add_inequality_constraint(+broken, this, 1e-9);
    double least = 0;
    try {
      search.optimize(start, least);
    } catch (const nlopt::forced_stop&) { // which is how NLopt hands on what stopped it
      if (stopped_ || spent_ >= until_)
        throw Over();
    } catch (const nlopt::roundoff_limited&) { // as far as it gets
    }
  }

  /// A whole number beside the best one may be better than where the rounded search has stopped.
  void tryNeighbours()
  {
    lookUntil_ = until_;
    for (bool better = true; better;) {
      better = false;
      for (std::size_t k = 0; k < numbers_.size(); ++k)
        for (const double step : {-1.0, 1.0}) {
          const AskedAxis& axis = axes_[numbers_[k]];
          if (!axis.whole)
            continue;
          std::vector<double> shares = bestShares_;
          const double before = std::get<Property>(axis.at(shares[k])).si;
          if (before + step < axis.low || before + step > axis.high)
            continue;
          shares[k] = shareOf(axis, before + step);
          const auto known = bestPenalty_;
          static_cast<void>(penalisedAt(shares));
          better = better || bestPenalty_ != known;
        }
    }
  }

  [[nodiscard]] AskedPoint pointAt(const std::vector<double>& shares) const
  {
    AskedPoint point = listed_;
    for (std::size_t k = 0; k < numbers_.size(); ++k)
      point[numbers_[k]] = axes_[numbers_[k]].at(std::clamp(shares[k], 0.0, 1.0));
    return point;
  }

  const BestStep& at(const std::vector<double>& shares)
  {
    AskedPoint point = pointAt(shares);
    for (const BestStep& step : answer_.steps)
      if (step.point == point)
        return step;
    if (spent_ >= std::min(until_, lookUntil_))
      throw Over();
    const std::vector<PointAnswer> answers = solve_({point});
    if (answers.empty()) {
      stopped_ = true;
      throw Over();
    }
    ++spent_;
    BestStep& step = answer_.steps.emplace_back(BestStep{std::move(point), answers.front(), {}, {}, false});
    if (step.answer.solved()) {
      step.aim = step.answer.figure(ask_.watch, ask_.figure);
      if (const auto least = scale_.least(step.answer))
        step.margin = least->share;
    }
    if (step.aim && keeps(step) && (!answer_.best || sign() * *step.aim < sign() * *answer_.steps[*answer_.best].aim)) {
      step.best = true;
      answer_.best = answer_.steps.size() - 1;
    }
    progress_(answer_);
    return answer_.steps.back();
  }

  /// A limit whose figure is not known is not kept.
  [[nodiscard]] bool keeps(const BestStep& step) const
  {
    return scale_.limits().empty() || step.margin.value_or(-1) >= 0;
  }

  [[nodiscard]] double sign() const { return ask_.most ? -1 : 1; }

  /// Aims are compared by how large the first one was.
  double aimAt(const std::vector<double>& shares)
  {
    const BestStep& step = at(shares);
    note(shares, step);
    return step.aim ? measured(*step.aim) : far;
  }
  double marginAt(const std::vector<double>& shares)
  {
    const BestStep& step = at(shares);
    return step.answer.solved() ? step.margin.value_or(scale_.limits().empty() ? 1 : -1) : -1;
  }
  double penalisedAt(const std::vector<double>& shares)
  {
    const BestStep& step = at(shares);
    note(shares, step);
    return penaltyOf(step);
  }
  double penaltyOf(const BestStep& step)
  {
    if (!step.aim)
      return far;
    constexpr double dear = 100;
    return measured(*step.aim) + dear * (keeps(step) ? 0 : std::max(-step.margin.value_or(-1), 0.0));
  }
  void note(const std::vector<double>& shares, const BestStep& step)
  {
    const double penalty = penaltyOf(step);
    if (!bestPenalty_ || penalty < *bestPenalty_) {
      bestPenalty_ = penalty;
      bestShares_ = shares;
    }
  }
  double measured(double aim)
  {
    if (!measure_)
      measure_ = std::max(std::abs(aim), 1e-12);
    return sign() * aim / *measure_;
  }

  void conclude()
  {
    const Watch* aim = findById(seen_.watches, ask_.watch);
    const std::string name = aim != nullptr ? aim->name : ask_.watch;
    const std::string count = std::to_string(answer_.steps.size()) + " points";
    if (answer_.best) {
      const BestStep& best = answer_.steps[*answer_.best];
      answer_.words =
          name + " " + formatQuantity(*best.aim, aim != nullptr ? quantityOf(seen_, *aim) : Quantity::Plain) +
          " is the best of " + count + (over_ ? (stopped_ ? ", stopped early." : ", as many as asked for.") : ".");
      return;
    }
    const BestStep* nearest = nullptr;
    for (const BestStep& step : answer_.steps)
      if (step.margin && (nearest == nullptr || *step.margin > *nearest->margin))
        nearest = &step;
    if (nearest == nullptr) {
      answer_.words = answer_.steps.empty() ? "Nothing was solved."
                      : answer_.steps.back().answer.solved()
                          ? "No point has every figure that counts."
                          : "No point could be solved: " + answer_.steps.back().answer.failure;
      return;
    }
    const auto least = scale_.least(nearest->answer);
    const HeldLimit* worst = least && least->share < 0 ? &scale_.limits()[least->which] : nullptr;
    answer_.words = "None of " + count + " keeps every limit.";
    if (worst != nullptr)
      answer_.words += " The nearest miss is " + worst->name + ", by " +
                       formatQuantity(-*worst->margin(nearest->answer), differenceOf(worst->quantity)) + ".";
  }

  static constexpr double far = 1e6; ///< what cannot be solved
  const Project& seen_;
  const AskBest& ask_;
  const std::vector<AskedAxis>& axes_;
  const SolvePoints& solve_;
  const BestProgress& progress_;
  LimitScale scale_;
  std::vector<std::size_t> numbers_, lists_; ///< axes
  AskedPoint listed_;
  std::vector<double> bestShares_;
  std::optional<double> bestPenalty_, measure_;
  int budget_, spent_ = 0, until_ = 0, lookUntil_ = 0;
  bool over_ = false, stopped_ = false;
  BestAnswer answer_;
};

} // namespace

BestAnswer searchBest(const Project& seen, const AskBest& ask, const std::vector<AskedAxis>& axes,
                      const SolvePoints& solve, const BestProgress& progress)
{
  return BestSearch(seen, ask, axes, solve, progress).run();
}

} // namespace kiln
