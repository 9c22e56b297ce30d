// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/TimePage.h"

#include "fields/QuantityField.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMessageBox>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

TimePage::TimePage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), chart_(new TimeChart(document, preferences)),
      speed_(new QComboBox), names_(new QVBoxLayout), clock_(new QLabel),
      offset_(new QuantityField(Quantity::Time, Range::Any))
{
  setObjectName("timePage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 0, 8, 2);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(2);
  const auto button = [&](const QString& iconName, const QString& tip, const char* name, auto&& action) {
    auto* tool = new QToolButton;
    tool->setToolTip(tip);
    setIcon(*tool, iconName);
    tool->setAccessibleName(tip);
    tool->setObjectName(name);
    connect(tool, &QToolButton::clicked, this, action);
    head->addWidget(tool);
    return tool;
  };
  button("media-skip-backward", tr("Go to the start (Home)"), "timeStart", [this] { step(-1'000'000); });
  play_ = button("media-playback-start", tr("Play or pause (Space)"), "timePlay", [this] { playOrPause(); });
  button("media-skip-forward", tr("Go to the end (End)"), "timeEnd", [this] { step(1'000'000); });
  speed_->setObjectName("timeSpeed");
  speed_->setAccessibleName(tr("Speed of playing"));
  speed_->setToolTip(tr("Speed of playing (+ and −)"));
  for (const double factor : {0.25, 0.5, 1.0, 2.0, 4.0, 8.0})
    speed_->addItem(QString("%1×").arg(factor), factor);
  speed_->setCurrentIndex(2);
  head->addWidget(speed_);
  button("office-chart-area-focus-peak-node", tr("Next peak of a shown trace (P)"), "timePeak",
         [this] { jumpToPeak(); });
  button("flag", tr("Next event: a limit, a rule, a schedule (M)"), "timeMark", [this] { jumpToMark(); });
  auto* logTime = button("view-object-histogram-logarithmic", tr("Logarithmic time axis"), "timeLog", [] {});
  logTime->setCheckable(true);
  connect(logTime, &QToolButton::toggled, chart_, &TimeChart::setLogTime);
  auto* others =
      button("office-chart-line-stacked",
             tr("The same traces of the cases selected with this one, else of the compared one"), "timeOthers", [] {});
  others->setCheckable(true);
  connect(others, &QToolButton::toggled, chart_, &TimeChart::setOthersShown);
  button("zoom-fit-width", tr("Whole run"), "timeFit", [this] { chart_->fit(); });
  button("document-import", tr("Lay a log over the traces (CSV with units in its first line)"), "timeMeasured",
         [this] { askForMeasured(); });
  offset_->setObjectName("measuredOffset");
  offset_->setAccessibleName(tr("Measured times are later by"));
  offset_->setToolTip(offset_->accessibleName());
  offset_->setNumber(Number{0, "0 s", false});
  offset_->setFixedWidth(fontMetrics().averageCharWidth() * 9);
  offset_->hide();
  connect(offset_, &QuantityField::committed, this, [this](const Number& number) {
    chart_->setMeasured(chart_->measured(), number.si);
    refreshClock();
  });
  head->addWidget(offset_);
  end_ = button("media-playback-stop", tr("End the run here and keep it (Ctrl+E)"), "timeEndNow",
                [this] { emit endWanted(); });
  goOn_ = button("go-jump", tr("Go on from where the run stopped (Ctrl+F5)"), "timeGoOn",
                 [this] { emit goOnWanted(document_.shownCase()); });
  button("animation-stage", tr("Save the scene as an animation: one picture that moves, or numbered ones"), "timeFilm",
         [this] { emit filmWanted(); });
  clock_->setObjectName("clock");
  head->addSpacing(8);
  clock_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  head->addWidget(clock_, 1);
  layout->addLayout(head);
  auto* body = new QHBoxLayout;
  body->setSpacing(4);
  body->addWidget(chart_, 1);
  body->addWidget(makeNames());
  layout->addLayout(body, 1);
  constexpr int frame = 50; // ms
  player_.setInterval(frame);
  connect(&player_, &QTimer::timeout, this, &TimePage::tick);
  connect(chart_, &TimeChart::tracesChanged, this, &TimePage::rebuildTraces);
  connect(&document, &Document::instantMoved, this, &TimePage::refreshClock);
  connect(&document, &Document::caseStateChanged, this, [this] { refreshClock(); });
  connect(&document, &Document::runChanged, this, &TimePage::refreshClock);
  connect(&document, &Document::resultChanged, this, &TimePage::refreshClock);
  rebuildTraces();
  refreshClock();
}

/// Names of the traces beside the chart; pressing one shows or hides it.
QWidget* TimePage::makeNames()
{
  auto* list = new QWidget;
  list->setObjectName("panelBody");
  names_->setContentsMargins(0, 0, 0, 0);
  names_->setSpacing(0);
  auto* inside = new QVBoxLayout(list);
  inside->setContentsMargins(0, 0, 0, 0);
  inside->addLayout(names_);
  inside->addStretch();
  auto* scroll = new QScrollArea;
  scroll->setObjectName("traceNames");
  scroll->setAccessibleName(tr("Traces"));
  scroll->setWidget(list);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  constexpr int characters = 20;
  scroll->setFixedWidth(fontMetrics().averageCharWidth() * characters);
  return scroll;
}

void TimePage::askForMeasured()
{
  const QString file = QFileDialog::getOpenFileName(this, tr("A log with units in its first line"), {},
                                                    tr("Logs (*.csv *.txt *.tsv);;All files (*)"));
  if (!file.isEmpty())
    layOver(file);
}

void TimePage::layOver(const QString& file)
{
  const auto columns = loadLog(file.toStdString());
  if (!columns) {
    QMessageBox::warning(this, tr("Not read"), inWords(columns.error()));
    return;
  }
  offset_->setNumber(Number{0, "0 s", false});
  chart_->setMeasured(*columns, 0);
  offset_->setVisible(!chart_->measured().empty());
  if (chart_->measured().empty())
    QMessageBox::warning(this, tr("Nothing to show"), tr("The log holds no temperatures."));
  refreshClock();
}

void TimePage::rebuildTraces()
{
  while (QLayoutItem* item = names_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  for (const TimeChart::Trace& trace : chart_->traces()) {
    auto* name = new QToolButton;
    name->setObjectName("trace:" + QString::fromStdString(trace.id));
    constexpr int characters = 17;
    name->setText(fontMetrics().elidedText(trace.name, Qt::ElideRight, fontMetrics().averageCharWidth() * characters));
    name->setCheckable(true);
    name->setChecked(trace.shown);
    name->setToolTip(tr("Show or hide %1").arg(trace.name));
    name->setAccessibleName(trace.name);
    name->setStyleSheet(QString("QToolButton { color: %1; border: none; border-left: 4px solid %2; border-radius: 0; "
                                "padding: 1px 4px; text-align: left; }")
                            .arg(trace.shown ? theme().text.name() : theme().quiet.name(),
                                 trace.shown ? trace.color.name() : "transparent"));
    connect(name, &QToolButton::toggled, this, [this, id = trace.id](bool on) {
      QMetaObject::invokeMethod(
          this, [this, id, on] { chart_->setTraceShown(id, on); }, Qt::QueuedConnection);
    });
    names_->addWidget(name);
  }
}

void TimePage::refreshClock()
{
  const auto now = document_.playhead();
  QString text;
  if (const RunRecord* run = record(); run != nullptr && now) {
    if (!run->finished)
      text = document_.shownState().stage == CaseState::Stage::Running ? tr("running") : tr("stopped before its end");
    else if (!run->reason.empty())
      text = tr("ended: %1").arg(inWords(run->reason));
    constexpr double worthSaying = 0.01; // K
    if (run->finished && run->reason.starts_with("settled") && run->remaining.value_or(0) > worthSaying)
      text += tr(", about %1 from where it goes")
                  .arg(QString::fromStdString(formatQuantity(*run->remaining, Quantity::TemperatureStep, {}, 2)));
    if (run->byCap)
      text += tr(" (no end rule was met)");
    if (const auto& later = document_.shownState().run.interruptedAt; later && run->finished)
      text += tr(" · a later run was interrupted at %1")
                  .arg(QString::fromStdString(formatQuantity(*later, Quantity::Time)));
  }
  if (const QStringList misfits = chart_->misfits(); !misfits.isEmpty())
    text = misfits.join(" · ");
  const bool running = document_.shownState().stage == CaseState::Stage::Running;
  end_->setVisible(running);
  goOn_->setVisible(!running && record() != nullptr && !record()->times.empty());
  clock_->setText(fontMetrics().elidedText(text, Qt::ElideRight, std::max(60, clock_->width())));
  clock_->setToolTip(text);
}

void TimePage::playOrPause()
{
  const RunRecord* run = record();
  if (run == nullptr)
    return;
  if (player_.isActive()) {
    player_.stop();
  } else {
    if (document_.playhead() >= run->times.back())
      document_.setPlayhead(run->times.front());
    player_.start();
  }
  setIcon(*play_, player_.isActive() ? "media-playback-pause" : "media-playback-start");
}

void TimePage::tick()
{
  const RunRecord* run = record();
  const auto now = document_.playhead();
  if (run == nullptr || !now || *now >= run->times.back()) {
    player_.stop();
    setIcon(*play_, "media-playback-start");
    return;
  }
  constexpr double frames = 200; // of the whole run
  document_.setPlayhead(*now + speed_->currentData().toDouble() * (run->times.back() - run->times.front()) / frames);
}

void TimePage::step(int steps)
{
  const RunRecord* run = record();
  const auto now = document_.playhead();
  if (run == nullptr || !now)
    return;
  const auto at = std::lower_bound(run->instants.begin(), run->instants.end(), *now - 1e-9) - run->instants.begin();
  const auto last = static_cast<std::ptrdiff_t>(run->instants.size()) - 1;
  const std::ptrdiff_t wanted = std::clamp<std::ptrdiff_t>(at + steps, 0, last);
  document_.setPlayhead(run->instants[static_cast<std::size_t>(wanted)]);
}

/// The next one after the playhead, or the first.
void TimePage::jumpToNext(const std::vector<double>& instants)
{
  const auto now = document_.playhead();
  if (instants.empty() || !now)
    return;
  std::vector<double> sorted = instants;
  std::sort(sorted.begin(), sorted.end());
  const auto next = std::find_if(sorted.begin(), sorted.end(), [&](double t) { return t > *now + 1e-6; });
  document_.setPlayhead(next != sorted.end() ? *next : sorted.front());
}

void TimePage::jumpToPeak()
{
  std::vector<double> peaks;
  for (const TimeChart::Trace& trace : chart_->traces())
    if (const Watch* watch = findById(document_.shownProject().watches, trace.id); watch != nullptr && trace.shown)
      if (const auto answers = answersOf(*record(), *watch))
        peaks.push_back(answers->peak.time);
  jumpToNext(peaks);
}

void TimePage::jumpToMark()
{
  std::vector<double> marks;
  if (const RunRecord* run = record())
    for (const RunMark& mark : run->marks)
      marks.push_back(mark.time);
  jumpToNext(marks);
}

void TimePage::resizeEvent(QResizeEvent* event)
{
  QWidget::resizeEvent(event);
  refreshClock();
}

void TimePage::keyPressEvent(QKeyEvent* event)
{
  switch (event->key()) {
  case Qt::Key_Space:
    return playOrPause();
  case Qt::Key_Left:
    return step(-1);
  case Qt::Key_Right:
    return step(1);
  case Qt::Key_Home:
    return step(-1'000'000);
  case Qt::Key_End:
    return step(1'000'000);
  case Qt::Key_P:
    return jumpToPeak();
  case Qt::Key_M:
    return jumpToMark();
  case Qt::Key_Plus:
    return speed_->setCurrentIndex(std::min(speed_->currentIndex() + 1, speed_->count() - 1));
  case Qt::Key_Minus:
    return speed_->setCurrentIndex(std::max(speed_->currentIndex() - 1, 0));
  default:
    QWidget::keyPressEvent(event);
  }
}

} // namespace kiln
