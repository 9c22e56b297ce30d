// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/QueuePage.h"

#include "base/ProcessMemory.h"
#include "fields/FormRows.h"
#include "io/CaseStore.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "strip/StripTable.h"

#include <QCheckBox>
#include <QFile>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPlainTextEdit>
#include <QScrollBar>
#include <QSpinBox>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

namespace kiln
{
namespace
{

enum Column { Name, State, Done, Gone, Left, Memory, Doing, ColumnCount };
constexpr int idRole = Qt::UserRole + 1;

QString timeText(double seconds)
{
  return seconds < 0 ? QString("–") : QString::fromStdString(formatQuantity(seconds, Quantity::Time, {}, 2));
}

QString memoryText(double bytes)
{
  constexpr double megabyte = 1e6;
  constexpr double gigabyte = 1e9;
  if (bytes <= 0)
    return "–";
  return bytes < gigabyte ? QString("%1 MB").arg(bytes / megabyte, 0, 'f', 0)
                          : QString("%1 GB").arg(bytes / gigabyte, 0, 'f', 1);
}

QString stateWord(QueuedJob::State state)
{
  switch (state) {
  case QueuedJob::State::Waiting:
    return QueuePage::tr("waits");
  case QueuedJob::State::Running:
    return QueuePage::tr("runs");
  case QueuedJob::State::Done:
    return QueuePage::tr("done");
  case QueuedJob::State::Failed:
    return QueuePage::tr("failed");
  case QueuedJob::State::LeftOut:
    return QueuePage::tr("skipped");
  }
  return {};
}

} // namespace

QueuePage::QueuePage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), solver_(solver), pause_(new QToolButton),
      stop_(new QToolButton), up_(new QToolButton), down_(new QToolButton), remove_(new QToolButton),
      summary_(quietLabel({})), table_(makeStripTable("queue", tr("What the solver does"))), log_(new QPlainTextEdit)
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 2, 6, 4);
  layout->setSpacing(3);
  layout->addLayout(makeHead());
  table_->setColumnCount(ColumnCount);
  table_->setHorizontalHeaderLabels(
      {tr("Case"), tr("State"), tr("Done"), tr("Time gone"), tr("Left, about"), tr("Memory"), tr("What it does")});
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  const int unit = fontMetrics().averageCharWidth();
  for (const auto& [column, characters] :
       {std::pair{State, 10}, {Done, 7}, {Gone, 11}, {Left, 11}, {Memory, 10}, {Doing, 18}})
    table_->setColumnWidth(column, characters * unit);
  table_->horizontalHeader()->setSectionResizeMode(Name, QHeaderView::Stretch); // what the others leave: no bar below
  table_->horizontalHeader()->setStretchLastSection(false);
  log_->setObjectName("queueLog");
  log_->setAccessibleName(tr("Log of the chosen case"));
  log_->setReadOnly(true);
  log_->setLineWrapMode(QPlainTextEdit::NoWrap);
  log_->setPlaceholderText(tr("Choose a case to see what its solver said."));
  auto* both = new QSplitter(Qt::Horizontal);
  both->addWidget(table_);
  both->addWidget(log_);
  both->setStretchFactor(0, 3);
  both->setStretchFactor(1, 2);
  both->setSizes({700, 260});
  layout->addWidget(both, 1);
  connect(table_, &QTableWidget::itemSelectionChanged, this, &QueuePage::refresh);
  connect(table_, &QTableWidget::cellDoubleClicked, this, [this] {
    if (const SolverWork* work = solver_.work(chosen()); work != nullptr && !work->caseId.empty())
      document_.showCase(work->caseId);
  });
  connect(&solver, &SolverQueue::queueChanged, this, &QueuePage::refresh);
  connect(&solver, &SolverQueue::progressed, this, &QueuePage::refresh);
  refresh();
}

QLayout* QueuePage::makeHead()
{
  auto* head = new QHBoxLayout;
  const auto button = [&](QToolButton* tool, const char* iconName, const QString& tip, const char* name,
                          auto&& action) {
    tool->setToolTip(tip);
    tool->setAccessibleName(tip);
    setIcon(*tool, iconName);
    tool->setObjectName(name);
    connect(tool, &QToolButton::clicked, this, action);
    head->addWidget(tool);
  };
  button(pause_, "media-playback-pause", tr("Pause: nothing more starts; what runs goes on"), "queuePause",
         [this] { solver_.pause(pause_->isChecked()); });
  pause_->setCheckable(true);
  button(stop_, "media-playback-stop", tr("Stop after this one: what waits is forgotten, what runs goes on"),
         "queueStop", [this] { solver_.stopAfterThis(); });
  button(up_, "arrow-up", tr("The chosen one earlier"), "queueUp", [this] { move(-1); });
  button(down_, "arrow-down", tr("The chosen one later"), "queueDown", [this] { move(1); });
  button(remove_, "list-remove", tr("Cancel: ends the chosen one, or takes it out"), "queueCancel",
         [this] { solver_.cancelOne(chosen()); });
  auto* clear = new QToolButton;
  button(clear, "edit-clear", tr("Clear what is over; what waits and runs stays"), "queueClear",
         [this] { solver_.clearOver(); });
  head->addSpacing(8);
  auto* word = quietLabel(tr("at a time"));
  word->setWordWrap(false);
  auto* most = new QSpinBox;
  most->setObjectName("queueAtATime");
  most->setAccessibleName(tr("Cases solved at a time, as far as memory allows"));
  most->setToolTip(most->accessibleName());
  constexpr int mostAtATime = 64;
  most->setRange(1, mostAtATime);
  most->setValue(preferences_.casesAtATime());
  connect(most, &QSpinBox::valueChanged, this, [this](int count) { preferences_.setCasesAtATime(count); });
  word->setBuddy(most);
  head->addWidget(most);
  head->addWidget(word);
  auto* cluster = new QToolButton;
  cluster->setObjectName("queueCluster");
  cluster->setText(tr("Cluster"));
  cluster->setCheckable(true);
  cluster->setToolTip(tr("Cases are handed to a workload manager; what it has goes on when the window is closed"));
  connect(cluster, &QToolButton::toggled, &solver_, &SolverQueue::setCluster);
  connect(&solver_, &SolverQueue::queueChanged, cluster, [this, cluster] {
    const QSignalBlocker quiet(cluster);
    cluster->setChecked(solver_.isCluster());
  });
  head->addWidget(cluster);
  auto* background = new QCheckBox(tr("other programs first"));
  background->setObjectName("queueBackground");
  background->setToolTip(tr("Solves with lowest priority for processors and disks"));
  background->setChecked(preferences_.solvesInBackground());
  connect(background, &QCheckBox::toggled, this, [this](bool on) { preferences_.setSolvesInBackground(on); });
  head->addWidget(background);
  summary_->setObjectName("queueSummary");
  summary_->setWordWrap(false);
  summary_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  summary_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  head->addWidget(summary_, 1);
  return head;
}

void QueuePage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

std::string QueuePage::chosen() const
{
  const int row = table_->currentRow();
  const QTableWidgetItem* item = row >= 0 ? table_->item(row, Name) : nullptr;
  return item != nullptr ? item->data(idRole).toString().toStdString() : std::string();
}

QString QueuePage::nameOf(const QueuedJob& job) const
{
  const SolverWork* work = solver_.work(job.id);
  if (work != nullptr && work->kind == SolverWork::Kind::Ask)
    return QString::fromStdString(work->caseName);
  if (work == nullptr || work->caseId.empty())
    return tr("Shapes and mesh");
  const Case* own = findById(document_.project().cases, work->caseId);
  const QString name = QString::fromStdString(own != nullptr ? own->name : work->caseName);
  switch (work->kind) {
  case SolverWork::Kind::Sure:
    return tr("%1, how sure").arg(name);
  case SolverWork::Kind::Refine:
    return tr("%1, finer mesh").arg(name);
  case SolverWork::Kind::GoOn:
    return tr("%1, goes on").arg(name);
  default:
    return name;
  }
}

void QueuePage::refresh()
{
  if (!isVisible())
    return;
  const std::vector<QueuedJob>& jobs = solver_.queue().jobs();
  const std::string before = chosen();
  const QSignalBlocker quiet(table_);
  table_->setRowCount(static_cast<int>(jobs.size()));
  int row = 0;
  for (const QueuedJob& job : jobs) {
    refreshRow(row, job);
    if (job.id == before)
      table_->setCurrentCell(row, Name);
    ++row;
  }
  const QueuedJob* own = solver_.queue().find(chosen());
  const bool waits = own != nullptr && own->state == QueuedJob::State::Waiting;
  up_->setEnabled(waits);
  down_->setEnabled(waits);
  remove_->setEnabled(waits || (own != nullptr && own->state == QueuedJob::State::Running));
  stop_->setEnabled(solver_.queue().count(QueuedJob::State::Waiting) > 0);
  pause_->setChecked(solver_.queue().isPaused());
  const auto count = [&](QueuedJob::State state) { return solver_.queue().count(state); };
  QStringList words;
  if (solver_.queue().isPaused())
    words << tr("paused");
  for (const auto state : {QueuedJob::State::Running, QueuedJob::State::Waiting, QueuedJob::State::Done,
                           QueuedJob::State::Failed, QueuedJob::State::LeftOut})
    if (const int many = count(state); many > 0)
      words << tr("%1 %2").arg(many).arg(stateWord(state));
  summary_->setText(jobs.empty() ? tr("nothing waits") : words.join(", "));
  refreshLog();
}

void QueuePage::refreshRow(int row, const QueuedJob& job)
{
  SolverJob* runs = solver_.running(job.id);
  const auto set = [&](int column, const QString& text) {
    QTableWidgetItem* item = table_->item(row, column);
    if (item == nullptr) {
      item = new QTableWidgetItem;
      table_->setItem(row, column, item);
    }
    item->setText(text);
    item->setToolTip(column == Doing ? text : QString());
  };
  set(Name, nameOf(job));
  table_->item(row, Name)->setData(idRole, QString::fromStdString(job.id));
  set(State, stateWord(job.state));
  set(Done, runs != nullptr                       ? QString("%1 %").arg(qRound(100 * runs->fraction()))
            : job.state == QueuedJob::State::Done ? QString("100 %")
                                                  : QString("–"));
  const bool over = job.state == QueuedJob::State::Done || job.state == QueuedJob::State::Failed;
  const std::optional<double> gone = runs != nullptr ? runs->seconds() : over ? solver_.lasted(job.id) : std::nullopt;
  set(Gone, gone ? timeText(*gone) : QString("–"));
  set(Left, runs != nullptr ? timeText(runs->secondsLeft()) : QString("–"));
  set(Memory, memoryText(job.peak));
  set(Doing, runs != nullptr ? runs->message() : inWords(job.reason));
}

void QueuePage::refreshLog()
{
  const SolverWork* work = solver_.work(chosen());
  QString text;
  if (work != nullptr && !work->caseId.empty())
    if (QFile file(QString::fromStdString(logFile(document_.resultsFolder(), work->caseId).string()));
        file.open(QIODevice::ReadOnly))
      text = QString::fromUtf8(file.readAll());
  if (text == log_->toPlainText())
    return;
  QScrollBar* bar = log_->verticalScrollBar();
  const bool follows = bar->value() == bar->maximum();
  log_->setPlainText(text);
  if (follows)
    bar->setValue(bar->maximum());
}

void QueuePage::move(int places)
{
  const std::vector<QueuedJob>& jobs = solver_.queue().jobs();
  const int row = table_->currentRow();
  const int before = places < 0 ? row + places : row + places + 1;
  if (row < 0 || before < 0 || before > static_cast<int>(jobs.size()))
    return;
  const std::string target =
      before < static_cast<int>(jobs.size()) ? jobs[static_cast<std::size_t>(before)].id : std::string();
  solver_.moveBefore(chosen(), target);
}

} // namespace kiln
