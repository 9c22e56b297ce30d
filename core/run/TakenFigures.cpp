// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/TakenFigures.h"

#include "io/RunFile.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "run/CaseRun.h"
#include "run/InputHash.h"
#include "run/ResultHead.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::string hashOf(const Project& project, const Case& oneCase)
{
  const Expected<Project> seen = projectForCase(project, oneCase);
  return seen ? solutionHash(*seen, oneCase) : std::string();
}

std::optional<double> numberOf(const RunAnswers& answers, AskedFigure which, double start)
{
  switch (which) {
  case AskedFigure::AtEnd:
    return std::nullopt; // stands among the figures
  case AskedFigure::Peak:
    return answers.peak.value;
  case AskedFigure::Trough:
    return answers.trough.value;
  case AskedFigure::TimeToLimit:
    break;
  }
  const auto met = answers.crossedUpper ? answers.crossedUpper : answers.crossedLower;
  return met ? std::optional(*met - start) : std::nullopt;
}

} // namespace

std::vector<std::string> takesFrom(const Project& project, const Case& oneCase)
{
  std::vector<std::string> from;
  for (const Parameter& parameter : project.parameters) {
    if (!parameter.taken || std::find(from.begin(), from.end(), parameter.taken->ofCase) != from.end())
      continue;
    Project other = project; // would another figure change this case?
    Number& value = findById(other.parameters, parameter.id)->value;
    value.si += 0.1 * std::abs(value.si) + 1e-3;
    applyParameters(other);
    if (hashOf(other, oneCase) != hashOf(project, oneCase))
      from.push_back(parameter.taken->ofCase);
  }
  return from;
}

std::optional<double> figureToTake(const Project& project, const TakenFigure& taken,
                                   const std::filesystem::path& folder)
{
  const Case* source = findById(project.cases, taken.ofCase);
  if (source == nullptr || !isUpToDate(project, *source, folder))
    return std::nullopt;
  const Expected<Project> seen = projectForCase(project, *source);
  const Watch* watch = seen ? findById(seen->watches, taken.watch) : nullptr;
  if (watch == nullptr)
    return std::nullopt;
  if (taken.figure == AskedFigure::AtEnd) {
    if (const auto head = loadHead(folder, source->id))
      for (const WatchFigure& figure : head->watchesOf(*seen))
        if (figure.id == watch->id)
          return figure.value;
    return std::nullopt;
  }
  const auto run = loadRun(runFile(folder, source->id));
  const auto answers = run ? answersOf(*run, *watch) : std::nullopt;
  return answers ? numberOf(*answers, taken.figure, run->startTime) : std::nullopt;
}

std::vector<std::string> takeFigures(Project& project, const std::filesystem::path& folder)
{
  std::vector<std::string> changed;
  for (const Parameter& parameter : std::vector<Parameter>(project.parameters)) {
    if (!parameter.taken)
      continue;
    const auto figure = figureToTake(project, *parameter.taken, folder);
    if (!figure || !std::isfinite(*figure) || *figure == parameter.value.si)
      continue;
    findById(project.parameters, parameter.id)->value = Number{*figure, {}, false};
    applyParameters(project);
    changed.push_back(parameter.name);
  }
  return changed;
}

} // namespace kiln
