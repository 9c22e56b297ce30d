// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/StripPanel.h"

#include "strip/DifferencePage.h"
#include "strip/ExchangePage.h"
#include "strip/FacesPage.h"
#include "strip/LabelsPage.h"
#include "strip/LinePage.h"
#include "strip/NetworkPage.h"
#include "strip/NumbersModel.h"
#include "strip/PathsPage.h"
#include "strip/QueuePage.h"
#include "strip/StripTable.h"
#include "strip/TableText.h"
#include "strip/TimePage.h"
#include "strip/TimesPage.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
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
      network_(new NetworkPage(document, preferences)), line_(new LinePage(document, preferences))
{
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 2, 0, 0);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setContentsMargins(10, 0, 8, 0);
  pages_->setObjectName("stripPages");
  pages_->setAccessibleName(tr("Pages of the strip"));
  pages_->setDrawBase(false);
  pages_->setExpanding(false);
  for (const QString& name :
       {tr("Time"), tr("Network"), tr("Numbers"), tr("Along a line"), tr("Who heats whom"), tr("How long"),
        tr("What differs"), tr("Queue"), tr("Heat paths"), tr("Labels"), tr("Faces")})
    pages_->addTab(name);
  head->addWidget(pages_);
  head->addSpacing(12);
  title_->setObjectName("stripTitle");
  title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // a narrow window cuts it first
  head->addWidget(title_, 1);
  const auto button = [&](const QString& text, const QString& tip, auto slot) {
    auto* tool = new QToolButton;
    tool->setText(text);
    tool->setToolTip(tip);
    connect(tool, &QToolButton::clicked, this, slot);
    head->addWidget(tool);
    tableTools_.push_back(tool);
  };
  button(tr("Copy"), tr("Copy the selected cells, or the whole table (Ctrl+C)"), &StripPanel::copy);
  button(tr("CSV…"), tr("Save the table as comma-separated text"), &StripPanel::saveCsv);
  layout->addLayout(head);

  sorted_->setSourceModel(model_);
  sorted_->setSortRole(NumbersModel::SortRole);
  table_->setModel(sorted_);
  dressTable(*table_, "numbers", tr("Numbers"));
  table_->setSortingEnabled(true);
  table_->horizontalHeader()->setSortIndicator(-1, Qt::DescendingOrder);
  sorted_->sort(-1);
  const int unit = fontMetrics().averageCharWidth();
  for (const auto& [column, characters] : {std::pair{NumbersModel::Kind, 16},
                                           {NumbersModel::Name, 34},
                                           {NumbersModel::Hottest, 16},
                                           {NumbersModel::Coldest, 16},
                                           {NumbersModel::Mean, 16},
                                           {NumbersModel::Heat, 14}})
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
  layout->addWidget(stack_, 1);
  connect(pages_, &QTabBar::currentChanged, this, &StripPanel::showPage);
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
  refreshTitle();
}

void StripPanel::refreshTitle()
{
  const Case* shown = document_.shownCaseObject();
  if (shown == nullptr)
    return title_->clear();
  const CaseState& state = document_.shownState();
  QString text = QString::fromStdString(shown->name) + ", " + document_.instantText() + document_.quickLookText();
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

void StripPanel::setPage(int page) { pages_->setCurrentIndex(page); }

void StripPanel::showPage(int page)
{
  stack_->setCurrentIndex(page);
  for (QToolButton* tool : tableTools_)
    tool->setVisible(page == numbersPage);
  refreshTitle();
}

QString StripPanel::copyText() const { return tableText(*table_, "\t"); }

void StripPanel::copy() { QApplication::clipboard()->setText(copyText()); }

void StripPanel::saveCsv() { saveTable(*table_); }

} // namespace kiln
