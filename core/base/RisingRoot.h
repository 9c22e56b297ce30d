// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cstdint>

namespace kiln
{

/// Where a function that rises with its argument, as heat does with temperature, crosses zero.
/// \param excess  may be called at 0 and above
/// \param near    a guess, sought outwards from
/// \return 0 where the function is above zero even there; the guess where the function is not a number
template <class Function>
[[nodiscard]] double rootOfRising(Function&& excess, double near)
{
  double low = std::max(near, 0.0);
  double high = low;
  double reach = 1;
  for (; low > 0 && excess(low) > 0; reach *= 2)
    low = std::max(low - reach, 0.0);
  if (excess(low) > 0)
    return 0;
  for (reach = 1; excess(high) < 0; reach *= 2)
    high += reach;
  if (low == high)
    return low;
  std::uintmax_t steps = 100;
  const auto [below, above] =
      boost::math::tools::toms748_solve(excess, low, high, boost::math::tools::eps_tolerance<double>(50), steps);
  return (below + above) / 2;
}

} // namespace kiln
