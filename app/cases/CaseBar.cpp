// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseBar.h"

#include "cases/CaseChip.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QStyle>
#include <QToolButton>
#include <algorithm>

namespace kiln
{

CaseBar::CaseBar(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), chips_(new QHBoxLayout),
      readiness_(new QToolButton), solve_(new QPushButton)
{
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(8, 5, 8, 5);
  layout->setSpacing(6);
  chips_->setSpacing(6);
  layout->addLayout(chips_);
  layout->addStretch();
  readiness_->setObjectName("readiness");
  readiness_->setToolTip(tr("What is missing or doubtful (F8)"));
  connect(readiness_, &QToolButton::clicked, this, &CaseBar::readinessWanted);
  layout->addWidget(readiness_);
  solve_->setObjectName("solve");
  connect(solve_, &QPushButton::clicked, this, [this] { running_ ? emit cancelWanted() : emit solveWanted(); });
  layout->addWidget(solve_);
  connect(&document, &Document::projectChanged, this, &CaseBar::refresh);
  connect(&document, &Document::shownCaseChanged, this, &CaseBar::refresh);
  connect(&document, &Document::caseStateChanged, this, &CaseBar::refresh);
  connect(&document, &Document::findingsChanged, this, &CaseBar::refreshReadiness);
  connect(&preferences, &Preferences::unitChanged, this, &CaseBar::refresh);
  setRunning(false);
  refresh();
  refreshReadiness();
}

void CaseBar::setRunning(bool running)
{
  running_ = running;
  solve_->setText(running ? tr("Cancel") : tr("Solve"));
  solve_->setToolTip(running ? tr("Stop the running solve (Ctrl+.)") : tr("Solve the shown case (F5)"));
}

void CaseBar::refresh()
{
  const auto& cases = document_.project().cases;
  const auto sameId = [](const CaseChip* chip, const Case& one) { return chip->caseId() == one.id; };
  if (!std::equal(views_.begin(), views_.end(), cases.begin(), cases.end(), sameId)) {
    for (CaseChip* chip : views_)
      chip->deleteLater();
    views_.clear();
    for (const Case& one : cases) {
      views_.push_back(new CaseChip(document_, preferences_, one.id));
      chips_->addWidget(views_.back());
    }
  }
  for (CaseChip* chip : views_)
    chip->refresh();
}

void CaseBar::refreshReadiness()
{
  const auto& findings = document_.findings();
  const auto errors = std::count_if(findings.begin(), findings.end(),
                                    [](const Finding& f) { return f.severity == Finding::Severity::Error; });
  const auto hints = static_cast<std::ptrdiff_t>(findings.size()) - errors;
  QStringList words;
  if (errors > 0)
    words << tr("✕ %1").arg(errors);
  if (hints > 0)
    words << tr("▲ %1").arg(hints);
  readiness_->setText(words.isEmpty() ? tr("✓ Ready") : words.join("  "));
  readiness_->setAccessibleName(tr("Readiness: %1 errors, %2 hints").arg(errors).arg(hints));
}

} // namespace kiln
