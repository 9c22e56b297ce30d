// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/ChartTicks.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

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
