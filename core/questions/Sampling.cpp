// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/Sampling.h"

#include "model/ObjectKinds.h"

#include <algorithm>
#include <boost/math/special_functions/erf.hpp>
#include <boost/random/sobol.hpp>
#include <boost/random/uniform_01.hpp>
#include <cmath>
#include <numeric>
#include <random>

namespace kiln
{
namespace
{

constexpr std::size_t mostPoints = 1'000'000;

int countOf(const std::optional<Number>& number, int usually)
{
  return number ? std::max(1, static_cast<int>(number->si)) : usually;
}

std::vector<AskedPoint> gridOf(const std::vector<AskedAxis>& axes)
{
  std::vector<AskedPoint> points{{}};
  for (const AskedAxis& axis : axes) {
    std::vector<AskedPoint> longer;
    longer.reserve(points.size() * axis.values.size());
    for (const AskedPoint& point : points)
      for (const OwnValue& value : axis.values) {
        longer.push_back(point);
        longer.back().push_back(value);
      }
    points = std::move(longer);
  }
  return points;
}

double unitOf(std::mt19937& engine) { return boost::random::uniform_01<double>()(engine); }

} // namespace

std::vector<std::vector<double>> sobolShares(int dimensions, int count)
{
  boost::random::sobol sequence(static_cast<std::size_t>(dimensions));
  constexpr double range = 0x1p64;
  std::vector<std::vector<double>> places(static_cast<std::size_t>(count));
  for (auto& place : places)
    for (int i = 0; i < dimensions; ++i)
      place.push_back(static_cast<double>(sequence()) / range);
  return places;
}

std::vector<std::vector<double>> latinShares(int dimensions, int count, unsigned seed)
{
  std::mt19937 engine(seed);
  std::vector<std::vector<double>> places(static_cast<std::size_t>(count));
  std::vector<int> layers(static_cast<std::size_t>(count));
  for (int i = 0; i < dimensions; ++i) {
    std::iota(layers.begin(), layers.end(), 0);
    for (std::size_t left = layers.size(); left > 1; --left) // the same on every machine, unlike std::shuffle
      std::swap(layers[left - 1], layers[static_cast<std::size_t>(unitOf(engine) * static_cast<double>(left))]);
    for (std::size_t k = 0; k < places.size(); ++k)
      places[k].push_back((layers[k] + unitOf(engine)) / count);
  }
  return places;
}

Expected<std::vector<AskedPoint>> pointsOf(const Question& question, const AskSweep& sweep,
                                           const std::vector<AskedAxis>& axes)
{
  std::vector<AskedPoint> points;
  if (sweep.way == SweepWay::Grid) {
    std::size_t count = 1;
    for (const AskedAxis& axis : axes)
      if (count *= std::max<std::size_t>(axis.values.size(), 1); count > mostPoints)
        return failure(Failure::Kind::TooLarge, objectWords(question), "It has more than a million points.",
                       "Take fewer values, or a sample.");
    return gridOf(axes);
  }
  if (sweep.way == SweepWay::Together) {
    for (const AskedAxis& axis : axes)
      if (axis.values.size() != axes.front().values.size())
        return failure(Failure::Kind::NotReady, objectWords(question),
                       axis.label + " has " + std::to_string(axis.values.size()) + " values, " + axes.front().label +
                           " has " + std::to_string(axes.front().values.size()) + ".",
                       "Give both as many, or combine all with all.");
    for (std::size_t i = 0; i < axes.front().values.size(); ++i) {
      AskedPoint& point = points.emplace_back();
      for (const AskedAxis& axis : axes)
        point.push_back(axis.values[i]);
    }
    return points;
  }
  const int count = countOf(sweep.samples, usualSamples);
  const auto dimensions = static_cast<int>(axes.size());
  const auto shares = sweep.way == SweepWay::Sobol
                          ? sobolShares(dimensions, count)
                          : latinShares(dimensions, count, static_cast<unsigned>(countOf(sweep.seed, 1)));
  for (const auto& place : shares) {
    AskedPoint& point = points.emplace_back();
    for (std::size_t i = 0; i < axes.size(); ++i)
      point.push_back(axes[i].at(place[i]));
  }
  return points;
}

std::vector<AskedPoint> spreadPoints(const std::vector<AskedAxis>& axes, int count, unsigned seed)
{
  const auto dimensions = static_cast<int>(axes.size());
  std::mt19937 engine(seed);
  std::vector<double> moved;
  for (int i = 0; i < dimensions; ++i)
    moved.push_back(unitOf(engine));
  std::vector<AskedPoint> points;
  for (const auto& place : sobolShares(dimensions, count)) {
    AskedPoint& point = points.emplace_back();
    for (std::size_t i = 0; i < axes.size(); ++i) {
      const AskedAxis& axis = axes[i];
      // Moved round the circle, and never at its seam: there the normal law has no value.
      constexpr double least = 1e-9;
      const double share = std::clamp(std::fmod(place[i] + moved[i], 1.0), least, 1 - least);
      const bool normal = axis.tolerance && axis.tolerance->law == SpreadLaw::Normal;
      const double off = normal ? std::sqrt(2.0) * boost::math::erf_inv(2 * share - 1) : 2 * share - 1;
      point.push_back(axis.tolerance ? plainValue(axis.set + off * axis.by) : plainValue(axis.set));
    }
  }
  return points;
}

} // namespace kiln
