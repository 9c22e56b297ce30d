// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/TimeChart.h"

#include "look/Theme.h"
#include "scene/ColorMap.h"
#include "strip/ChartTicks.h"
#include "strip/TableText.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double leftMargin = 58;
constexpr double rightMargin = 14;
constexpr double topMargin = 8;

} // namespace

double roundTimeStep(double span, int most)
{
  static constexpr std::array<double, 17> steps{1,   2,   5,    10,   15,   30,    60,    120,  300,
                                                600, 900, 1800, 3600, 7200, 14400, 21600, 43200};
  const double raw = span / std::max(most, 1);
  if (raw < 1)
    return roundStep(span, most);
  for (const double step : steps)
    if (step >= raw)
      return step;
  return std::ceil(raw / 86400) * 86400;
}

TimeChart::TimeChart(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences)
{
  markChart(*this);
  setObjectName("timeChart");
  setAccessibleName(tr("Traces against time"));
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  connect(&document, &Document::runChanged, this, &TimeChart::refresh);
  connect(&document, &Document::shownCaseChanged, this, [this] {
    fitted_ = true;
    refresh();
  });
  connect(&document, &Document::projectChanged, this, &TimeChart::refresh);
  connect(&document, &Document::resultChanged, this, &TimeChart::refresh);
  connect(&document, &Document::comparedCaseChanged, this, &TimeChart::refresh);
  connect(&document, &Document::selectedCasesChanged, this, &TimeChart::refresh);
  connect(&document, &Document::instantMoved, this, qOverload<>(&QWidget::update));
  connect(&preferences, &Preferences::unitChanged, this, &TimeChart::refresh);
  refresh();
}

const RunRecord* TimeChart::record() const { return document_.shownState().run.record.get(); }

void TimeChart::refresh()
{
  std::vector<Trace> traces;
  if (const RunRecord* run = record())
    for (const Watch& watch : document_.shownProject().watches)
      if (quantityOf(watch) == Quantity::Temperature && run->find(RunTrace::Kind::Watch, watch.id) != nullptr)
        traces.push_back({watch.id, QString::fromStdString(watch.name), kindColor(static_cast<int>(traces.size())),
                          !hidden_.contains(watch.id)});
  traces_ = std::move(traces);
  others_ = findOthers();
  lanes_ = findLanes();
  if (fitted_)
    fit();
  findRange();
  emit tracesChanged();
  update();
}

void TimeChart::setTraceShown(const std::string& id, bool shown)
{
  if (shown)
    hidden_.erase(id);
  else
    hidden_.insert(id);
  refresh();
}

std::vector<TimeChart::Other> TimeChart::findOthers() const
{
  std::vector<Other> others;
  if (!withOthers_)
    return others;
  const auto add = [&](const QString& name, const std::shared_ptr<const RunRecord>& run) {
    if (run && run->times.size() > 1)
      others.push_back({name, run});
  };
  const std::vector<std::string>& ids = document_.selectedCases();
  for (const std::string& id : ids)
    if (const Case* own = findById(document_.project().cases, id); own != nullptr && id != document_.shownCase())
      add(QString::fromStdString(own->name), document_.state(id).run.record);
  if (const ComparedWith other = document_.compared();
      ids.size() < 2 && other.state != nullptr && !other.choice.is(document_.shownCase()))
    add(other.name, other.state->run.record);
  return others;
}

void TimeChart::setOthersShown(bool on)
{
  withOthers_ = on;
  refresh();
}

QStringList TimeChart::othersShown() const
{
  QStringList names;
  for (const Other& other : others_)
    names << other.name;
  return names;
}

void TimeChart::setLogTime(bool on)
{
  log_ = on;
  update();
}

void TimeChart::fit()
{
  fitted_ = true;
  const RunRecord* run = record();
  from_ = run != nullptr && !run->times.empty() ? run->times.front() : 0;
  to_ = run != nullptr && run->times.size() > 1 ? run->times.back() : from_ + 1;
  for (const Other& other : others_) {
    from_ = std::min(from_, other.run->times.front());
    to_ = std::max(to_, other.run->times.back());
  }
  findRange();
  update();
}

double TimeChart::shownTemperature(double kelvin) const
{
  return toDisplay(kelvin, Quantity::Temperature, preferences_.temperatureUnit());
}

void TimeChart::findRange()
{
  const RunRecord* run = record();
  double low = 1e300;
  double high = -1e300;
  for (const Trace& trace : traces_) {
    if (!trace.shown || run == nullptr)
      continue;
    for (const double kelvin : run->find(RunTrace::Kind::Watch, trace.id)->values) {
      low = std::min(low, shownTemperature(kelvin));
      high = std::max(high, shownTemperature(kelvin));
    }
    for (const Other& other : others_)
      if (const RunTrace* theirs = other.run->find(RunTrace::Kind::Watch, trace.id))
        for (const double kelvin : theirs->values) {
          low = std::min(low, shownTemperature(kelvin));
          high = std::max(high, shownTemperature(kelvin));
        }
  }
  for (const LoggedColumn& column : measured_)
    for (const TablePoint& point : column.points)
      if (run != nullptr && point.at.si + offset_ >= from_ && point.at.si + offset_ <= to_) {
        low = std::min(low, shownTemperature(point.value.si));
        high = std::max(high, shownTemperature(point.value.si));
      }
  if (low > high) {
    low = 0;
    high = 100;
  }
  const double pad = std::max(0.06 * (high - low), 0.5);
  low_ = low - pad;
  high_ = high + pad;
}

QRectF TimeChart::plot() const
{
  const double below = timeAxisHeight + timeLaneHeight * static_cast<double>(lanes_.size());
  return {leftMargin, topMargin, std::max(10.0, width() - leftMargin - rightMargin),
          std::max(10.0, height() - topMargin - below)};
}

double TimeChart::xOf(double time) const
{
  const QRectF area = plot();
  if (!log_)
    return area.left() + area.width() * (time - from_) / (to_ - from_);
  const double least = (to_ - from_) * 1e-4;
  const double whole = std::log((to_ - from_) / least);
  return area.left() + area.width() * std::log(std::max(time - from_, least) / least) / whole;
}

double TimeChart::timeAt(double x) const
{
  const QRectF area = plot();
  const double share = (x - area.left()) / area.width();
  if (!log_)
    return from_ + share * (to_ - from_);
  const double least = (to_ - from_) * 1e-4;
  return from_ + least * std::exp(share * std::log((to_ - from_) / least));
}

double TimeChart::yOf(double kelvin) const
{
  const QRectF area = plot();
  return area.bottom() - area.height() * (shownTemperature(kelvin) - low_) / (high_ - low_);
}

void TimeChart::paintEvent(QPaintEvent* /*event*/)
{
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const RunRecord* run = record();
  if (run == nullptr || run->times.size() < 2) {
    painter.setPen(theme().quiet);
    const Case* shown = document_.shownCaseObject();
    const bool transient = shown != nullptr && shown->kind == Case::Kind::Transient;
    painter.drawText(rect(), Qt::AlignCenter,
                     transient ? tr("Not run yet. Solve the case to see how long and how hot.")
                               : tr("This case is steady. Copy it as a transient one to see how it gets there."));
    return;
  }
  paintGrid(painter);
  painter.save();
  painter.setClipRect(plot().adjusted(-1, -1, 1, 1));
  paintLimits(painter);
  paintOthers(painter);
  paintTraces(painter);
  paintMeasured(painter);
  painter.restore();
  paintLanes(painter);
  paintMarks(painter);
  paintPlayhead(painter);
  paintWindow(painter);
  if (!window_)
    paintReadout(painter);
}

void TimeChart::setMeasured(std::vector<LoggedColumn> measured, double offset)
{
  measured_ = std::move(measured);
  std::erase_if(measured_, [](const LoggedColumn& column) { return column.quantity != Quantity::Temperature; });
  offset_ = offset;
  findRange();
  update();
}

QStringList TimeChart::misfits() const
{
  QStringList lines;
  const RunRecord* run = record();
  for (std::size_t i = 0; run != nullptr && i < measured_.size(); ++i) {
    std::optional<Misfit> best;
    QString meant;
    for (const Trace& trace : traces_) {
      const auto misfit =
          misfitOf(run->times, run->find(RunTrace::Kind::Watch, trace.id)->values, measured_[i].points, offset_);
      const bool named = trace.name.compare(QString::fromStdString(measured_[i].name), Qt::CaseInsensitive) == 0;
      if (misfit && (!best || named || misfit->rms < best->rms)) {
        best = misfit;
        meant = trace.name;
      }
      if (misfit && named)
        break;
    }
    const auto kelvin = [](double value) {
      return QString::fromStdString(formatQuantity(value, Quantity::TemperatureStep, {}, 2));
    };
    lines << (best ? tr("%1 − measured %2: %3 rms, largest %4 at %5")
                         .arg(meant, QString::fromStdString(measured_[i].name), kelvin(best->rms),
                              kelvin(best->largest), QString::fromStdString(formatQuantity(best->at, Quantity::Time)))
                   : tr("%1 was measured at other times").arg(QString::fromStdString(measured_[i].name)));
  }
  return lines;
}

QString TimeChart::windowText() const
{
  const RunRecord* run = record();
  if (!window_ || run == nullptr)
    return {};
  const auto [from, to] = std::minmax(window_->first, window_->second);
  const WindowEnergy heat = energyBetween(*run, from, to);
  const auto energy = [](double joules) { return QString::fromStdString(formatQuantity(joules, Quantity::Energy)); };
  return tr("%1 to %2: in %3, out %4, stored %5")
      .arg(QString::fromStdString(formatQuantity(from, Quantity::Time)),
           QString::fromStdString(formatQuantity(to, Quantity::Time)), energy(heat.in), energy(heat.out),
           energy(heat.stored));
}

std::optional<double> TimeChart::markAt(const QPointF& pixel) const
{
  constexpr double reach = 6;
  if (pixel.y() > plot().top() + reach)
    return std::nullopt;
  for (const RunMark& mark : record()->marks)
    if (mark.kind != RunMark::Kind::Breakpoint && std::abs(xOf(mark.time) - pixel.x()) < reach)
      return mark.time;
  return std::nullopt;
}

void TimeChart::mousePressEvent(QMouseEvent* event)
{
  setFocus(Qt::MouseFocusReason);
  window_.reset();
  if (record() != nullptr && event->modifiers().testFlag(Qt::ShiftModifier)) {
    const double time = std::clamp(timeAt(event->position().x()), record()->times.front(), record()->times.back());
    window_ = {time, time};
    return update();
  }
  const bool zooms = event->button() == Qt::RightButton || event->modifiers().testFlag(Qt::ControlModifier);
  if (record() != nullptr && zooms && !log_) {
    zoom_ = {timeAt(event->position().x()), timeAt(event->position().x())};
    return update();
  }
  if (record() != nullptr && event->button() == Qt::LeftButton)
    document_.setPlayhead(markAt(event->position()).value_or(timeAt(event->position().x())));
}

void TimeChart::mouseMoveEvent(QMouseEvent* event)
{
  pointer_ = event->position().x();
  if (record() != nullptr && window_ && event->buttons().testFlag(Qt::LeftButton)) {
    window_->second = std::clamp(timeAt(event->position().x()), record()->times.front(), record()->times.back());
    return update();
  }
  if (record() != nullptr && zoom_ && event->buttons() != Qt::NoButton) {
    zoom_->second = std::clamp(timeAt(event->position().x()), from_, to_);
    return update();
  }
  if (record() != nullptr && event->buttons().testFlag(Qt::LeftButton))
    document_.setPlayhead(timeAt(event->position().x()));
  else if (record() != nullptr) {
    QString tip;
    if (const auto mark = markAt(event->position()))
      for (const RunMark& own : record()->marks)
        if (own.time == *mark)
          tip = markText(own);
    setToolTip(tip);
  }
  update();
}

/// A stretch dragged with the right button, or with Ctrl, is shown from then on.
void TimeChart::mouseReleaseEvent(QMouseEvent* event)
{
  QWidget::mouseReleaseEvent(event);
  if (!zoom_)
    return;
  const auto [first, last] = std::minmax(zoom_->first, zoom_->second);
  zoom_.reset();
  constexpr double least = 0.01; // of what is shown
  if (last - first > least * (to_ - from_)) {
    from_ = first;
    to_ = last;
    fitted_ = false;
  }
  update();
}

/// What happened; a run that was not finished tells only to whom.
QString TimeChart::markText(const RunMark& mark) const
{
  if (!mark.text.empty())
    return QString::fromStdString(mark.text);
  const HeatSource* source = findById(document_.shownProject().sources, mark.id);
  const QString name = QString::fromStdString(source != nullptr ? source->name : mark.id);
  switch (mark.kind) {
  case RunMark::Kind::SwitchedOn:
    return tr("%1 switched on").arg(name);
  case RunMark::Kind::SwitchedOff:
    return tr("%1 switched off").arg(name);
  case RunMark::Kind::RuleFired:
    return tr("a rule fired");
  default:
    return {};
  }
}

void TimeChart::mouseDoubleClickEvent(QMouseEvent* /*event*/) { fit(); }

void TimeChart::wheelEvent(QWheelEvent* event)
{
  const RunRecord* run = record();
  if (run == nullptr || run->times.size() < 2 || log_)
    return;
  const double about = timeAt(event->position().x());
  const double factor = event->angleDelta().y() > 0 ? 0.8 : 1.25;
  from_ = std::max(run->times.front(), about + factor * (from_ - about));
  to_ = std::min(run->times.back(), about + factor * (to_ - about));
  fitted_ = from_ <= run->times.front() && to_ >= run->times.back();
  event->accept();
  update();
}

void TimeChart::leaveEvent(QEvent* /*event*/)
{
  pointer_.reset();
  update();
}

} // namespace kiln
