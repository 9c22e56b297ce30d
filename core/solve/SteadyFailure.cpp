// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/SteadyFailure.h"

#include "base/At.h"
#include "solve/LinearSolver.h"
#include "solve/NewtonStep.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

struct Sink {
  int source = -1;
  double watts = 0; // negative
};

/// The source that takes out most.
Sink strongestSink(const ThermalSystem& system, std::span<const double> temperature)
{
  Sink sink;
  for (const auto& [source, watts] : system.bySource(temperature))
    if (watts < sink.watts)
      sink = {source, watts};
  return sink;
}

} // namespace

std::optional<Failure> coldFailure(const ThermalSystem& system, std::span<const double> temperature,
                                   const Project* named)
{
  if (temperature.empty())
    return std::nullopt;
  const Sink sink = strongestSink(system, temperature);
  if (sink.source < 0)
    return std::nullopt;
  double coldest = *std::min_element(temperature.begin(), temperature.end());
  if (system.linear()) { // then one step tells where it goes
    std::vector<double> right = system.balance(temperature);
    for (std::size_t i = 0; i < right.size(); ++i)
      if (system.isFixed()[i] != 0)
        right[i] = 0;
    std::vector<double> update(right.size(), 0.0);
    const auto solver = makeLinearSolver(LinearBackend::Automatic, system.unknowns());
    if (!solver->prepare(system.tangent(temperature)) || !solver->solve(right, update, 1e-6))
      return std::nullopt;
    for (std::size_t i = 0; i < update.size(); ++i)
      coldest = std::min(coldest, temperature[i] + update[i]);
  }
  constexpr double nearly = 10; // K: so cold that nothing more can flow in
  if (coldest > nearly)
    return std::nullopt;
  const std::string object = named != nullptr && at(sink.source) < named->sources.size()
                                 ? "source " + named->sources[at(sink.source)].name
                                 : "project";
  return Failure{Failure::Kind::Solver, object,
                 "There is no steady state above 0 K: it takes out " + formatQuantity(-sink.watts, Quantity::Power) +
                     ", more than can flow in from the surroundings, however cold it gets.",
                 "Take out less, or let more in: a larger coefficient, or more faces that exchange heat."};
}

Failure steadyFailure(const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
                      std::span<const double> temperature, const std::vector<double>& balance, int steps)
{
  const std::string object = partOfWorst(mesh, conditions, system, balance);
  std::size_t worst = 0;
  for (std::size_t i = 0; i < balance.size(); ++i)
    if (system.isFixed()[i] == 0 && std::abs(balance[i]) > std::abs(balance[worst]))
      worst = i;
  std::string bends;
  std::string remedy;
  std::set<std::string_view> told;
  const auto add = [&](const Bend& bend) {
    if (!told.insert(bend.with).second)
      return;
    bends += (bends.empty() ? "" : ", ") + std::string(bend.with);
    remedy += (remedy.empty() ? "" : " ") + std::string(bend.help);
  };
  for (std::size_t p = 0; p < conditions.conductivity.size(); ++p)
    if ("part " + mesh.geometry.parts[p].name == object && !conditions.conductivity[p].constant())
      add({"its conductivity", "Look for a jump in the table of its conductivity, and give the table more points there "
                               "or a smaller mesh size."});
  for (const auto& flow : conditions.flows)
    if (const auto bend = flow->bend())
      add(*bend);
  const double kelvin = worst < temperature.size() ? temperature[worst] : 0;
  return {Failure::Kind::Solver, object,
          "No steady temperatures were found in " + std::to_string(steps) +
              " steps; the balance is worst here, at about " + formatQuantity(kelvin, Quantity::Temperature) +
              (bends.empty() ? "." : ", where the answer bends with " + bends + "."),
          remedy.empty() ? "Check that every part has a way for its heat to leave." : remedy};
}

} // namespace kiln
