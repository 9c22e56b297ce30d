// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TestProjects.h"
#include "io/RunFile.h"
#include "results/RunRecord.h"

/// Small projects in time, and how to run them, for tests.
namespace kiln::test
{

inline Material heavy(const std::string& id, double k, double density, double specificHeat)
{
  Material m = material(id, k);
  m.density = number(density);
  m.specificHeat = Property{specificHeat, ""};
  return m;
}

/// The project's one case made transient from one temperature to a time.
inline TransientRun& inTime(Project& project, double start, double until)
{
  Case& one = project.cases.front();
  one.kind = Case::Kind::Transient;
  one.run = TransientRun{};
  StartUniform uniform;
  uniform.temperature = number(start);
  one.run->start = uniform;
  one.run->ends = {{"end", EndAtTime{number(until)}, {}}};
  return *one.run;
}

struct Ran {
  CaseResult result;
  RunRecord record;
};

inline std::string wordsOf(const RunFailure& failure)
{
  std::string text = failure.failure ? failure.failure->sentence() : std::string();
  for (const Finding& finding : failure.notReady)
    text += finding.sentence() + "\n";
  return text;
}

inline Ran runIn(const Project& project, const std::filesystem::path& folder, std::size_t index = 0)
{
  const Case& one = project.cases[index];
  auto result = runCase(project, one, folder, noProgress);
  if (!result)
    throw std::runtime_error(wordsOf(result.error()));
  auto record = loadRun(runFile(folder, one.id));
  if (!record)
    throw std::runtime_error(record.error().sentence());
  return {std::move(*result), std::move(*record)};
}

inline Ran run(const Project& project)
{
  const QTemporaryDir folder;
  return runIn(project, folder.path().toStdString());
}

inline double valueAt(const RunRecord& record, const std::string& watch, double time)
{
  return record.at(RunTrace::Kind::Watch, watch, time).value();
}

/// A copper-like lump of 20 mm that sheds heat to 300 K: one time constant ρcV/hA = 100 s with 6 faces.
inline Project lump(double start, double until)
{
  Project p = projectWith(0.01);
  p.materials = {heavy("copper", 5000, 9000, 400)};
  p.parts = {part("lump", "copper", block(0.02, 0.02, 0.02))};
  p.surfaces = {exposedOf("skin", {"lump"})};
  const double h = 9000 * 400 * 0.02 / 6 / 100;
  p.boundaries = {boundary("air", Convection{"skin", Property{h, ""}, Property{300, ""}})};
  p.watches = {watch("t", PartFigure{PartFigure::Kind::Mean, {"lump"}})};
  inTime(p, start, until);
  return p;
}

/// A bar along x whose ends matter; 1-D.
inline Project slab(double length, double meshSize)
{
  Project p = projectWith(meshSize);
  p.materials = {heavy("stuff", 2, 2000, 1000)}; // a = 1e-6 m²/s
  p.parts = {part("slab", "stuff", block(length, 0.002, 0.002))};
  p.surfaces = {surface("left", {"slab.left"}), surface("right", {"slab.right"})};
  p.watches = {watch("middle", PointFigure{{{0, {}}, {0, {}}, {0.001, {}}}})};
  return p;
}

inline Parameter scheduled(const std::string& name, Quantity quantity, std::vector<std::pair<double, double>> points,
                           Schedule::Between between = Schedule::Between::Lines,
                           Schedule::Beyond beyond = Schedule::Beyond::Holds)
{
  Parameter p;
  p.id = p.name = name;
  p.quantity = quantity;
  p.schedule = Schedule{};
  p.schedule->between = between;
  p.schedule->beyond = beyond;
  for (const auto& [at, value] : points)
    p.schedule->points.push_back({number(at), number(value)});
  p.value = number(points.front().second);
  return p;
}

} // namespace kiln::test
