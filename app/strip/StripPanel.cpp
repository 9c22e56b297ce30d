// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/StripPanel.h"

#include "io/Export.h"
#include "look/DrawnWidget.h"
#include "look/Icons.h"
#include "strip/DifferencePage.h"
#include "strip/ExchangePage.h"
#include "strip/FacesPage.h"
#include "strip/LabelsPage.h"
#include "strip/LinePage.h"
#include "strip/NetworkPage.h"
#include "strip/NumbersModel.h"
#include "strip/PathsPage.h"
#include "strip/QuestionsPage.h"
#include "strip/QueuePage.h"
#include "strip/StripTable.h"
#include "strip/TableText.h"
#include "strip/TimePage.h"
#include "strip/TimesPage.h"
#include "strip/WhatIfPage.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QSortFilterProxyModel>
#include <QStackedWidget>
#include <QTabBar>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>

namespace kiln
{

StripPanel::StripPanel(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent)
    : QWidget(parent), document_(document), title_(new QLabel), table_(new QTableView),
      model_(new NumbersModel(document, preferences, this)), sorted_(new QSortFilterProxyModel(this)),
      pages_(new QTabBar), stack_(new QStackedWidget), time_(new TimePage(document, preferences)),
      network_(new NetworkPage(document, preferences)), line_(new LinePage(document, preferences)),
      questions_(new QuestionsPage(document, preferences, solver)), take_(new QToolButton), fold_(new QToolButton),
      head_(new QWidget)
{
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 2, 0, 0);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout(head_);
  head->setContentsMargins(4, 0, 4, 0);
  pages_->setObjectName("stripPages");
  pages_->setAccessibleName(tr("Pages of the strip"));
  pages_->setDrawBase(false);
  pages_->setExpanding(false);
  for (const QString& name :
       {tr("Time"), tr("Network"), tr("Numbers"), tr("Along a line"), tr("Who heats whom"), tr("How long"),
        tr("What differs"), tr("Queue"), tr("Heat paths"), tr("Labels"), tr("Faces"), tr("Questions"), tr("What if")})
    pages_->addTab(name);
  head->addWidget(pages_);
  title_->setObjectName("stripTitle");
  title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // a narrow window cuts it first
  head->addWidget(title_, 1);
  head->addWidget(take_);
  take_->setObjectName("stripTake");
  setIcon(*take_, "document-export-table");
  take_->setToolTip(tr("Take along what this page shows: its table, its chart"));
  take_->setAccessibleName(take_->toolTip());
  take_->setPopupMode(QToolButton::InstantPopup);
  take_->setMenu(new QMenu(take_));
  connect(take_->menu(), &QMenu::aboutToShow, this, &StripPanel::fillTakeMenu);
  fold_->setObjectName("stripFold");
  connect(fold_, &QToolButton::clicked, this, &StripPanel::toggleFolded);
  head->addWidget(fold_);
  layout->addWidget(head_);

  sorted_->setSourceModel(model_);
  sorted_->setSortRole(NumbersModel::SortRole);
  table_->setModel(sorted_);
  dressTable(*table_, "numbers", tr("Numbers"));
  table_->setSortingEnabled(true);
  table_->horizontalHeader()->setSortIndicator(-1, Qt::DescendingOrder);
  sorted_->sort(-1);
  const int unit = fontMetrics().averageCharWidth();
  for (const auto& [column, characters] : {std::pair{NumbersModel::Kind, 11},
                                           {NumbersModel::Name, 22},
                                           {NumbersModel::Hottest, 13},
                                           {NumbersModel::Coldest, 13},
                                           {NumbersModel::Mean, 13},
                                           {NumbersModel::Heat, 13}})
    table_->setColumnWidth(column, characters * unit);
  stack_->addWidget(time_);
  stack_->addWidget(network_);
  stack_->addWidget(table_);
  stack_->addWidget(line_);
  stack_->addWidget(new ExchangePage(document));
  stack_->addWidget(new TimesPage(document, preferences));
  stack_->addWidget(new DifferencePage(document, preferences));
  stack_->addWidget(new QueuePage(document, preferences, solver));
  stack_->addWidget(new PathsPage(document, preferences));
  stack_->addWidget(new LabelsPage(document, preferences));
  stack_->addWidget(new FacesPage(document));
  stack_->addWidget(questions_);
  stack_->addWidget(new WhatIfPage(document, preferences, solver));
  layout->addWidget(stack_, 1);
  connect(pages_, &QTabBar::currentChanged, this, &StripPanel::showPage);
  connect(pages_, &QTabBar::tabBarClicked, this, [this](int page) {
    if (page >= 0)
      setFolded(false);
  });
  connect(pages_, &QTabBar::tabBarDoubleClicked, this, &StripPanel::toggleFolded);
  pages_->setCurrentIndex(numbersPage);
  auto* copyAction = new QAction(tr("Copy"), table_);
  copyAction->setShortcut(QKeySequence::Copy);
  copyAction->setShortcutContext(Qt::WidgetShortcut);
  table_->addAction(copyAction);
  connect(copyAction, &QAction::triggered, this, &StripPanel::copy);
  connect(table_, &QTableView::clicked, this,
          [this](const QModelIndex& index) { document_.select(model_->objectAt(sorted_->mapToSource(index).row())); });
  connect(&document, &Document::shownCaseChanged, this, [this] {
    const Case* shown = document_.shownCaseObject();
    if (shown != nullptr && shown->kind == Case::Kind::Transient && pages_->currentIndex() == numbersPage)
      pages_->setCurrentIndex(timePage);
    else if (shown != nullptr && shown->kind != Case::Kind::Transient && pages_->currentIndex() == timePage)
      pages_->setCurrentIndex(numbersPage);
  });
  connect(&document, &Document::instantMoved, this, &StripPanel::refreshTitle);
  connect(&document, &Document::shownCaseChanged, this, &StripPanel::refreshTitle);
  connect(&document, &Document::caseStateChanged, this, [this] { refreshTitle(); });
  connect(&document, &Document::projectChanged, this, &StripPanel::refreshTitle);
  connect(&document, &Document::comparedCaseChanged, this, &StripPanel::refreshTitle);
  for (auto signal : {&Document::resultChanged, &Document::shownCaseChanged, &Document::projectChanged})
    connect(&document, signal, this, &StripPanel::foldByContent);
  connect(&document, &Document::caseStateChanged, this, [this] { foldByContent(); });
  refreshTitle();
  folded_ = true;
  setFolded(false);
  foldByContent();
}

QStringList StripPanel::pageNames() const
{
  QStringList names;
  for (int i = 0; i < pages_->count(); ++i)
    names << pages_->tabText(i);
  return names;
}

int StripPanel::foldedHeight() const { return head_->sizeHint().height() + layout()->contentsMargins().top() + 1; }

/// Only where it can be read; the line at the foot of the window says the same.
void StripPanel::showTitle()
{
  const int readable = fontMetrics().averageCharWidth() * 22;
  const int room = width() - pages_->sizeHint().width() - fold_->sizeHint().width() * 2;
  title_->setVisible(!folded_ && room > readable);
}

void StripPanel::resizeEvent(QResizeEvent* event)
{
  QWidget::resizeEvent(event);
  showTitle();
}

void StripPanel::showQuestion(const std::string& questionId)
{
  setPage(questionsPage);
  questions_->choose(questionId);
}

void StripPanel::toggleFolded() { setFolded(!folded_); }

void StripPanel::setFolded(bool folded)
{
  if (folded == folded_)
    return;
  folded_ = folded;
  stack_->setVisible(!folded);
  showTitle();
  setIcon(*fold_, folded ? "arrow-up" : "arrow-down");
  fold_->setToolTip(folded ? tr("Unfold the strip (Alt+T)") : tr("Fold the strip to the names of its pages (Alt+T)"));
  fold_->setAccessibleName(fold_->toolTip());
  take_->setVisible(!folded);
  emit foldedChanged(folded);
}

/// Any figures of the shown case, or something that waits or runs?
bool StripPanel::hasSomething() const
{
  const CaseState& state = document_.shownState();
  return state.result != nullptr || state.onDisk.has_value() || state.stage == CaseState::Stage::Running ||
         !document_.project().lines.empty() || !document_.project().labels.empty();
}

/// By itself only when there is something now and was nothing, or the other way round: else it stays as it was left.
void StripPanel::foldByContent()
{
  const bool has = hasSomething();
  if (std::exchange(hadSomething_, has) != has)
    setFolded(!has);
}

void StripPanel::refreshTitle()
{
  const Case* shown = document_.shownCaseObject();
  if (shown == nullptr)
    return title_->clear();
  const CaseState& state = document_.shownState();
  QString text = document_.caseAndInstant() + document_.quickLookText();
  if (!state.result)
    text += tr(": not solved yet");
  else if (!state.outOfDate.isEmpty())
    text += tr(": out of date (%1)").arg(state.outOfDate);
  if (stack_->currentIndex() == differencePage)
    if (const QString compared = document_.compared().name; !compared.isEmpty())
      text = tr("“%1” beside %2").arg(compared, text);
  title_->setText(text);
  QStringList notes;
  if (state.result)
    for (const std::string& note : state.result->notes)
      notes << QString::fromStdString(note);
  title_->setToolTip(notes.join("\n"));
}

void StripPanel::setPage(int page)
{
  setFolded(false);
  pages_->setCurrentIndex(page);
}

void StripPanel::showPage(int page)
{
  stack_->setCurrentIndex(page);
  refreshTitle();
}

/// What the page has now: a table, charts, every step of a run.
void StripPanel::fillTakeMenu()
{
  QMenu& menu = *take_->menu();
  menu.clear();
  QWidget* page = stack_->currentWidget();
  for (QTableView* table : tablesOn(*page)) {
    menu.addAction(tr("Copy the selected cells, or the whole table"), this,
                   [table] { QApplication::clipboard()->setText(tableText(*table, "\t")); });
    menu.addAction(tr("Save the table as CSV…"), this, [table] { saveTable(*table); });
  }
  const QString title = document_.caseAndInstant();
  for (QWidget* chart : chartsOn(*page)) {
    menu.addAction(tr("Copy the chart as a picture"), this, [chart, title] { copyDrawn(*chart, title); });
    menu.addAction(tr("Save the chart as a picture…"), this, [chart, title] { saveChart(*chart, title); });
  }
  if (const auto run = document_.shownState().run.record; run && stack_->currentIndex() == timePage)
    menu.addAction(tr("Save every step as CSV…"), this,
                   [this, run] { saveText(*this, stepsCsv(document_.shownProject(), *run)); });
  if (menu.isEmpty())
    menu.addAction(tr("There is nothing to take along yet"))->setEnabled(false);
}

QString StripPanel::copyText() const { return tableText(*table_, "\t"); }

void StripPanel::copy() { QApplication::clipboard()->setText(copyText()); }

void StripPanel::saveCsv() { saveTable(*table_); }

} // namespace kiln
