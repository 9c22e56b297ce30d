// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"
#include "AtOnce.h"
#include "ClusterSolve.h"
#include "Saying.h"

#include "io/CaseStore.h"
#include "io/ProjectFile.h"
#include "io/RunFile.h"
#include "io/SureText.h"
#include "model/ObjectKinds.h"
#include "run/InputHash.h"
#include "run/JobQueue.h"
#include "run/RefineRun.h"
#include "run/ResultIdentity.h"
#include "run/SureRun.h"
#include "run/TakenFigures.h"

#include <algorithm>
#include <csignal>

namespace kiln::cli
{
namespace
{

std::string takenWords(const Project& project, const std::string& parameter)
{
  for (const Parameter& one : project.parameters)
    if (one.name == parameter)
      return formatQuantity(one.value.si, one.quantity);
  return {};
}

/// Solves one case and says what came out.
/// \param asked  for by name; else another one starts from it
ExitCode solveOne(const Request& request, const Project& project, const Case& one, bool asked, bool hints,
                  Reporter& reporter)
{
  Project now = project; // with what the cases before it have brought
  for (const std::string& name : takeFigures(now, folderOf(request)))
    reporter.say(name + " is taken anew: " + takenWords(now, name));
  const auto result = runCase(
      now, one, folderOf(request), [&](auto... args) { reporter.progress(args...); }, request.goesOn && asked,
      limitsOf(request));
  if (!result)
    return report(result.error(), reporter);
  if (hints)
    sayHints(now, one, *result, reporter);
  sayFigures(now, *result, folderOf(request), reporter);
  if (result->transient)
    sayRun(now, runFile(folderOf(request), one.id), reporter);
  return ExitCode::Solved;
}

/// What came of the cases so far.
struct Outcome {
  ExitCode worst = ExitCode::Solved;
  std::vector<std::string> reasons; ///< of those that failed or were left out
  int solved = 0;

  void fail(const Case& one, const std::string& reason, ExitCode code)
  {
    worst = worst == ExitCode::Solved ? code : worst;
    reasons.push_back(one.name + ": " + reason);
  }
};

/// The cases to solve in their order: those that are current are left out where that was asked for, and where they are
/// only what others start from.
JobQueue queueOf(const Request& request, const Project& project, const std::vector<Case>& cases,
                 const std::vector<Case>& ordered, Reporter& reporter)
{
  JobQueue queue;
  for (const Case& one : ordered) {
    if (request.onlySteady && one.kind != Case::Kind::Steady)
      continue;
    const bool asked = findById(cases, one.id) != nullptr;
    const std::vector<std::string> before = waitsFor(project, one);
    const bool waits = std::any_of(before.begin(), before.end(), [&](auto& id) { return queue.find(id) != nullptr; });
    if (!waits && (request.onlyIfNeeded || !asked) && isUpToDate(project, one, folderOf(request))) {
      if (asked)
        reporter.say(one.name + ": up to date");
      continue;
    }
    if (!asked)
      reporter.say(one.name + " is solved first: what was asked for needs it");
    queue.add({one.id, before, QueuedJob::State::Waiting, 0, {}});
  }
  return queue;
}

/// One after the other, in this process.
void solveInTurn(const Request& request, const Project& project, const std::vector<Case>& cases, JobQueue& queue,
                 Outcome& outcome, Reporter& reporter)
{
  while (const auto id = queue.startNext({})) {
    const Case& one = *findById(project.cases, *id);
    const bool asked = findById(cases, *id) != nullptr;
    reporter.logTo(logFile(folderOf(request), *id));
    const ExitCode code = solveOne(request, project, one, asked, outcome.solved == 0, reporter);
    if (code == ExitCode::Solved) {
      queue.finish(*id);
      ++outcome.solved;
    } else {
      outcome.fail(one, reporter.lastProblem(), code);
      queue.fail(*id, reporter.lastProblem(), one.name);
    }
  }
}

ExitCode solveQueue(const Request& request, const Project& project, const std::vector<Case>& cases,
                    const std::vector<Case>& ordered, Reporter& reporter)
{
  JobQueue queue = queueOf(request, project, cases, ordered, reporter);
  Outcome outcome;
  if (request.jobs > 1 && queue.jobs().size() > 1)
    solveAtOnce(
        request, project, queue, reporter,
        [&](const Case& one, Reporter& own) {
          own.logTo(logFile(folderOf(request), one.id));
          return solveOne(request, project, one, findById(cases, one.id) != nullptr, true, own);
        },
        [&](const Case& one, const std::string& reason, ExitCode code) {
          code == ExitCode::Solved ? void(++outcome.solved) : outcome.fail(one, reason, code);
        });
  else
    solveInTurn(request, project, cases, queue, outcome, reporter);
  for (const QueuedJob& job : queue.jobs())
    if (const Case* one = findById(project.cases, job.id); job.state == QueuedJob::State::LeftOut) {
      reporter.say(one->name + " is skipped: " + job.reason);
      outcome.reasons.push_back(one->name + ": skipped, " + job.reason);
    }
  if (!outcome.reasons.empty() && cases.size() > 1) {
    reporter.say(std::to_string(outcome.reasons.size()) + " of " + std::to_string(cases.size()) + " cases failed:");
    for (const std::string& reason : outcome.reasons)
      reporter.say("  " + reason);
  }
  return outcome.worst;
}

/// What is up to date is not solved again.
ExitCode solveOnCluster(const Request& request, const Project& project, const std::vector<Case>& ordered,
                        Reporter& reporter)
{
  ClusterSolve cluster(request, project, ordered, [&](const std::string& words) { reporter.say(words); });
  if (request.cancelCluster) {
    const auto cancelled = cluster.cancel();
    return cancelled ? ExitCode::Solved : refused(cancelled.error(), reporter);
  }
  const std::function<int()> left = notedSignals();
  const auto lost = cluster.run([&] { return left() != 0; },
                                [&](const Project& now, const Case& one) {
                                  reporter.say(one.name + " is solved");
                                  if (const auto result = loadStored(folderOf(request), one))
                                    sayFigures(now, *result, folderOf(request), reporter);
                                });
  if (!lost)
    return refused(lost.error(), reporter);
  if (left() == SIGINT)
    if (auto cancelled = cluster.cancel(); !cancelled)
      return refused(cancelled.error(), reporter);
  if (left() != 0)
    return ExitCode::Cancelled; // else the job goes on
  ExitCode worst = ExitCode::Solved;
  for (const ClusterSolve::Lost& one : *lost)
    worst = refused({Failure::Kind::Solver, objectWords(one.one), one.reason, ""}, reporter);
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
  if (request.cluster || request.cancelCluster)
    return solveOnCluster(request, *project, *ordered, reporter);
  if (request.nice)
    giveWay();
  if (request.folder.empty() && !request.settings.empty())
    reporter.say("with values set for this run, in " + folderOf(request).string());
  return solveQueue(request, *project, *cases, *ordered, reporter);
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
