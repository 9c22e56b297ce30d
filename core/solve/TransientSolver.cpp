// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/TransientSolver.h"

#include "base/At.h"
#include "solve/EndJudge.h"
#include "solve/NewtonStep.h"
#include "solve/Settling.h"
#include "solve/StepControl.h"
#include "solve/StepLimiter.h"
#include "solve/StepReporter.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

namespace kiln
{
namespace
{

class Integrator
{
public:
  Integrator(TimedModel& model, const TransientRun& run, const TransientOptions& options, const FlowMeter& meter,
             const StepObserver& observer, const Progress& progress)
      : model_(model), options_(options), limits_(options.limits),
        reporter_(model, meter, observer, progress, options.startTime), stepper_(model, options.backend),
        limiter_(model, options.backend), settling_(model, options.backend), triggers_(model, run, limits_),
        ends_(
            limits_, beganAt(), [this](const TimedState& state, double within) { return excessAt(state, within); },
            [this](const EndRule& rule) { return triggers_.reasonOf(rule); })
  {
  }

  Expected<TransientSolution> run(std::vector<double> start)
  {
    now_.time = options_.startTime;
    takeLimits();
    if (auto begun = begin(std::move(start)); !begun)
      return tl::unexpected(begun.error());
    while (result_.reason.empty()) {
      if (auto stepped = step(); !stepped)
        return tl::unexpected(stepped.error());
    }
    result_.temperature = now_.temperature;
    result_.time = now_.time;
    const StageSolver::Work& work = stepper_.stages().work();
    result_.bounds = bounds_.report();
    noteRemaining();
    result_.linearSolver = stepper_.stages().linearSolver();
    result_.newtonSteps = work.newtonSteps;
    result_.linearIterations = work.linearIterations;
    result_.preparations = work.preparations;
    result_.linearSeconds = work.linearSeconds;
    result_.events.push_back({now_.time, RunEvent::Kind::Ended, {}, result_.reason});
    return std::move(result_);
  }

private:
  using Done = Expected<void>;

  [[nodiscard]] double beganAt() const { return options_.past ? options_.past->beganAt : options_.startTime; }

  /// At the start, and when others are handed over.
  void takeLimits()
  {
    const double tolerance = limits_.tolerance > 0 ? limits_.tolerance : usualTolerance;
    const double last = beganAt() + (limits_.longest > 0 ? limits_.longest : usualLongest);
    std::vector<double> breaks = breakpoints(model_.base(), now_.time, last);
    for (const EndRule& rule : limits_.ends)
      if (const auto* time = std::get_if<EndAtTime>(&rule.when); time != nullptr && time->time.si > now_.time)
        breaks.push_back(time->time.si);
    std::sort(breaks.begin(), breaks.end());
    control_.setLimits(tolerance, last, std::move(breaks));
  }

  Done begin(std::vector<double> start)
  {
    now_.temperature = std::move(start);
    if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
      return moved;
    if (!options_.past)
      triggers_.begin(now_.temperature);
    else if (auto recalled = triggers_.recall(*options_.past, now_, result_.events); !recalled)
      return recalled;
    if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
      return moved;
    impose();
    if (auto settled = settleStoreless(); !settled)
      return settled;
    freshStart();
    began_ = options_.past && !options_.past->startedFrom.empty() ? options_.past->startedFrom : now_.temperature;
    bounds_.start(model_, now_.temperature, control_.tolerance(),
                  options_.past && options_.past->bounds ? &*options_.past->bounds : nullptr);
    if (auto heard = hear(reporter_.begin(now_, control_.last(), triggers_.fired())); !heard)
      return heard;
    if (options_.past) { // it may have been at its end when it was interrupted
      ends_.recall(now_, control_);
      checkEnds();
    }
    return {};
  }

  /// Sets held temperatures at once and notes the heat that takes.
  void impose()
  {
    const std::vector<double> before = model_.store().stored(now_.temperature);
    model_.system().applyFixed(now_.temperature);
    const std::vector<double> after = model_.store().stored(now_.temperature);
    for (const auto& flow : model_.conditions().flows) {
      double joules = 0;
      flow->held([&](UnknownId u, double) { joules += after[at(u)] - before[at(u)]; });
      if (joules != 0)
        reporter_.note({flow->owner(), joules});
    }
  }

  /// Lumped nodes that store nothing follow the others at once; so they do at the start.
  Done settleStoreless()
  {
    const auto storeless = [&](std::size_t u) { return !model_.store().stores(UnknownId(u)); };
    bool any = false;
    for (std::size_t u = 0; u < now_.temperature.size(); ++u)
      any = any || storeless(u);
    if (!any)
      return {};
    std::vector<double> settled = now_.temperature;
    std::vector<double> storing;
    constexpr double instant = 1e-3; // s: what stores heat hardly moves, and is put back
    StageSolver& stages = stepper_.stages();
    if (auto solved = stages.solve(settled, model_.store().stored(settled), instant, accuracy(), storing); !solved)
      return solved;
    for (std::size_t i = 0; i < settled.size(); ++i)
      if (storeless(i))
        now_.temperature[i] = settled[i];
    return {};
  }

  /// Rates as they are now; what came before does not count.
  void freshStart()
  {
    const std::vector<double> balance = model_.system().balance(now_.temperature);
    now_.stored = model_.store().stored(now_.temperature);
    now_.storing = balance;
    for (std::size_t i = 0; i < balance.size(); ++i)
      if (model_.system().isFixed()[i] != 0)
        now_.storing[i] = 0;
    now_.rate = stepper_.ratesOf(now_);
    if (!model_.store().lumped()) { // places around what is held store through it
      const std::vector<double> held = model_.store().storingOf(now_.temperature, now_.rate);
      for (std::size_t i = 0; i < balance.size(); ++i)
        if (model_.system().isFixed()[i] != 0)
          now_.storing[i] = held[i];
    }
    limited_.clear();
    before_.reset();
    beforeThat_.reset();
    ends_.restart();
    control_.restart(now_.time, fastest());
  }
  [[nodiscard]] StageSolver::Accuracy accuracy() const
  {
    return {limits_.convergence > 0 ? limits_.convergence : usualConvergence, control_.tolerance()};
  }

  /// K/s
  [[nodiscard]] double fastest() const { return std::abs(now_.rate[at(fastestOf(now_))]); }

  /// The largest error; where something melts no more than some times the mean one: a place that begins or ends to melt
  /// bends the course of its neighbours, which no step, however short, smooths.
  [[nodiscard]] double measureOf(const std::vector<double>& errors) const
  {
    if (errors.empty())
      return 0;
    const double largest = *std::max_element(errors.begin(), errors.end());
    if (!model_.store().melts())
      return largest;
    double squares = 0;
    for (const double error : errors)
      squares += error * error;
    constexpr double times = 4;
    return std::min(largest, times * std::sqrt(squares / static_cast<double>(errors.size())));
  }

  /// A step with its error, held within the bounds.
  Expected<StepAttempt> attempt(double step)
  {
    auto tried = stepper_.attempt(
        now_, step, accuracy(), [&](double ahead, std::optional<WayPoint> between) { return guess(ahead, between); },
        reporter_.meter());
    if (!tried || !tried->converged)
      return tried;
    std::vector<double> errors = stepper_.errorsOf(now_, now_.storing, *tried);
    for (std::size_t i = 0; i < limited_.size(); ++i) // their rates are not those of the elements
      if (limited_[i] != 0)
        errors[i] = 0;
    constexpr double slack = 0.1; // of the tolerance
    if (limiter_.wanted())
      if (auto held = limiter_.limit(now_, step, bounds_.rangeAfter(model_, now_.temperature, step),
                                     slack * control_.tolerance(), accuracy(), reporter_.meter(), errors, *tried);
          !held)
        return tl::unexpected(held.error());
    tried->error = measureOf(errors);
    return tried;
  }

  /// Temperatures after a while as the last two steps suggest, or the last one and the way so far.
  [[nodiscard]] std::vector<double> guess(double ahead, std::optional<WayPoint> between) const
  {
    std::vector<double> guessed = now_.temperature;
    if (model_.store().melts()) { // by the heat: a temperature that stands still says nothing of it
      const double share = before_ ? ahead / (now_.time - before_->time) : 0;
      for (std::size_t i = 0; before_ && i < guessed.size(); ++i)
        guessed[i] = model_.store().temperatureAt(
            UnknownId(i), now_.stored[i] + share * (now_.stored[i] - before_->stored[i]), guessed[i]);
      return guessed;
    }
    std::vector<WayPoint> way;
    if (between)
      way.push_back(*between);
    way.push_back({now_.time, &now_.temperature});
    if (before_)
      way.push_back({before_->time, &before_->temperature});
    if (beforeThat_ && !between)
      way.push_back({beforeThat_->time, &beforeThat_->temperature});
    const std::vector<double> shares = extrapolated(way, now_.time + ahead);
    for (std::size_t i = 0; i < guessed.size(); ++i) {
      double kelvin = 0;
      for (std::size_t p = 0; p < way.size(); ++p)
        kelvin += shares[p] * (*way[p].temperature)[i];
      guessed[i] = std::max(0.0, kelvin);
    }
    return guessed;
  }

  /// Shares of the states that a polynomial through them all has at another time (Lagrange).
  [[nodiscard]] static std::vector<double> extrapolated(const std::vector<WayPoint>& way, double time)
  {
    std::vector<double> shares(way.size(), 1.0);
    for (std::size_t p = 0; p < way.size(); ++p)
      for (std::size_t q = 0; q < way.size(); ++q)
        if (q != p)
          shares[p] *= (time - way[q].time) / (way[p].time - way[q].time);
    return shares;
  }

  Done step()
  {
    StepControl::Length length = control_.next(now_.time, limits_.largestStep);
    for (int tries = 0;; ++tries) {
      constexpr int mostTries = 40;
      if (tries > mostTries || length.seconds < StepControl::smallest(now_.time))
        return noStep();
      auto tried = attempt(length.seconds);
      if (!tried)
        return tl::unexpected(tried.error());
      std::optional<double> instead;
      if (!tried->converged) {
        instead = length.seconds / 4;
        stepper_.stages().forget();
      } else {
        instead = control_.shorterThan(length.seconds, tried->error);
      }
      if (instead)
        ++result_.rejected;
      else
        instead = triggers_.firstCrossing(now_, *tried, length.seconds);
      if (!instead)
        instead = ends_.settlesWithin(now_, tried->next, length.seconds, control_);
      if (instead) {
        length = {*instead, false};
        continue;
      }
      control_.accept(length, tried->error);
      return accept(std::move(*tried), length.atBreak);
    }
  }
  [[nodiscard]] Done noStep() const
  {
    return failure(
        Failure::Kind::Solver,
        partOfWorst(model_.mesh(), model_.conditions(), model_.system(), model_.system().balance(now_.temperature)),
        "At " + formatQuantity(now_.time, Quantity::Time) +
            " no time step, however short, finds temperatures; the balance is worst here.",
        "Check powers, coefficients and schedules around it.");
  }

  Done accept(StepAttempt tried, bool atBreak)
  {
    const double from = now_.time;
    double stored = 0;
    for (std::size_t i = 0; i < tried.next.stored.size(); ++i)
      stored += tried.next.stored[i] - now_.stored[i];
    beforeThat_ = std::move(before_);
    before_ = std::move(now_);
    now_ = std::move(tried.next);
    reporter_.takeFlows(std::move(tried.flows));
    ++result_.steps;
    limited_ = std::move(tried.limited);
    ends_.accepted();
    bounds_.note(model_, now_.temperature, now_.time, now_.time - from, !limited_.empty());
    if (auto heard = hear(reporter_.tell(now_, from, tried.energies, stored, control_.last(), triggers_.fired()));
        !heard)
      return heard;
    triggers_.note(*before_, now_);
    checkEnds();
    if (!result_.reason.empty())
      return {};
    const auto switched = triggers_.apply(now_, result_.events);
    if (!switched)
      return tl::unexpected(switched.error());
    result_.reason = triggers_.endReason();
    if (atBreak || *switched) {
      if (atBreak)
        result_.events.push_back({now_.time, RunEvent::Kind::Breakpoint, {}, {}});
      if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
        return moved;
      bounds_.takeSurroundings(model_);
      impose();
      if (auto settled = settleStoreless(); !settled)
        return settled;
      freshStart();
      reporter_.takeFlows({}); // flows and rates as they are from here on
      return hear(reporter_.tell(now_, now_.time, {}, 0, control_.last(), triggers_.fired()));
    }
    return {};
  }

  /// What whoever watches the run wants.
  Done hear(const Expected<StepAnswer>& answer)
  {
    if (!answer)
      return tl::unexpected(answer.error());
    if (!answer->goesOn)
      result_.reason = "ended by hand";
    if (answer->limits) {
      limits_ = *answer->limits;
      takeLimits();
    }
    return {};
  }

  /// How far a state is from settled: 1 where it just is.
  double excessAt(const TimedState& state, double within)
  {
    const auto remaining = settling_.remaining(state.temperature, state.time - beganAt());
    return remaining ? Settling::excess(*remaining, state.temperature, began_, within)
                     : std::numeric_limits<double>::infinity();
  }

  void noteRemaining()
  {
    const auto remaining = settling_.remaining(now_.temperature, now_.time - beganAt());
    if (!remaining)
      return;
    result_.remaining = 0;
    for (const double kelvin : *remaining)
      result_.remaining = std::max(*result_.remaining, std::abs(kelvin));
  }

  void checkEnds()
  {
    const EndJudge::Verdict verdict = ends_.judge(now_.time, fastest(), control_);
    if (!verdict.reason.empty()) {
      result_.reason += (result_.reason.empty() ? "" : "; ") + verdict.reason;
      result_.byCap = verdict.byCap;
    }
  }

  TimedModel& model_;
  const TransientOptions& options_;
  RunLimits limits_;
  StepReporter reporter_;
  TwoStageStep stepper_;
  StepLimiter limiter_;
  Settling settling_;
  BoundsTracker bounds_;
  StepControl control_;
  TimedState now_;
  std::optional<TimedState> before_, beforeThat_;
  std::vector<double> began_; ///< temperatures at the start, K
  std::vector<char> limited_; ///< unknowns that the last step held within bounds
  RunTriggers triggers_;
  EndJudge ends_;
  TransientSolution result_;
};

} // namespace

Expected<TransientSolution> solveTransient(TimedModel& model, const TransientRun& run, std::vector<double> start,
                                           const TransientOptions& options, const FlowMeter& meter,
                                           const StepObserver& observer, const Progress& progress)
{
  return Integrator(model, run, options, meter, observer, progress).run(std::move(start));
}

} // namespace kiln
