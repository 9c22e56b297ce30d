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

const ShownFigures* Document::shownFigures() const
{
  const auto others = [this](const std::string& id) -> std::optional<std::vector<WatchFigure>> {
    const CaseState& state = this->state(id);
    return state.result ? std::optional(state.watches) : std::nullopt;
  };
  return instant_.figures(shownProject_, shownCase_, shownState(), others);
}

std::shared_ptr<const std::vector<double>> Document::shownTemperature() const
{
  return instant_.temperature(shownCase_, shownState());
}

std::optional<double> Document::playhead() const { return instant_.playhead(shownCase_, shownState()); }

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

const std::string& Document::comparedCase() const
{
  const Case* shown = shownCaseObject();
  if (shown != nullptr && shown->comparedWith != shownCase_ && findById(project_.cases, shown->comparedWith) != nullptr)
    return shown->comparedWith;
  for (const Case& one : project_.cases)
    if (one.id != shownCase_)
      return one.id;
  static const std::string none;
  return none;
}

void Document::compareWith(const std::string& caseId)
{
  if (caseId == comparedCase())
    return;
  edit(tr("Compare with another case"), [&](Project& project) {
    if (Case* shown = findById(project.cases, shownCase_))
      shown->comparedWith = caseId;
  });
  emit comparedCaseChanged();
}

DifferentSide Document::comparedSide() const
{
  const CaseState& other = state(comparedCase());
  if (!other.result)
    return {};
  const auto time = other.run.record && other.run.fields ? playhead() : std::nullopt;
  if (!time)
    return {other.result, {other.result, &other.result->temperature}};
  if (comparedAt_.result == other.result && comparedTime_ == time)
    return comparedAt_;
  const double within = std::clamp(*time, other.run.record->times.front(),
                                   std::max(other.run.record->times.front(), other.run.record->times.back()));
  comparedAt_ = {other.result, {other.result, &other.result->temperature}};
  comparedTime_ = time;
  if (auto field = other.run.fields->fieldAt(other.run.record->instants, within);
      field && field->size() == other.result->temperature.size()) {
    fillUnstored(*other.run.record, other.result->mesh, other.result->unknowns, within, *field);
    comparedAt_.kelvin = std::make_shared<const std::vector<double>>(std::move(*field));
  }
  return comparedAt_;
}

std::shared_ptr<const DifferenceField> Document::difference() const
{
  return difference_.of({shownState().result, shownTemperature()}, comparedSide());
}

QString Document::differenceText() const
{
  const Case* own = shownCaseObject();
  const Case* other = findById(project_.cases, comparedCase());
  if (own == nullptr || other == nullptr)
    return tr("there is no other case to compare with");
  const QString both = QString::fromStdString(other->name) + " − " + QString::fromStdString(own->name);
  if (!shownState().result || !state(other->id).result)
    return both + tr(": %1 is not solved").arg(QString::fromStdString((shownState().result ? other : own)->name));
  const auto field = difference();
  if (!field)
    return both + ": " + QString::fromStdString(difference_.problem());
  QString text = both + ", " + instantText();
  const auto kelvin = [](double value) {
    return QString::fromStdString(formatQuantity(value, Quantity::TemperatureStep, {}, 2));
  };
  text += tr(" · mean %1").arg(kelvin(field->mean));
  if (field->interpolated)
    text += tr(" · interpolated, known to %1").arg(kelvin(field->misfit));
  if (field->alone > 0)
    text += tr(" · grey: only here");
  if (!field->onlyThere.empty())
    text += tr(" · not here: %1").arg(QString::fromStdString(field->onlyThere.front()));
  for (const Case* one : {own, other})
    if (!state(one->id).outOfDate.isEmpty())
      text += tr(" · %1 is out of date").arg(QString::fromStdString(one->name));
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
