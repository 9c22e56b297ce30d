// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/HeatFlow.h"

#include <numeric>

namespace kiln
{

double Arrival::total() const { return std::accumulate(watts.begin(), watts.end(), 0.0); }

std::vector<FlowFigure> HeatFlow::figures(const HeatGround& ground, const FlowState& state) const
{
  double sum = 0;
  arrivals(ground, state, {}, [&](const Arrival& arrival) { sum += arrival.total(); });
  return {{owner_, sum, sum}};
}

void HeatFlow::addPassing(const HeatGround& ground, const FlowState& state, Passing& passing) const
{
  for (const FlowFigure& figure : figures(ground, state))
    passing.take(figure.fromOutside);
}

} // namespace kiln
