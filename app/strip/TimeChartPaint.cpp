// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How the chart of a run is drawn.
#include "strip/TimeChart.h"

#include "look/Theme.h"
#include "strip/ChartTicks.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace kiln
{

/// Dots, in the colour of the trace of the same name.
void TimeChart::paintMeasured(QPainter& painter) const
{
  for (const LoggedColumn& column : measured_) {
    QColor color = theme().text;
    for (const Trace& trace : traces_)
      if (trace.name.compare(QString::fromStdString(column.name), Qt::CaseInsensitive) == 0)
        color = trace.color;
    painter.setPen(QPen(color, 1));
    painter.setBrush(theme().panel);
    double last = -1e9;
    for (const TablePoint& point : column.points) {
      const double x = xOf(point.at.si + offset_);
      constexpr double apart = 4; // px
      if (x - last < apart)
        continue;
      last = x;
      painter.drawEllipse(QPointF(x, yOf(point.value.si)), 2.2, 2.2);
    }
  }
}

void TimeChart::paintWindow(QPainter& painter) const
{
  const auto& dragged = zoom_ ? zoom_ : window_;
  if (!dragged)
    return;
  const QRectF area = plot();
  const auto [from, to] = std::minmax({xOf(dragged->first), xOf(dragged->second)});
  QColor tint = theme().accent;
  tint.setAlpha(40);
  painter.setPen(QPen(theme().accent, 1));
  painter.setBrush(tint);
  painter.drawRect(QRectF(from, area.top(), to - from, area.height()));
  if (zoom_)
    return;
  const QString text = windowText();
  const QRectF line(area.left() + 8, area.top() + 4, painter.fontMetrics().horizontalAdvance(text) + 12,
                    painter.fontMetrics().height() + 4);
  painter.setPen(theme().line);
  painter.setBrush(theme().raised);
  painter.drawRoundedRect(line, 4, 4);
  painter.setPen(theme().text);
  painter.drawText(line, Qt::AlignCenter, text);
}

void TimeChart::paintGrid(QPainter& painter) const
{
  const Theme& t = theme();
  const QRectF area = plot();
  painter.setPen(t.quiet);
  const double step = roundStep(high_ - low_, static_cast<int>(area.height() / 34));
  const QString unit = QString::fromStdString(displayUnit(Quantity::Temperature, preferences_.temperatureUnit()));
  for (double value = std::ceil(low_ / step) * step; value <= high_; value += step) {
    const double y = area.bottom() - area.height() * (value - low_) / (high_ - low_);
    painter.setPen(t.line);
    painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
    painter.setPen(t.quiet);
    painter.drawText(QRectF(0, y - 9, plot().left() - 6, 18), Qt::AlignRight | Qt::AlignVCenter,
                     tickText(value, step) + " " + unit);
  }
  const double every = roundTimeStep(to_ - from_, static_cast<int>(area.width() / 90));
  double lastLabel = -1e9;
  const auto tick = [&](double time) {
    const double x = xOf(time);
    if (x < area.left() - 1 || x > area.right() + 1)
      return;
    painter.setPen(t.line);
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    if (x - lastLabel < 62)
      return;
    lastLabel = x;
    painter.setPen(t.quiet);
    const QRectF box(std::min(x - 40, width() - 82.0), area.bottom() + 1, 80, timeAxisHeight);
    painter.drawText(box, Qt::AlignCenter, QString::fromStdString(formatQuantity(time, Quantity::Time)));
  };
  if (log_)
    for (double span = (to_ - from_) * 1e-4; span <= (to_ - from_) * 1.0001; span *= 10)
      tick(from_ + span);
  else
    for (double time = std::ceil(from_ / every) * every; time <= to_; time += every)
      tick(time);
}

QPainterPath TimeChart::pathOf(const RunRecord& run, const std::string& watch) const
{
  QPainterPath path;
  const RunTrace* trace = run.find(RunTrace::Kind::Watch, watch);
  const RunTrace* slopes = run.find(RunTrace::Kind::WatchSlope, watch);
  if (trace == nullptr)
    return path;
  const std::vector<double>& values = trace->values;
  for (std::size_t i = 0; i < values.size(); ++i) {
    const QPointF point(xOf(run.times[i]), yOf(values[i]));
    const double length = i > 0 ? run.times[i] - run.times[i - 1] : 0;
    if (i == 0) {
      path.moveTo(point);
    } else if (slopes == nullptr || log_ || length <= 0) {
      path.lineTo(point);
    } else { // between steps as the rates say, as peaks and crossings are found
      const double third = length / 3;
      path.cubicTo(xOf(run.times[i - 1] + third), yOf(values[i - 1] + third * slopes->values[i - 1]),
                   xOf(run.times[i] - third), yOf(values[i] - third * slopes->values[i]), point.x(), point.y());
    }
  }
  return path;
}

void TimeChart::paintTraces(QPainter& painter) const
{
  painter.setBrush(Qt::NoBrush);
  for (const Trace& trace : traces_)
    if (trace.shown) {
      painter.setPen(QPen(trace.color, 1.8));
      painter.drawPath(pathOf(*record(), trace.id));
    }
}

/// The same colours, each case with a dash of its own.
void TimeChart::paintOthers(QPainter& painter) const
{
  painter.setBrush(Qt::NoBrush);
  double dash = 4;
  for (const Other& other : others_) {
    for (const Trace& trace : traces_)
      if (trace.shown) {
        QPen pen(trace.color, 1.3);
        pen.setDashPattern({dash, 3});
        painter.setPen(pen);
        painter.drawPath(pathOf(*other.run, trace.id));
      }
    dash += 5;
  }
}

void TimeChart::paintLimits(QPainter& painter) const
{
  for (const Trace& trace : traces_) {
    const Watch* watch = findById(document_.shownProject().watches, trace.id);
    if (!trace.shown || watch == nullptr)
      continue;
    for (const auto& limit : {watch->upper, watch->lower})
      if (limit && shownTemperature(limit->si) > low_ && shownTemperature(limit->si) < high_) {
        painter.setPen(QPen(trace.color, 1, Qt::DashLine));
        const double y = yOf(limit->si);
        painter.drawLine(QPointF(plot().left(), y), QPointF(plot().right(), y));
      }
  }
}

void TimeChart::paintMarks(QPainter& painter) const
{
  const Theme& t = theme();
  const QRectF area = plot();
  for (const RunMark& mark : record()->marks) {
    const double x = xOf(mark.time);
    if (x < area.left() - 1 || x > area.right() + 1 || mark.kind == RunMark::Kind::Breakpoint)
      continue;
    const bool end = mark.kind == RunMark::Kind::Ended;
    painter.setPen(QPen(end ? t.good : t.accent, 1));
    painter.setBrush(end ? t.good : t.accent);
    painter.drawPolygon(
        QPolygonF({QPointF(x - 4, area.top() - 6), QPointF(x + 4, area.top() - 6), QPointF(x, area.top() + 2)}));
  }
}

void TimeChart::paintPlayhead(QPainter& painter) const
{
  const auto now = document_.playhead();
  if (!now)
    return;
  const double x = xOf(*now);
  if (x < plot().left() - 2 || x > plot().right() + 2)
    return;
  painter.setPen(QPen(theme().text, 1.4));
  painter.drawLine(QPointF(x, plot().top() - 6), QPointF(x, height()));
  painter.setBrush(theme().text);
  painter.drawEllipse(QPointF(x, plot().top() - 3), 3.5, 3.5);
}

/// Every shown value under the pointer.
void TimeChart::paintReadout(QPainter& painter) const
{
  if (!pointer_ || *pointer_ < plot().left() || *pointer_ > plot().right())
    return;
  const RunRecord& run = *record();
  const double time = std::clamp(timeAt(*pointer_), run.times.front(), run.times.back());
  QStringList lines{QString::fromStdString(formatQuantity(time, Quantity::Time))};
  std::vector<QColor> colors{theme().text};
  for (const Trace& trace : traces_)
    if (trace.shown)
      if (const auto value = run.at(RunTrace::Kind::Watch, trace.id, time)) {
        lines << trace.name + "  " +
                     QString::fromStdString(
                         formatQuantity(*value, Quantity::Temperature, preferences_.temperatureUnit()));
        colors.push_back(trace.color);
        for (const Other& other : others_)
          if (const auto theirs = other.run->at(RunTrace::Kind::Watch, trace.id, time)) {
            lines << QString("   %1  %2 (%3%4)")
                         .arg(other.name,
                              QString::fromStdString(
                                  formatQuantity(*theirs, Quantity::Temperature, preferences_.temperatureUnit())),
                              *theirs > *value ? "+" : "",
                              QString::fromStdString(
                                  formatQuantity(*theirs - *value, Quantity::TemperatureStep, {}, 3)));
            colors.push_back(trace.color);
          }
        painter.setPen(Qt::NoPen);
        painter.setBrush(trace.color);
        painter.drawEllipse(QPointF(*pointer_, yOf(*value)), 3, 3);
      }
  int wide = 0;
  for (const QString& line : lines)
    wide = std::max(wide, painter.fontMetrics().horizontalAdvance(line));
  const int tall = painter.fontMetrics().height();
  QRectF box(*pointer_ + 12, plot().top() + 4, wide + 14, tall * lines.size() + 8.0);
  if (box.right() > plot().right())
    box.moveRight(*pointer_ - 12);
  painter.setPen(theme().line);
  QColor paper = theme().raised;
  paper.setAlpha(235);
  painter.setBrush(paper);
  painter.drawRoundedRect(box, 4, 4);
  for (qsizetype i = 0; i < lines.size(); ++i) {
    painter.setPen(colors[static_cast<std::size_t>(i)]);
    painter.drawText(QPointF(box.left() + 7, box.top() + 4 + tall * (static_cast<double>(i) + 0.8)), lines[i]);
  }
}

} // namespace kiln
