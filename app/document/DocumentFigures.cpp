// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the document shows of results: figures, temperatures and instants of the shown case.
#include "document/Document.h"

#include "results/UnstoredParts.h"
#include "run/LaterWatches.h"

#include "model/SteadyView.h"
#include <algorithm>

namespace kiln
{

const SureRecord::OfWatch* CaseState::sureOf(const std::string& watch) const
{
  return sure && result && sure->solutionHash == result->solutionHash ? sure->find(watch) : nullptr;
}

const ShownFigures* Document::shownFigures() const
{
  const CaseState& state = shownState();
  if (!state.result)
    return nullptr;
  if (!figures_) {
    const auto at = playheads_.find(shownCase_);
    figures_ = at != playheads_.end() && state.run.record && state.run.fields
                   ? figuresAt(shownProject_, state.result, state.run, at->second)
                   : figuresOf(shownProject_, state.result);
    if (state.run.record && figures_->atEnd && !state.run.record->times.empty())
      figures_->storedByPart = storedByPart(*state.run.record, state.run.record->times.back());
  }
  return &*figures_;
}

std::shared_ptr<const std::vector<double>> Document::shownTemperature() const
{
  const CaseState& state = shownState();
  if (!state.result)
    return nullptr;
  const auto at = playheads_.find(shownCase_);
  if (at != playheads_.end() && state.run.record && state.run.fields)
    if (auto field = state.run.fields->fieldAt(state.run.record->instants, at->second);
        field && field->size() == state.result->temperature.size()) {
      fillUnstored(*state.run.record, state.result->mesh, state.result->unknowns, at->second, *field);
      return std::make_shared<const std::vector<double>>(std::move(*field));
    }
  return {state.result, &state.result->temperature};
}

std::optional<double> Document::playhead() const
{
  const CaseState& state = shownState();
  if (!state.run.record || state.run.record->times.empty())
    return std::nullopt;
  const auto at = playheads_.find(shownCase_);
  return at != playheads_.end() ? at->second : state.run.record->times.back();
}

QString Document::instantText() const
{
  const Case* shown = shownCaseObject();
  if (shown == nullptr)
    return tr("steady");
  if (shown->kind != Case::Kind::Transient) {
    const std::string words = steadyWords(shownProject_, *shown);
    return words.empty() ? tr("steady") : tr("steady, %1").arg(QString::fromStdString(words));
  }
  const auto now = playhead();
  return now ? tr("at %1").arg(QString::fromStdString(formatQuantity(*now, Quantity::Time))) : tr("transient");
}

/// With what else makes the temperatures doubtful: how far they left what is possible.
QString Document::quickLookText() const
{
  const auto result = shownState().result;
  if (!result)
    return {};
  QString text = result->mesh.order == 1 && !result->mesh.tets.empty() ? tr(" · quick look") : QString();
  if (result->bounds.exceeded())
    text += tr(" · up to %1 beyond what is possible")
                .arg(QString::fromStdString(formatQuantity(result->bounds.worst(), Quantity::TemperatureStep, {}, 2)));
  return text;
}

void Document::setPlayhead(double time)
{
  const CaseState& state = shownState();
  if (!state.run.record || state.run.record->times.empty() || !state.result)
    return;
  const std::vector<double>& times = state.run.record->times;
  if (time >= times.back() && state.run.record->finished)
    playheads_.erase(shownCase_);
  else
    playheads_[shownCase_] = std::clamp(time, times.front(), times.back());
  forgetFigures();
  emit instantMoved();
  rest_.start();
}

void Document::forgetFigures() { figures_.reset(); }

/// The shown run has the course of watches that were made after it, too.
void Document::fillLaterWatches()
{
  CaseState& state = states_[shownCase_];
  ShownRun& run = state.run;
  if (!state.result || !run.record || !run.fields || !run.record->finished || !lacksWatches(shownProject_, *run.record))
    return;
  auto fuller = std::make_shared<RunRecord>(*run.record);
  addLaterWatches(shownProject_, state.result->mesh, state.result->unknowns, *run.fields, *fuller);
  run.record = std::move(fuller);
}

void Document::setRun(const std::string& caseId, ShownRun run)
{
  states_[caseId].run = std::move(run);
  if (caseId == shownCase_) {
    fillLaterWatches();
    forgetFigures();
    emit runChanged();
  }
}

void Document::setSure(const std::string& caseId, SureRecord record)
{
  states_[caseId].sure = std::move(record);
  emit caseStateChanged(caseId);
}

} // namespace kiln
