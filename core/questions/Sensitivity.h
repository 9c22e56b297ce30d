// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/LimitSearch.h"

namespace kiln
{

/// How much a watch moves with a value, at what is set.
struct Sensitivity {
  std::string watch; ///< id
  std::size_t axis = 0;
  double slope = 0;   ///< SI of the watch for one SI of the value
  double perStep = 0; ///< SI of the watch for one per cent of the value; for one kelvin of a temperature
};

/// How far a watch is spread by what is not known better.
struct Spread {
  std::string watch;
  int count = 0; ///< points that have it
  double mean = 0, deviation = 0;
  double low = 0, middle = 0, high = 0; ///< 5 %, 50 % and 95 % of the points lie below
  std::optional<double> chance;         ///< share of the points that keep its limits; nothing: it has none
};

struct SensitivityAnswer {
  std::vector<Sensitivity> slopes; ///< the strongest of a watch first
  std::vector<Spread> spreads;     ///< where something has a tolerance
  std::vector<AskedPoint> points;
  std::vector<PointAnswer> answers;
  std::string words; ///< how it was found, or why not all of it was
};

/// Slopes by central differences about what is set, and the spread by a sample of points as the tolerances say.
[[nodiscard]] SensitivityAnswer askSensitivity(const Project& seen, const AskSensitivity& ask,
                                               const std::vector<AskedAxis>& axes, const SolvePoints& solve);

/// The value below which this share of the numbers lies, by a line between them.
[[nodiscard]] double percentile(std::vector<double> numbers, double share);

/// One per cent of a value; a kelvin of a temperature, whose zero is no measure.
[[nodiscard]] double onePercent(const AskedAxis& axis);

} // namespace kiln
