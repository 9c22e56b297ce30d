// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/TransientSolver.h"

#include "solve/Crossing.h"
#include "solve/NewtonStep.h"
#include "solve/StageSolver.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

constexpr double gamma = 0.29289321881345247560; // 1 − 1/√2

/// Temperatures with the heat they store and how fast.
struct State {
  double time = 0;
  std::vector<double> temperature; // K
  std::vector<double> stored;      // J
  std::vector<double> storing;     // W
  std::vector<double> rate;        // K/s, 0 where nothing is stored
};

class Integrator
{
public:
  Integrator(TimedModel& model, const TransientRun& run, const TransientOptions& options, const FlowMeter& meter,
             const StepObserver& observer, const Progress& progress)
      : model_(model), run_(run), options_(options), meter_(meter), observer_(observer), progress_(progress),
        stages_(model, options.backend)
  {
  }

  Expected<TransientSolution> run(std::vector<double> start)
  {
    now_.time = options_.startTime;
    takeLimits();
    if (auto begun = begin(std::move(start)); !begun)
      return tl::unexpected(begun.error());
    while (result_.reason.empty()) {
      takeLimits();
      if (auto stepped = step(); !stepped)
        return tl::unexpected(stepped.error());
    }
    result_.temperature = now_.temperature;
    result_.time = now_.time;
    const StageSolver::Work& work = stages_.work();
    result_.linearSolver = stages_.linearSolver();
    result_.newtonSteps = work.newtonSteps;
    result_.linearIterations = work.linearIterations;
    result_.preparations = work.preparations;
    result_.linearSeconds = work.linearSeconds;
    result_.events.push_back({now_.time, RunEvent::Kind::Ended, {}, result_.reason});
    return std::move(result_);
  }

private:
  using Done = Expected<void>;

  /// Limits may have been changed while the run goes.
  void takeLimits()
  {
    tolerance_ = options_.tolerance > 0 ? options_.tolerance : usualTolerance;
    const double began = options_.past ? options_.past->beganAt : options_.startTime;
    const double last = began + (options_.longest > 0 ? options_.longest : usualLongest);
    if (last == last_ && run_.ends == ends_)
      return;
    last_ = last;
    ends_ = run_.ends;
    breaks_ = breakpoints(model_.base(), now_.time, last_);
    for (const EndRule& rule : ends_)
      if (const auto* time = std::get_if<EndAtTime>(&rule.when); time != nullptr && time->time.si > now_.time)
        breaks_.push_back(time->time.si);
    std::sort(breaks_.begin(), breaks_.end());
  }

  /// What had happened before the run was interrupted.
  Done recall(const RunPast& past)
  {
    for (const std::string& source : past.off)
      model_.turn(source, false);
    for (const std::string& id : past.fired)
      for (const RunRule& rule : run_.rules)
        if (rule.id == id) {
          fired_.push_back(id);
          if (auto applied = model_.apply(rule); !applied)
            return applied;
        }
    return {};
  }

  Done begin(std::vector<double> start)
  {
    now_.temperature = std::move(start);
    if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
      return moved;
    if (!options_.past)
      setInitialThermostats();
    else if (auto recalled = recall(*options_.past); !recalled)
      return recalled;
    if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
      return moved;
    impose();
    if (auto settled = settleStoreless(); !settled)
      return settled;
    freshStart();
    const double low = *std::min_element(now_.temperature.begin(), now_.temperature.end());
    lowest_ = std::min(low, lowestImposed());
    return report(now_.time, std::vector<double>(meter().size(), 0.0), 0);
  }

  /// Sets held temperatures at once and notes the heat that takes.
  void impose()
  {
    const std::vector<double> before = model_.store().stored(now_.temperature);
    model_.system().applyFixed(now_.temperature);
    const std::vector<double> after = model_.store().stored(now_.temperature);
    std::map<Index, const Conditions::Fixed*> holder; // later ones win
    for (const Conditions::Fixed& fixed : model_.conditions().fixed)
      for (const Index u : fixed.unknowns)
        holder[u] = &fixed;
    std::map<const Conditions::Fixed*, double> joules;
    for (const auto& [u, fixed] : holder)
      joules[fixed] += after[at(u)] - before[at(u)];
    for (const auto& [fixed, heat] : joules)
      if (heat != 0)
        jumps_.push_back({fixed->boundary, fixed->node, heat});
  }

  /// Lumped nodes that store nothing follow the others at once; so they do at the start.
  Done settleStoreless()
  {
    const std::vector<double> slope = model_.store().slope(now_.temperature);
    if (std::none_of(slope.begin(), slope.end(), [](double c) { return c <= 0; }))
      return {};
    std::vector<double> settled = now_.temperature;
    std::vector<double> storing;
    constexpr double instant = 1e-3; // s: what stores heat hardly moves, and is put back
    if (auto solved = stages_.solve(settled, model_.store().stored(settled), instant, accuracy(), storing); !solved)
      return solved;
    for (std::size_t i = 0; i < slope.size(); ++i)
      if (slope[i] <= 0)
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
    now_.rate = ratesOf(now_);
    before_.reset();
    const double fastest = std::abs(now_.rate[at(fastestOf(now_))]);
    const double first = fastest > 0 ? 0.5 * tolerance_ / fastest : 1.0;
    step_ = step_ > 0 ? std::min(step_, 20 * first) : first;
    step_ = std::max(step_, smallestStep());
  }
  [[nodiscard]] StageSolver::Accuracy accuracy() const
  {
    return {options_.convergence > 0 ? options_.convergence : usualConvergence, tolerance_};
  }
  [[nodiscard]] double smallestStep() const { return 1e-9 * std::max(1.0, std::abs(now_.time)); }

  [[nodiscard]] std::vector<double> ratesOf(const State& state) const
  {
    const std::vector<double> slope = model_.store().slope(state.temperature);
    std::vector<double> rate(slope.size(), 0.0);
    for (std::size_t i = 0; i < rate.size(); ++i)
      if (slope[i] > 0 && model_.system().isFixed()[i] == 0)
        rate[i] = state.storing[i] / slope[i];
    return rate;
  }
  static Index fastestOf(const State& state)
  {
    std::size_t found = 0;
    for (std::size_t i = 0; i < state.rate.size(); ++i)
      if (std::abs(state.rate[i]) > std::abs(state.rate[found]))
        found = i;
    return static_cast<Index>(found);
  }

  /// The lowest temperature that a boundary could bring about.
  [[nodiscard]] double lowestImposed() const
  {
    double low = std::numeric_limits<double>::infinity();
    const Conditions& c = model_.conditions();
    for (const auto& convection : c.convection)
      low = std::min(low, convection.ambientAt || convection.ambientCurve ? 0.0 : convection.ambient);
    for (const auto& radiation : c.radiation)
      low = std::min(low, radiation.surroundings);
    for (const auto& fixed : c.fixed)
      for (std::size_t i = 0; i < fixed.unknowns.size(); ++i)
        low = std::min(low, fixed.temperatureAt(i));
    for (const Boundary& boundary : model_.now().boundaries)
      if (const auto* passage = std::get_if<FlowPassage>(&boundary.condition))
        low = std::min(low, passage->inlet.si);
    for (const Enclosure& enclosure : model_.now().enclosures)
      if (enclosure.opening)
        low = std::min(low, enclosure.opening->si);
    return low;
  }

  /// Local error of a step in kelvin: γ-weighted second difference of the rates of storing, brought to temperatures by
  /// the step's own matrix so that what is stiff does not frighten. For T' = λT the difference is the leading error
  /// −0.0404 h³λ³T of the method.
  /// What melts or freezes within the step is judged by the heat it takes for a kelvin on the way, latent heat
  /// included: its temperature does not jump however fast its heat comes and goes.
  double errorOf(const std::vector<double>& first, const State& next)
  {
    const std::vector<double>& second = next.storing;
    constexpr double scale = 0.0404 * 2 / 0.586;
    std::vector<double> right(first.size(), 0.0);
    for (std::size_t i = 0; i < right.size(); ++i)
      if (model_.system().isFixed()[i] == 0)
        right[i] =
            scale / gamma * (now_.storing[i] / gamma - first[i] / (gamma * (1 - gamma)) + second[i] / (1 - gamma));
    if (model_.store().melts()) {
      const std::vector<double> before = model_.store().slope(now_.temperature);
      const std::vector<double> after = model_.store().slope(next.temperature);
      for (std::size_t i = 0; i < right.size(); ++i) {
        const double change = next.temperature[i] - now_.temperature[i];
        const double secant = std::abs(change) > 1e-9 ? (next.stored[i] - now_.stored[i]) / change : 0;
        const double most = std::max({before[i], after[i], secant});
        if (most > 0)
          right[i] *= std::min(before[i], after[i]) / most;
      }
    }
    const std::vector<double> error = stages_.roughly(right);
    const std::vector<double> slope = model_.store().slope(now_.temperature);
    double largest = 0;
    for (std::size_t i = 0; i < error.size(); ++i)
      if (slope[i] > 0)
        largest = std::max(largest, std::abs(error[i]));
    return largest;
  }

  /// A try at one step; \p next is only filled when it converged.
  struct Attempt {
    State next;
    std::vector<double> energies; // J
    std::vector<double> flows;    // W at the end
    double error = std::numeric_limits<double>::infinity();
    bool converged = false;
  };

  Expected<Attempt> attempt(double step)
  {
    Attempt tried;
    const double length = gamma * step;
    if (auto moved = model_.moveTo(now_.time + length, Moment::After); !moved)
      return tl::unexpected(moved.error());
    std::vector<double> first = guess(length);
    std::vector<double> firstStoring;
    if (!stages_.solve(first, now_.stored, length, accuracy(), firstStoring))
      return tried;
    const std::vector<double> firstFlows = meter_ ? meter_(model_, first, firstStoring) : std::vector<double>{};
    std::vector<double> base = now_.stored;
    for (std::size_t i = 0; i < base.size(); ++i)
      base[i] += step * (1 - gamma) * firstStoring[i];
    tried.next.time = now_.time + step;
    if (auto moved = model_.moveTo(tried.next.time, Moment::Before); !moved)
      return tl::unexpected(moved.error());
    tried.next.temperature = first;
    if (before_)
      tried.next.temperature = guess(step);
    if (!stages_.solve(tried.next.temperature, base, length, accuracy(), tried.next.storing))
      return tried;
    tried.next.stored = model_.store().stored(tried.next.temperature);
    tried.next.rate = ratesOf(tried.next);
    if (auto prepared = stages_.prepare(tried.next.temperature, length); !prepared)
      return tl::unexpected(prepared.error());
    tried.error = errorOf(firstStoring, tried.next);
    tried.converged = true;
    if (meter_) {
      tried.flows = meter_(model_, tried.next.temperature, tried.next.storing);
      for (std::size_t i = 0; i < tried.flows.size(); ++i)
        tried.energies.push_back(step * ((1 - gamma) * firstFlows[i] + gamma * tried.flows[i]));
    }
    return tried;
  }

  /// Temperatures after a while as the last step suggests.
  [[nodiscard]] std::vector<double> guess(double ahead) const
  {
    std::vector<double> guessed = now_.temperature;
    if (!before_)
      return guessed;
    const double share = ahead / (now_.time - before_->time);
    for (std::size_t i = 0; i < guessed.size(); ++i)
      guessed[i] = std::max(0.0, guessed[i] + share * (guessed[i] - before_->temperature[i]));
    return guessed;
  }

  Done step()
  {
    double length = step_;
    if (options_.largestStep > 0)
      length = std::min(length, options_.largestStep);
    bool atBreak = false;
    const auto limit = [&](double instant) {
      const double left = instant - now_.time;
      if (length >= left * (1 - 1e-9)) {
        length = left;
        atBreak = true;
      } else if (length > left / 2) {
        length = left / 2; // two equal steps rather than a tiny last one
      }
    };
    while (!breaks_.empty() && breaks_.front() <= now_.time + smallestStep())
      breaks_.erase(breaks_.begin());
    limit(breaks_.empty() ? last_ : std::min(breaks_.front(), last_));
    for (int tries = 0;; ++tries) {
      constexpr int mostTries = 40;
      if (tries > mostTries || length < smallestStep())
        return failure(
            Failure::Kind::Solver,
            partOfWorst(model_.mesh(), model_.conditions(), model_.system(), model_.system().balance(now_.temperature)),
            "At " + formatQuantity(now_.time, Quantity::Time) +
                " no time step, however short, finds temperatures; the balance is worst here.",
            "Check powers, coefficients and schedules around it.");
      auto tried = attempt(length);
      if (!tried)
        return tl::unexpected(tried.error());
      if (!tried->converged) {
        length /= 4;
        atBreak = false;
        ++result_.rejected;
        stages_.forget();
        continue;
      }
      const double ratio = tried->error / tolerance_;
      const double factor = std::clamp(0.85 * std::cbrt(1 / std::max(ratio, 1e-9)), 0.2, 4.0);
      if (ratio > 1) {
        length *= std::min(factor, 0.8);
        atBreak = false;
        ++result_.rejected;
        continue;
      }
      if (const auto crossing = firstCrossing(*tried, length)) {
        length = *crossing;
        atBreak = false;
        continue;
      }
      // A new step length needs a new matrix: a small gain is not worth it.
      constexpr double worthwhile = 1.4;
      if (factor >= worthwhile || factor < 1)
        step_ = length * factor;
      else
        step_ = std::max(length, atBreak ? step_ : length);
      return accept(std::move(*tried), atBreak);
    }
  }

  Done accept(Attempt tried, bool atBreak)
  {
    const double from = now_.time;
    double stored = 0;
    for (std::size_t i = 0; i < tried.next.stored.size(); ++i)
      stored += tried.next.stored[i] - now_.stored[i];
    noteRates(tried.next);
    before_ = std::move(now_);
    now_ = std::move(tried.next);
    flows_ = std::move(tried.flows);
    ++result_.steps;
    for (const double kelvin : now_.temperature)
      if (kelvin < lowest_)
        result_.undershoot = std::max(result_.undershoot, lowest_ - kelvin);
    if (auto reported = report(from, tried.energies, stored); !reported)
      return reported;
    checkEnds();
    if (!result_.reason.empty())
      return {};
    bool switched = switchThermostats();
    if (auto fired = fireRules(); !fired)
      return tl::unexpected(fired.error());
    else
      switched = switched || *fired;
    if (atBreak || switched) {
      if (atBreak)
        result_.events.push_back({now_.time, RunEvent::Kind::Breakpoint, {}, {}});
      if (auto moved = model_.moveTo(now_.time, Moment::After); !moved)
        return moved;
      lowest_ = std::min(lowest_, lowestImposed());
      impose();
      if (auto settled = settleStoreless(); !settled)
        return settled;
      freshStart();
      flows_.clear(); // flows and rates as they are from here on
      return report(now_.time, {}, 0);
    }
    return {};
  }

  Done report(double from, const std::vector<double>& energies, double stored)
  {
    AcceptedStep step;
    step.from = from;
    step.time = now_.time;
    step.model = &model_;
    step.temperature = now_.temperature;
    step.rate = now_.rate;
    step.storing = now_.storing;
    step.fastestAt = fastestOf(now_);
    step.fastest = std::abs(now_.rate[at(step.fastestAt)]);
    step.fired = fired_;
    if (flows_.empty())
      flows_ = meter();
    step.flows = flows_;
    step.energies = energies;
    step.stored = stored;
    if (now_.time > from) {
      for (const AcceptedStep::Jump& jump : jumps_)
        step.stored += jump.joules;
      step.jumps = jumps_;
    }
    const double span = last_ - options_.startTime;
    progress_("solve", 0.5 + 0.4 * std::min(1.0, (now_.time - options_.startTime) / span),
              "at " + formatQuantity(now_.time, Quantity::Time));
    const Expected<bool> on = observer_(step);
    if (!on)
      return tl::unexpected(on.error());
    if (!*on)
      result_.reason = "ended by hand";
    if (now_.time > from)
      jumps_.clear();
    return {};
  }
  [[nodiscard]] std::vector<double> meter() const
  {
    return meter_ ? meter_(model_, now_.temperature, now_.storing) : std::vector<double>{};
  }

  /// What is left of the change, from how the fastest rate dies down: r τ.
  void noteRates(const State& next)
  {
    const double before = std::abs(now_.rate[at(fastestOf(now_))]);
    const double after = std::abs(next.rate[at(fastestOf(next))]);
    if (after > 0 && before > after)
      result_.remaining = after * (next.time - now_.time) / std::log(before / after);
  }

  void checkEnds()
  {
    std::vector<std::string> met;
    std::size_t rules = run_.ends.size();
    for (const EndRule& rule : run_.ends)
      if (const std::string reason = reasonOf(rule); !reason.empty())
        met.push_back(reason);
    if (run_.ends.empty()) {
      rules = 1;
      if (const std::string reason = settled(usualSettledRate); !reason.empty())
        met.push_back(reason);
    }
    if (!met.empty() && (!run_.endWhenAll || met.size() == rules)) {
      for (const std::string& reason : met)
        result_.reason += (result_.reason.empty() ? "" : "; ") + reason;
    } else if (now_.time >= last_ - smallestStep()) {
      result_.reason = "the longest time allowed, " + formatQuantity(last_, Quantity::Time) + ", was reached";
      result_.byCap = true;
    }
  }

  [[nodiscard]] std::string settled(double rate) const
  {
    if (!breaks_.empty() && breaks_.back() > now_.time + smallestStep())
      return {}; // something is still to come
    const double fastest = std::abs(now_.rate[at(fastestOf(now_))]);
    return fastest < rate ? "settled: no place changes faster than " + formatQuantity(rate, Quantity::TemperatureRate)
                          : "";
  }

  std::string reasonOf(const EndRule& rule)
  {
    if (const auto* time = std::get_if<EndAtTime>(&rule.when))
      return now_.time >= time->time.si - smallestStep() ? "the time set was reached" : "";
    if (const auto* steady = std::get_if<EndSettled>(&rule.when))
      return settled(steady->rate.si);
    const auto& value = std::get<EndAtValue>(rule.when);
    if (!crossedNow(value.watch, value.value.si, value.falling))
      return {};
    const Watch* watch = findById(model_.base().watches, value.watch);
    return (watch != nullptr ? watch->name : value.watch) + (value.falling ? " fell to " : " rose to ") +
           formatQuantity(value.value.si, Quantity::Temperature);
  }

  // --- crossings -----------------------------------------------------------------------------------------------

  /// Watch values that something waits for.
  struct Threshold {
    std::string owner; // rule or source id
    std::string watch;
    double value;
    bool falling;
  };

  [[nodiscard]] std::vector<Threshold> thresholds() const
  {
    std::vector<Threshold> all;
    for (const EndRule& rule : run_.ends)
      if (const auto* value = std::get_if<EndAtValue>(&rule.when))
        all.push_back({rule.id, value->watch, value->value.si, value->falling});
    for (const RunRule& rule : run_.rules)
      if (!hasFired(rule.id))
        all.push_back({rule.id, rule.watch, rule.value.si, rule.falling});
    for (const HeatSource& source : model_.now().sources)
      if (source.thermostat && !source.thermostat->graded) {
        const double half = source.thermostat->band.si / 2;
        const bool on = model_.isOn(source.id);
        all.push_back({source.id, source.thermostat->watch, source.thermostat->setPoint.si + (on ? half : -half), !on});
      }
    return all;
  }

  std::optional<double> valueOf(const std::string& watch, const std::vector<double>& temperature)
  {
    auto found = probes_.find(watch);
    if (found == probes_.end())
      found = probes_.emplace(watch, model_.probe(watch)).first;
    if (!found->second)
      return std::nullopt;
    return found->second->value(temperature);
  }

  /// Length of the step to the first crossing inside it; nothing when there is none or it lies at the end.
  std::optional<double> firstCrossing(const Attempt& tried, double length)
  {
    constexpr double exactly = 0.05; // s
    std::optional<double> first;
    for (const Threshold& threshold : thresholds()) {
      const auto from = valueOf(threshold.watch, now_.temperature);
      const auto to = valueOf(threshold.watch, tried.next.temperature);
      if (!from || !to)
        continue;
      const double sign = threshold.falling ? -1 : 1;
      if (sign * (*from - threshold.value) >= 0 || sign * (*to - threshold.value) < 0)
        continue;
      const double share = crossingShare(*probeNamed(threshold.watch), now_.temperature, now_.rate,
                                         tried.next.temperature, tried.next.rate, length, threshold.value);
      const double instant = share * length;
      if (length - instant > exactly && (!first || instant < *first))
        first = std::max(instant, smallestStep());
    }
    return first;
  }
  const WatchProbe* probeNamed(const std::string& watch) { return &*probes_.at(watch); }

  /// Has the value been reached by the present state, to the accuracy with which crossings are found?
  bool crossedNow(const std::string& watch, double value, bool falling)
  {
    const auto now = valueOf(watch, now_.temperature);
    const auto was = before_ ? valueOf(watch, before_->temperature) : std::nullopt;
    if (!now || !was)
      return false;
    const double sign = falling ? -1 : 1;
    // Half of what it moves in the time crossings are found to.
    const double near = before_ ? 0.05 * std::abs(*now - *was) / (now_.time - before_->time) : 0;
    return sign * (*was - value) < 0 && sign * (*now - value) >= -near;
  }

  void setInitialThermostats()
  {
    for (const HeatSource& source : model_.base().sources)
      if (source.thermostat && !source.thermostat->graded)
        if (const auto value = valueOf(source.thermostat->watch, now_.temperature))
          if (*value >= source.thermostat->setPoint.si)
            model_.turn(source.id, false);
  }

  bool switchThermostats()
  {
    bool switched = false;
    const Project& now = model_.now();
    for (const HeatSource& source : now.sources) {
      if (!source.thermostat || source.thermostat->graded)
        continue;
      const bool on = model_.isOn(source.id);
      const double half = source.thermostat->band.si / 2;
      const double edge = source.thermostat->setPoint.si + (on ? half : -half);
      if (!crossedNow(source.thermostat->watch, edge, !on))
        continue;
      result_.events.push_back(
          {now_.time, on ? RunEvent::Kind::SwitchedOff : RunEvent::Kind::SwitchedOn, source.id, source.name});
      model_.turn(source.id, !on);
      switched = true;
    }
    return switched;
  }

  [[nodiscard]] bool hasFired(const std::string& rule) const
  {
    return std::find(fired_.begin(), fired_.end(), rule) != fired_.end();
  }

  Expected<bool> fireRules()
  {
    bool any = false;
    for (const RunRule& rule : run_.rules) {
      if (hasFired(rule.id) || !crossedNow(rule.watch, rule.value.si, rule.falling))
        continue;
      fired_.push_back(rule.id);
      any = true;
      const Watch* watch = findById(model_.base().watches, rule.watch);
      const std::string what = (watch != nullptr ? watch->name : rule.watch) +
                               (rule.falling ? " fell to " : " rose to ") +
                               formatQuantity(rule.value.si, Quantity::Temperature);
      result_.events.push_back({now_.time, RunEvent::Kind::RuleFired, rule.id, what});
      if (auto applied = model_.apply(rule); !applied)
        return tl::unexpected(applied.error());
      if (rule.end)
        result_.reason = what;
    }
    return any;
  }

  TimedModel& model_;
  const TransientRun& run_;
  const TransientOptions& options_;
  const FlowMeter& meter_;
  const StepObserver& observer_;
  const Progress& progress_;
  StageSolver stages_;
  double tolerance_ = usualTolerance, last_ = 0;
  std::vector<double> breaks_;
  State now_;
  std::optional<State> before_;
  std::vector<double> flows_;
  std::vector<AcceptedStep::Jump> jumps_; ///< since the last accepted step
  double step_ = 0;
  double lowest_ = 0;
  std::map<std::string, std::optional<WatchProbe>> probes_;
  std::vector<std::string> fired_; ///< rules, in order
  std::vector<EndRule> ends_;      ///< that breaks_ was made for
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
