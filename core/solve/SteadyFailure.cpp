// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/SteadyFailure.h"

#include "solve/LinearSolver.h"
#include "solve/NewtonStep.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

struct Sink {
  int source = -1;
  double watts = 0; // negative
};

/// What the source takes out most.
Sink strongestSink(const Mesh& mesh, const Conditions& conditions)
{
  std::vector<double> watts;
  const auto add = [&](int source, double power) {
    watts.resize(std::max(watts.size(), at(source) + 1), 0.0);
    watts[at(source)] += power;
  };
  for (const Conditions::PartHeat& heat : conditions.partHeat)
    add(heat.source, heat.density * mesh.geometry.parts[at(heat.part)].volume);
  for (const Conditions::FaceHeat& heat : conditions.faceHeat)
    add(heat.source, heat.flux * mesh.geometry.faces[at(heat.face)].area);
  for (const Conditions::PointHeat& heat : conditions.pointHeat)
    add(heat.source, heat.power);
  Sink sink;
  for (std::size_t s = 0; s < watts.size(); ++s)
    if (watts[s] < sink.watts)
      sink = {static_cast<int>(s), watts[s]};
  return sink;
}

} // namespace

std::optional<Failure> coldFailure(const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
                                   std::span<const double> temperature, const Project* named)
{
  const Sink sink = strongestSink(mesh, conditions);
  if (sink.source < 0 || temperature.empty())
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
  const auto add = [&](bool there, const char* what, const char* help) {
    if (!there)
      return;
    bends += (bends.empty() ? "" : ", ") + std::string(what);
    remedy += (remedy.empty() ? "" : " ") + std::string(help);
  };
  bool varies = false;
  for (std::size_t p = 0; p < conditions.conductivity.size(); ++p)
    varies = varies || ("part " + mesh.geometry.parts[p].name == object && !conditions.conductivity[p].constant());
  const bool curved = std::any_of(conditions.convection.begin(), conditions.convection.end(),
                                  [](const auto& c) { return c.curve != nullptr; });
  add(varies, "its conductivity",
      "Look for a jump in the table of its conductivity, and give the table more points there or a smaller mesh size.");
  add(!conditions.radiation.empty() || !conditions.enclosures.empty(), "radiation",
      "Check that emissivities and powers are in the right unit.");
  add(curved, "a coefficient that follows the temperature",
      "Give the surface a constant coefficient once, to see where the temperatures go.");
  add(!conditions.terms.empty(), "what is tied to nodes, links or watches",
      "Look for a source that grows with its own temperature faster than its heat can leave.");
  const double kelvin = worst < temperature.size() ? temperature[worst] : 0;
  return {Failure::Kind::Solver, object,
          "No steady temperatures were found in " + std::to_string(steps) +
              " steps; the balance is worst here, at about " + formatQuantity(kelvin, Quantity::Temperature) +
              (bends.empty() ? "." : ", where the answer bends with " + bends + "."),
          remedy.empty() ? "Check that every part has a way for its heat to leave." : remedy};
}

} // namespace kiln
