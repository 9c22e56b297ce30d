// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/SureRun.h"

#include "geometry/TakenElements.h"
#include "io/RunFile.h"
#include "mesh/MeshQuality.h"
#include "model/OwnValues.h"
#include "results/Figures.h"
#include "run/InputHash.h"
#include "solve/TransientSolver.h"

#include <cmath>

namespace kiln
{
namespace
{

constexpr double step = 1.5; // between the sizes of the three meshes

/// Solves the case on a mesh of another fineness, in a folder of its own.
tl::expected<CaseResult, RunFailure> solveAt(Project project, const Case& oneCase, double factor,
                                             const std::filesystem::path& folder, const Progress& progress,
                                             const EffortLimits& limits)
{
  const double before = project.mesh.fineness ? project.mesh.fineness->si : 1;
  project.mesh.fineness = Number{before * factor, {}, false};
  std::error_code ignored;
  std::filesystem::create_directories(folder, ignored);
  return runCase(project, oneCase, folder, progress, false, limits);
}

bool isTemperature(Quantity quantity)
{
  return quantity == Quantity::Temperature || quantity == Quantity::TemperatureStep;
}

/// Differences below this come from where the solver stopped.
double noiseOf(const WatchFigure& figure, double heatFlow)
{
  constexpr double kelvin = 2e-4;
  constexpr double share = 1e-6;
  if (isTemperature(figure.quantity))
    return kelvin;
  switch (figure.quantity) {
  case Quantity::Power:
  case Quantity::PowerPerLength:
    return share * heatFlow;
  default:
    return share * std::abs(figure.value.value_or(0));
  }
}

double sizeOf(const CaseResult& result)
{
  const auto elements = static_cast<double>(countElements(result.mesh));
  return std::pow(elements, result.mesh.geometry.section.is() ? -1.0 / 2 : -1.0 / 3);
}

/// The results that a case starts from, for a twin in a folder of its own.
void lendStarts(const Project& project, const Case& oneCase, const std::filesystem::path& from,
                const std::filesystem::path& to)
{
  std::error_code ignored;
  std::filesystem::create_directories(to, ignored);
  for (const std::string& id : startsFrom(project, oneCase))
    if (const auto stored = storedCase(from, id); stored && *stored)
      for (const auto& file : {(*stored)->result, (*stored)->figures, (*stored)->run, manifestFile(from, id)})
        if (!file.empty())
          std::filesystem::copy_file(file, to / file.filename(), std::filesystem::copy_options::overwrite_existing,
                                     ignored);
}

tl::expected<SureRecord, RunFailure> saved(SureRecord record, const Case& oneCase, const std::filesystem::path& folder)
{
  if (auto written = saveSure(record, sureFile(folder, oneCase.id)); !written)
    return tl::unexpected(RunFailure{{}, written.error()});
  return record;
}

/// A run is held against a twin with larger elements and looser steps; what is compared are its values at the end.
tl::expected<SureRecord, RunFailure> sureInTime(const Project& project, const Case& oneCase,
                                                const std::filesystem::path& folder, const Progress& progress,
                                                const EffortLimits& limits)
{
  const auto half = [&](int i, const char* name) {
    return [&progress, i, name](std::string_view stage, double fraction, std::string_view message) {
      progress(stage, (i + fraction) / 2, std::string(name) + ": " + std::string(message));
    };
  };
  std::optional<CaseResult> own;
  if (isUpToDate(project, oneCase, folder))
    if (auto stored = loadStored(folder, oneCase))
      own = std::move(*stored);
  if (!own) {
    auto solved = runCase(project, oneCase, folder, half(0, "its own mesh"), false, limits);
    if (!solved)
      return tl::unexpected(solved.error());
    own = std::move(*solved);
  }
  const std::filesystem::path twinFolder = folder / ".sure";
  lendStarts(project, oneCase, folder, twinFolder);
  Case loose = oneCase;
  constexpr double looser = 3; // in the error of a step
  if (!loose.run)
    loose.run.emplace();
  const double tolerance = loose.run->tolerance ? loose.run->tolerance->si : usualTolerance;
  loose.run->tolerance = Number{looser * tolerance, {}, false};
  const auto twin = solveAt(project, loose, 1 / step, twinFolder, half(1, "twin"), limits);
  std::error_code ignored;
  std::filesystem::remove_all(twinFolder, ignored);
  if (!twin)
    return tl::unexpected(twin.error());
  const Expected<Project> seen = projectForCase(project, oneCase);
  const std::vector<WatchFigure> figures = readWatches(seen ? *seen : project, *own);
  const std::vector<WatchFigure> others = readWatches(seen ? *seen : project, *twin);
  SureRecord record;
  record.solutionHash = own->solutionHash;
  record.tets = {countElements(twin->mesh), countElements(own->mesh), countElements(own->mesh)};
  if (!(sizeOf(*twin) > sizeOf(*own)))
    return tl::unexpected(RunFailure{
        {},
        Failure{
            Failure::Kind::NotReady, "case " + oneCase.name,
            "Its mesh does not get coarser: what sets its size is not the size asked for, but the smallest features.",
            "Give the parts that matter a mesh size of their own."}});
  for (std::size_t w = 0; w < figures.size() && w < others.size(); ++w) {
    if (!figures[w].value || !others[w].value)
      continue;
    SureRecord::OfWatch& watch = record.watches.emplace_back();
    watch.id = figures[w].id;
    watch.values = {*others[w].value, *figures[w].value, *figures[w].value};
    watch.convergence = convergenceOfTwin({sizeOf(*twin), *others[w].value}, {sizeOf(*own), *figures[w].value},
                                          std::max(noiseOf(figures[w], std::max(own->heatIn, own->heatOut)),
                                                   isTemperature(figures[w].quantity) ? tolerance : 0));
  }
  progress("done", 1, oneCase.name + " solved with a twin");
  return saved(std::move(record), oneCase, folder);
}

} // namespace

tl::expected<SureRecord, RunFailure> runSure(const Project& project, const Case& oneCase,
                                             const std::filesystem::path& folder, const Progress& progress,
                                             const EffortLimits& limits)
{
  const auto refused = [](const std::string& object, const std::string& problem, const std::string& remedy) {
    return tl::unexpected(RunFailure{{}, Failure{Failure::Kind::NotReady, object, problem, remedy}});
  };
  if (project.parts.empty())
    return refused("case " + oneCase.name, "It has no mesh: a network of nodes has no such error.", "");
  if (const Part* kept = firstThatKeeps(project))
    return refused("part " + kept->name,
                   "It keeps the elements of its file, which cannot be compared with other meshes.",
                   "Let it be meshed anew (at the part, untick Keep the elements of the file).");
  if (oneCase.kind != Case::Kind::Steady)
    return sureInTime(project, oneCase, folder, progress, limits);
  SureRecord record;
  std::array<std::vector<WatchFigure>, 3> figures;
  std::array<double, 3> sizes{};
  double heatFlow = 0;
  int order = 1;
  const std::array<const char*, 3> names{"coarser mesh", "its own mesh", "finer mesh"};
  for (std::size_t i = 0; i < 3; ++i) {
    const Progress part = [&](std::string_view stage, double fraction, std::string_view message) {
      progress(stage, (static_cast<double>(i) + fraction) / 3, std::string(names[i]) + ": " + std::string(message));
    };
    const double factor = std::pow(step, static_cast<double>(i) - 1);
    const auto result = i == 1 ? runCase(project, oneCase, folder, part, false, limits)
                               : solveAt(project, oneCase, factor, folder / ".sure", part, limits);
    if (!result)
      return tl::unexpected(result.error());
    const Expected<Project> own = projectForCase(project, oneCase);
    figures[i] = readWatches(own ? *own : project, *result);
    record.tets[i] = countElements(result->mesh);
    sizes[i] = sizeOf(*result);
    if (i != 1)
      continue;
    record.solutionHash = result->solutionHash;
    heatFlow = std::max(result->heatIn, result->heatOut);
    order = result->mesh.order;
  }
  std::error_code ignored;
  std::filesystem::remove_all(folder / ".sure", ignored);
  if (!(sizes[0] > sizes[1] && sizes[1] > sizes[2]))
    return refused("case " + oneCase.name,
                   "Its three meshes do not get finer: what sets their size is not the size "
                   "asked for, but the smallest features.",
                   "Give the parts that matter a mesh size of their own.");
  for (std::size_t w = 0; w < figures[1].size(); ++w) {
    if (!figures[0][w].value || !figures[1][w].value || !figures[2][w].value)
      continue;
    SureRecord::OfWatch& watch = record.watches.emplace_back();
    watch.id = figures[1][w].id;
    std::array<MeshedValue, 3> meshes;
    for (std::size_t i = 0; i < 3; ++i) {
      watch.values[i] = *figures[i][w].value;
      meshes[i] = {sizes[i], watch.values[i]};
    }
    watch.convergence = convergenceOf(meshes, noiseOf(figures[1][w], heatFlow), order == 2 ? 3 : 2);
  }
  progress("done", 1, oneCase.name + " solved on three meshes");
  return saved(std::move(record), oneCase, folder);
}

} // namespace kiln
