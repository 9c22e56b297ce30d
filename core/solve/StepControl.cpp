// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/StepControl.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

void StepControl::setLimits(double tolerance, double last, std::vector<double> breaks)
{
  tolerance_ = tolerance;
  last_ = last;
  breaks_ = std::move(breaks);
}

double StepControl::smallest(double time) { return 1e-9 * std::max(1.0, std::abs(time)); }

void StepControl::restart(double time, double fastest)
{
  const double first = fastest > 0 ? 0.5 * tolerance_ / fastest : 1.0;
  constexpr double longest = 8; // of what the fastest place allows
  step_ = step_ > 0 ? std::min(step_, longest * first) : first;
  step_ = std::max(step_, smallest(time));
  before_.reset();
}

StepControl::Length StepControl::next(double time, double largest)
{
  Length length{largest > 0 ? std::min(step_, largest) : step_, false};
  while (!breaks_.empty() && breaks_.front() <= time + smallest(time))
    breaks_.erase(breaks_.begin());
  const double left = (breaks_.empty() ? last_ : std::min(breaks_.front(), last_)) - time;
  if (length.seconds >= left * (1 - 1e-9))
    length = {left, true};
  else if (length.seconds > left / 2)
    length.seconds = left / 2; // two equal steps rather than a tiny last one
  return length;
}

/// The error goes with the third power of the length.
double StepControl::factorOf(double error) const
{
  constexpr double cautious = 0.8;
  return std::clamp(cautious * std::cbrt(1 / std::max(error / tolerance_, 1e-9)), 0.2, 4.0);
}

std::optional<double> StepControl::shorterThan(double length, double error) const
{
  constexpr double clearly = 0.8;
  return error > tolerance_ ? std::optional(length * std::min(factorOf(error), clearly)) : std::nullopt;
}

void StepControl::accept(const Length& length, double error)
{
  // A new step length needs a new matrix: a small gain is not worth it.
  constexpr double worthwhile = 1.25;
  // Errors of steps in turn can be larger and smaller: to grow on the small one is to step back after the next.
  double larger = error;
  if (before_)
    larger = std::max(larger, before_->error * std::pow(length.seconds / before_->length, 3));
  before_ = {length.seconds, error};
  const double factor = std::max(factorOf(larger), std::min(factorOf(error), 1.0));
  if (factor >= worthwhile || factor < 1)
    step_ = length.seconds * factor;
  else
    step_ = std::max(length.seconds, length.atBreak ? step_ : length.seconds);
}

bool StepControl::quiet(double time) const { return breaks_.empty() || breaks_.back() <= time + smallest(time); }

} // namespace kiln
