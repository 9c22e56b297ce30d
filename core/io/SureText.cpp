// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/SureText.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

namespace kiln
{

std::string figureText(const SureRecord::OfWatch& watch, Quantity quantity, TemperatureUnit unit)
{
  const double value = watch.values[1];
  const double bar = watch.convergence.bar;
  const std::string usual = formatQuantity(value, quantity, unit);
  if (bar <= 0 || value == 0)
    return usual;
  constexpr int most = 8; // digits
  if (quantity != Quantity::Temperature) {
    constexpr int least = 4;
    const double digits = std::floor(std::log10(std::abs(value))) - std::floor(std::log10(bar)) + 2;
    return formatQuantity(value, quantity, unit, std::clamp(static_cast<int>(digits), least, most));
  }
  const double shown = unit == TemperatureUnit::Celsius  ? value - 273.15
                       : unit == TemperatureUnit::Kelvin ? value
                                                         : value * 1.8 - 459.67;
  const int decimals = std::clamp(1 - static_cast<int>(std::floor(std::log10(bar))), 1, most);
  std::array<char, 48> number{};
  std::snprintf(number.data(), number.size(), "%.*f", decimals, std::abs(shown));
  return (shown < 0 ? "−" : "") + std::string(number.data()) + usual.substr(usual.rfind(' '));
}

std::string sureText(const SureRecord::OfWatch& watch, Quantity quantity)
{
  const Quantity step = quantity == Quantity::Temperature ? Quantity::TemperatureStep : quantity;
  const std::string bar = "±" + formatQuantity(watch.convergence.bar, step, {}, 2);
  std::array<char, 16> order{};
  std::snprintf(order.data(), order.size(), "%.1f", watch.convergence.order);
  switch (watch.convergence.verdict) {
  case Convergence::Verdict::Equal:
    return "the same on three meshes";
  case Convergence::Verdict::Settles:
    return bar + " by three meshes, towards " + formatQuantity(watch.convergence.extrapolated, quantity) + " (order " +
           order.data() + ")";
  case Convergence::Verdict::Twin:
    return bar + " by a twin with larger elements and steps";
  case Convergence::Verdict::Swings:
    return bar + ", the spread of three meshes: it goes up and down with the mesh";
  default:
    return "does not settle with the mesh (spread " + bar + "): a sharp inner corner or a point source?";
  }
}

} // namespace kiln
