// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/QuestionsPage.h"

#include "fields/FormRows.h"
#include "fields/QuestionEditor.h"
#include "look/Icons.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "questions/PointModel.h"
#include "scene/ColorMap.h"
#include "strip/AnswerCharts.h"
#include "strip/LineChart.h"
#include "strip/StripTable.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QJsonArray>
#include <QLabel>
#include <QMenu>
#include <QSplitter>
#include <QStackedWidget>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int placeRole = Qt::UserRole + 1;

QString words(const std::string& text) { return QString::fromStdString(text); }

/// The figure that a question is about.
AskedFigure figureAskedBy(const Question& question)
{
  if (const auto* limit = std::get_if<AskLimit>(&question.asks))
    return limit->figure;
  const auto* best = std::get_if<AskBest>(&question.asks);
  return best != nullptr ? best->figure : AskedFigure::AtEnd;
}

Quantity quantityAsked(const Project& seen, const Watch& watch, AskedFigure figure)
{
  return figure == AskedFigure::TimeToLimit ? Quantity::Time : quantityOf(seen, watch);
}

/// Is every limit kept that the answer can be held against?
bool keepsAll(const std::vector<HeldLimit>& limits, const PointAnswer& answer)
{
  return std::all_of(limits.begin(), limits.end(),
                     [&](const HeldLimit& limit) { return limit.margin(answer).value_or(0) >= 0; });
}

std::optional<double> numberOf(const OwnValue& value)
{
  const auto* number = std::get_if<Property>(&value);
  return number != nullptr && number->table.empty() ? std::optional(number->si) : std::nullopt;
}

} // namespace

QuestionsPage::QuestionsPage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), solver_(solver), answers_(document),
      list_(new QComboBox), watch_(new QComboBox), against_(new QComboBox), new_(new QToolButton),
      edit_(new QToolButton), ask_(new QToolButton), cluster_(new QToolButton), stop_(new QToolButton),
      keep_(new QToolButton), remove_(new QToolButton), said_(quietLabel({})),
      table_(makeStripTable("points", tr("Points of the question"))), charts_(new QStackedWidget),
      curve_(new LineChart), map_(new MapChart), scatter_(new ScatterChart), tornado_(new TornadoChart)
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
  layout->addWidget(said_); // the answer in a sentence
  layout->addWidget(makeBody(), 1);
  connect(list_, &QComboBox::currentIndexChanged, this, &QuestionsPage::refreshAnswer);
  for (QComboBox* box : {watch_, against_})
    connect(box, &QComboBox::activated, this, &QuestionsPage::refreshAnswer);
  connect(&answers_, &Answers::changed, this, &QuestionsPage::refresh);
  connect(&solver, &SolverQueue::asked, &answers_, &Answers::readAgain);
  connect(&solver, &SolverQueue::queueChanged, this, &QuestionsPage::refresh);
  connect(&solver, &SolverQueue::progressed, this, [this] {
    if (running() != nullptr && isVisible())
      refreshAnswer();
  });
  connect(&preferences, &Preferences::unitChanged, this, &QuestionsPage::refreshAnswer);
  connect(scatter_, &ScatterChart::chosen, this, [this](std::size_t place) {
    for (int row = 0; row < table_->rowCount(); ++row)
      if (table_->item(row, 0)->data(placeRole).toULongLong() == place)
        table_->selectRow(row);
  });
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
    QAction* action = kinds->addAction(tr("%1…").arg(words(std::string(describing::askKinds[i].label))));
    action->setToolTip(words(std::string(describing::askKinds[i].help)));
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
  watch_->setObjectName("questionWatch");
  watch_->setAccessibleName(tr("Watch in the chart"));
  against_->setObjectName("questionAgainst");
  against_->setAccessibleName(tr("Watch along the other axis of the chart"));
  for (QComboBox* box : {watch_, against_}) {
    box->setMaximumWidth(fontMetrics().averageCharWidth() * 26);
    box->setMinimumContentsLength(8);
    head->addWidget(box);
  }
  addTableButtons(*head, *table_, "points");
  return head;
}

QWidget* QuestionsPage::makeBody()
{
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setSortingEnabled(true);
  table_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
  connect(table_, &QTableWidget::itemSelectionChanged, this,
          [this] { keep_->setEnabled(table_->currentRow() >= 0 && table_->currentItem() != nullptr); });
  connect(table_, &QTableWidget::cellDoubleClicked, this, &QuestionsPage::keepPoint);
  curve_->setObjectName("questionCurve");
  map_->setObjectName("questionMap");
  scatter_->setObjectName("questionScatter");
  tornado_->setObjectName("questionTornado");
  for (QWidget* chart : {static_cast<QWidget*>(curve_), static_cast<QWidget*>(map_), static_cast<QWidget*>(scatter_),
                         static_cast<QWidget*>(tornado_)})
    charts_->addWidget(chart);
  auto* both = new QSplitter(Qt::Horizontal);
  both->addWidget(table_);
  both->addWidget(charts_);
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
  for (QWidget* widget : {static_cast<QWidget*>(charts_), static_cast<QWidget*>(watch_)})
    widget->setVisible(answer != nullptr && job == nullptr);
  against_->setVisible(false);
  if (question == nullptr)
    return say(tr("Which one, how much, how sure? Press + to ask a question about the shown case."));
  if (job != nullptr)
    return refreshRunning(*job);
  const QueuedJob* over = solver_.queue().find("ask:" + question->id);
  const QString failed = over != nullptr && over->state == QueuedJob::State::Failed ? words(over->reason) : QString();
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
    refreshTable(*answer, seen);
  else
    refreshSlopes(*answer, seen);
  refreshChart(*answer, seen);
  table_->resizeColumnsToContents();
  table_->setSortingEnabled(true);
}

/// What the solver has said of its points so far.
void QuestionsPage::refreshRunning(const SolverJob& job)
{
  const Question* question = findById(document_.project().questions, chosen());
  const Project seen = seenBy(*question);
  say(job.work().cluster ? job.message() : tr("%n point(s) so far", nullptr, static_cast<int>(job.points().size())));
  QStringList heads{tr("Point")};
  for (const Watch& watch : seen.watches)
    heads << words(watch.name);
  table_->setColumnCount(static_cast<int>(heads.size()));
  table_->setHorizontalHeaderLabels(heads);
  table_->setRowCount(static_cast<int>(job.points().size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QJsonObject& line = job.points()[static_cast<std::size_t>(row)];
    const QString failed = line["failure"].toString();
    table_->setItem(row, 0, new QTableWidgetItem(line["point"].toString() + (failed.isEmpty() ? "" : ": " + failed)));
    for (std::size_t i = 0; i < seen.watches.size(); ++i)
      for (const QJsonValue& figure : line["figures"].toArray())
        if (figure["watch"].toString() == words(seen.watches[i].id) && figure["value"].isDouble())
          table_->setItem(
              row, static_cast<int>(i) + 1,
              new NumberItem(words(formatQuantity(figure["value"].toDouble(), quantityOf(seen, seen.watches[i]),
                                                  preferences_.temperatureUnit())),
                             figure["value"].toDouble()));
  }
  table_->resizeColumnsToContents();
  table_->scrollToBottom();
}

void QuestionsPage::refreshTable(const QuestionAnswer& answer, const Project& seen)
{
  const Question& question = *findById(document_.project().questions, chosen());
  const AskedFigure asked = figureAskedBy(question);
  QStringList heads;
  for (const AskedAxis& axis : answer.axes)
    heads << words(axis.label);
  for (const Watch& watch : seen.watches)
    heads << words(watch.name);
  heads << tr("Limits");
  table_->setColumnCount(static_cast<int>(heads.size()));
  table_->setHorizontalHeaderLabels(heads);
  table_->setRowCount(static_cast<int>(answer.points.size()));
  const std::vector<HeldLimit> limits =
      limitsOf(seen, {}, asked == AskedFigure::TimeToLimit ? AskedFigure::AtEnd : asked);
  const TemperatureUnit unit = preferences_.temperatureUnit();
  for (std::size_t i = 0; i < answer.points.size(); ++i) {
    const auto row = static_cast<int>(i);
    int column = 0;
    for (std::size_t k = 0; k < answer.axes.size(); ++k, ++column) {
      const auto number = numberOf(answer.points[i][k]);
      const auto word = std::find(answer.axes[k].values.begin(), answer.axes[k].values.end(), answer.points[i][k]);
      const QString text =
          number ? words(formatQuantity(*number, answer.axes[k].quantity, unit))
          : word != answer.axes[k].values.end()
              ? words(answer.axes[k].words[static_cast<std::size_t>(word - answer.axes[k].values.begin())])
              : words(answer.words[i]);
      table_->setItem(row, column, new NumberItem(text, number.value_or(static_cast<double>(i))));
      table_->item(row, column)->setData(placeRole, QVariant::fromValue<qulonglong>(i));
    }
    for (const Watch& watch : seen.watches) {
      if (const auto value = answer.answers[i].figure(watch.id, asked))
        table_->setItem(row, column,
                        new NumberItem(words(formatQuantity(*value, quantityAsked(seen, watch, asked), unit)), *value));
      ++column;
    }
    const PointAnswer& own = answer.answers[i];
    auto* note = new QTableWidgetItem;
    if (!own.solved()) {
      note->setText(words(own.failure));
    } else if (!limits.empty()) {
      const bool kept = keepsAll(limits, own);
      note->setText(answer.best == i ? tr("✓ best") : kept ? tr("✓ kept") : tr("✗ passed"));
      note->setForeground(kept ? theme().good : theme().bad);
    } else if (answer.best == i) {
      note->setText(tr("best"));
    }
    table_->setItem(row, column, note);
  }
}

void QuestionsPage::refreshSlopes(const QuestionAnswer& answer, const Project& seen)
{
  table_->setColumnCount(6);
  table_->setHorizontalHeaderLabels(
      {tr("Watch"), tr("Value"), tr("For one per cent"), tr("Middle"), tr("90 % between"), tr("Keeps its limits")});
  table_->setRowCount(static_cast<int>(answer.slopes.size()));
  const TemperatureUnit unit = preferences_.temperatureUnit();
  int row = 0;
  for (const Sensitivity& one : answer.slopes) {
    const Watch* watch = findById(seen.watches, one.watch);
    if (watch == nullptr || one.axis >= answer.axes.size())
      continue;
    const Quantity quantity = quantityOf(seen, *watch);
    const AskedAxis& axis = answer.axes[one.axis];
    table_->setItem(row, 0, new QTableWidgetItem(words(watch->name)));
    table_->setItem(row, 1, new QTableWidgetItem(words(axis.label)));
    const QString by = words(formatQuantity(one.perStep, differenceOf(quantity), unit, 4));
    table_->setItem(
        row, 2,
        new NumberItem(axis.quantity == Quantity::Temperature ? tr("%1 for 1 K").arg(by) : by, std::abs(one.perStep)));
    const auto spread = std::find_if(answer.spreads.begin(), answer.spreads.end(),
                                     [&](const Spread& own) { return own.watch == one.watch; });
    if (spread != answer.spreads.end()) {
      table_->setItem(row, 3, new NumberItem(words(formatQuantity(spread->middle, quantity, unit)), spread->middle));
      table_->setItem(row, 4,
                      new NumberItem(tr("%1 … %2").arg(words(formatQuantity(spread->low, quantity, unit)),
                                                       words(formatQuantity(spread->high, quantity, unit))),
                                     spread->high - spread->low));
      if (spread->chance)
        table_->setItem(row, 5, new NumberItem(tr("in %1 %").arg(100 * *spread->chance, 0, 'g', 3), *spread->chance));
    }
    ++row;
  }
  table_->setRowCount(row);
}

void QuestionsPage::refreshChart(const QuestionAnswer& answer, const Project& seen)
{
  const Watch* watch = findById(seen.watches, watch_->currentData().toString().toStdString());
  charts_->setVisible(watch != nullptr && !answer.points.empty());
  if (watch == nullptr || answer.points.empty())
    return;
  const Question& question = *findById(document_.project().questions, chosen());
  const auto* sweep = std::get_if<AskSweep>(&question.asks);
  const bool grid = sweep != nullptr && sweep->way == SweepWay::Grid;
  if (!answer.slopes.empty())
    showSlopes(answer, seen, *watch);
  else if (answer.axes.size() == 1 && answer.axes.front().isRange)
    showCurve(answer, seen, *watch);
  else if (grid && answer.axes.size() == 2 && answer.axes[0].isRange && answer.axes[1].isRange && answer.complete &&
           answer.axes[0].values.size() > 1 && answer.axes[1].values.size() > 1)
    showMap(answer, seen, *watch);
  else
    showScatter(answer, seen, *watch);
}

void QuestionsPage::showCurve(const QuestionAnswer& answer, const Project& seen, const Watch& watch)
{
  const Question& question = *findById(document_.project().questions, chosen());
  const AskedFigure asked = figureAskedBy(question);
  const Quantity quantity = quantityAsked(seen, watch, asked);
  const AskedAxis& axis = answer.axes.front();
  const TemperatureUnit unit = preferences_.temperatureUnit();
  QPolygonF line;
  for (std::size_t i = 0; i < answer.points.size(); ++i) {
    const auto across = numberOf(answer.points[i].front());
    const auto up = answer.answers[i].figure(watch.id, asked);
    if (across && up)
      line << QPointF(toDisplay(*across, axis.quantity, unit), toDisplay(*up, quantity, unit));
  }
  std::sort(line.begin(), line.end(), [](const QPointF& a, const QPointF& b) { return a.x() < b.x(); });
  std::vector<LineChart::Curve> curves{{words(watch.name), kindColor(0), 2, {line}}};
  if (!line.isEmpty() && asked != AskedFigure::TimeToLimit)
    for (const HeldLimit& limit : limitsOf(seen, {watch.id}, asked)) {
      const double at = toDisplay(limit.limit, quantity, unit);
      curves.push_back({limit.upper ? tr("upper limit") : tr("lower limit"),
                        theme().bad,
                        1,
                        {QPolygonF({QPointF(line.front().x(), at), QPointF(line.back().x(), at)})}});
    }
  std::vector<LineChart::Border> borders;
  if (answer.value)
    borders.push_back(
        {toDisplay(*answer.value, axis.quantity, unit), words(formatQuantity(*answer.value, axis.quantity, unit, 5))});
  curve_->show(std::move(curves), std::move(borders),
               words(displayUnit(axis.quantity, unit)) + " – " + words(axis.label), words(displayUnit(quantity, unit)));
  charts_->setCurrentWidget(curve_);
}

void QuestionsPage::showMap(const QuestionAnswer& answer, const Project& seen, const Watch& watch)
{
  const TemperatureUnit unit = preferences_.temperatureUnit();
  const Quantity quantity = quantityOf(seen, watch);
  const auto shown = [&](const AskedAxis& axis) {
    MapChart::Axis own;
    for (const OwnValue& value : axis.values)
      own.values.push_back(toDisplay(numberOf(value).value_or(0), axis.quantity, unit));
    own.name = words(axis.label + ", " + displayUnit(axis.quantity, unit));
    return own;
  };
  MapChart::Axis across = shown(answer.axes[0]);
  MapChart::Axis up = shown(answer.axes[1]);
  std::vector<double> values;
  for (const PointAnswer& one : answer.answers) {
    const auto value = one.figure(watch.id, AskedFigure::AtEnd);
    values.push_back(value ? toDisplay(*value, quantity, unit) : std::nan(""));
  }
  // Whichever way a range was typed, it is drawn upwards.
  const std::size_t m = across.values.size();
  const std::size_t n = up.values.size();
  if (across.values.front() > across.values.back()) {
    std::reverse(across.values.begin(), across.values.end());
    for (std::size_t i = 0; i < m / 2; ++i)
      std::swap_ranges(values.begin() + static_cast<std::ptrdiff_t>(i * n),
                       values.begin() + static_cast<std::ptrdiff_t>((i + 1) * n),
                       values.begin() + static_cast<std::ptrdiff_t>((m - 1 - i) * n));
  }
  if (up.values.front() > up.values.back()) {
    std::reverse(up.values.begin(), up.values.end());
    for (std::size_t i = 0; i < m; ++i)
      std::reverse(values.begin() + static_cast<std::ptrdiff_t>(i * n),
                   values.begin() + static_cast<std::ptrdiff_t>((i + 1) * n));
  }
  std::vector<double> borders;
  for (const HeldLimit& limit : limitsOf(seen, {watch.id}, AskedFigure::AtEnd))
    borders.push_back(toDisplay(limit.limit, quantity, unit));
  map_->show(std::move(across), std::move(up), std::move(values),
             words(watch.name + ", " + displayUnit(quantity, unit)), std::move(borders));
  charts_->setCurrentWidget(map_);
}

void QuestionsPage::showScatter(const QuestionAnswer& answer, const Project& seen, const Watch& watch)
{
  against_->setVisible(seen.watches.size() > 1);
  const Watch* other = findById(seen.watches, against_->currentData().toString().toStdString());
  if (other == nullptr)
    other = &watch;
  const AskedFigure asked = figureAskedBy(*findById(document_.project().questions, chosen()));
  const TemperatureUnit unit = preferences_.temperatureUnit();
  const Quantity quantity = quantityAsked(seen, watch, asked);
  const Quantity second = quantityAsked(seen, *other, asked);
  const std::vector<HeldLimit> limits = limitsOf(seen, {}, asked);
  std::vector<ScatterChart::Point> points;
  for (std::size_t i = 0; i < answer.answers.size(); ++i) {
    const auto x = answer.answers[i].figure(watch.id, asked);
    const auto y = answer.answers[i].figure(other->id, asked);
    if (x && y)
      points.push_back(
          {toDisplay(*x, quantity, unit), toDisplay(*y, second, unit), keepsAll(limits, answer.answers[i]), i});
  }
  scatter_->show(std::move(points), words(watch.name + ", " + displayUnit(quantity, unit)),
                 words(other->name + ", " + displayUnit(second, unit)), answer.best);
  charts_->setCurrentWidget(scatter_);
}

void QuestionsPage::showSlopes(const QuestionAnswer& answer, const Project& seen, const Watch& watch)
{
  std::vector<TornadoChart::Bar> bars;
  const TemperatureUnit unit = preferences_.temperatureUnit();
  for (const Sensitivity& one : answer.slopes)
    if (one.watch == watch.id && one.axis < answer.axes.size())
      bars.push_back({words(answer.axes[one.axis].label),
                      words(formatQuantity(one.perStep, differenceOf(quantityOf(seen, watch)), unit, 3)), one.perStep});
  tornado_->show(std::move(bars),
                 tr("%1: for one per cent of each value, one kelvin of a temperature").arg(words(watch.name)));
  charts_->setCurrentWidget(tornado_);
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

void QuestionsPage::keepPoint()
{
  const Question* question = findById(document_.project().questions, chosen());
  const auto answer = question != nullptr ? answers_.find(question->id) : nullptr;
  const QTableWidgetItem* item = table_->item(table_->currentRow(), 0);
  if (!answer || item == nullptr || !item->data(placeRole).isValid())
    return;
  const std::size_t place = item->data(placeRole).toULongLong();
  std::string made;
  std::string problem;
  document_.edit(tr("Keep as a case"), [&](Project& project) {
    const auto kept = keepAsCase(project, *question, answer->axes, answer->points[place]);
    kept ? made = *kept : problem = kept.error().sentence();
  });
  if (!problem.empty())
    return say(words(problem));
  document_.showCase(made);
  say(tr("Kept as case “%1”: solve it to see its scene.").arg(words(findById(document_.project().cases, made)->name)));
}

} // namespace kiln
