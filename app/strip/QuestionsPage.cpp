// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/QuestionsPage.h"

#include "fields/FormRows.h"
#include "fields/QuestionEditor.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "questions/PointModel.h"
#include "run/KeptFields.h"
#include "run/ResultIdentity.h"
#include "strip/AnswerChart.h"
#include "strip/AnswerTable.h"
#include "strip/StripTable.h"

#include <QApplication>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QPointer>
#include <QSplitter>
#include <QTableWidget>
#include <QThreadPool>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

QString words(const std::string& text) { return QString::fromStdString(text); }

} // namespace

QuestionsPage::QuestionsPage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), solver_(solver), answers_(document),
      list_(new QComboBox), chart_(new QComboBox), watch_(new QComboBox), against_(new QComboBox),
      new_(new QToolButton), edit_(new QToolButton), ask_(new QToolButton), cluster_(new QToolButton),
      stop_(new QToolButton), keep_(new QToolButton), remove_(new QToolButton), said_(quietLabel({})),
      table_(makeStripTable("points", tr("Points of the question"))), answerChart_(new AnswerChart)
{
  setObjectName("questionsPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 2, 6, 4);
  layout->setSpacing(3);
  layout->addLayout(makeHead());
  said_->setObjectName("questionSaid");
  QFont strong = font();
  strong.setWeight(QFont::DemiBold);
  said_->setFont(strong);
  said_->setWordWrap(true);
  layout->addLayout(makeSaid());
  layout->addWidget(makeBody(), 1);
  connect(list_, &QComboBox::currentIndexChanged, this, &QuestionsPage::refreshAnswer);
  for (QComboBox* box : {chart_, watch_, against_})
    connect(box, &QComboBox::activated, this, &QuestionsPage::refreshAnswer);
  connect(&answers_, &Answers::changed, this, &QuestionsPage::refresh);
  connect(&solver, &SolverQueue::asked, &answers_, &Answers::readAgain);
  connect(&solver, &SolverQueue::queueChanged, this, &QuestionsPage::refresh);
  connect(&solver, &SolverQueue::progressed, this, [this] {
    if (running() != nullptr && isVisible())
      refreshAnswer();
  });
  connect(&preferences, &Preferences::unitChanged, this, &QuestionsPage::refreshAnswer);
  connect(answerChart_, &AnswerChart::chosen, this, [this](std::size_t place) {
    for (int row = 0; row < table_->rowCount(); ++row)
      if (table_->item(row, 0)->data(pointRole).toULongLong() == place)
        table_->selectRow(row);
  });
  connect(answerChart_, &AnswerChart::brushChanged, this, &QuestionsPage::showBrushed);
  refresh();
}

QLayout* QuestionsPage::makeHead()
{
  auto* head = new QHBoxLayout;
  list_->setObjectName("questionList");
  list_->setAccessibleName(tr("Question"));
  list_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
  list_->setMinimumContentsLength(10);
  list_->setMaximumWidth(fontMetrics().averageCharWidth() * 44);
  head->addWidget(list_);
  const auto button = [&](QToolButton* tool, const char* iconName, const QString& tip, const char* name,
                          auto&& action) {
    tool->setObjectName(name);
    tool->setToolTip(tip);
    tool->setAccessibleName(tip);
    setIcon(*tool, iconName);
    connect(tool, &QToolButton::clicked, this, action);
    head->addWidget(tool);
  };
  button(new_, "list-add", tr("New question about the shown case"), "questionNew", [] {});
  auto* kinds = new QMenu(new_);
  for (std::size_t i = 0; i < describing::askKinds.size(); ++i) {
    QAction* action = kinds->addAction(tr("%1…").arg(inWords(describing::askKinds[i].label)));
    action->setToolTip(inWords(describing::askKinds[i].help));
    connect(action, &QAction::triggered, this, [this, i] { addQuestion(static_cast<int>(i)); });
  }
  new_->setMenu(kinds);
  new_->setPopupMode(QToolButton::InstantPopup);
  button(edit_, "document-edit", tr("What varies and what is asked"), "questionEdit", &QuestionsPage::editChosen);
  ask_->setText(tr("Ask"));
  ask_->setObjectName("questionAsk");
  ask_->setToolTip(tr("Solves the points that are not known yet"));
  connect(ask_, &QToolButton::clicked, this, &QuestionsPage::askChosen);
  head->addWidget(ask_);
  cluster_->setText(tr("Cluster"));
  cluster_->setObjectName("questionCluster");
  cluster_->setCheckable(true);
  cluster_->setToolTip(
      tr("The points of a sweep are handed to a workload manager; the job goes on when the window is closed"));
  head->addWidget(cluster_);
  button(stop_, "media-playback-stop", tr("Stop: points that are solved stay known"), "questionStop",
         [this] { solver_.cancelOne("ask:" + chosen()); });
  button(keep_, "flag", tr("Keep the chosen point as a case"), "questionKeep", &QuestionsPage::keepPoint);
  button(remove_, "list-remove", tr("Remove the question"), "questionRemove", [this] {
    document_.edit(tr("Remove question"), [id = chosen()](Project& project) { removeObject(project, id); });
  });
  head->addStretch(1);
  addTableButtons(*head, *table_, "points");
  return head;
}

/// The answer in a sentence, and what its chart shows.
QLayout* QuestionsPage::makeSaid()
{
  auto* head = new QHBoxLayout;
  head->addWidget(said_, 1);
  chart_->setObjectName("questionChart");
  chart_->setAccessibleName(tr("Chart of the answer"));
  watch_->setObjectName("questionWatch");
  watch_->setAccessibleName(tr("Watch in the chart"));
  against_->setObjectName("questionAgainst");
  against_->setAccessibleName(tr("Watch along the other axis of the chart"));
  for (QComboBox* box : {chart_, watch_, against_}) {
    box->setMaximumWidth(fontMetrics().averageCharWidth() * 30);
    box->setMinimumContentsLength(8);
    head->addWidget(box);
  }
  return head;
}

QWidget* QuestionsPage::makeBody()
{
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setSortingEnabled(true);
  table_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    keep_->setEnabled(table_->currentRow() >= 0 && table_->currentItem() != nullptr);
    showPoint();
  });
  connect(table_, &QTableWidget::cellDoubleClicked, this, &QuestionsPage::keepPoint);
  auto* both = new QSplitter(Qt::Horizontal);
  both->addWidget(table_);
  both->addWidget(answerChart_);
  both->setStretchFactor(0, 3);
  both->setStretchFactor(1, 2);
  return both;
}

void QuestionsPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

std::string QuestionsPage::chosen() const { return list_->currentData().toString().toStdString(); }

void QuestionsPage::choose(const std::string& questionId)
{
  if (const int index = list_->findData(words(questionId)); index >= 0)
    list_->setCurrentIndex(index);
}

const SolverJob* QuestionsPage::running() const { return solver_.running("ask:" + chosen()); }

Project QuestionsPage::seenBy(const Question& question) const
{
  const Case* base = findById(document_.project().cases, question.base);
  const auto seen =
      base != nullptr ? projectForCase(document_.project(), *base) : Expected<Project>(document_.project());
  return seen ? *seen : document_.project();
}

void QuestionsPage::say(const QString& sentence)
{
  said_->setText(sentence);
  said_->setToolTip(sentence);
}

void QuestionsPage::refresh()
{
  if (!isVisible()) // when it is shown
    return;
  const std::string before = chosen();
  {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const Question& question : document_.project().questions) {
      const auto answer = answers_.find(question.id);
      const QString state = solver_.running("ask:" + question.id) != nullptr ? tr("runs")
                            : !answer                                        ? tr("not asked yet")
                            : !answers_.isCurrent(question.id)               ? tr("out of date")
                                                                             : tr("answered");
      list_->addItem(tr("%1 – %2").arg(words(question.name), state), words(question.id));
    }
    list_->setCurrentIndex(std::max(0, list_->findData(words(before))));
  }
  refreshAnswer();
}

void QuestionsPage::refreshAnswer()
{
  if (!isVisible())
    return;
  const Question* question = findById(document_.project().questions, chosen());
  const SolverJob* job = running();
  for (QToolButton* tool : {edit_, remove_})
    tool->setEnabled(question != nullptr);
  ask_->setEnabled(question != nullptr && job == nullptr);
  stop_->setEnabled(job != nullptr);
  cluster_->setEnabled(question != nullptr && std::holds_alternative<AskSweep>(question->asks));
  keep_->setEnabled(false);
  list_->setVisible(question != nullptr);
  table_->setSortingEnabled(false);
  table_->clear();
  table_->setRowCount(0);
  table_->setColumnCount(0);
  const auto answer = question != nullptr ? answers_.find(question->id) : nullptr;
  for (QWidget* widget :
       {static_cast<QWidget*>(answerChart_), static_cast<QWidget*>(chart_), static_cast<QWidget*>(watch_)})
    widget->setVisible(answer != nullptr && job == nullptr);
  against_->setVisible(false);
  if (question == nullptr)
    return say(tr("Which one, how much, how sure? Press + to ask a question about the shown case."));
  if (job != nullptr)
    return refreshRunning(*question, *job);
  const QueuedJob* over = solver_.queue().find("ask:" + question->id);
  const QString failed = over != nullptr && over->state == QueuedJob::State::Failed ? inWords(over->reason) : QString();
  if (!answer && !failed.isEmpty())
    return say(failed);
  if (std::error_code ignored;
      !answer && std::filesystem::exists(document_.resultsFolder() / (".cluster-" + question->id) / "job", ignored)) {
    cluster_->setChecked(true);
    return say(tr("Handed in before: press Ask to wait for it."));
  }
  if (!answer)
    return say(question->varies.empty() ? tr("Nothing varies yet: press the pencil to choose a field.")
                                        : tr("Not asked yet: press Ask."));
  const Project seen = seenBy(*question);
  const std::string watched = watch_->currentData().toString().toStdString();
  const std::string other = against_->currentData().toString().toStdString();
  watch_->clear();
  against_->clear();
  for (const Watch& watch : seen.watches) {
    watch_->addItem(words(watch.name), words(watch.id));
    against_->addItem(words(watch.name), words(watch.id));
  }
  const auto* best = std::get_if<AskBest>(&question->asks);
  const std::string usual = best != nullptr ? best->watch : answer->watch;
  watch_->setCurrentIndex(std::max({0, watch_->findData(words(usual)), watch_->findData(words(watched))}));
  against_->setCurrentIndex(std::max(against_->count() > 1 ? 1 : 0, against_->findData(words(other))));
  say(!failed.isEmpty()                  ? failed
      : answers_.isCurrent(question->id) ? words(answer->summary)
                                         : tr("Out of date: %1").arg(words(answer->summary)));
  if (answer->slopes.empty())
    fillPoints(*table_, *question, *answer, seen, preferences_.temperatureUnit());
  else
    fillSlopes(*table_, *answer, seen, preferences_.temperatureUnit());
  refreshChart(*question, *answer, seen);
  table_->resizeColumnsToContents();
  table_->setSortingEnabled(true);
  showBrushed();
}

void QuestionsPage::refreshRunning(const Question& question, const SolverJob& job)
{
  say(job.work().cluster ? job.message() : tr("%n point(s) so far", nullptr, static_cast<int>(job.points().size())));
  fillRunning(*table_, job.points(), seenBy(question), preferences_.temperatureUnit());
  table_->resizeColumnsToContents();
  table_->scrollToBottom();
}

/// Those that its points allow; the one that was chosen before stays.
void QuestionsPage::refreshChart(const Question& question, const QuestionAnswer& answer, const Project& seen)
{
  const std::vector<AnswerChart::Kind> kinds = AnswerChart::kindsFor(question, answer);
  const QVariant before = chart_->currentData();
  chart_->clear();
  for (const AnswerChart::Kind kind : kinds)
    chart_->addItem(AnswerChart::nameOf(kind), static_cast<int>(kind));
  chart_->setCurrentIndex(std::max(0, chart_->findData(before)));
  const Watch* watch = findById(seen.watches, watch_->currentData().toString().toStdString());
  answerChart_->setVisible(watch != nullptr && !kinds.empty());
  chart_->setVisible(kinds.size() > 1);
  if (watch == nullptr || kinds.empty())
    return;
  const auto kind = static_cast<AnswerChart::Kind>(chart_->currentData().toInt());
  const Watch* other = findById(seen.watches, against_->currentData().toString().toStdString());
  against_->setVisible(kind == AnswerChart::Kind::Figures && seen.watches.size() > 1);
  watch_->setVisible(kind != AnswerChart::Kind::Lines);
  answerChart_->show({question, answer, seen, preferences_.temperatureUnit()}, kind, *watch,
                     other != nullptr ? *other : *watch);
}

/// Rows of points that are brushed away are hidden.
void QuestionsPage::showBrushed()
{
  const std::optional<std::set<std::size_t>> left = answerChart_->brushed();
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QTableWidgetItem* item = table_->item(row, 0);
    const QVariant place = item != nullptr ? item->data(pointRole) : QVariant();
    table_->setRowHidden(row, left && place.isValid() && !left->contains(place.toULongLong()));
  }
}

void QuestionsPage::addQuestion(int kind)
{
  std::string made;
  document_.edit(tr("New question"), [&](Project& project) {
    Question question;
    question.base = document_.shownCase();
    emplaceAt(question.asks, static_cast<std::size_t>(kind));
    const auto label = describing::askKinds[static_cast<std::size_t>(kind)].label;
    std::string name(label);
    name.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(name.front())));
    made = addObject(project, project.questions, std::move(question), freeName(project, name));
  });
  refresh();
  choose(made);
  editChosen();
}

void QuestionsPage::editChosen()
{
  if (findById(document_.project().questions, chosen()) == nullptr)
    return;
  auto* editor = new QuestionEditor(document_, preferences_, chosen(), this);
  connect(editor, &QuestionEditor::askWanted, this, &QuestionsPage::askChosen);
  editor->show();
}

void QuestionsPage::askChosen() { solver_.ask(chosen(), cluster_->isChecked() && cluster_->isEnabled()); }

bool QuestionsPage::solvedBefore(const std::string& caseId) const
{
  const Case* own = findById(document_.project().cases, caseId);
  const auto identity = currentIdentity(document_.project(), *own, document_.resultsFolder());
  return identity && isKept(document_.resultsFolder(), *identity);
}

std::optional<std::size_t> QuestionsPage::chosenPoint() const
{
  const QTableWidgetItem* item = table_->selectedItems().isEmpty() ? nullptr : table_->item(table_->currentRow(), 0);
  const QVariant place = item != nullptr ? item->data(pointRole) : QVariant();
  return place.isValid() ? std::optional<std::size_t>(place.toULongLong()) : std::nullopt;
}

/// Where its temperatures are kept, the scene shows them; else the case it would become has to be solved.
void QuestionsPage::showPoint()
{
  const int asked = ++pointAsked_; // what is read meanwhile is of another row
  hidePoint();
  const Question* question = findById(document_.project().questions, chosen());
  const auto answer = question != nullptr ? answers_.find(question->id) : nullptr;
  const auto place = chosenPoint();
  if (!answer || !place || *place >= answer->points.size() || !question->keepsFields ||
      question->base != document_.shownCase())
    return;
  const auto prepared = prepareQuestion(document_.project(), *question);
  const auto model = prepared ? modelAt(prepared->project, prepared->question, prepared->axes, answer->points[*place])
                              : tl::unexpected(prepared.error());
  const std::filesystem::path folder = document_.resultsFolder();
  const auto identity = model ? currentIdentity(model->project, model->oneCase, folder) : tl::unexpected(model.error());
  if (!identity || model->oneCase.kind != Case::Kind::Steady || !isKept(folder, *identity))
    return;
  const QPointer<QuestionsPage> page(this);
  QThreadPool::globalInstance()->start([=, identity = *identity, name = words(answer->words[*place])] {
    auto kept = findKept(folder, identity);
    if (!kept)
      return;
    const auto result = std::make_shared<const CaseResult>(std::move(kept->result));
    QMetaObject::invokeMethod(qApp, [=] {
      if (page && page->pointAsked_ == asked && page->isVisible()) {
        page->document_.setEstimate(result, QuestionsPage::tr("point %1").arg(name));
        page->showsPoint_ = true;
      }
    });
  });
}

void QuestionsPage::hidePoint()
{
  if (std::exchange(showsPoint_, false))
    document_.setEstimate(nullptr, {});
}

void QuestionsPage::hideEvent(QHideEvent* event)
{
  QWidget::hideEvent(event);
  ++pointAsked_;
  hidePoint();
}

void QuestionsPage::keepPoint()
{
  const Question* question = findById(document_.project().questions, chosen());
  const auto answer = question != nullptr ? answers_.find(question->id) : nullptr;
  const auto place = chosenPoint();
  if (!answer || !place)
    return;
  std::string made;
  std::string problem;
  document_.edit(tr("Keep as a case"), [&](Project& project) {
    const auto kept = keepAsCase(project, *question, answer->axes, answer->points[*place]);
    kept ? made = *kept : problem = kept.error().sentence();
  });
  if (!problem.empty())
    return say(words(problem));
  document_.showCase(made);
  if (solvedBefore(made)) { // taking it over is no more than a moment
    solver_.solve({made});
    return say(
        tr("Kept as case “%1” with its temperatures.").arg(words(findById(document_.project().cases, made)->name)));
  }
  say(tr("Kept as case “%1”: solve it to see its scene.").arg(words(findById(document_.project().cases, made)->name)));
}

} // namespace kiln
