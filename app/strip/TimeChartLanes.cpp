// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The lanes below the traces: source powers, schedules, watched heat.
#include "look/Theme.h"
#include "model/TimeSeries.h"
#include "scene/ColorMap.h"
#include "strip/TimeChart.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace kiln
{

std::vector<TimeChart::Lane> TimeChart::findLanes() const
{
  constexpr std::size_t most = 3; // of each kind
  std::vector<Lane> lanes;
  const RunRecord* run = record();
  if (run == nullptr)
    return lanes;
  std::size_t ofKind = 0;
  const auto add = [&](Lane::Kind kind, RunTrace::Kind trace, const std::string& id, const std::string& name,
                       Quantity quantity) {
    const RunTrace* found = run->find(trace, id);
    if (found == nullptr || found->values.size() != run->times.size() || ofKind == most)
      return;
    ++ofKind;
    Lane lane{kind, id, QString::fromStdString(name), quantity, {}};
    for (std::size_t i = 0; i < run->times.size(); ++i)
      lane.course.emplace_back(run->times[i], std::isfinite(found->values[i]) ? found->values[i] : 0);
    lanes.push_back(std::move(lane));
  };
  for (const HeatSource& source : document_.shownProject().sources)
    if (!source.muted)
      add(Lane::Kind::Source, RunTrace::Kind::Source, source.id, source.name, heatQuantity(document_.shownProject()));
  ofKind = 0;
  for (const Parameter& parameter : document_.shownProject().parameters)
    if (auto lane = laneOf(parameter); lane && ofKind++ < most)
      lanes.push_back(std::move(*lane));
  ofKind = 0;
  for (const Watch& watch : document_.shownProject().watches)
    if (const Quantity quantity = quantityOf(document_.shownProject(), watch);
        quantity != Quantity::Temperature &&
        (quantity != Quantity::TemperatureStep || std::holds_alternative<FormulaFigure>(watch.figure)))
      add(Lane::Kind::Watch, RunTrace::Kind::Watch, watch.id, watch.name, quantity);
  return lanes;
}

/// A schedule as the run went through it, with both values where it jumps.
std::optional<TimeChart::Lane> TimeChart::laneOf(const Parameter& parameter) const
{
  const RunRecord& run = *record();
  if (!parameter.schedule || parameter.schedule->points.empty() || run.times.size() < 2)
    return std::nullopt;
  Lane lane{Lane::Kind::Schedule, parameter.id, QString::fromStdString(parameter.name), parameter.quantity, {}};
  std::vector<double> times{run.times.front()};
  for (const double time : breakpoints(*parameter.schedule, run.times.front(), run.times.back()))
    times.push_back(time);
  times.push_back(run.times.back());
  for (const double time : times)
    for (const Moment moment : {Moment::Before, Moment::After})
      if (const auto value = valueAt(*parameter.schedule, time, moment))
        lane.course.emplace_back(time, *value);
  return lane.course.empty() ? std::nullopt : std::optional(std::move(lane));
}

void TimeChart::paintLanes(QPainter& painter) const
{
  double top = plot().bottom() + timeAxisHeight;
  for (const Lane& lane : lanes_) {
    paintLane(painter, lane, QRectF(plot().left(), top + 1, plot().width(), timeLaneHeight - 3));
    top += timeLaneHeight;
  }
}

/// One quantity against time, filled from zero (temperatures from their lowest), on a scale of its own; what it did, or
/// is now, in words.
void TimeChart::paintLane(QPainter& painter, const Lane& lane, const QRectF& place) const
{
  const bool level = lane.quantity == Quantity::Temperature;
  double low = level ? lane.course.front().second : 0;
  double high = low + 1e-9;
  for (const auto& [time, value] : lane.course) {
    low = std::min(low, value);
    high = std::max(high, value);
  }
  const auto yOf = [&](double value) { return place.bottom() - place.height() * (value - low) / (high - low); };
  const double ground = yOf(level ? low : 0);
  painter.save();
  painter.setClipRect(place);
  QPainterPath way(QPointF(xOf(lane.course.front().first), yOf(lane.course.front().second)));
  for (const auto& [time, value] : lane.course)
    way.lineTo(xOf(time), yOf(value));
  if (lane.kind == Lane::Kind::Schedule) { // what was asked for is a line, what was is an area
    painter.setPen(QPen(theme().quiet, 1.4, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
  } else {
    way.lineTo(xOf(lane.course.back().first), ground);
    way.lineTo(xOf(lane.course.front().first), ground);
    QColor fill = lane.kind == Lane::Kind::Source ? kilnGlow(0.62) : theme().quiet;
    fill.setAlpha(lane.kind == Lane::Kind::Source ? 150 : 90);
    painter.setPen(Qt::NoPen);
    painter.setBrush(fill);
  }
  painter.drawPath(way);
  painter.restore();
  const QRectF text = place.adjusted(4, 0, -4, 0);
  painter.setPen(theme().text);
  painter.drawText(text, Qt::AlignLeft | Qt::AlignVCenter,
                   painter.fontMetrics().elidedText(lane.name, Qt::ElideRight, static_cast<int>(text.width() / 2)));
  painter.drawText(text, Qt::AlignRight | Qt::AlignVCenter, wordsOf(lane));
}

QString TimeChart::wordsOf(const Lane& lane) const
{
  const RunRecord& run = *record();
  constexpr double percent = 100;
  if (lane.kind == Lane::Kind::Source) {
    const auto report = thermostatReport(run, lane.id);
    return report ? tr("on %1 % of the time, %2 switchings, %3")
                        .arg(percent * report->on, 0, 'f', 0)
                        .arg(report->switchings)
                        .arg(QString::fromStdString(formatQuantity(report->energy, Quantity::Energy)))
                  : QString();
  }
  const double now = document_.playhead().value_or(run.times.back());
  std::optional<double> value;
  if (lane.kind == Lane::Kind::Watch)
    value = run.at(RunTrace::Kind::Watch, lane.id, now);
  else if (const Parameter* own = findById(document_.shownProject().parameters, lane.id);
           own != nullptr && own->schedule)
    if (const auto at = valueAt(*own->schedule, now))
      value = *at;
  return value ? QString::fromStdString(formatQuantity(*value, lane.quantity, preferences_.temperatureUnit()))
               : QString();
}

} // namespace kiln
