// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/PointSolver.h"

#include "base/TextHash.h"
#include "io/RunFile.h"
#include "model/OwnValues.h"
#include "run/InputHash.h"
#include "run/KeptFields.h"
#include "run/ResultHead.h"
#include "run/ResultIdentity.h"

#include <chrono>
#include <cmath>

namespace kiln
{
namespace
{

std::string sentenceOf(const RunFailure& failure)
{
  if (failure.failure)
    return failure.failure->sentence();
  return failure.notReady.empty() ? "It is not ready to be solved." : failure.notReady.front().sentence();
}

/// What is no number is no answer.
std::optional<double> finite(std::optional<double> value)
{
  return value && std::isfinite(*value) ? value : std::nullopt;
}

std::vector<AnsweredFigure> figuresOf(const Project& seen, const CaseResult& result, const RunRecord* run)
{
  std::vector<AnsweredFigure> figures;
  for (const WatchFigure& read : readWatches(seen, result)) {
    AnsweredFigure& figure = figures.emplace_back();
    figure.watch = read.id;
    figure.value = finite(read.value);
    const Watch* watch = findById(seen.watches, read.id);
    const auto answers = run != nullptr && watch != nullptr ? answersOf(*run, *watch) : std::nullopt;
    if (!answers)
      continue;
    figure.peak = finite(answers->peak.value);
    figure.trough = finite(answers->trough.value);
    figure.time = answers->crossedUpper ? answers->crossedUpper : answers->crossedLower;
    if (figure.time)
      *figure.time -= run->startTime;
  }
  return figures;
}

} // namespace

PointSolver::PointSolver(Project project, Question question, std::vector<AskedAxis> axes, std::filesystem::path folder,
                         std::filesystem::path kept)
    : project_(std::move(project)), question_(std::move(question)), axes_(std::move(axes)), folder_(std::move(folder)),
      kept_(std::move(kept))
{
}

Expected<std::string> PointSolver::keyOf(const AskedPoint& point) const
{
  const auto model = modelAt(project_, question_, axes_, point);
  if (!model)
    return tl::unexpected(model.error());
  return keyOf(*model);
}

Expected<std::string> PointSolver::keyOf(const PointModel& model) const
{
  std::string all = solutionHash(model.seen, model.oneCase) + figuresHash(model.seen);
  for (const std::string& id : startsFrom(model.seen, model.oneCase))
    if (const Case* before = findById(model.project.cases, id)) {
      const Expected<Project> seen = projectForCase(model.project, *before);
      if (!seen)
        return tl::unexpected(seen.error());
      all += solutionHash(*seen, *before);
    }
  return textHash(all);
}

bool PointSolver::hasKept(const AskedPoint& point) const
{
  if (kept_.empty())
    return true;
  const auto model = modelAt(project_, question_, axes_, point);
  const auto identity =
      model ? currentIdentity(model->project, model->oneCase, folder_) : tl::unexpected(model.error());
  return identity && isKept(kept_.parent_path(), *identity);
}

PointAnswer PointSolver::solve(const AskedPoint& point, const Progress& progress)
{
  const auto began = std::chrono::steady_clock::now();
  PointAnswer answer;
  const auto model = modelAt(project_, question_, axes_, point);
  const auto key = model ? keyOf(*model) : tl::unexpected(model.error());
  if (!key) {
    answer.failure = key.error().sentence();
    return answer;
  }
  answer.key = *key;
  std::error_code ignored;
  std::filesystem::create_directories(folder_, ignored);
  if (model->oneCase.kind == Case::Kind::Steady)
    solveSteadily(*model, answer, progress);
  else
    solveInTime(*model, answer, progress);
  answer.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  return answer;
}

void PointSolver::solveSteadily(const PointModel& model, PointAnswer& answer, const Progress& progress)
{
  auto result = shared_.solve(model.project, model.oneCase, folder_, progress);
  if (!result) {
    answer.failure = sentenceOf(result.error());
    return;
  }
  answer.figures = figuresOf(model.seen, *result, nullptr);
  keep(*result, {}, answer);
  shared_.takeBack(std::move(*result));
}

/// A run lies on the disk as every run does, and is left there only until its figures are read.
void PointSolver::solveInTime(const PointModel& model, PointAnswer& answer, const Progress& progress)
{
  const auto ordered = inOrder(model.project, {model.oneCase});
  if (!ordered) {
    answer.failure = ordered.error().sentence();
    return;
  }
  for (const Case& one : *ordered) {
    if (one.id != model.oneCase.id && isUpToDate(model.project, one, folder_))
      continue;
    const auto result = runCase(model.project, one, folder_, progress);
    if (!result) {
      answer.failure = sentenceOf(result.error());
      return;
    }
    if (one.id != model.oneCase.id)
      continue;
    const auto run = loadRun(runFile(folder_, one.id));
    answer.figures = figuresOf(model.seen, *result, run ? &*run : nullptr);
    keep(*result, runFile(folder_, one.id), answer);
  }
}

void PointSolver::keep(const CaseResult& result, const std::filesystem::path& run, PointAnswer& answer) const
{
  if (kept_.empty())
    return;
  if (auto written = keepFields(result, kept_, run); !written)
    answer.failure = written.error().sentence();
}

} // namespace kiln
