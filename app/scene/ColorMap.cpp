// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/ColorMap.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{

namespace
{

struct Stop {
  double at;
  double red, green, blue;
};

template <std::size_t N>
QColor between(const std::array<Stop, N>& stops, double x)
{
  std::size_t i = 1;
  while (i + 1 < stops.size() && stops[i].at < x)
    ++i;
  const Stop& a = stops[i - 1];
  const Stop& b = stops[i];
  const double t = (x - a.at) / (b.at - a.at);
  const auto mix = [t](double p, double q) { return static_cast<int>(std::lround(p + t * (q - p))); };
  return {mix(a.red, b.red), mix(a.green, b.green), mix(a.blue, b.blue)};
}

} // namespace

QColor kilnGlow(double share)
{
  static constexpr std::array<Stop, 7> stops{{{0.00, 30, 26, 40},
                                              {0.18, 74, 32, 60},
                                              {0.36, 134, 38, 54},
                                              {0.54, 194, 62, 38},
                                              {0.70, 231, 111, 36},
                                              {0.85, 247, 178, 76},
                                              {1.00, 255, 246, 220}}};
  return between(stops, std::isfinite(share) ? std::clamp(share, 0.0, 1.0) : 0);
}

QColor glazeAndEmber(double share)
{
  static constexpr std::array<Stop, 5> stops{
      {{0.00, 16, 74, 84}, {0.25, 84, 150, 150}, {0.50, 238, 234, 224}, {0.75, 222, 140, 70}, {1.00, 140, 42, 24}}};
  return std::isfinite(share) ? between(stops, std::clamp(share, 0.0, 1.0)) : nowhereColor();
}

QColor colorOf(Palette palette, double share)
{
  static constexpr std::array<Stop, 5> even{
      {{0.00, 18, 36, 92}, {0.25, 74, 90, 114}, {0.50, 134, 134, 122}, {0.75, 196, 180, 102}, {1.00, 253, 234, 120}}};
  static constexpr std::array<Stop, 2> grey{{{0, 34, 34, 34}, {1, 246, 246, 246}}};
  if (!std::isfinite(share))
    return nowhereColor();
  share = std::clamp(share, 0.0, 1.0);
  switch (palette) {
  case Palette::Even:
    return between(even, share);
  case Palette::Split:
    return glazeAndEmber(share);
  case Palette::Grey:
    return between(grey, share);
  case Palette::Glow:
    break;
  }
  return kilnGlow(share);
}

QColor colorOf(Palette palette, double share, int steps)
{
  if (steps < 2 || !std::isfinite(share))
    return colorOf(palette, share);
  const double step = std::min(std::floor(std::clamp(share, 0.0, 1.0) * steps), steps - 1.0);
  return colorOf(palette, step / (steps - 1));
}

QColor nowhereColor() { return {128, 130, 134}; }

QColor kindColor(int index)
{
  static const std::array<QColor, 10> colors{
      QColor(110, 138, 158), QColor(214, 178, 106), QColor(158, 96, 84),   QColor(120, 156, 112), QColor(142, 122, 170),
      QColor(206, 142, 120), QColor(88, 150, 152),  QColor(180, 160, 150), QColor(196, 122, 158), QColor(150, 160, 90)};
  return colors[static_cast<std::size_t>(index) % colors.size()];
}

} // namespace kiln
