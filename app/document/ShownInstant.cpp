// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownInstant.h"

#include "results/UnstoredParts.h"

#include <algorithm>

namespace kiln
{

bool ShownInstant::move(const std::string& caseId, const CaseState& state, double time)
{
  if (!state.run.record || state.run.record->times.empty() || !state.result)
    return false;
  const std::vector<double>& times = state.run.record->times;
  if (time >= times.back() && state.run.record->finished)
    playheads_.erase(caseId);
  else
    playheads_[caseId] = std::clamp(time, times.front(), times.back());
  forget();
  return true;
}

void ShownInstant::toEnd(const std::string& caseId)
{
  playheads_.erase(caseId);
  forget();
}

std::optional<double> ShownInstant::playhead(const std::string& caseId, const CaseState& state) const
{
  if (!state.run.record || state.run.record->times.empty())
    return std::nullopt;
  const auto at = playheads_.find(caseId);
  return at != playheads_.end() ? at->second : state.run.record->times.back();
}

const ShownFigures* ShownInstant::figures(const Project& shown, const std::string& caseId, const CaseState& state,
                                          const FiguresOfCase& others) const
{
  if (!state.result)
    return nullptr;
  if (!figures_) {
    const auto at = playheads_.find(caseId);
    figures_ = estimate_ ? estimated(shown, state)
               : at != playheads_.end() && state.run.record && state.run.fields
                   ? figuresAt(shown, state.result, state.run, at->second)
                   : figuresOf(shown, state.result);
    if (state.run.record && figures_->atEnd && !state.run.record->times.empty())
      figures_->storedByPart = storedByPart(*state.run.record, state.run.record->times.back());
    takeReferences(shown, figures_->watches, others);
  }
  return &*figures_;
}

ShownFigures ShownInstant::estimated(const Project& shown, const CaseState& state) const
{
  if (estimate_->meshHash != state.result->meshHash || estimate_->unknowns.node != state.result->unknowns.node)
    return figuresOf(shown, estimate_); // a point of a question, on a mesh of its own
  if (prepared_ == nullptr || prepared_->result != state.result)
    prepared_ = std::make_unique<Prepared>(shown, state.result);
  return figuresOf(shown, estimate_, &prepared_->figures);
}

std::shared_ptr<const std::vector<double>> ShownInstant::temperature(const std::string& caseId,
                                                                     const CaseState& state) const
{
  if (!state.result)
    return nullptr;
  if (estimate_ && estimate_->temperature.size() == state.result->temperature.size())
    return {estimate_, &estimate_->temperature};
  const auto at = playheads_.find(caseId);
  if (at != playheads_.end() && state.run.record && state.run.fields)
    if (auto field = state.run.fields->fieldAt(state.run.record->instants, at->second);
        field && field->size() == state.result->temperature.size()) {
      fillUnstored(*state.run.record, state.result->mesh, state.result->unknowns, at->second, *field);
      return std::make_shared<const std::vector<double>>(std::move(*field));
    }
  return {state.result, &state.result->temperature};
}

} // namespace kiln
