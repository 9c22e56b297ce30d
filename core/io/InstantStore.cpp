// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/InstantStore.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
std::vector<double> InstantStore::keptOf(std::span<const double> field) const
{
  if (kept_.empty())
    return {field.begin(), field.end()};
  std::vector<double> kept;
  kept.reserve(kept_.size());
  for (const UnknownId u : kept_)
    kept.push_back(field[at(u)]);
  return kept;
}

/// Where only some parts are stored, every so often all are, so that the run can go on from there.
Expected<void> InstantStore::append(double time, const std::vector<double>& values, bool whole)
{
  constexpr std::size_t wholeEvery = 20;
  if (whole || kept_.empty() || appended_++ % wholeEvery == 0)
    return writer_->appendInstant(time, values);
  std::vector<double> some(values.size(), std::numeric_limits<double>::quiet_NaN());
  for (const UnknownId u : kept_)
    some[at(u)] = values[at(u)];
  return writer_->appendInstant(time, some);
}

/// Instants after \p from, up to \p to, that are stored whatever the temperatures do, in order.
std::vector<double> InstantStore::wantedInstants(double from, double to, double coarser)
{
  std::vector<double> wanted;
  const double last = to + 1e-9 * std::max(1.0, std::abs(to));
  for (const StoredSpan& span : run_.storeAlso) {
    const double end = std::min(last, span.to ? span.to->si : span.from.si);
    const double every = span.every ? span.every->si * coarser : 1e300;
    const double skipped = std::max(0.0, std::floor((from - span.from.si) / every));
    const double left = (end - span.from.si) / every - skipped;
    for (int i = 0; i <= left; ++i)
      if (const double time = span.from.si + (skipped + i) * every; time > from)
        wanted.push_back(time);
  }
  if (run_.storeEvery && nextRegular_ > 1e299) {
    const double begun = startTime_;
    nextRegular_ = begun + (std::floor((from - begun) / run_.storeEvery->si) + 1) * run_.storeEvery->si;
  }
  if (run_.storeEvery)
    for (; nextRegular_ <= last; nextRegular_ += run_.storeEvery->si * coarser)
      wanted.push_back(nextRegular_);
  std::sort(wanted.begin(), wanted.end());
  wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
  return wanted;
}

/// Temperatures within the step from last_: a cubic by the rates at its ends; a line where nothing is stored.
std::vector<double> InstantStore::between(const AcceptedStep& step, double time) const
{
  std::vector<double> values(unknowns_);
  const double length = step.time - last_.time;
  const double s = std::min(1.0, (time - last_.time) / length);
  for (std::size_t u = 0; u < unknowns_; ++u) {
    const double a = last_.values[u];
    const double b = step.temperature[u];
    const double begins = lastRate_[u] * length;
    const double ends = step.rate[u] * length;
    values[u] = begins == 0 && ends == 0
                    ? a + s * (b - a)
                    : a + s * s * (3 - 2 * s) * (b - a) + s * (1 - s) * ((1 - s) * begins - s * ends);
  }
  return values;
}

void InstantStore::widenSpan(std::span<const double> field)
{
  for (const double kelvin : field) {
    low_ = std::min(low_, kelvin);
    high_ = std::max(high_, kelvin);
  }
}

void InstantStore::goOnFrom(double time, const std::vector<double>& field)
{
  last_ = {time, field};
  begun_ = true;
  storedAt_ = time;
  static_cast<void>(filter_.offer(time, keptOf(field), 0));
}

Expected<void> InstantStore::take(const AcceptedStep& step)
{
  if (!begun_ || step.time > last_.time)
    return store(step);
  lastRate_.assign(step.rate.begin(), step.rate.end()); // the same instant under new conditions
  return {};
}

Expected<void> InstantStore::finish()
{
  if (last_.time <= storedAt_)
    return {};
  return writer_->appendInstant(last_.time, last_.values); // whole, whatever parts are asked for
}

Expected<void> InstantStore::store(const AcceptedStep& step)
{
  const std::vector<double> field(step.temperature.begin(),
                                  step.temperature.begin() + static_cast<std::ptrdiff_t>(unknowns_));
  widenSpan(field);
  const double filled = static_cast<double>(writer_->bytes()) / mostStored;
  const double coarser = 1 + 40 * std::max(0.0, filled - 0.5); // ever coarser, so that the file stays below the cap
  Expected<void> written;
  const auto keep = [&](double time, const std::vector<double>& values) {
    if (!written || filled > 1 || time <= storedAt_)
      return;
    storedAt_ = time;
    written = append(time, values, time >= step.time); // it may be the last one
  };
  const bool first = !begun_;
  begun_ = true;
  if (first) {
    keep(step.time, field);
    static_cast<void>(filter_.offer(step.time, keptOf(field), 0));
  }
  for (const double time : first ? std::vector<double>{} : wantedInstants(last_.time, step.time, coarser)) {
    const std::vector<double> values = between(step, time);
    if (!run_.storeEvery && filter_.keep(time, keptOf(values)))
      keep(last_.time, last_.values);
    keep(time, values);
    ++betweenSteps_;
  }
  constexpr int mostBetween = 20; // a run can only go on from the end of a step
  if (run_.storeEvery && betweenSteps_ > mostBetween) {
    keep(step.time, field);
    betweenSteps_ = 0;
  } else if (!run_.storeEvery && !first) {
    constexpr double share = 1e-3; // of the span
    constexpr double least = 0.02; // K
    const double within = run_.storeWithin ? run_.storeWithin->si : std::max(least, share * (high_ - low_));
    if (filter_.offer(step.time, keptOf(field), coarser * within))
      keep(last_.time, last_.values);
  }
  last_ = {step.time, field};
  lastRate_.assign(step.rate.begin(), step.rate.end());
  return written;
}

} // namespace kiln
