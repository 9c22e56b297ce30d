// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/ChartTicks.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

double roundStep(double span, int most)
{
  const double raw = std::max(span, 1e-300) / std::max(most, 1);
  const double power = std::pow(10, std::floor(std::log10(raw)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (factor * power >= raw * (1 - 1e-12))
      return factor * power;
  return 10 * power;
}

std::vector<double> ticks(double from, double to, double step)
{
  constexpr double rounding = 1e-9; // of a step
  std::vector<double> all;
  const double last = std::floor(to / step + rounding);
  for (auto i = static_cast<qint64>(std::ceil(from / step - rounding)); static_cast<double>(i) <= last; ++i)
    all.push_back(static_cast<double>(i) * step);
  return all;
}

QString tickText(double value, double step)
{
  const double round = std::round(value / step) * step;
  constexpr int digits = 6;
  return QString::number(std::abs(round) < step / 2 ? 0 : round, 'g', digits);
}

} // namespace kiln
