// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Document.h"
#include "look/Language.h"
#include "model/OwnValues.h"
#include "run/Comparison.h"

#include <algorithm>

/// What the shown case is compared with.
namespace kiln
{
namespace
{

QString words(const std::string& text) { return QString::fromStdString(text); }

QString timeText(double seconds) { return words(formatQuantity(seconds, Quantity::Time)); }

} // namespace

ComparedChoice Document::comparedChoice() const
{
  const Case* shown = shownCaseObject();
  if (shown == nullptr)
    return {};
  const bool itself = shown->comparedWith == shownCase_ && !shown->comparedInstant;
  if (!shown->comparedProject.empty() || (!itself && findById(project_.cases, shown->comparedWith) != nullptr))
    return {shown->comparedWith, shown->comparedProject, shown->comparedInstant};
  const auto other =
      std::find_if(project_.cases.begin(), project_.cases.end(), [&](const Case& one) { return one.id != shownCase_; });
  return {other != project_.cases.end() ? other->id : std::string(), {}, {}};
}

ComparedWith Document::compared() const
{
  ComparedWith found;
  found.choice = comparedChoice();
  const ComparedChoice& choice = found.choice;
  if (choice.project.empty()) {
    found.own = findById(project_.cases, choice.caseId);
    found.state = found.own != nullptr ? &wholeState(choice.caseId) : nullptr;
    found.name = found.own != nullptr ? words(found.own->name) : QString();
  } else {
    const OtherCase::Read* read = otherCase_.read();
    found.own = read != nullptr ? &read->own : nullptr;
    found.state = read != nullptr ? &read->state : nullptr;
    found.name = words(std::filesystem::path(choice.project).filename().string() + ": " +
                       (read != nullptr ? read->own.name : choice.caseId));
    if (read == nullptr)
      found.problem = otherCase_.problem().isEmpty() ? tr("it is being read") : otherCase_.problem();
  }
  if (found.state != nullptr && found.state->run.record && choice.instant) {
    found.instant = withinRun(*found.state->run.record, choice.instant->si);
    found.name += tr(", at %1").arg(timeText(*found.instant));
  }
  return found;
}

void Document::compareWith(const ComparedChoice& choice)
{
  if (choice == comparedChoice())
    return;
  edit(tr("Compare with another case"), [&](Project& project) {
    if (Case* shown = findById(project.cases, shownCase_)) {
      shown->comparedWith = choice.caseId;
      shown->comparedProject = choice.project;
      shown->comparedInstant = choice.instant;
    }
  });
}

/// Another project's case is read as soon as it is chosen, whatever chose it.
void Document::followCompared()
{
  const Case* shown = shownCaseObject();
  if (shown == nullptr || shown->comparedProject.empty())
    otherCase_.forget();
  else
    otherCase_.want(resultsFolder().parent_path() / shown->comparedProject, shown->comparedWith);
  if (ComparedChoice now = comparedChoice(); now != comparedNow_) {
    comparedNow_ = std::move(now);
    emit comparedCaseChanged();
  }
}

Expected<Project> Document::comparedProject() const
{
  const ComparedWith other = compared();
  if (!other.choice.project.empty() && otherCase_.read() != nullptr)
    return otherCase_.read()->seen;
  if (other.own == nullptr)
    return failure(Failure::Kind::NotReady, other.name.toStdString(), other.problem.toStdString(), "");
  return projectForCase(project_, *other.own);
}

DifferentSide Document::comparedSide() const
{
  const ComparedWith other = compared();
  if (other.state == nullptr || !other.state->result)
    return {};
  const std::shared_ptr<const CaseResult>& result = other.state->result;
  const ShownRun& run = other.state->run;
  const auto wanted = other.instant ? other.instant : playhead();
  const auto time = run.record && run.fields ? wanted : std::nullopt;
  if (!time)
    return {result, {result, &result->temperature}};
  if (comparedAt_.result == result && comparedTime_ == time)
    return comparedAt_;
  comparedAt_ = {result, {result, &result->temperature}};
  comparedTime_ = time;
  if (auto kelvin = temperaturesAt(*result, *run.record, *run.fields, *time))
    comparedAt_.kelvin = std::move(kelvin);
  return comparedAt_;
}

std::shared_ptr<const DifferenceField> Document::difference() const
{
  return difference_.of({shownState().result, shownTemperature()}, comparedSide());
}

QString Document::differenceText() const
{
  const Case* own = shownCaseObject();
  const ComparedWith other = compared();
  if (own == nullptr || other.name.isEmpty())
    return tr("there is no other case to compare with");
  const QString both = other.name + " − " + words(own->name);
  if (other.state == nullptr)
    return both + ": " + other.problem;
  if (!shownState().result || !other.state->result)
    return both + tr(": %1 is not solved").arg(shownState().result ? other.name : words(own->name));
  const auto field = difference();
  if (!field)
    return both + ": " + inWords(difference_.problem());
  QString text = both + ", " + instantText();
  const auto kelvin = [](double value) { return words(formatQuantity(value, Quantity::TemperatureStep, {}, 2)); };
  text += tr(" · mean %1").arg(kelvin(field->mean));
  if (field->interpolated)
    text += tr(" · interpolated, known to %1").arg(kelvin(field->misfit));
  if (field->alone > 0)
    text += tr(" · grey: only here");
  if (!field->onlyThere.empty())
    text += tr(" · not here: %1").arg(words(field->onlyThere.front()));
  for (const auto& [name, state] : {std::pair(words(own->name), &shownState()), {other.name, other.state}})
    if (!state->outOfDate.isEmpty())
      text += tr(" · %1 is out of date").arg(name);
  return text;
}

} // namespace kiln
