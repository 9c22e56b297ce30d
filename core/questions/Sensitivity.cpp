// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/Sensitivity.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

class SensitivityQuestion
{
public:
  SensitivityQuestion(const Project& seen, const AskSensitivity& ask, const std::vector<AskedAxis>& axes,
                      const SolvePoints& solve)
      : seen_(seen), ask_(ask), axes_(axes), solve_(solve)
  {
  }

  SensitivityAnswer run()
  {
    for (const AskedAxis& axis : axes_)
      if (!axis.isRange) {
        answer_.words = axis.label + " is no number: nothing moves in proportion to it.";
        return std::move(answer_);
      }
    if (findSlopes() && std::any_of(axes_.begin(), axes_.end(), [](const auto& axis) { return axis.by > 0; }))
      findSpreads();
    return std::move(answer_);
  }

private:
  [[nodiscard]] AskedPoint atSet() const
  {
    AskedPoint point;
    for (const AskedAxis& axis : axes_)
      point.push_back(plainValue(axis.set));
    return point;
  }

  /// \return the answers of these points; fewer where it was stopped
  std::vector<PointAnswer> solved(const std::vector<AskedPoint>& points)
  {
    std::vector<PointAnswer> answers = solve_(points);
    answer_.points.insert(answer_.points.end(), points.begin(),
                          points.begin() + static_cast<std::ptrdiff_t>(answers.size()));
    answer_.answers.insert(answer_.answers.end(), answers.begin(), answers.end());
    if (answers.size() < points.size())
      answer_.words = "It was stopped: not all points are solved.";
    return answers;
  }

  bool findSlopes()
  {
    constexpr double usualStep = 0.002;
    const double share = ask_.step ? ask_.step->si : usualStep;
    std::vector<double> steps;
    std::vector<AskedPoint> points{atSet()};
    for (std::size_t i = 0; i < axes_.size(); ++i) {
      steps.push_back(100 * share * onePercent(axes_[i]));
      for (const double sign : {-1.0, 1.0}) {
        points.push_back(atSet());
        points.back()[i] = plainValue(axes_[i].set + sign * steps.back());
      }
    }
    const std::vector<PointAnswer> answers = solved(points);
    if (answers.size() < points.size())
      return false;
    answer_.words = "By central differences, " + std::to_string(points.size()) + " points.";
    for (std::size_t i = 0; i < axes_.size(); ++i)
      for (const Watch& watch : seen_.watches) {
        const auto below = answers[1 + 2 * i].figure(watch.id, AskedFigure::AtEnd);
        const auto above = answers[2 + 2 * i].figure(watch.id, AskedFigure::AtEnd);
        if (!below || !above || steps[i] == 0)
          continue;
        const double slope = (*above - *below) / (2 * steps[i]);
        answer_.slopes.push_back({watch.id, i, slope, slope * onePercent(axes_[i])});
      }
    sortByWatch();
    for (std::size_t i = 0; i < answers.size(); ++i)
      if (!answers[i].solved())
        answer_.words += " One point could not be solved: " + answers[i].failure;
    return true;
  }

  /// Watches in their order, the strongest value of each first.
  void sortByWatch()
  {
    const auto place = [&](const std::string& id) {
      return std::find_if(seen_.watches.begin(), seen_.watches.end(),
                          [&](const Watch& watch) { return watch.id == id; }) -
             seen_.watches.begin();
    };
    std::sort(answer_.slopes.begin(), answer_.slopes.end(), [&](const Sensitivity& a, const Sensitivity& b) {
      const auto first = place(a.watch);
      const auto second = place(b.watch);
      return first != second ? first < second : std::abs(a.perStep) > std::abs(b.perStep);
    });
  }

  void findSpreads()
  {
    const int count = ask_.samples ? static_cast<int>(ask_.samples->si) : usualSamples;
    const auto seed = static_cast<unsigned>(ask_.seed ? ask_.seed->si : 1);
    const std::vector<PointAnswer> answers = solved(spreadPoints(axes_, count, seed));
    for (const Watch& watch : seen_.watches) {
      std::vector<double> numbers;
      int kept = 0;
      const std::vector<HeldLimit> limits = limitsOf(seen_, {watch.id}, AskedFigure::AtEnd);
      for (const PointAnswer& answer : answers)
        if (const auto number = answer.figure(watch.id, AskedFigure::AtEnd)) {
          numbers.push_back(*number);
          kept += std::all_of(limits.begin(), limits.end(),
                              [&](const HeldLimit& limit) { return limit.margin(answer).value_or(-1) >= 0; })
                      ? 1
                      : 0;
        }
      if (numbers.empty())
        continue;
      Spread spread{watch.id, static_cast<int>(numbers.size()), 0, 0, 0, 0, 0, std::nullopt};
      const auto all = static_cast<double>(numbers.size());
      spread.mean = std::accumulate(numbers.begin(), numbers.end(), 0.0) / all;
      double squares = 0;
      for (const double number : numbers)
        squares += (number - spread.mean) * (number - spread.mean);
      spread.deviation = numbers.size() > 1 ? std::sqrt(squares / (all - 1)) : 0;
      spread.low = percentile(numbers, 0.05);
      spread.middle = percentile(numbers, 0.5);
      spread.high = percentile(numbers, 0.95);
      if (!limits.empty())
        spread.chance = kept / all;
      answer_.spreads.push_back(spread);
    }
  }

  const Project& seen_;
  const AskSensitivity& ask_;
  const std::vector<AskedAxis>& axes_;
  const SolvePoints& solve_;
  SensitivityAnswer answer_;
};

} // namespace

double onePercent(const AskedAxis& axis)
{
  constexpr double share = 0.01;
  if (axis.quantity == Quantity::Temperature)
    return 1;
  return share * (axis.set != 0 ? std::abs(axis.set) : axis.by);
}

double percentile(std::vector<double> numbers, double share)
{
  std::sort(numbers.begin(), numbers.end());
  const double place = share * static_cast<double>(numbers.size() - 1);
  const auto below = static_cast<std::size_t>(std::floor(place));
  const std::size_t above = std::min(below + 1, numbers.size() - 1);
  return numbers[below] + (place - std::floor(place)) * (numbers[above] - numbers[below]);
}

SensitivityAnswer askSensitivity(const Project& seen, const AskSensitivity& ask, const std::vector<AskedAxis>& axes,
                                 const SolvePoints& solve)
{
  return SensitivityQuestion(seen, ask, axes, solve).run();
}

} // namespace kiln
