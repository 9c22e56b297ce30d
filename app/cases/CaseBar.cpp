// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseBar.h"

#include "cases/CaseChip.h"
#include "cases/CaseGroups.h"
#include "cases/GroupChip.h"
#include "look/Icons.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <QStyle>
#include <QTimer>
#include <QToolButton>
#include <QWheelEvent>
#include <algorithm>

namespace kiln
{

namespace
{
const auto foldedKey = QStringLiteral("foldedCaseGroups");
} // namespace

CaseBar::CaseBar(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), scroll_(new QScrollArea), back_(new QToolButton),
      on_(new QToolButton), chips_(new QHBoxLayout), filter_(new QLineEdit), questions_(new QToolButton),
      readiness_(new QToolButton), solve_(new QPushButton)
{
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(8, 5, 8, 5);
  layout->setSpacing(6);
  filter_->setObjectName("caseFilter");
  filter_->setPlaceholderText(tr("find cases"));
  filter_->setAccessibleName(tr("Show cases with these words in name, group, comment, kind or state"));
  filter_->setToolTip(tr("Words of the name, group, comment, kind or state: “room failed”"));
  filter_->setClearButtonEnabled(true);
  constexpr int characters = 18;
  filter_->setFixedWidth(fontMetrics().averageCharWidth() * characters);
  connect(filter_, &QLineEdit::textChanged, this, &CaseBar::applyFilter);
  layout->addWidget(filter_);
  makeChips();
  layout->addWidget(scroll_, 1);
  for (QToolButton* button : {back_, on_}) {
    const int way = button == back_ ? -1 : 1;
    setIcon(*button, way < 0 ? "arrow-left" : "arrow-right");
    button->setToolTip(way < 0 ? tr("Cases further left (or the wheel)") : tr("Cases further right (or the wheel)"));
    button->setAccessibleName(button->toolTip());
    button->setAutoRepeat(true);
    connect(button, &QToolButton::clicked, this, [this, way] {
      QScrollBar* bar = scroll_->horizontalScrollBar();
      bar->setValue(bar->value() + way * scroll_->viewport()->width() / 3);
    });
    layout->addWidget(button);
  }
  connect(scroll_->horizontalScrollBar(), &QScrollBar::rangeChanged, this, [this] { refreshArrows(); });
  connect(scroll_->horizontalScrollBar(), &QScrollBar::valueChanged, this, [this] { refreshArrows(); });
  refreshArrows();
  questions_->setObjectName("questionsChip");
  questions_->setToolTip(tr("Questions asked of the cases: choose one to see its answer"));
  questions_->setMenu(new QMenu(questions_));
  questions_->setPopupMode(QToolButton::InstantPopup);
  layout->addWidget(questions_);
  readiness_->setObjectName("readiness");
  readiness_->setToolTip(tr("What is missing or doubtful (F8)"));
  connect(readiness_, &QToolButton::clicked, this, &CaseBar::readinessWanted);
  layout->addWidget(readiness_);
  solve_->setObjectName("solve");
  connect(solve_, &QPushButton::clicked, this, [this] { running_ ? emit cancelWanted() : emit solveWanted(); });
  layout->addWidget(solve_);
  connect(&document, &Document::projectChanged, this, &CaseBar::refresh);
  connect(&document, &Document::shownCaseChanged, this, [this] {
    refresh();
    revealShown();
  });
  connect(&document, &Document::selectedCasesChanged, this, &CaseBar::refresh);
  connect(&document, &Document::caseStateChanged, this, &CaseBar::refreshCase);
  connect(&document, &Document::findingsChanged, this, &CaseBar::refreshReadiness);
  connect(&preferences, &Preferences::unitChanged, this, &CaseBar::refresh);
  constexpr int together = 30; // ms
  soon_.setSingleShot(true);
  soon_.setInterval(together);
  connect(&soon_, &QTimer::timeout, this, &CaseBar::applyFilter);
  for (const QString& name : QSettings().value(foldedKey).toStringList())
    folded_.insert(name.toStdString());
  setRunning(false);
  refresh();
  refreshReadiness();
}

void CaseBar::makeChips()
{
  auto* row = new QWidget;
  row->setLayout(chips_);
  chips_->setContentsMargins(0, 0, 0, 0);
  chips_->setSpacing(6);
  chips_->addStretch();
  scroll_->setObjectName("caseRow");
  scroll_->setWidget(row);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff); // the wheel moves it, and whoever is shown is seen
  scroll_->viewport()->installEventFilter(this);
  scroll_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  scroll_->setFixedHeight(fontMetrics().height() + 14);
}

void CaseBar::setRunning(bool running)
{
  running_ = running;
  solve_->setText(running ? tr("Cancel") : tr("Solve"));
  solve_->setToolTip(running ? tr("Stop what runs and forget what waits (Ctrl+.)") : tr("Solve the shown case (F5)"));
}

void CaseBar::focusFilter()
{
  filter_->show();
  filter_->setFocus(Qt::ShortcutFocusReason);
  filter_->selectAll();
}

CaseChip* CaseBar::makeChip(const std::string& caseId)
{
  auto* chip = new CaseChip(document_, preferences_, caseId);
  connect(chip, &CaseChip::solveWanted, this, &CaseBar::solveTheseWanted);
  connect(chip, &CaseChip::rangeWanted, this, &CaseBar::selectUpTo);
  connect(chip, &CaseChip::moveWanted, this, &CaseBar::moveCase);
  views_.push_back(chip);
  return chip;
}

void CaseBar::addGroup(const CaseGroup& group)
{
  const auto place = [this](QWidget* widget) { chips_->insertWidget(chips_->count() - 1, widget); };
  if (!group.name.empty()) {
    auto* head = new GroupChip(document_, preferences_, group.name);
    connect(head, &GroupChip::solveWanted, this, &CaseBar::solveTheseWanted);
    connect(head, &GroupChip::foldWanted, this, [this](const std::string& name) {
      if (folded_.erase(name) == 0)
        folded_.insert(name);
      QStringList names; // remembered by name
      for (const std::string& one : folded_)
        names << QString::fromStdString(one);
      QSettings().setValue(foldedKey, names);
      applyFilter();
    });
    heads_.push_back(head);
    place(head);
  }
  for (const Case* one : group.cases)
    place(makeChip(one->id));
}

void CaseBar::remakeViews()
{
  for (CaseChip* chip : views_)
    chip->hide(), chip->deleteLater();
  for (GroupChip* head : heads_)
    head->hide(), head->deleteLater();
  views_.clear();
  heads_.clear();
  for (const CaseGroup& group : groupsOf(document_.project()))
    addGroup(group);
}

void CaseBar::refresh()
{
  const auto& cases = document_.project().cases;
  std::vector<std::pair<std::string, std::string>> now;
  for (const Case& one : cases)
    now.emplace_back(one.id, one.group);
  if (now != made_) {
    made_ = std::move(now);
    remakeViews();
  }
  for (CaseChip* chip : views_)
    chip->refresh();
  refreshQuestions();
  constexpr std::size_t many = 8;
  filter_->setVisible(cases.size() > many || !filter_->text().isEmpty());
  applyFilter();
}

/// One chip for all of them, beside the groups of cases.
void CaseBar::refreshQuestions()
{
  const auto& questions = document_.project().questions;
  questions_->setVisible(!questions.empty());
  questions_->setText(tr("Questions %1").arg(questions.size()));
  questions_->menu()->clear();
  for (const Question& one : questions)
    connect(questions_->menu()->addAction(QString::fromStdString(one.name)), &QAction::triggered, this,
            [this, id = one.id] { emit questionWanted(id); });
}

void CaseBar::refreshCase(const std::string& caseId)
{
  for (CaseChip* chip : views_)
    if (chip->caseId() == caseId)
      chip->refresh();
  soon_.start(); // once for all that change together
}

/// Hides what does not fit the words, and cases of folded groups but the shown one.
void CaseBar::applyFilter()
{
  const QString words = filter_->text();
  std::map<std::string, std::size_t> shown;
  for (CaseChip* chip : views_) {
    const Case* own = findById(document_.project().cases, chip->caseId());
    const bool fits = own != nullptr && fitsWords(*own, document_.knownState(own->id), words);
    if (fits)
      ++shown[own->group];
    const bool folded = own != nullptr && !own->group.empty() && folded_.contains(own->group) && words.isEmpty();
    chip->setVisible(fits && (!folded || own->id == document_.shownCase()));
  }
  for (GroupChip* head : heads_) {
    head->refresh(folded_.contains(head->group()) && words.isEmpty(), shown[head->group()]);
    head->setVisible(words.isEmpty() || shown[head->group()] > 0);
  }
}

void CaseBar::selectUpTo(const std::string& caseId)
{
  std::vector<std::string> standing;
  for (const CaseChip* chip : views_)
    if (!chip->isHidden())
      standing.push_back(chip->caseId());
  auto from = std::find(standing.begin(), standing.end(), document_.shownCase());
  auto to = std::find(standing.begin(), standing.end(), caseId);
  if (from == standing.end() || to == standing.end())
    return;
  if (to < from)
    std::swap(from, to);
  document_.selectCases({from, to + 1});
}

void CaseBar::moveCase(const std::string& caseId, int places)
{
  const auto at = std::find_if(views_.begin(), views_.end(), [&](const CaseChip* c) { return c->caseId() == caseId; });
  const auto own = at - views_.begin();
  const auto before = places < 0 ? own + places : own + places + 1;
  const auto count = static_cast<std::ptrdiff_t>(views_.size());
  if (before < 0 || before > count)
    return;
  const std::string target = before < count ? views_[static_cast<std::size_t>(before)]->caseId() : std::string();
  document_.edit(tr("Move a case"), [&](Project& project) { moveCases(project, {caseId}, target); });
  for (CaseChip* chip : views_)
    if (chip->caseId() == caseId)
      chip->setFocus(Qt::OtherFocusReason);
}

void CaseBar::revealShown()
{
  for (CaseChip* chip : views_)
    if (chip->caseId() == document_.shownCase())
      QTimer::singleShot(0, chip, [this, chip] { scroll_->ensureWidgetVisible(chip); });
}

void CaseBar::resizeEvent(QResizeEvent* event)
{
  QWidget::resizeEvent(event);
  revealShown();
}

/// Shown where there is more than fits.
void CaseBar::refreshArrows()
{
  const QScrollBar* bar = scroll_->horizontalScrollBar();
  for (QToolButton* button : {back_, on_})
    button->setVisible(bar->maximum() > 0);
  back_->setEnabled(bar->value() > 0);
  on_->setEnabled(bar->value() < bar->maximum());
}

/// The wheel moves the row sideways.
bool CaseBar::eventFilter(QObject* watched, QEvent* event)
{
  if (event->type() == QEvent::Wheel) {
    const QPoint turned = static_cast<QWheelEvent*>(event)->angleDelta();
    QScrollBar* bar = scroll_->horizontalScrollBar();
    bar->setValue(bar->value() - (turned.y() != 0 ? turned.y() : turned.x()));
    return true;
  }
  return QWidget::eventFilter(watched, event);
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
