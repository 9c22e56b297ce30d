// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/CaseState.h"

#include "io/ResultFile.h"
#include "look/Language.h"

#include <QCoreApplication>
#include <algorithm>

namespace kiln
{

const SureRecord::OfWatch* CaseState::sureOf(const std::string& watch) const
{
  return sure && result && sure->solutionHash == result->solutionHash ? sure->find(watch) : nullptr;
}

void CaseState::becomeOutOfDate(const QString& why)
{
  if (!outOfDate.isEmpty())
    return;
  outOfDate = why;
  if (stage == Stage::Solved)
    stage = Stage::OutOfDate;
}

/// What the present watches say: only what may have changed since they were read is read again.
static void readAgain(CaseState& state, const Project& project)
{
  if (!state.result) {
    state.watches = state.onDisk->watchesOf(project);
    return;
  }
  std::string by = figuresHash(project);
  if (state.readBy == by && state.readFrom.lock() == state.result) {
    for (WatchFigure& figure : state.watches)
      if (const Watch* watch = findById(project.watches, figure.id)) {
        figure.name = watch->name;
        setLimits(figure, *watch);
      }
    return;
  }
  std::vector<WatchFigure> known = state.onDisk ? state.onDisk->watchesOf(project) : std::vector<WatchFigure>();
  // What was read when it was solved is so still where nothing that it was read by has changed.
  const bool all = state.onDisk && std::all_of(known.begin(), known.end(),
                                               [](const WatchFigure& one) { return one.value.has_value(); });
  state.watches = all ? std::move(known) : readWatches(project, *state.result);
  state.readBy = std::move(by);
  state.readFrom = state.result;
}

void judge(const Case* own, CaseState& state, const Project& project, const InputHashes& now)
{
  if (state.stage != CaseState::Stage::Running && state.stage != CaseState::Stage::Failed)
    state.stage = state.solved() ? CaseState::Stage::Solved : CaseState::Stage::NeverRun;
  if (!state.solved())
    return;
  const std::string& ofMesh = state.result ? state.result->meshHash : state.onDisk->meshHash;
  const std::string& ofSolution = state.result ? state.result->solutionHash : state.onDisk->solutionHash;
  state.outOfDate = ofMesh != now.mesh           ? QCoreApplication::translate("CaseState", "mesh and solution")
                    : ofSolution != now.solution ? QCoreApplication::translate("CaseState", "solution")
                                                 : QString();
  if (!state.outOfDate.isEmpty() && state.stage == CaseState::Stage::Solved)
    state.stage = CaseState::Stage::OutOfDate;
  readAgain(state, project);
  if (own == nullptr || own->kind != Case::Kind::Transient || !state.run.record)
    return;
  for (WatchFigure& figure : state.watches) { // what counts of a run is its worst instant
    const Watch* watch = findById(project.watches, figure.id);
    const auto answers = watch != nullptr ? answersOf(*state.run.record, *watch) : std::nullopt;
    if (!answers)
      continue;
    figure.margin.reset();
    if (watch->upper)
      figure.margin = watch->upper->si - answers->peak.value;
    // What starts below its lower limit has to get there: then its end counts.
    const double least = watch->lower && answers->start < watch->lower->si ? answers->end : answers->trough.value;
    if (watch->lower)
      figure.margin = std::min(figure.margin.value_or(1e300), least - watch->lower->si);
  }
}

void readWhole(CaseState& state, const Case& one)
{
  if (state.result || !state.onDisk)
    return;
  if (Expected<CaseResult> result = loadStored(state.onDisk->folder, one)) {
    state.result = std::make_shared<CaseResult>(std::move(*result));
  } else { // damaged since
    state.onDisk.reset();
    state.stage = CaseState::Stage::Failed;
    state.message = inWords(result.error());
  }
}

CaseState storedState(const std::filesystem::path& folder, const Case& one, std::uintmax_t most)
{
  CaseState state;
  std::error_code ignored;
  const bool stored = std::filesystem::exists(manifestFile(folder, one.id), ignored);
  if (!stored && one.kind != Case::Kind::Transient)
    return state;
  state.onDisk = loadHead(folder, one.id);
  if (state.onDisk && state.onDisk->bytes > most) {
    // read when it is asked for
  } else if (Expected<CaseResult> result = loadStored(folder, one)) {
    state.result = std::make_shared<CaseResult>(std::move(*result));
  } else if (stored) {
    state.onDisk.reset();
    state.stage = CaseState::Stage::Failed; // damaged: its case says so
    state.message = inWords(result.error());
  }
  if (auto sure = loadSure(sureFile(folder, one.id)))
    state.sure = std::move(*sure);
  if (one.kind == Case::Kind::Transient)
    state.run = loadShownRun(folder, one.id);
  return state;
}

} // namespace kiln
