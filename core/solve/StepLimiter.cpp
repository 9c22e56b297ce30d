// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/StepLimiter.h"

#include "base/At.h"
#include "heat/elements/VolumeElement.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

double totalChange(const std::vector<double>& after, const std::vector<double>& before)
{
  double sum = 0;
  for (std::size_t i = 0; i < after.size(); ++i)
    sum += after[i] - before[i];
  return sum;
}

/// How far heat may move temperatures: the range, and where a bound is not known as far again as they reach.
BoundsTracker::Range reachOf(const BoundsTracker::Range& range, const std::vector<double>& temperature)
{
  const auto [coldest, hottest] = std::minmax_element(temperature.begin(), temperature.end());
  const double low = std::isfinite(range.low) ? range.low : std::max(0.0, 2 * *coldest - *hottest);
  return {low, std::isfinite(range.high) ? range.high : 2 * *hottest - low};
}

} // namespace

std::vector<double> StepLimiter::sharesOf(const std::vector<double>& high, const std::vector<double>& low,
                                          const BoundsTracker::Range& range, double slack) const
{
  std::vector<double> own(high.size(), 1.0);
  for (std::size_t i = 0; i < own.size(); ++i) {
    const double reach = high[i] - low[i];
    if (high[i] > range.high + slack)
      own[i] = reach > 0 ? std::clamp((range.high - low[i]) / reach, 0.0, 1.0) : 0;
    else if (high[i] < range.low - slack)
      own[i] = reach < 0 ? std::clamp((range.low - low[i]) / reach, 0.0, 1.0) : 0;
  }
  std::vector<double> share = own;
  const Mesh& mesh = model_.mesh();
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh, model_.conditions().unknowns, e);
    double least = 1;
    for (const UnknownId u : nodes)
      least = std::min(least, own[static_cast<std::size_t>(u)]);
    if (least < 1)
      for (const UnknownId u : nodes)
        share[static_cast<std::size_t>(u)] = std::min(share[static_cast<std::size_t>(u)], least);
  }
  return share;
}

double StepLimiter::blend(UnknownId unknown, double share, const TimedState& high, const TimedState& low) const
{
  const std::size_t i = at(unknown);
  const double linear = low.temperature[i];
  if (!model_.store().lumped() || !model_.store().stores(unknown))
    return linear + share * (high.temperature[i] - linear);
  return model_.store().temperatureAt(unknown, low.stored[i] + share * (high.stored[i] - low.stored[i]), linear);
}

void StepLimiter::place(double missing, const std::vector<double>& share, const BoundsTracker::Range& range,
                        std::vector<double>& temperature) const
{
  if (model_.store().lumped()) {
    placeJoules(missing, share, range, temperature);
    return;
  }
  const auto [low, high] = reachOf(range, temperature);
  std::vector<double> room(temperature.size(), 0.0);
  for (std::size_t i = 0; i < room.size(); ++i)
    if (share[i] < 1 && high > low && model_.system().isFixed()[i] == 0)
      room[i] = std::max((temperature[i] - low) * (high - temperature[i]) / (high - low), 0.0);
  const std::vector<double> stored = model_.store().storingOf(temperature, room);
  const double capacity = std::accumulate(stored.begin(), stored.end(), 0.0); // J for a factor of 1
  if (capacity <= 0)
    return;
  const double factor = std::clamp(missing / capacity, -1.0, 1.0); // a factor of 1 reaches the bound at most
  for (std::size_t i = 0; i < room.size(); ++i)
    temperature[i] += factor * room[i];
}

void StepLimiter::placeJoules(double missing, const std::vector<double>& share, const BoundsTracker::Range& range,
                              std::vector<double>& temperature) const
{
  const HeatStore& store = model_.store();
  const auto [low, high] = reachOf(range, temperature);
  const std::vector<double> least = store.stored(std::vector<double>(temperature.size(), low));
  const std::vector<double> most = store.stored(std::vector<double>(temperature.size(), high));
  const std::vector<double> own = store.stored(temperature);
  std::vector<double> room(temperature.size(), 0.0);
  for (std::size_t i = 0; i < room.size(); ++i)
    if (share[i] < 1 && most[i] > least[i] && model_.system().isFixed()[i] == 0)
      room[i] = std::max((own[i] - least[i]) * (most[i] - own[i]) / (most[i] - least[i]), 0.0);
  const double capacity = std::accumulate(room.begin(), room.end(), 0.0);
  if (capacity <= 0)
    return;
  const double factor = std::clamp(missing / capacity, -1.0, 1.0);
  for (std::size_t i = 0; i < room.size(); ++i)
    if (room[i] > 0)
      temperature[i] = store.temperatureAt(UnknownId(i), own[i] + factor * room[i], temperature[i]);
}

Expected<StepAttempt> StepLimiter::linearStep(TimedState& from, double step, const StageSolver::Accuracy& wanted,
                                              const FlowMeter& meter)
{
  auto monotone = model_.monotone();
  if (!monotone)
    return tl::unexpected(monotone.error());
  TimedModel& model = **monotone;
  if (!linear_)
    linear_ = std::make_unique<TwoStageStep>(model, backend_);
  from.stored = model.store().stored(from.temperature);
  if (auto moved = model.moveTo(from.time, Moment::After); !moved)
    return tl::unexpected(moved.error());
  from.storing = model.system().balance(from.temperature);
  for (std::size_t i = 0; i < from.storing.size(); ++i)
    if (model.system().isFixed()[i] != 0)
      from.storing[i] = 0;
  return linear_->attempt(
      from, step, wanted, [&](double, std::optional<WayPoint>) { return from.temperature; }, meter);
}

Expected<void> StepLimiter::limit(const TimedState& now, double step, const BoundsTracker::Range& range, double slack,
                                  const StageSolver::Accuracy& wanted, const FlowMeter& meter,
                                  std::vector<double>& errors, StepAttempt& tried)
{
  const auto [coldest, hottest] = std::minmax_element(tried.next.temperature.begin(), tried.next.temperature.end());
  if (*coldest >= range.low - slack && *hottest <= range.high + slack)
    return {};
  TimedState from = now;
  const auto linear = linearStep(from, step, wanted, meter);
  if (!linear)
    return tl::unexpected(linear.error());
  if (!linear->converged) {
    tried.converged = false;
    return {};
  }
  const std::vector<double> share = sharesOf(tried.next.temperature, linear->next.temperature, range, slack);
  const std::vector<double> linearErrors = linear_->errorsOf(from, from.storing, *linear);
  std::vector<double>& blended = tried.next.temperature;
  tried.limited.assign(blended.size(), 0);
  for (std::size_t i = 0; i < blended.size(); ++i) {
    if (share[i] >= 1)
      continue;
    tried.limited[i] = 1;
    errors[i] = linearErrors[i];
    blended[i] = std::clamp(blend(UnknownId(i), share[i], tried.next, linear->next),
                            std::min(range.low, now.temperature[i]), std::max(range.high, now.temperature[i]));
    tried.next.rate[i] = linear->next.rate[i];
  }
  conserve(now, from, *linear, share, range, tried);
  if (meter)
    tried.flows = meter(model_, blended, tried.next.storing);
  return {};
}

void StepLimiter::conserve(const TimedState& now, const TimedState& from, const StepAttempt& linear,
                           const std::vector<double>& share, const BoundsTracker::Range& range,
                           StepAttempt& tried) const
{
  const HeatStore& store = model_.store();
  std::vector<double>& blended = tried.next.temperature;
  const double ofHigh = totalChange(tried.next.stored, now.stored);
  const double ofLow = totalChange(linear.next.stored, from.stored);
  const double apart = ofHigh - ofLow;
  constexpr double rounding = 1e-12;
  const bool distinct = std::abs(apart) > rounding * (std::abs(ofHigh) + std::abs(ofLow));
  constexpr int rounds = 4; // the specific heat may follow the temperature
  for (int i = 0; i < rounds; ++i) {
    const double missing = ofHigh - totalChange(store.stored(blended), now.stored);
    if (std::abs(missing) <= rounding * (std::abs(ofHigh) + std::abs(ofLow)))
      break;
    place(missing, share, range, blended);
  }
  // What found no place within the bounds is taken to have flowed as in the linear step.
  const double part = distinct ? (totalChange(store.stored(blended), now.stored) - ofLow) / apart : 1;
  for (std::size_t i = 0; i < tried.energies.size(); ++i)
    tried.energies[i] = linear.energies[i] + part * (tried.energies[i] - linear.energies[i]);
  tried.next.stored = store.stored(blended);
  // Rates of storing as the balance of these temperatures has them.
  const std::vector<double> held = store.storingOf(blended, tried.next.rate);
  tried.next.storing = model_.system().balance(blended);
  for (std::size_t i = 0; i < blended.size(); ++i)
    if (model_.system().isFixed()[i] != 0)
      tried.next.storing[i] = held[i];
}

} // namespace kiln
