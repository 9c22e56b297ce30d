// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"
#include "Saying.h"

#include "io/ProjectFile.h"
#include "io/RunFile.h"
#include "io/SureText.h"
#include "run/InputHash.h"
#include "run/RefineRun.h"
#include "run/ResultIdentity.h"
#include "run/SureRun.h"

#include <algorithm>

namespace kiln::cli
{
namespace
{

/// Solves one case and says what came out.
/// \param asked  for by name; else another one starts from it
ExitCode solveOne(const Request& request, const Project& project, const Case& one, bool asked, bool hints,
                  Reporter& reporter)
{
  const auto result = runCase(
      project, one, folderOf(request), [&](auto... args) { reporter.progress(args...); }, request.goesOn && asked,
      limitsOf(request));
  if (!result)
    return report(result.error(), reporter);
  if (hints)
    sayHints(project, one, *result, reporter);
  sayFigures(project, *result, reporter);
  if (result->transient)
    sayRun(project, runFile(folderOf(request), one.id), reporter);
  return ExitCode::Solved;
}

/// Solves cases one after the other. One that fails holds up only those that start from it.
/// \return the first failure
ExitCode solveInOrder(const Request& request, const Project& project, const std::vector<Case>& cases,
                      const std::vector<Case>& ordered, Reporter& reporter)
{
  ExitCode worst = ExitCode::Solved;
  std::vector<std::string> failed; // ids
  std::vector<std::string> reasons;
  int solved = 0;
  for (const Case& one : ordered) {
    if (request.onlySteady && one.kind != Case::Kind::Steady)
      continue;
    const bool asked = findById(cases, one.id) != nullptr; // else another one starts from it
    if ((request.onlyIfNeeded || !asked) && isUpToDate(project, one, folderOf(request))) {
      if (asked)
        reporter.say(one.name + ": up to date");
      continue;
    }
    const std::vector<std::string> before = startsFrom(project, one);
    const auto lacking = std::find_first_of(before.begin(), before.end(), failed.begin(), failed.end());
    if (lacking != before.end()) {
      reporter.say(one.name + " is left out: it starts from " + findById(project.cases, *lacking)->name +
                   ", which failed");
      failed.push_back(one.id);
      reasons.push_back(one.name + ": left out, it starts from " + findById(project.cases, *lacking)->name);
      continue;
    }
    if (!asked)
      reporter.say(one.name + " is solved first: what was asked for starts from it");
    if (const ExitCode code = solveOne(request, project, one, asked, solved == 0, reporter); code != ExitCode::Solved) {
      worst = worst == ExitCode::Solved ? code : worst;
      failed.push_back(one.id);
      reasons.push_back(one.name + ": " + reporter.lastProblem());
    } else
      ++solved;
  }
  if (!failed.empty() && cases.size() > 1) {
    reporter.say(std::to_string(failed.size()) + " of " + std::to_string(cases.size()) + " cases failed:");
    for (const std::string& reason : reasons)
      reporter.say("  " + reason);
  }
  return worst;
}

} // namespace

ExitCode solve(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project)
    return refused(project.error(), reporter);
  const Expected<std::vector<Case>> cases = casesOf(*project, request);
  if (!cases)
    return refused(cases.error(), reporter);
  if (auto made = makeFolder(folderOf(request)); !made)
    return refused(made.error(), reporter);
  if (cases->empty())
    return report(RunFailure{checkModel(*project), std::nullopt}, reporter);
  const auto ordered = request.asStored ? cases : inOrder(*project, *cases);
  if (!ordered)
    return refused(ordered.error(), reporter);
  if (request.folder.empty() && !request.settings.empty())
    reporter.say("with values set for this run, in " + folderOf(request).string());
  return solveInOrder(request, *project, *cases, *ordered, reporter);
}

namespace
{

/// "2 K" or "1 %".
Expected<RefineTarget> targetOf(const std::string& text)
{
  RefineTarget target;
  const bool percent = text.ends_with("%");
  const auto parsed = parseQuantity(text, percent ? Quantity::Plain : Quantity::TemperatureStep);
  if (!parsed)
    return tl::unexpected(parsed.error());
  (percent ? target.share : target.kelvin) = parsed->si;
  return target;
}

} // namespace

ExitCode sure(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  if (!cases)
    return refused(cases.error(), reporter);
  if (auto made = makeFolder(folderOf(request)); !made)
    return refused(made.error(), reporter);
  for (const Case& one : *cases) {
    const auto record = runSure(
        *project, one, folderOf(request), [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
    if (!record)
      return report(record.error(), reporter);
    reporter.say(one.name + ", on " + std::to_string(record->tets[0]) + ", " + std::to_string(record->tets[1]) +
                 " and " + std::to_string(record->tets[2]) + " elements");
    for (const SureRecord::OfWatch& watch : record->watches)
      if (const Watch* own = findById(project->watches, watch.id))
        reporter.say("  " + own->name + ": " + figureText(watch, quantityOf(*project, *own), TemperatureUnit::Celsius) +
                     ", " + sureText(watch, quantityOf(*project, *own)));
  }
  return ExitCode::Solved;
}

ExitCode refine(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  const Expected<RefineTarget> target = cases ? targetOf(request.within) : tl::unexpected(cases.error());
  if (!target)
    return refused(target.error(), reporter);
  if (auto made = makeFolder(folderOf(request)); !made)
    return refused(made.error(), reporter);
  const Case& one = cases->front();
  const auto record = runRefine(
      *project, one, folderOf(request), *target, [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
  if (!record)
    return report(record.error(), reporter);
  for (const RefineRecord::Round& round : record->rounds)
    reporter.say("  " + std::to_string(round.elements) + " elements: hottest " +
                 formatQuantity(round.hottest, Quantity::Temperature) + ", figures moved by " +
                 formatQuantity(round.moved, Quantity::TemperatureStep, {}, 2) + ", flux of the worst part off by " +
                 percentless(round.error));
  reporter.say(one.name + (record->reached ? ": no figure moved by more than asked in the last round"
                                           : ": not reached; hot spots still move with the mesh"));
  if (request.keep) {
    Project refined = *project;
    refined.mesh.finerAt = SharedText(record->finerAt);
    if (auto saved = saveProject(refined, request.file); !saved)
      return refused(saved.error(), reporter);
  }
  return ExitCode::Solved;
}

} // namespace kiln::cli
