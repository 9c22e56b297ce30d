// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/WhatIfRun.h"

#include "look/Language.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "run/WhatIf.h"

#include <QElapsedTimer>
#include <QThreadPool>
#include <mutex>

namespace kiln
{

struct WhatIfRun::State {
  std::mutex mutex; ///< of the thread that is at work
  std::unique_ptr<WhatIf> whatIf;
  std::weak_ptr<const CaseResult> of;
  bool left = false; ///< nobody waits any more
};

Project withValues(const Project& project, const std::string& caseId, const std::map<std::string, double>& values)
{
  Project other = project;
  Case* own = findById(other.cases, caseId);
  const std::vector<Field> all = fields(other);
  for (const auto& [path, si] : values) {
    Change* change = nullptr;
    for (Change& one : own->changes)
      change = one.field == path ? &one : change;
    const Field* field = fieldAt(all, path);
    const bool fromSet = change == nullptr && [&] {
      for (const Change& one : changesOf(other, *own))
        if (one.field == path)
          return true;
      return false;
    }();
    const OwnValue value = Property{Number{si, {}, false}, {}};
    if (change != nullptr)
      change->value = value;
    else if (fromSet || field == nullptr)
      own->changes.push_back({path, value});
    else
      field->take(value);
  }
  applyParameters(other);
  return other;
}

WhatIfRun::WhatIfRun(Document& document, QObject* parent)
    : QObject(parent), document_(document), state_(std::make_shared<State>())
{
}

WhatIfRun::~WhatIfRun()
{
  const std::lock_guard lock(state_->mutex); // the thread reads only what it has copies of, but tells this
  state_->left = true;
}

void WhatIfRun::tryValues(const std::map<std::string, double>& values)
{
  next_ = values;
  waits_ = true;
  startNext();
}

void WhatIfRun::showAgain()
{
  const auto result = document_.shownState().result;
  if (last_ && result && last_->temperature.size() == result->temperature.size())
    document_.setEstimate(last_, lastWords_);
}

void WhatIfRun::startNext()
{
  const auto result = document_.shownState().result;
  const Case* shown = document_.shownCaseObject();
  if (busy_ || !waits_)
    return;
  waits_ = false;
  if (!result || shown == nullptr) {
    emit refused(tr("Solve the case first: what is solved can be followed."));
    return;
  }
  if (!document_.shownState().outOfDate.isEmpty()) {
    emit refused(tr("The result is out of date (%1): solve it first.").arg(document_.shownState().outOfDate));
    return;
  }
  busy_ = true;
  QThreadPool::globalInstance()->start([this, state = state_, result, base = document_.project(), id = shown->id,
                                        values = next_, folder = document_.resultsFolder()] {
    const std::lock_guard lock(state->mutex);
    if (state->left)
      return;
    QElapsedTimer clock;
    clock.start();
    Expected<void> begun;
    if (state->of.lock() != result) {
      state->whatIf.reset();
      auto made = WhatIf::begin(base, *findById(base.cases, id), *result, folder);
      if (made)
        state->whatIf = std::move(*made);
      else
        begun = tl::unexpected(made.error());
      state->of = result;
      clock.restart(); // what is done once is not counted
    }
    auto estimate = std::make_shared<Expected<Estimate>>(tl::unexpected(Failure{}));
    if (state->whatIf != nullptr) {
      const Project other = withValues(base, id, values);
      *estimate = state->whatIf->at(other, *findById(other.cases, id));
    } else if (!begun) {
      *estimate = tl::unexpected(begun.error());
    }
    const double milliseconds = static_cast<double>(clock.nsecsElapsed()) / 1e6;
    QMetaObject::invokeMethod(this, [this, estimate, result, milliseconds] {
      busy_ = false;
      if (!*estimate) {
        emit refused(inWords(estimate->error()));
      } else if (document_.shownState().result == result) {
        const Estimate& own = **estimate;
        const QString sure =
            own.exact ? tr("estimate, exact")
                      : tr("estimate, within %1")
                            .arg(QString::fromStdString(formatQuantity(own.error, Quantity::TemperatureStep, {}, 2)));
        last_ = std::make_shared<const CaseResult>(std::move((*estimate)->result));
        lastWords_ = sure;
        document_.setEstimate(last_, sure);
        emit followed(milliseconds);
      }
      startNext();
    });
  });
}

} // namespace kiln
