// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/SteadyView.h"

#include "model/Fields.h"
#include "model/TimeSeries.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

double instantOf(const Case& oneCase) { return oneCase.instant ? oneCase.instant->si : 0; }

/// What a window may switch on and off for a share of the time: it is that share of it.
bool scales(Quantity quantity)
{
  constexpr std::array scaled{Quantity::Power, Quantity::HeatDensity, Quantity::HeatFlux, Quantity::AreaConductance};
  return std::find(scaled.begin(), scaled.end(), quantity) != scaled.end();
}

struct Instant {
  double time = 0, share = 0;
};

/// Three Gauss points between each two breakpoints: exact for what is a line there, close for formulas of it.
std::vector<Instant> instantsOf(const Project& project, double from, double to)
{
  std::vector<double> breaks = breakpoints(project, from, to);
  breaks.insert(breaks.begin(), from);
  breaks.push_back(to);
  constexpr std::array<std::pair<double, double>, 3> gauss{
      {{-0.77459666924148337704, 5.0 / 18}, {0, 8.0 / 18}, {0.77459666924148337704, 5.0 / 18}}};
  std::vector<Instant> instants;
  for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
    for (const auto& [place, weight] : gauss) {
      const double half = (breaks[i + 1] - breaks[i]) / 2;
      instants.push_back({breaks[i] + half * (1 + place), weight * 2 * half / (to - from)});
    }
  return instants;
}

struct Presence {
  double share = 0; ///< of the period in which its window lets it work
};

class Averager
{
public:
  explicit Averager(Project base) : mean_(std::move(base)), fields_(fields(mean_)), sums_(fields_.size(), 0.0) {}

  void add(Project now, double share)
  {
    std::map<std::string, bool> works;
    const auto note = [&](const auto& list) {
      for (const auto& object : list)
        if (object.from || object.until) {
          works[object.id] = !object.muted;
          presence_[object.id].share += object.muted ? 0 : share;
        }
    };
    note(now.sources);
    note(now.boundaries);
    const std::vector<Field> own = fields(now);
    for (std::size_t i = 0; i < own.size() && i < fields_.size(); ++i) {
      const Number* value = own[i].value();
      const auto found = works.find(own[i].objectId);
      const bool out = found != works.end() && !found->second && scales(own[i].quantity);
      if (value != nullptr && !out)
        sums_[i] += share * value->si;
    }
  }

  Expected<Project> mean()
  {
    for (std::size_t i = 0; i < fields_.size(); ++i) {
      Number* value = fields_[i].value();
      const bool windowed = presence_.contains(fields_[i].objectId) && scales(fields_[i].quantity);
      if (value != nullptr && (windowed || variesInTime(mean_, *value)) && fields_[i].table() == nullptr)
        changed_.emplace_back(i, sums_[i]);
    }
    for (const auto& [i, value] : changed_)
      fields_[i].assign({value, {}, false});
    std::optional<Failure> failed;
    const auto settle = [&](auto& list) {
      for (auto& object : list) {
        const auto found = presence_.find(object.id);
        if (found == presence_.end())
          continue;
        object.from.reset();
        object.until.reset();
        constexpr double rounding = 1e-9;
        if (found->second.share < rounding)
          object.muted = true;
        else if (found->second.share < 1 - rounding && !object.muted && !averages(object))
          failed = Failure{Failure::Kind::NotReady, object.name,
                           "It works for a part of the period only, and has no mean that could stand for it.",
                           "Let the case take schedules and windows at an instant instead of their mean."};
      }
    };
    settle(mean_.sources);
    settle(mean_.boundaries);
    if (failed)
      return tl::unexpected(*failed);
    for (Parameter& parameter : mean_.parameters)
      parameter.schedule.reset();
    return std::move(mean_);
  }

private:
  template <class Object>
  [[nodiscard]] bool averages(const Object& object) const
  {
    bool any = false;
    for (const Field& field : fields_)
      if (field.objectId == object.id && field.value() != nullptr && scales(field.quantity))
        any = any || field.table() == nullptr;
    return any;
  }

  Project mean_;
  std::vector<Field> fields_;
  std::vector<double> sums_;
  std::vector<std::pair<std::size_t, double>> changed_;
  std::map<std::string, Presence> presence_;
};

} // namespace

Expected<Project> steadyProject(const Project& project, const Case& oneCase)
{
  const double from = instantOf(oneCase);
  if (!oneCase.period || !variesInTime(project))
    return projectAt(project, from);
  Averager averager(project);
  for (const Instant& instant : instantsOf(project, from, from + oneCase.period->si)) {
    auto now = projectAt(project, instant.time);
    if (!now)
      return now;
    averager.add(std::move(*now), instant.share);
  }
  return averager.mean();
}

std::string steadyWords(const Project& project, const Case& oneCase)
{
  if (!variesInTime(project))
    return {};
  const double from = instantOf(oneCase);
  const auto words = [](double time) { return formatQuantity(time, Quantity::Time); };
  if (!oneCase.period)
    return "schedules and time windows as at " + words(from);
  return "schedules and time windows as their mean from " + words(from) + " to " + words(from + oneCase.period->si);
}

} // namespace kiln
