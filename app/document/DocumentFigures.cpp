// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the document shows of results: figures, temperatures and instants of the shown case.
#include "document/Document.h"
#include "look/Language.h"
#include "model/SteadyView.h"
#include "run/LaterWatches.h"

#include <algorithm>

namespace kiln
{

const ShownFigures* Document::shownFigures() const
{
  const auto others = [this](const std::string& id) -> std::optional<std::vector<WatchFigure>> {
    const CaseState& state = this->state(id);
    return state.solved() ? std::optional(state.watches) : std::nullopt;
  };
  return instant_.figures(shownProject_, shownCase_, shownState(), others);
}

std::shared_ptr<const std::vector<double>> Document::shownTemperature() const
{
  return instant_.temperature(shownCase_, shownState());
}

std::optional<double> Document::playhead() const { return instant_.playhead(shownCase_, shownState()); }

void Document::setEstimate(std::shared_ptr<const CaseResult> estimate, const QString& words)
{
  instant_.setEstimate(std::move(estimate));
  estimateWords_ = words;
  emit instantMoved();
  emit estimateChanged();
}

QString Document::caseAndInstant() const
{
  const Case* shown = shownCaseObject();
  const QString name = shown != nullptr ? QString::fromStdString(shown->name) : QString();
  const QString instant = instantText();
  return name.compare(instant, Qt::CaseInsensitive) == 0 ? name : name + ", " + instant;
}

QString Document::instantText() const
{
  const Case* shown = shownCaseObject();
  if (shown == nullptr)
    return tr("steady");
  if (const QString estimate = estimateWords(); !estimate.isEmpty())
    return estimate;
  if (shown->kind != Case::Kind::Transient) {
    const std::string words = steadyWords(shownProject_, *shown);
    return words.empty() ? tr("steady") : tr("steady, %1").arg(inWords(words));
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
  if (!instant_.move(shownCase_, shownState(), time))
    return;
  emit instantMoved();
  rest_.start();
}

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
    instant_.forget();
    emit runChanged();
  }
}

void Document::setSure(const std::string& caseId, SureRecord record)
{
  states_[caseId].sure = std::move(record);
  emit caseStateChanged(caseId);
}

} // namespace kiln
