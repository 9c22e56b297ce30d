// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/LevelLines.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <unordered_map>

namespace kiln
{
namespace
{

/// Where a level crosses an edge between two corners.
using Crossing = std::uint64_t;

Crossing crossingOf(int a, int b)
{
  const auto [low, high] = std::minmax(a, b);
  return static_cast<std::uint64_t>(static_cast<std::uint32_t>(low)) << 32U | static_cast<std::uint32_t>(high);
}

/// Pieces of lines of one level, each across one triangle, joined at the crossings they share.
class Chain
{
public:
  void add(Crossing from, Crossing to)
  {
    next_[from].push_back(to);
    next_[to].push_back(from);
  }

  /// Calls with the crossings of each line in order.
  template <class Take>
  void each(Take&& take)
  {
    std::vector<Crossing> starts;
    for (const auto& [crossing, others] : next_)
      starts.push_back(crossing);
    std::sort(starts.begin(), starts.end());  // the same lines every time
    for (const bool endsOnly : {true, false}) // open lines from an end, then closed ones from anywhere
      for (const Crossing start : starts)
        while (!next_[start].empty() && (!endsOnly || next_[start].size() == 1))
          take(follow(start));
  }

private:
  std::vector<Crossing> follow(Crossing at)
  {
    std::vector<Crossing> line{at};
    while (!next_[at].empty()) {
      const Crossing to = next_[at].back();
      next_[at].pop_back();
      std::vector<Crossing>& back = next_[to];
      back.erase(std::find(back.begin(), back.end(), at));
      line.push_back(to);
      at = to;
    }
    return line;
  }

  std::unordered_map<Crossing, std::vector<Crossing>> next_;
};

} // namespace

double LevelLine::length() const
{
  double sum = 0;
  for (std::size_t i = 1; i < points.size(); ++i)
    sum += (points[i] - points[i - 1]).norm();
  return sum;
}

Vec3 LevelLine::middle() const
{
  double left = length() / 2;
  for (std::size_t i = 1; i < points.size(); ++i) {
    const double step = (points[i] - points[i - 1]).norm();
    if (step >= left && step > 0)
      return points[i - 1] + left / step * (points[i] - points[i - 1]);
    left -= step;
  }
  return points.empty() ? Vec3::Zero() : points.front();
}

std::vector<LevelLine> levelLines(const std::vector<Vec3>& points, const std::vector<std::array<int, 3>>& triangles,
                                  std::span<const double> values, const std::vector<double>& levels)
{
  std::vector<LevelLine> lines;
  std::vector<Chain> chains(levels.size());
  for (const auto& t : triangles) {
    const std::array<double, 3> value{values[at(t[0])], values[at(t[1])], values[at(t[2])]};
    const auto [low, high] = std::minmax_element(value.begin(), value.end());
    if (!std::isfinite(value[0]) || !std::isfinite(value[1]) || !std::isfinite(value[2]))
      continue;
    const auto first = std::lower_bound(levels.begin(), levels.end(), *low);
    for (auto level = first; level != levels.end() && *level < *high; ++level) {
      std::array<Crossing, 3> crossed{};
      std::size_t count = 0;
      for (std::size_t i = 0; i < 3; ++i)
        if ((value[i] > *level) != (value[(i + 1) % 3] > *level))
          crossed[count++] = crossingOf(t[i], t[(i + 1) % 3]);
      if (count == 2)
        chains[static_cast<std::size_t>(level - levels.begin())].add(crossed[0], crossed[1]);
    }
  }
  for (std::size_t l = 0; l < levels.size(); ++l)
    chains[l].each([&](const std::vector<Crossing>& way) {
      LevelLine& line = lines.emplace_back();
      line.level = levels[l];
      for (const Crossing crossing : way) {
        const auto a = static_cast<std::size_t>(crossing >> 32U);
        const auto b = static_cast<std::size_t>(crossing & 0xffffffffU);
        const double t = (levels[l] - values[a]) / (values[b] - values[a]);
        line.points.emplace_back(points[a] + t * (points[b] - points[a]));
      }
    });
  return lines;
}

ClippedSurface clippedAt(const std::vector<Vec3>& points, const std::vector<std::array<int, 3>>& triangles,
                         std::span<const double> values, double level, bool above)
{
  ClippedSurface clipped;
  std::unordered_map<std::uint64_t, int> known;
  const auto corner = [&](int i) {
    const auto [found, isNew] = known.emplace(crossingOf(i, i), static_cast<int>(clipped.points.size()));
    if (isNew) {
      clipped.points.push_back(points[at(i)]);
      clipped.values.push_back(values[at(i)]);
    }
    return found->second;
  };
  const auto between = [&](int i, int j) {
    const auto [found, isNew] = known.emplace(crossingOf(i, j), static_cast<int>(clipped.points.size()));
    if (isNew) {
      const double t = (level - values[at(i)]) / (values[at(j)] - values[at(i)]);
      clipped.points.emplace_back(points[at(i)] + t * (points[at(j)] - points[at(i)]));
      clipped.values.push_back(level);
    }
    return found->second;
  };
  const auto kept = [&](int i) { return (values[at(i)] > level) == above; };
  for (const auto& t : triangles) {
    std::array<int, 4> polygon{};
    std::size_t count = 0;
    for (std::size_t i = 0; i < 3; ++i) {
      const int a = t[i];
      const int b = t[(i + 1) % 3];
      if (kept(a))
        polygon[count++] = corner(a);
      if (kept(a) != kept(b))
        polygon[count++] = between(a, b);
    }
    for (std::size_t i = 2; i < count; ++i)
      clipped.triangles.push_back({polygon[0], polygon[i - 1], polygon[i]});
  }
  return clipped;
}

double roundStep(double span, int most)
{
  const double raw = std::max(span, 1e-300) / std::max(most, 1);
  const double power = std::pow(10, std::floor(std::log10(raw)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (factor * power >= raw * (1 - 1e-12))
      return factor * power;
  return 10 * power;
}

std::vector<double> roundLevels(double low, double high, int about)
{
  std::vector<double> levels;
  if (!(high > low) || about < 1)
    return levels;
  const double step = roundStep(high - low, about);
  constexpr double rounding = 1e-9; // of a step
  const double last = std::floor(high / step + rounding);
  for (auto i = static_cast<long>(std::ceil(low / step - rounding)); static_cast<double>(i) <= last; ++i)
    levels.push_back(static_cast<double>(i) * step);
  return levels;
}

} // namespace kiln
