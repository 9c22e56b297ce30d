// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/RunRecord.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// A watched value within one step: the cubic through both ends with their slopes, or a line where there are none.
class Piece
{
public:
  Piece(double from, double to, double v0, double v1, double s0, double s1)
      : from_(from), length_(to - from), v0_(v0), v1_(v1), s0_(s0 * length_), s1_(s1 * length_)
  {
    // Where both ends rise (or fall) with the values, the cubic must not turn between them (Fritsch, Carlson 1980).
    const double rise = v1 - v0;
    if (rise != 0 && s0_ * rise >= 0 && s1_ * rise >= 0) {
      const double most = 3 * std::abs(rise);
      s0_ = std::clamp(s0_, -most, most);
      s1_ = std::clamp(s1_, -most, most);
    }
  }
  [[nodiscard]] double at(double share) const
  {
    const double s = share;
    return v0_ + s * s * (3 - 2 * s) * (v1_ - v0_) + s * (1 - s) * (1 - s) * s0_ - s * s * (1 - s) * s1_;
  }
  [[nodiscard]] double time(double share) const { return from_ + share * length_; }
  [[nodiscard]] double length() const { return length_; }
  /// Shares where the slope is zero.
  [[nodiscard]] std::vector<double> turns() const
  {
    // v' = a s² + b s + c
    const double a = 3 * (s0_ + s1_) - 6 * (v1_ - v0_);
    const double b = 6 * (v1_ - v0_) - 4 * s0_ - 2 * s1_;
    const double c = s0_;
    std::vector<double> found;
    const auto keep = [&](double share) {
      if (share > 0 && share < 1)
        found.push_back(share);
    };
    if (std::abs(a) < 1e-14 * (std::abs(b) + std::abs(c))) {
      if (b != 0)
        keep(-c / b);
      return found;
    }
    const double inside = b * b - 4 * a * c;
    if (inside < 0)
      return found;
    keep((-b + std::sqrt(inside)) / (2 * a));
    keep((-b - std::sqrt(inside)) / (2 * a));
    return found;
  }
  /// First share at which the value passes a level upward (or downward).
  [[nodiscard]] std::optional<double> passes(double level, bool upward) const
  {
    constexpr int parts = 16;
    const double sign = upward ? 1 : -1;
    for (int i = 0; i < parts; ++i) {
      double low = static_cast<double>(i) / parts;
      double high = static_cast<double>(i + 1) / parts;
      if (sign * (at(low) - level) >= 0 || sign * (at(high) - level) < 0)
        continue;
      for (int halving = 0; halving < 40; ++halving) {
        const double middle = (low + high) / 2;
        (sign * (at(middle) - level) < 0 ? low : high) = middle;
      }
      return high;
    }
    return std::nullopt;
  }
  /// Seconds above (or below) a level, sampled finely.
  [[nodiscard]] double secondsBeyond(double level, bool above) const
  {
    constexpr int samples = 64;
    int beyond = 0;
    for (int i = 0; i < samples; ++i)
      if ((at((i + 0.5) / samples) > level) == above)
        ++beyond;
    return length_ * beyond / samples;
  }

private:
  double from_, length_, v0_, v1_, s0_, s1_;
};

double slopeAt(const std::vector<double>& slopes, const std::vector<double>& times, const std::vector<double>& values,
               std::size_t step, bool first)
{
  if (!slopes.empty())
    return slopes[first ? step : step + 1];
  return (values[step + 1] - values[step]) / (times[step + 1] - times[step]);
}

} // namespace

const RunTrace* RunRecord::find(RunTrace::Kind kind, const std::string& id) const
{
  for (const RunTrace& trace : traces)
    if (trace.kind == kind && trace.id == id)
      return &trace;
  return nullptr;
}

std::optional<double> RunRecord::at(RunTrace::Kind kind, const std::string& id, double time) const
{
  const RunTrace* trace = find(kind, id);
  if (trace == nullptr || trace->values.empty() || trace->values.size() != times.size())
    return std::nullopt;
  const auto known = [](double value) { return std::isfinite(value) ? std::optional(value) : std::nullopt; };
  const auto after = std::lower_bound(times.begin(), times.end(), time);
  if (after == times.begin())
    return known(trace->values.front());
  if (after == times.end())
    return known(trace->values.back());
  const auto i = static_cast<std::size_t>(after - times.begin());
  const double share = (time - times[i - 1]) / (times[i] - times[i - 1]);
  return known(trace->values[i - 1] + share * (trace->values[i] - trace->values[i - 1]));
}

std::optional<ThermostatReport> thermostatReport(const RunRecord& record, const std::string& source)
{
  const RunTrace* state = record.find(RunTrace::Kind::Switch, source);
  const RunTrace* energy = record.find(RunTrace::Kind::SourceEnergy, source);
  if (state == nullptr || energy == nullptr || record.times.size() < 2)
    return std::nullopt;
  ThermostatReport report;
  for (std::size_t i = 1; i < record.times.size(); ++i) {
    const double length = record.times[i] - record.times[i - 1];
    report.on += length > 0 ? length * state->values[i] : 0; // the row at a step's end has the state it went by
    report.switchings += state->values[i] != state->values[i - 1] ? 1 : 0;
  }
  report.on /= record.times.back() - record.times.front();
  report.energy = energy->values.back();
  return report;
}

WindowEnergy energyBetween(const RunRecord& record, double from, double to)
{
  const auto change = [&](RunTrace::Kind kind) {
    return record.at(kind, {}, to).value_or(0) - record.at(kind, {}, from).value_or(0);
  };
  return {change(RunTrace::Kind::InEnergy), change(RunTrace::Kind::OutEnergy), change(RunTrace::Kind::StoredEnergy)};
}

double usualBand(const std::vector<double>& values)
{
  constexpr double least = 0.1; // K
  return values.empty() ? least : std::max(least, 0.01 * std::abs(values.back() - values.front()));
}

RunAnswers answersOf(const std::vector<double>& times, const std::vector<double>& values,
                     const std::vector<double>& slopes, const std::vector<double>& places, std::optional<double> upper,
                     std::optional<double> lower, double band)
{
  RunAnswers answers;
  if (values.empty() || values.size() != times.size())
    return answers;
  const auto placeOf = [&](std::size_t step) { return places.empty() ? NodeId() : NodeId(std::lround(places[step])); };
  answers.start = values.front();
  answers.end = values.back();
  answers.peak = answers.trough = {times.front(), values.front(), placeOf(0)};
  const auto offer = [&](double time, double value, std::size_t step) {
    if (value > answers.peak.value)
      answers.peak = {time, value, placeOf(step)};
    if (value < answers.trough.value)
      answers.trough = {time, value, placeOf(step)};
  };
  const double begin = times.front();
  const double change = answers.end - answers.start;
  if (upper && values.front() >= *upper)
    answers.crossedUpper = begin;
  if (lower && values.front() <= *lower)
    answers.crossedLower = begin;
  double lastOutside = std::abs(values.front() - answers.end) > band ? begin : -1;
  bool everOutside = lastOutside >= 0;
  const auto reached = [&](std::optional<double>& when, double share, const Piece& piece) {
    if (!when && change != 0)
      if (const auto at = piece.passes(answers.start + share * change, change > 0))
        when = piece.time(*at) - begin;
  };
  for (std::size_t i = 0; i + 1 < values.size(); ++i) {
    if (times[i + 1] <= times[i])
      continue;
    const Piece piece(times[i], times[i + 1], values[i], values[i + 1], slopeAt(slopes, times, values, i, true),
                      slopeAt(slopes, times, values, i, false));
    for (const double share : piece.turns())
      offer(piece.time(share), piece.at(share), i + 1);
    offer(times[i + 1], values[i + 1], i + 1);
    if (upper) {
      if (const auto at = piece.passes(*upper, true); at && !answers.crossedUpper)
        answers.crossedUpper = piece.time(*at);
      answers.aboveUpper += piece.secondsBeyond(*upper, true);
    }
    if (lower) {
      if (const auto at = piece.passes(*lower, false); at && !answers.crossedLower)
        answers.crossedLower = piece.time(*at);
      answers.belowLower += piece.secondsBeyond(*lower, false);
    }
    constexpr double oneTimeConstant = 0.63212055882855767840; // 1 − 1/e
    reached(answers.reached63, oneTimeConstant, piece);
    reached(answers.reached95, 0.95, piece);
    const bool outsideBefore = std::abs(values[i] - answers.end) > band;
    const bool outsideAfter = std::abs(values[i + 1] - answers.end) > band;
    if (outsideAfter) {
      lastOutside = times[i + 1];
      everOutside = true;
    } else if (outsideBefore) {
      const bool above = values[i] > answers.end;
      const auto in = piece.passes(answers.end + (above ? band : -band), !above);
      lastOutside = in ? piece.time(*in) : times[i + 1];
    }
    const double rate = (values[i + 1] - values[i]) / (times[i + 1] - times[i]);
    if (rate > answers.fastestHeating.value)
      answers.fastestHeating = {times[i + 1], rate, placeOf(i + 1)};
    if (rate < answers.fastestCooling.value)
      answers.fastestCooling = {times[i + 1], rate, placeOf(i + 1)};
  }
  answers.settled = everOutside ? lastOutside - begin : 0;
  const double span = answers.peak.value - answers.trough.value;
  const double least = std::max(1e-3 * span, 1e-6);
  answers.peakPassed = answers.peak.value - answers.end > least;
  const double lastSlope = values.size() < 2 ? 0 : slopeAt(slopes, times, values, values.size() - 2, false);
  // Rising still: what another tenth of the run would add matters.
  const double further = lastSlope * 0.1 * (times.back() - begin);
  answers.stillRising = further > 0.01 * span && span > 0;
  answers.stillFalling = -further > 0.01 * span && span > 0;
  return answers;
}

std::optional<RunAnswers> answersOf(const RunRecord& record, const Watch& watch, std::optional<double> band)
{
  const RunTrace* values = record.find(RunTrace::Kind::Watch, watch.id);
  if (values == nullptr || values->values.size() != record.times.size() || values->values.empty())
    return std::nullopt;
  const RunTrace* slopes = record.find(RunTrace::Kind::WatchSlope, watch.id);
  const RunTrace* places = record.find(RunTrace::Kind::WatchPlace, watch.id);
  const auto limit = [](const std::optional<Number>& number) {
    return number ? std::optional(number->si) : std::nullopt;
  };
  if (slopes == nullptr) { // a watch of heat; one that was added when the run went on is not known from its start
    const auto known =
        std::find_if(values->values.begin(), values->values.end(), [](double v) { return std::isfinite(v); });
    if (known == values->values.end())
      return std::nullopt;
    const auto [low, high] = std::minmax_element(known, values->values.end());
    constexpr double share = 0.01;
    RunAnswers answers = answersOf({record.times.begin() + (known - values->values.begin()), record.times.end()},
                                   {known, values->values.end()}, {}, {}, limit(watch.upper), limit(watch.lower),
                                   share * (*high - *low));
    if (std::abs(answers.trough.value) > std::abs(answers.peak.value)) { // heat that leaves is most when most negative
      std::swap(answers.peak, answers.trough);
      std::swap(answers.stillRising, answers.stillFalling);
      answers.peakPassed = !answers.stillRising && answers.peak.time < record.times.back();
    }
    return answers;
  }
  return answersOf(record.times, values->values, slopes->values,
                   places != nullptr ? places->values : std::vector<double>{}, limit(watch.upper), limit(watch.lower),
                   band.value_or(usualBand(values->values)));
}

} // namespace kiln
